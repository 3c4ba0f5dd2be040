package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/says"
)

// saying is a question with the pages that say what it asks, and those that don't, by a reader.
type saying struct {
	field, question string
	said, not       []int
	teaches         bool // odd lines of a field do, even ones are kept back
}

// readSayings reads says.tsv.
func readSayings(folder string) (list []saying, err error) {
	b, err := os.ReadFile(filepath.Join(folder, "says.tsv"))
	if err != nil {
		return nil, err
	}
	lines := map[string]int{}
	for line := range strings.Lines(string(b)) {
		cells := strings.Split(strings.TrimRight(line, "\n"), "\t")
		if strings.HasPrefix(line, "#") || len(cells) < 4 {
			continue
		}
		s := saying{field: cells[0], question: cells[1]}
		lines[s.field]++
		s.teaches = lines[s.field]%2 == 1
		for i, list := range []*[]int{&s.said, &s.not} {
			for r := range strings.FieldsSeq(cells[2+i]) {
				rank, err := strconv.Atoi(r)
				if err != nil {
					return nil, fmt.Errorf("%s: %w", cells[1], err)
				}
				*list = append(*list, rank)
			}
		}
		list = append(list, s)
	}
	return list, nil
}

// heard are the sayings of one field with its texts.
type heard struct {
	field   string
	texts   *says.Texts
	sayings []saying
}

func hear(f field, c *corpus.Field, all []saying) (heard, error) {
	h := heard{field: f.name}
	for _, s := range all {
		if s.field == f.name {
			h.sayings = append(h.sayings, s)
		}
	}
	if h.sayings == nil {
		return h, nil
	}
	e, err := evidence.Compute(context.Background(), evidence.Input{Keyword: f.keyword, Language: f.language, Pages: pagesOf(c)})
	if err == nil {
		h.texts = says.In(c, e.Treated())
	}
	return h, err
}

// hearAll is done for all fields of a folder that have sayings.
func hearAll(folder string) (all []heard, err error) {
	sayings, err := readSayings(folder)
	if err != nil {
		return nil, err
	}
	err = eachField(folder, "pages.txt", func(f field, _ string, c *corpus.Field) error {
		h, err := hear(f, c, sayings)
		if h.texts != nil {
			all = append(all, h)
		}
		return err
	})
	return all, err
}

// choices is how often the section of a text that a judge finds likeliest is chosen anew while it is taught, as
// for examples of which only the bag is labelled (Andrews et al. 2003, MI-SVM). Our own.
const choices = 8

// saysTaught is the judge that some sayings teach: each pair of a question and a page counts by the likeliest
// section.
func saysTaught(all []heard, of func(saying) bool) says.Judge {
	judge := says.Learned
	for range choices {
		var examples []example
		for _, h := range all {
			for _, s := range h.sayings {
				if !of(s) {
					continue
				}
				for i, ranks := range [][]int{s.said, s.not} {
					for _, rank := range ranks {
						if traits, ok := h.texts.Example(rank, says.Ask(h.texts.Language, s.question), &judge); ok {
							examples = append(examples, example{traits[:], i == 0, 1})
						}
					}
				}
			}
		}
		copy(judge[:], regress(len(judge), examples))
	}
	return judge
}

// saysScore is how the judge's pages stand to the reader's.
func saysScore(h heard, of func(saying) bool) (s score, wrong []string) {
	for _, x := range h.sayings {
		if !of(x) {
			continue
		}
		for i, ranks := range [][]int{x.said, x.not} {
			for _, rank := range ranks {
				a, found := h.texts.AnswerOf(rank, says.Ask(h.texts.Language, x.question))
				if found {
					s.found++
				}
				if i == 0 {
					s.expected++
				}
				if found && i == 0 {
					s.both++
				}
				if found != (i == 0) {
					wrong = append(wrong, fmt.Sprintf("%s: %s, rank %d: %v %s", h.field, x.question, rank, found, a.Heading))
				}
			}
		}
	}
	return s, wrong
}

func printSays(w io.Writer, folder string) error {
	all, err := hearAll(folder)
	if err != nil {
		return err
	}
	fmt.Fprintf(w, "\nWhether pages say what is asked, against a reader\n\n| field | taught P | R | F1 | kept back P | R | F1 |\n|---|---|---|---|---|---|---|\n")
	var sums [2]score
	var notes []string
	for _, h := range all {
		fmt.Fprintf(w, "| %s ", h.field)
		for i := range sums {
			s, wrong := saysScore(h, func(x saying) bool { return x.teaches == (i == 0) })
			sums[i].add(s)
			fmt.Fprintf(w, "| %.2f | %.2f | %.2f ", s.precision(), s.recall(), s.f1())
			notes = append(notes, wrong...)
		}
		fmt.Fprintln(w, "|")
	}
	fmt.Fprintf(w, "| all | %.2f | %.2f | %.2f | %.2f | %.2f | %.2f |\n\n", sums[0].precision(), sums[0].recall(), sums[0].f1(), sums[1].precision(), sums[1].recall(), sums[1].f1())
	for _, n := range notes {
		fmt.Fprintln(w, n)
	}
	return nil
}

// printSaysJudge prints the judge that the sayings which teach do, as core/says has it.
func printSaysJudge(w io.Writer, folder string) error {
	all, err := hearAll(folder)
	if err != nil {
		return err
	}
	var weights []string
	for _, v := range saysTaught(all, func(s saying) bool { return s.teaches }) {
		weights = append(weights, fmt.Sprintf("%.2f", v))
	}
	_, err = fmt.Fprintf(w, "var Learned = Judge{%s}\n", strings.Join(weights, ", "))
	return err
}
