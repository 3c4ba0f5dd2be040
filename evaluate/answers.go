package main

import (
	"context"
	"fmt"
	"io"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/says"
)

// answersScore is how the pages that are said to answer the questions of headings stand to those that have a
// section on the same matter, as the headings are labelled: of all pairs of a question and a page that does
// not ask it.
func answersScore(e *evidence.Evidence, labels map[heading]string, pages int) (s score, wrong []string) {
	on := map[string][]int{}
	for h, label := range labels {
		if !slices.Contains(on[label], h.rank) {
			on[label] = append(on[label], h.rank)
		}
	}
	for _, q := range e.Questions {
		label := ""
		var asks []int
		for _, w := range q.Wordings {
			if l := labels[heading{w.Rank, foldHeading(w.Text)}]; w.Place == "heading" && l != "" && len(on[l]) > 1 {
				label = l
			}
			asks = append(asks, w.Rank)
		}
		if label == "" {
			continue
		}
		for rank := 1; rank <= pages; rank++ {
			if slices.Contains(asks, rank) {
				continue
			}
			found := slices.ContainsFunc(q.AnsweredBy, func(a says.Answer) bool { return a.Rank == rank })
			expected := slices.Contains(on[label], rank)
			if found {
				s.found++
			}
			if expected {
				s.expected++
			}
			if found && expected {
				s.both++
			}
			if found != expected {
				wrong = append(wrong, fmt.Sprintf("%s, rank %d: %v", q.Text, rank, found))
			}
		}
	}
	return s, wrong
}

func printAnswers(w io.Writer, folder string) error {
	fmt.Fprintf(w, "\nPages that answer the question of a heading, against those with a section on the same matter\n\n| field | P | R | F1 |\n|---|---|---|---|\n")
	var all score
	var notes []string
	err := eachField(folder, "themes.tsv", func(f field, dir string, c *corpus.Field) error {
		labels, err := f.readLabels(dir)
		if err != nil {
			return err
		}
		e, err := evidence.Compute(context.Background(), evidence.Input{Keyword: f.keyword, Language: f.language, Pages: pagesOf(c)})
		if err != nil {
			return err
		}
		s, wrong := answersScore(e, labels, len(c.Docs))
		if s.expected == 0 {
			return nil
		}
		all.add(s)
		fmt.Fprintf(w, "| %s | %.2f | %.2f | %.2f |\n", f.name, s.precision(), s.recall(), s.f1())
		for _, x := range wrong {
			notes = append(notes, f.name+": "+x)
		}
		return nil
	})
	fmt.Fprintf(w, "| all | %.2f | %.2f | %.2f |\n\n", all.precision(), all.recall(), all.f1())
	for _, n := range notes {
		fmt.Fprintln(w, n)
	}
	return err
}
