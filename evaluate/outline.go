package main

import (
	"context"
	"fmt"
	"io"
	"path/filepath"
	"strconv"
	"strings"

	"corpulan/core/corpus"
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

// proposedShare is how much of the field treats what is proposed, and two pages.
const proposedShare = 0.28

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
	held, proposed, right := map[string]bool{}, 0, 0
	for _, t := range found {
		if t.Pages < 2 || t.Share < proposedShare || !t.Recommended() {
			continue
		}
		proposed++
		votes := map[string]int{}
		best := ""
		for _, m := range t.Members {
			label := labels[heading{m.Rank, foldHeading(m.Text)}]
			votes[label]++
			if votes[label] > votes[best] || votes[label] == votes[best] && label < best {
				best = label
			}
		}
		if wanted[best] && !held[best] && 2*votes[best] > len(t.Members) {
			right++
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
	s.wanted = len(wanted)
	s.recall, s.precision = float64(len(held))/float64(max(len(wanted), 1)), float64(right)/float64(max(proposed, 1))
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

func printOutlines(w io.Writer, folder string) error {
	fmt.Fprintf(w, "\nThe outline against the matters that a third of the pages treat, as a reader labelled the headings\n\n| field | recall | precision | pairs | B-cubed |\n|---|---|---|---|---|\n")
	var notes []string
	var sum outlineScore
	n := 0
	err := eachField(folder, "themes.tsv", func(f field, dir string, c *corpus.Field) error {
		labels, err := f.readLabels(dir)
		if err != nil {
			return err
		}
		s := outlineOf(c, labels)
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

func outlineOf(c *corpus.Field, labels map[heading]string) outlineScore {
	found, _ := themes.Find(context.Background(), c, nil)
	return scoreOutline(found, labels, len(c.Docs))
}
