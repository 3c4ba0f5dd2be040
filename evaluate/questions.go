package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
)

// readQuestions reads questions.tsv: the rank of the page that asks, the question and a
// label; questions with one label ask the same.
func readQuestions(dir string) (map[string]string, error) {
	lines, err := fileLines(filepath.Join(dir, "questions.tsv"))
	if err != nil {
		return nil, err
	}
	labels := map[string]string{}
	for _, l := range lines {
		cells := strings.Split(l, "\t")
		if len(cells) == 2 { // the rank is not told
			cells = slices.Insert(cells, 0, "")
		}
		if len(cells) < 3 {
			return nil, fmt.Errorf("%s: %q is no question and label, with a rank before them or none", dir, l)
		}
		if cells[0] != "0" { // the results page's own are given, not found
			labels[foldHeading(cells[1])] = cells[2]
		}
	}
	return labels, nil
}

// askedOn are the questions that the results page of a field shows; none where it has no results.json.
func askedOn(dir string) ([]string, error) {
	b, err := os.ReadFile(filepath.Join(dir, "results.json"))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	var results struct{ Asked []string }
	if err == nil {
		err = json.Unmarshal(b, &results)
	}
	return results.Asked, err
}

func printQuestions(w io.Writer, folder string) error {
	fmt.Fprintf(w, "\nQuestions of the pages against those a reader found; pairs of wordings that are one question\n\n| field | found P | found R | merged P | merged R |\n|---|---|---|---|---|\n")
	var notes []string
	var hits, all, wanted, right, merged, same float64
	err := eachField(folder, "questions.tsv", func(f field, dir string, c *corpus.Field) error {
		labels, err := readQuestions(dir)
		if err != nil {
			return err
		}
		asked, err := askedOn(dir)
		if err != nil {
			return err
		}
		e, err := evidence.Compute(context.Background(), evidence.Input{Keyword: f.keyword, Language: f.language, Pages: pagesOf(c), Asked: asked})
		if err != nil {
			return err
		}
		found := e.Questions
		groupOf := map[string]int{}
		for i, q := range found {
			for _, v := range q.Wordings {
				groupOf[foldHeading(v.Text)] = i
			}
		}
		var h, r, m, s float64
		var texts []string
		for t := range groupOf {
			if _, ok := labels[t]; ok {
				h++
				texts = append(texts, t)
			}
		}
		for i, a := range texts {
			for _, b := range texts[:i] {
				one, wanted := groupOf[a] == groupOf[b], labels[a] == labels[b]
				if one {
					m++
				}
				if one != wanted {
					notes = append(notes, fmt.Sprintf("%s / %s: one %v, reader %v", a, b, one, wanted))
				}
				if wanted {
					s++
				}
				if one && wanted {
					r++
				}
			}
		}
		fmt.Fprintf(w, "| %s | %.2f | %.2f | %s | %s |\n", f.name, h/max(float64(len(groupOf)), 1), h/max(float64(len(labels)), 1), ratio(r, m), ratio(r, s))
		hits, all, wanted, right, merged, same = hits+h, all+float64(len(groupOf)), wanted+float64(len(labels)), right+r, merged+m, same+s
		return nil
	})
	fmt.Fprintf(w, "| all | %.2f | %.2f | %s | %s |\n", hits/max(all, 1), hits/max(wanted, 1), ratio(right, merged), ratio(right, same))
	fmt.Fprintf(w, "\n%s\n", strings.Join(notes, "\n"))
	return err
}

// ratio is a share, or a dash where there is nothing to have a share of.
func ratio(part, whole float64) string {
	if whole == 0 {
		return "–"
	}
	return fmt.Sprintf("%.2f of %.0f", part/whole, whole)
}
