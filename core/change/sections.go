package change

import (
	"cmp"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// stoodShare is the share of a section's words from which it is not new, wherever they stood.
// Our own.
const stoodShare = 0.5

// sectionsOf tells which sections are not as they were. Two sections are one if they have the
// same heading, or if half the words of the shorter stand in both.
func sectionsOf(before, after *corpus.Doc, was, is []unit) []Section {
	b, a := tally(before, was), tally(after, is)
	of := pairSections(before, after, b, a, is, was)
	sections := []Section{}
	taken := map[int]bool{}
	cutBefore := func(i int) { // the sections that are gone stand where they stood
		for ; i < len(b) && !taken[i] && b[i].partner < 0; i++ {
			taken[i] = true
			s := before.Reading.Sections[i]
			if b[i].words == 0 {
				continue
			}
			x := Section{State: SectionCut, Heading: s.Heading, Level: s.Level, WordsBefore: b[i].words, Cut: b[i].words - b[i].stay, before: i, after: -1}
			if float64(b[i].stay) >= stoodShare*float64(b[i].words) {
				x.State = SectionMoved
			}
			sections = append(sections, x)
		}
	}
	for j, p := range of {
		if p >= 0 {
			b[p].partner = j
		}
	}
	cutBefore(0)
	for j, s := range after.Reading.Sections {
		x := Section{Heading: s.Heading, Level: s.Level, WordsAfter: a[j].words, Added: a[j].words - a[j].stay, before: of[j], after: j}
		switch {
		case of[j] >= 0:
			o := before.Reading.Sections[of[j]]
			x.WordsBefore, x.Cut = b[of[j]].words, b[of[j]].words-b[of[j]].stay
			if o.Heading != s.Heading {
				x.HeadingWas = o.Heading
			}
			if x.HeadingWas != "" || x.Added+x.Cut > 0 {
				x.State = SectionRewritten
			}
		case a[j].words == 0:
		case float64(a[j].stay) >= stoodShare*float64(a[j].words):
			x.State = SectionMoved
		default:
			x.State = SectionAdded
		}
		if x.State != "" {
			sections = append(sections, x)
		}
		if of[j] >= 0 {
			cutBefore(of[j] + 1)
		}
	}
	for i := range b { // behind a section that is gone itself
		cutBefore(i)
	}
	return sections
}

// tallied is what is counted of one section.
type tallied struct {
	words, stay int // words, and those of units that stand in the other version too
	partner     int // number of the section it is in the other version, -1 for none
}

func tally(d *corpus.Doc, units []unit) []tallied {
	t := make([]tallied, len(d.Reading.Sections))
	for i := range t {
		t[i].partner = -1
	}
	for _, u := range units {
		t[u.section].words += u.words
		if u.twin >= 0 {
			t[u.section].stay += u.words
		}
	}
	return t
}

// pairSections tells for each section which of the older version it is, -1 for none.
func pairSections(before, after *corpus.Doc, b, a []tallied, is, was []unit) []int {
	shared := map[[2]int]int{} // words, by sections of before and after
	for _, u := range is {
		if u.twin >= 0 && !u.heading {
			shared[[2]int{was[u.twin].section, u.section}] += u.words
		}
	}
	lang := language.For(after.Language)
	headed := map[string][]int{}
	for i, s := range before.Reading.Sections {
		k := corpus.Key(lang.ContentStems(s.Heading))
		headed[k] = append(headed[k], i)
	}
	for j, s := range after.Reading.Sections {
		for _, i := range headed[corpus.Key(lang.ContentStems(s.Heading))] {
			if before.Reading.Sections[i].Heading == "" && s.Heading != "" || before.Reading.Sections[i].Heading != "" && s.Heading == "" {
				continue
			}
			// The heading is worth as much as the shorter section.
			shared[[2]int{i, j}] += min(b[i].words, a[j].words) + 1
		}
	}
	type candidate struct{ i, j, weight int }
	var list []candidate
	for k, w := range shared {
		if 2*w >= min(b[k[0]].words, a[k[1]].words) {
			list = append(list, candidate{k[0], k[1], w})
		}
	}
	slices.SortFunc(list, func(x, y candidate) int {
		return cmp.Or(y.weight-x.weight, abs(x.i-x.j)-abs(y.i-y.j), x.i-y.i, x.j-y.j)
	})
	of := make([]int, len(a))
	for j := range of {
		of[j] = -1
	}
	taken := make([]bool, len(b))
	for _, c := range list {
		if !taken[c.i] && of[c.j] < 0 {
			taken[c.i], of[c.j] = true, c.i
		}
	}
	return of
}

func abs(n int) int {
	if n < 0 {
		return -n
	}
	return n
}
