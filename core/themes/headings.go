package themes

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/stats"
)

// headingVector is a heading with what it is compared by.
type headingVector struct {
	doc, section, words int
	level               int
	text                string
	parent              int              // index of the heading it stands under, -1 for none
	holds               bool             // it only holds others: hardly a word of its own stands below it
	named                                // general matters
	sums                int              // amounts of money in its text
	title               stats.Vector     // stems of the heading
	body                stats.Vector     // leading stems of the section
	lead                []stats.Weighted // the same, the heaviest first
}

// headingVectors lists the headings below the page's title that are the
// author's own, with their stems and the leading stems of their sections; a thing under its name is no matter.
func headingVectors(f *corpus.Field, things map[[2]int]bool) (all []headingVector, notes []message.Message) {
	repeated := repeatedIn(f)
	idf := f.SectionIDF()
	namer := namerOf(f)
	most := headingsPerPage(f.Docs)
	var others []int // ranks of pages in another language
	for i, d := range f.Docs {
		if d.IsForeign() {
			others = append(others, f.Ranks[i])
		}
		open := map[int]int{} // level -> index of the last heading there
		title, _ := d.Reading.TitleSection()
		from := len(all)
		foreign, sums := foreignSections(d, f.Language), sumsOf(d, f.Language)
		for n, s := range d.Reading.Sections {
			if len(all)-from >= most {
				notes = append(notes, message.Of("Of rank %d the first %d headings are compared; it has %d.", f.Ranks[i], most, len(d.Reading.Headings)))
				break
			}
			if s.Level == 0 || n == title || d.Reading.Headings[n-1].Card || things[[2]int{f.Ranks[i], n}] {
				continue
			}
			stems := f.Language.ContentStems(s.Heading)
			if len(stems) == 0 && s.Words < fewestUnsaid || foreign[n] || d.IsForeignLine(s.Heading) || repeated(d, s) {
				continue
			}
			h := headingVector{doc: i, section: n, level: s.Level, text: s.Heading, words: d.Reading.WordsBelow(n), parent: -1}
			for l := s.Level - 1; l > 0 && h.parent < 0; l-- {
				if p, ok := open[l]; ok {
					h.parent = p
				}
			}
			slices.Sort(stems)
			var heading []stats.Weighted
			for _, st := range slices.Compact(stems) {
				heading = append(heading, stats.Weighted{Stem: st, Weight: idf(st)})
			}
			h.lead = leadingStems(d.Sections[n], heading, idf)
			h.title, h.body = stats.NewVector(heading), stats.NewVector(h.lead)
			h.named, h.sums = namer.name(s.Heading), sums[n]
			h.holds = s.Words < fewestUnsaid && n+1 < len(d.Reading.Sections) && d.Reading.Sections[n+1].Level > s.Level
			for l := range open {
				if l >= s.Level {
					delete(open, l)
				}
			}
			open[s.Level] = len(all)
			all = append(all, h)
		}
	}
	if len(others) > 0 {
		notes = append(notes, message.Of("%d of %d pages are in another language; what is in it is not compared.", len(others), len(f.Docs)))
	}
	return all, append(notes, unheaded(f, all)...)
}

// unheaded notes that a field of several pages has headings on one at most: nothing tells where a matter begins.
func unheaded(f *corpus.Field, all []headingVector) []message.Message {
	if len(f.Docs) < 2 || len(all) > 0 && all[0].doc != all[len(all)-1].doc {
		return nil
	}
	return []message.Message{message.Of("Of %d pages hardly one has headings of its own: terms, points and questions are compared, and an outline is to be made by hand.", len(f.Docs))}
}

// fewestUnsaid is how many words stand below a heading that has none of its own but function words
// ("What you will need") for it to count. Our own: a sentence.
const fewestUnsaid = 15

// sumsOf counts the amounts of money in the sections of a page.
func sumsOf(d *corpus.Doc, lang *language.Language) []int {
	sums := make([]int, len(d.Sections))
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if s.Heading {
			continue
		}
		for _, x := range s.Figures(lang) {
			if x.Money {
				sums[s.Section]++
			}
		}
	}
	return sums
}

// fewestForeign is how many words show that another language has written a section: lists of names
// look foreign sooner. Our own.
const fewestForeign = 20

// foreignSections are those that nobody has translated: more than half of their words are another
// language's, and all of their heading's are English, or capitals; in an English field not all. A heading in the
// field's language names a matter whatever stands below it.
func foreignSections(d *corpus.Doc, lang *language.Language) map[int]bool {
	foreign := map[int]bool{}
	own, other := map[int]int{}, map[int]int{}
	for i := range d.Sentences {
		switch s := &d.Sentences[i]; {
		case s.Heading:
		case s.Foreign:
			other[s.Section] += len(s.Tokens)
		default:
			own[s.Section] += len(s.Tokens)
		}
	}
	for n, s := range d.Reading.Sections {
		if other[n] >= fewestForeign && other[n] > own[n] {
			foreign[n] = corpus.IsEnglish(s.Heading) != lang.Senses
		}
	}
	return foreign
}

// maxHeadings is how many headings of a field are compared: grouping them
// takes memory and time by the square of their number, 150 MB for these. Our own bound;
// the hundred longest guides of a field have about 2,500.
const maxHeadings = 2500

// headingsPerPage is how many headings of each page are compared, so that all
// together are not more than maxHeadings and no page is cut while another has more.
func headingsPerPage(docs []*corpus.Doc) int {
	var counts []int
	for _, d := range docs {
		counts = append(counts, len(d.Reading.Headings))
	}
	slices.Sort(counts)
	left := maxHeadings
	for i, n := range counts {
		if share := left / (len(counts) - i); n > share {
			return max(share, 1)
		}
		left -= n
	}
	return maxHeadings
}

// repeatedIn finds headings that are a site's and not an author's: the same
// heading on two kept pages of one host, or over the very same text on two
// pages of any. Two versions of a page are no two pages.
func repeatedIn(f *corpus.Field) func(*corpus.Doc, reading.Section) bool {
	keys := func(d *corpus.Doc, s reading.Section) []string {
		heading := strings.ToLower(s.Heading)
		k := []string{heading + "\x00" + s.Text}
		if d.Site != "" {
			k = append(k, d.Site+"\x00"+heading)
		}
		if s.Text == "" {
			k = k[1:]
		}
		return k
	}
	seen, twice := map[string]int{}, map[string]bool{}
	for i, d := range f.Docs {
		for _, s := range d.Reading.Sections {
			for _, k := range keys(d, s) {
				if at, ok := seen[k]; ok && at != i && (f.Of[i] == 0 || f.Of[at] != f.Of[i]) {
					twice[k] = true
				}
				seen[k] = i
			}
		}
	}
	return func(d *corpus.Doc, s reading.Section) bool {
		return slices.ContainsFunc(keys(d, s), func(k string) bool { return twice[k] })
	}
}

// leadingStems are the eight stems that say most about a section, by tf-idf
// with a logarithmic term frequency.
func leadingStems(section map[string]int, title []stats.Weighted, idf func(string) float64) []stats.Weighted {
	var list []stats.Weighted
	for s, n := range section {
		inTitle := slices.ContainsFunc(title, func(t stats.Weighted) bool { return t.Stem == s })
		if n >= 2 && !inTitle && len(s) > 2 {
			list = append(list, stats.Weighted{Stem: s, Weight: (1 + math.Log(float64(n))) * idf(s)})
		}
	}
	slices.SortFunc(list, func(a, b stats.Weighted) int {
		return cmp.Or(cmp.Compare(b.Weight, a.Weight), strings.Compare(a.Stem, b.Stem))
	})
	return list[:min(len(list), 8)]
}
