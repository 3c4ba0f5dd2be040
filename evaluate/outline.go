package main

import (
	"context"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/listed"
	"corpulan/core/text"
	"corpulan/core/themes"
)

// heading is one heading of a field as a reader labelled it: headings with one label
// treat the same matter; a label that begins with "single" or "furniture" is no matter.
type heading struct {
	rank int
	text string // folded
}

// readLabels reads themes.tsv: rank, heading, label.
func (f field) readLabels(dir string) (map[heading]string, error) {
	lines, err := fileLines(filepath.Join(dir, "themes.tsv"))
	if err != nil {
		return nil, err
	}
	labels := map[heading]string{}
	for _, l := range lines {
		cells := strings.Split(l, "\t")
		rank, err := strconv.Atoi(cells[0])
		if len(cells) != 3 || err != nil {
			return nil, fmt.Errorf("%s: %q is no rank, heading and label", dir, l)
		}
		labels[heading{rank, foldHeading(cells[1])}] = cells[2]
	}
	return labels, nil
}

func foldHeading(s string) string {
	var words []string
	text.EachWord(s, func(w text.Span) { words = append(words, text.Fold(w.Of(s))) })
	return strings.Join(words, " ")
}

// outlineScore is how the themes of a field stand to the labels.
type outlineScore struct {
	recall, precision float64 // of the matters of a third of the pages; of the themes proposed
	pairs, bcubed     float64 // F1 over headings
	wanted            int     // matters that a third of the pages treat
	missing, mixed    []string
}

// scoreOutline counts strictly: a section of the outline is a matter only if more than half of its
// headings bear that label, from two pages or more, and only once.
func scoreOutline(found []themes.Theme, labels map[heading]string, pages int) outlineScore {
	var s outlineScore
	on := map[string]map[int]bool{}
	for h, label := range labels {
		if on[label] == nil {
			on[label] = map[int]bool{}
		}
		on[label][h.rank] = true
	}
	wanted := map[string]bool{}
	for label, ranks := range on {
		if 3*len(ranks) >= pages && len(ranks) >= 2 && !isNoMatter(label) {
			wanted[label] = true
		}
	}
	held, proposed := map[string]bool{}, 0
	list, _ := brief.ProposedThemes(found, pages)
	for _, i := range list {
		t := found[i]
		proposed++
		votes, from := map[string]int{}, map[string]map[int]bool{}
		for _, m := range t.Members {
			label := labels[heading{m.Rank, foldHeading(m.Text)}]
			votes[label]++
			if from[label] == nil {
				from[label] = map[int]bool{}
			}
			from[label][m.Rank] = true
		}
		best := ""
		for label, n := range votes {
			if 2*n > len(t.Members) && len(from[label]) > 1 {
				best = label
			}
		}
		if wanted[best] && !held[best] {
			held[best] = true
		} else {
			s.mixed = append(s.mixed, t.Label+" ["+best+"]")
		}
	}
	for label := range wanted {
		if !held[label] {
			s.missing = append(s.missing, label)
		}
	}
	slices.Sort(s.missing)
	s.wanted = len(wanted)
	s.recall, s.precision = float64(len(held))/float64(max(len(wanted), 1)), float64(len(held))/float64(max(proposed, 1))
	s.pairs, s.bcubed = agreement(found, labels)
	return s
}

func isNoMatter(label string) bool {
	return label == "" || strings.HasPrefix(label, "single") || strings.HasPrefix(label, "furniture")
}

// agreement is the F1 of pairs (Rand 1971, as precision and recall) and of B-cubed
// (Bagga & Baldwin 1998) of the grouping of the labelled headings.
func agreement(found []themes.Theme, labels map[heading]string) (pairs, bcubed float64) {
	type item struct {
		theme int
		label string
	}
	var items []item
	for i, t := range found {
		for _, m := range t.Members {
			if label, ok := labels[heading{m.Rank, foldHeading(m.Text)}]; ok {
				items = append(items, item{i, label})
			}
		}
	}
	var both, ours, theirs, p, r float64
	for i, a := range items {
		var same, inTheme, inLabel float64
		for j, b := range items {
			t, l := a.theme == b.theme, a.label == b.label
			if t {
				inTheme++
			}
			if l {
				inLabel++
			}
			if t && l {
				same++
			}
			if j > i {
				if t {
					ours++
				}
				if l {
					theirs++
				}
				if t && l {
					both++
				}
			}
		}
		p += same / inTheme
		r += same / inLabel
	}
	f1 := func(p, r float64) float64 {
		if p+r == 0 {
			return 0
		}
		return 2 * p * r / (p + r)
	}
	n := float64(max(len(items), 1))
	return f1(both/max(ours, 1), both/max(theirs, 1)), f1(p/n, r/n)
}

// printOutlines judges each field by what the others teach.
func printOutlines(w io.Writer, folder string) error {
	lessons, err := lessonsOf(folder)
	if err != nil {
		return err
	}
	fmt.Fprintf(w, "\nThe outline against the matters that a third of the pages treat, as a reader labelled the headings; each field by what the others teach\n\n| field | recall | precision | pairs | B-cubed |\n|---|---|---|---|---|\n")
	var notes []string
	var sum outlineScore
	n := 0
	err = eachField(folder, "themes.tsv", func(f field, dir string, c *corpus.Field) error {
		labels, err := f.readLabels(dir)
		if err != nil {
			return err
		}
		judge := taughtBy(lessons, f.name)
		s := outlineOf(c, labels, &judge)
		fmt.Fprintf(w, "| %s | %.2f | %.2f | %.2f | %.2f |\n", f.name, s.recall, s.precision, s.pairs, s.bcubed)
		notes = append(notes, f.name+" misses "+strings.Join(s.missing, ", ")+"; mixes or repeats "+strings.Join(s.mixed, ", "))
		if s.wanted == 0 { // nothing to hold
			return nil
		}
		sum.recall, sum.precision, sum.pairs, sum.bcubed = sum.recall+s.recall, sum.precision+s.precision, sum.pairs+s.pairs, sum.bcubed+s.bcubed
		n++
		return nil
	})
	if n > 0 {
		k := float64(n)
		fmt.Fprintf(w, "| mean | %.2f | %.2f | %.2f | %.2f |\n\n%s\n", sum.recall/k, sum.precision/k, sum.pairs/k, sum.bcubed/k, strings.Join(notes, "\n"))
	}
	return err
}

func outlineOf(c *corpus.Field, labels map[heading]string, judge *themes.Judge) outlineScore {
	found, _ := judge.Find(context.Background(), c, nil, listed.Find(c, nil).Sections)
	return scoreOutline(found, labels, len(c.Docs))
}
