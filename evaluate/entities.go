package main

import (
	"context"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/entities"
	"corpulan/core/evidence"
	"corpulan/core/text"
)

// entityScore is how the names that two pages have stand to those a reader listed.
type entityScore struct {
	precision, recall, f float64
	typed                float64 // of those found, with a type that the reader allows
	missing, wrong       []string
}

// readEntities reads entities.tsv: the types a reader allows, with bars between, and the
// name.
func readEntities(dir string) (map[string][]string, error) {
	lines, err := fileLines(filepath.Join(dir, "entities.tsv"))
	if err != nil {
		return nil, err
	}
	names := map[string][]string{}
	for _, l := range lines {
		types, name, ok := strings.Cut(l, "\t")
		if !ok {
			return nil, fmt.Errorf("%s: no type and name in %q", dir, l)
		}
		names[text.Fold(name)] = strings.Split(types, "|")
	}
	return names, nil
}

// scoreEntities compares the names that two pages have. Concepts count where the reader
// lists them: nobody could list all that a field has.
func scoreEntities(found []entities.Entity, want map[string][]string) entityScore {
	var s entityScore
	hits, named, typed := map[string]bool{}, 0, 0
	for _, e := range found {
		listed, ok := "", false
		for _, v := range append(slices.Clone(e.Variants), e.Name) {
			if _, is := want[text.Fold(v)]; is {
				listed, ok = text.Fold(v), true
			}
		}
		switch {
		case ok && !hits[listed]:
			hits[listed] = true
			if slices.Contains(want[listed], string(e.Type)) {
				typed++
			} else {
				s.wrong = append(s.wrong, e.Name+" is no "+string(e.Type))
			}
			if e.Flag == "" {
				named++
			}
		case e.Pages > 1 && e.Flag == "" && e.Type.IsNamed():
			named++
			s.wrong = append(s.wrong, e.Name+" ["+string(e.Type)+"]")
		}
	}
	for name := range want {
		if !hits[name] {
			s.missing = append(s.missing, name)
		}
	}
	slices.Sort(s.missing)
	s.precision, s.recall = float64(len(hits))/float64(max(named, 1)), float64(len(hits))/float64(max(len(want), 1))
	if s.precision+s.recall > 0 {
		s.f = 2 * s.precision * s.recall / (s.precision + s.recall)
	}
	s.typed = float64(typed) / float64(max(len(hits), 1))
	return s
}

func printEntities(w io.Writer, folder string) error {
	fmt.Fprintf(w, "\nNames that two pages have, against those a reader listed, with the types allowed\n\n| field | precision | recall | F1 | right type |\n|---|---|---|---|---|\n")
	var notes []string
	err := eachField(folder, "entities.tsv", func(f field, dir string, c *corpus.Field) error {
		want, err := readEntities(dir)
		if err != nil {
			return err
		}
		e, err := evidence.Compute(context.Background(), evidence.Input{Keyword: f.keyword, Language: f.language, Pages: pagesOf(c)})
		if err != nil {
			return err
		}
		s := scoreEntities(e.Entities, want)
		fmt.Fprintf(w, "| %s | %.2f | %.2f | %.2f | %.2f |\n", f.name, s.precision, s.recall, s.f, s.typed)
		notes = append(notes, f.name+" misses "+strings.Join(s.missing, ", ")+"; wrong: "+strings.Join(s.wrong, ", "))
		return nil
	})
	fmt.Fprintf(w, "\n%s\n", strings.Join(notes, "\n"))
	return err
}

func pagesOf(c *corpus.Field) []corpus.RankedPage {
	var pages []corpus.RankedPage
	for i, d := range c.Docs {
		pages = append(pages, corpus.RankedPage{Rank: c.Ranks[i], Doc: d})
	}
	return pages
}
