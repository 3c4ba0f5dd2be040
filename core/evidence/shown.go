package evidence

import (
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// Shown is what the pages show on one matter beside sentences.
type Shown struct {
	Theme   string   `json:"theme"` // its key
	Form    string   `json:"form"`  // "table", "list", "picture", or "wall": long paragraphs and nothing else
	Sources []int    `json:"sources"`
	Heads   []string `json:"heads,omitempty"` // of a table: what its columns are
	Says    string   `json:"says,omitempty"`  // of a picture: what is written below it
}

// Bounds of what is shown, all our own.
const (
	fewestShow  = 2   // pages that show a matter so, before a writer is asked to
	fewestItems = 3   // of a list
	maxHeads    = 4   // columns that are named
	longestHead = 40  // characters of a column's name
	longestSays = 110 // characters of what is written below a picture

	wallWords   = 100 // of a paragraph that is too long to scan: eight to ten lines, common practice, no published source
	fewestWalls = 3   // pages
)

// Wall is the form of a matter that pages have in long paragraphs alone.
const Wall = "wall"

// shown finds for each matter the form in which several of its pages show it: a table before a picture, a picture before a list; or that
// most of them have it in long paragraphs and none shows anything.
func (e *Evidence) shown(f *corpus.Field) []Shown {
	list := []Shown{}
	at := map[int]*reading.Reading{}
	for i, d := range f.Docs {
		at[f.Ranks[i]] = d.Reading
	}
	for _, t := range e.Themes {
		if !t.Recommended() {
			continue
		}
		forms := map[string]*Shown{}
		note := func(form string, rank int) *Shown {
			s := forms[form]
			if s == nil {
				s = &Shown{Theme: t.Key, Form: form}
				forms[form] = s
			}
			if !slices.Contains(s.Sources, rank) {
				s.Sources = append(s.Sources, rank)
			}
			return s
		}
		pages := map[int]bool{}
		for _, m := range t.Members {
			r := at[m.Rank]
			if r == nil || m.Section >= len(r.Sections) {
				continue
			}
			pages[m.Rank] = true
			section := r.Sections[m.Section]
			for _, x := range r.Tables {
				if x.Section == m.Section && len(x.Rows) > 1 {
					if s := note("table", m.Rank); s.Heads == nil {
						s.Heads = headsOf(x)
					}
				}
			}
			if strings.Count(section.Lines, string(rune(reading.LineItem))) >= fewestItems {
				note("list", m.Rank)
			}
			for kind, said := range section.Blocks() {
				if kind == reading.LineParagraph && text.CountWords(said) > wallWords {
					note(Wall, m.Rank)
				}
				if kind == reading.LineCaption {
					if s := note("picture", m.Rank); s.Says == "" && utf8.RuneCountInString(said) <= longestSays {
						s.Says = said
					}
				}
			}
		}
		if wall := forms[Wall]; wall != nil && len(forms) == 1 && len(wall.Sources) >= fewestWalls && 3*len(wall.Sources) >= 2*len(pages) {
			slices.Sort(wall.Sources)
			list = append(list, *wall)
		}
		for _, form := range []string{"table", "picture", "list"} {
			if s := forms[form]; s != nil && len(s.Sources) >= fewestShow {
				slices.Sort(s.Sources)
				list = append(list, *s)
				break
			}
		}
	}
	return list
}

// headsOf are the names of a table's columns, a few.
func headsOf(t reading.Table) (heads []string) {
	if !t.Head {
		return []string{}
	}
	for _, c := range t.Rows[0] {
		if c = strings.TrimSpace(c); c != "" && utf8.RuneCountInString(c) <= longestHead && len(heads) < maxHeads {
			heads = append(heads, c)
		}
	}
	return heads
}
