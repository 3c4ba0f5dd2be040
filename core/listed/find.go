// Package listed finds the things that pages list or recommend under names of their own: products, places, programs,
// plants, services.
//
//   - find.go   which headings are of a list, and things joined over the pages
//   - shape.go  a heading read as one of a list: number, name, verdict, price
//
// Tables, definition lists and structured data are not read yet.
package listed

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/text"
)

// Thing is something that pages list under its name.
type Thing struct {
	Key    string  `json:"key"`
	Name   string  `json:"name"` // the longest way it is written
	Pages  int     `json:"pages"`
	Places []Place `json:"places"` // in rank order
}

// Place is where one page lists a thing.
type Place struct {
	Rank     int    `json:"rank"`
	Section  int    `json:"section"`
	Position int    `json:"position"` // in the page's list, from 1
	Of       int    `json:"of"`       // how many that list has
	Name     string `json:"name"`     // as it is written there
	Verdict  string `json:"verdict,omitempty"`
	Price    string `json:"price,omitempty"` // as it is written
}

// What makes headings a list of things, our own: how many stand side by side, and how many of them are named and have
// the shape of an entry.
const (
	fewestListed = 3
	mostNamed    = 0.6
	maxListed    = 100 // headings of one page that are read; a longer list is a catalogue
)

type finder struct{ *corpus.Field }

// Find finds the things that the pages of a field list, those of most pages first.
func Find(f *corpus.Field) []Thing {
	x := finder{f}
	things := map[string]*Thing{}
	for i := range f.Docs {
		for _, list := range x.lists(i) {
			for n, e := range list {
				k := keyOf(e.name)
				t := things[k]
				if t == nil {
					t = &Thing{Key: k, Name: e.name}
					things[k] = t
				}
				t.Places = append(t.Places, Place{f.Ranks[i], e.section, n + 1, len(list), e.name, e.verdict, e.price})
			}
		}
	}
	list := joined(things)
	for i := range list {
		slices.SortStableFunc(list[i].Places, func(a, b Place) int { return cmp.Compare(a.Rank, b.Rank) })
		ranks := map[int]bool{}
		for _, p := range list[i].Places {
			ranks[p.Rank] = true
		}
		list[i].Pages = len(ranks)
	}
	slices.SortStableFunc(list, func(a, b Thing) int {
		return cmp.Or(cmp.Compare(b.Pages, a.Pages), cmp.Compare(a.Places[0].Rank, b.Places[0].Rank), cmp.Compare(a.Places[0].Position, b.Places[0].Position), strings.Compare(a.Key, b.Key))
	})
	return list
}

// Sections are the sections of pages that are about one thing of a list, by rank and section.
func Sections(things []Thing) map[[2]int]bool {
	at := map[[2]int]bool{}
	for _, t := range things {
		for _, p := range t.Places {
			at[[2]int{p.Rank, p.Section}] = true
		}
	}
	return at
}

// lists are the lists of things that the headings of a page are.
func (f finder) lists(page int) (found [][]entry) {
	d := f.Docs[page]
	var all []entry
	open := map[int]int{} // level -> section
	title, _ := d.Reading.TitleSection()
	for n, s := range d.Reading.Sections {
		if s.Level == 0 || n == title {
			continue
		}
		if len(all) == maxListed {
			break
		}
		e := f.read(n, s.Heading)
		e.level = s.Level
		for l := s.Level - 1; l > 0 && e.parent < 0; l-- {
			if p, ok := open[l]; ok {
				e.parent = p
			}
		}
		for l := range open {
			if l >= s.Level {
				delete(open, l)
			}
		}
		open[s.Level] = n
		all = append(all, e)
	}
	var groups [][]entry
	at := map[[2]int]int{}
	for _, e := range all {
		k := [2]int{e.level, e.parent}
		i, ok := at[k]
		if !ok {
			i = len(groups)
			at[k] = i
			groups = append(groups, nil)
		}
		groups[i] = append(groups[i], e)
	}
	for _, g := range groups {
		shaped := slices.DeleteFunc(g, func(e entry) bool { return !e.hasShape })
		named := 0
		for _, e := range shaped {
			if e.isNamed {
				named++
			}
		}
		if named >= fewestListed && float64(named) >= mostNamed*float64(len(shaped)) {
			found = append(found, shaped)
		}
	}
	return found
}

// keyOf is a name without case, spaces and signs.
func keyOf(name string) string {
	return strings.Map(func(r rune) rune {
		if strings.ContainsRune(" -–—.&'’", r) {
			return -1
		}
		return r
	}, text.Fold(name))
}

// joined brings a short name to the one long name that ends or begins with it: "Courier 100" to "Glint Courier 100".
func joined(things map[string]*Thing) []Thing {
	keys := make([]string, 0, len(things))
	for k := range things {
		keys = append(keys, k)
	}
	slices.SortFunc(keys, func(a, b string) int { return cmp.Or(cmp.Compare(len(b), len(a)), strings.Compare(a, b)) })
	into := map[string]string{}
	having := map[string][]string{} // longer names by their beginnings and their ends
	for _, short := range keys {
		name := strings.Join(strings.Fields(text.Fold(things[short].Name)), " ")
		var long []string
		for _, k := range having[name] {
			if into[k] == "" {
				long = append(long, k)
			}
		}
		words := strings.Split(name, " ")
		for n := 1; n < len(words); n++ {
			for _, part := range []string{strings.Join(words[:n], " "), strings.Join(words[n:], " ")} {
				if list := having[part]; len(list) == 0 || list[len(list)-1] != short {
					having[part] = append(list, short)
				}
			}
		}
		if len(long) == 1 {
			into[short] = long[0]
			things[long[0]].Places = append(things[long[0]].Places, things[short].Places...)
		}
	}
	list := []Thing{}
	for _, k := range keys {
		if into[k] == "" {
			list = append(list, *things[k])
		}
	}
	return list
}
