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

// aName is a name that a reader listed: the types they allow, the ways it is written, and whether it may be
// missing.
type aName struct {
	types    []string
	optional bool
}

// readEntities reads entities.tsv: the types a reader allows, with bars between, the name, and where they are
// told its variants, with bars between, and "opt" if it may be missing. Concepts are left out: nobody could list
// all that a field has.
func readEntities(dir string) (map[string]*aName, error) {
	lines, err := fileLines(filepath.Join(dir, "entities.tsv"))
	if err != nil {
		return nil, err
	}
	names := map[string]*aName{}
	for _, l := range lines {
		cells := append(strings.Split(l, "\t"), "", "")
		if len(cells) < 4 {
			return nil, fmt.Errorf("%s: no type and name in %q", dir, l)
		}
		if cells[0] == string(entities.ConceptType) {
			continue
		}
		x := &aName{strings.Split(cells[0], "|"), cells[3] == "opt"}
		for _, name := range append(strings.Split(cells[2], "|"), cells[1]) {
			if name != "" {
				names[text.Fold(name)] = x
			}
		}
	}
	return names, nil
}

// onTwo are the listed names that two pages of a field have, in any of the ways a reader listed.
func onTwo(want map[string]*aName, c *corpus.Field) map[*aName]bool {
	first, on := map[*aName]int{}, map[*aName]bool{}
	for i, d := range c.Docs {
		said := text.Fold(d.Reading.Text())
		for name, x := range want {
			if !corpus.HasWord(said, name) {
				continue
			}
			if at, seen := first[x]; !seen {
				first[x] = i
			} else if at != i {
				on[x] = true
			}
		}
	}
	return on
}

// listedAs is what a reader listed that an entity is, in whatever way it is written; nil for nothing.
func listedAs(e entities.Entity, want map[string]*aName) (is *aName) {
	for _, v := range append(slices.Clone(e.Variants), e.Name, e.Long) {
		if x := want[text.Fold(v)]; x != nil {
			is = x
		}
	}
	return is
}

// scoreEntities compares the names that two pages have.
func scoreEntities(found []entities.Entity, want map[string]*aName, c *corpus.Field) entityScore {
	var s entityScore
	hits, named, typed := map[*aName]bool{}, 0, 0
	for _, e := range found {
		if e.Pages < 2 {
			continue
		}
		is := listedAs(e, want)
		if e.Flag == "" && (is != nil && !hits[is] || is == nil && e.Type.IsNamed()) {
			named++
		}
		switch {
		case is == nil && e.Flag == "" && e.Type.IsNamed():
			s.wrong = append(s.wrong, e.Name+" ["+string(e.Type)+"]")
		case is != nil && !hits[is]:
			hits[is] = true
			if slices.Contains(is.types, string(e.Type)) {
				typed++
			} else {
				s.wrong = append(s.wrong, e.Name+" is no "+string(e.Type))
			}
		}
	}
	on := onTwo(want, c)
	wanted := len(hits)
	for x := range on {
		if !x.optional && !hits[x] {
			wanted++
		}
	}
	for name, x := range want {
		if on[x] && !hits[x] && !x.optional {
			s.missing = append(s.missing, name)
		}
	}
	slices.Sort(s.missing)
	s.precision, s.recall = float64(len(hits))/float64(max(named, 1)), float64(len(hits))/float64(max(wanted, 1))
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
		s := scoreEntities(e.Entities, want, c)
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
