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
		forms, pages := showing{}, map[int]bool{}
		for _, m := range t.Members {
			if r := at[m.Rank]; r != nil && m.Section < len(r.Sections) {
				pages[m.Rank] = true
				forms.read(r, m.Section, m.Rank)
			}
		}
		if s := forms.most(len(pages)); s != nil {
			s.Theme = t.Key
			slices.Sort(s.Sources)
			list = append(list, *s)
		}
	}
	return list
}

// showing are the forms in which pages show one matter.
type showing map[string]*Shown

func (x showing) note(form string, rank int) *Shown {
	if x[form] == nil {
		x[form] = &Shown{Form: form}
	}
	if !slices.Contains(x[form].Sources, rank) {
		x[form].Sources = append(x[form].Sources, rank)
	}
	return x[form]
}

// read notes the forms of a page's section.
func (x showing) read(r *reading.Reading, section, rank int) {
	for _, t := range r.Tables {
		if t.Section == section && len(t.Rows) > 1 {
			if s := x.note("table", rank); s.Heads == nil {
				s.Heads = headsOf(t)
			}
		}
	}
	if strings.Count(r.Sections[section].Lines, string(rune(reading.LineItem))) >= fewestItems {
		x.note("list", rank)
	}
	for kind, said := range r.Sections[section].Blocks() {
		switch {
		case kind == reading.LineParagraph && text.CountWords(said) > wallWords:
			x.note(Wall, rank)
		case kind == reading.LineCaption:
			if s := x.note("picture", rank); s.Says == "" && utf8.RuneCountInString(said) <= longestSays {
				s.Says = said
			}
		}
	}
}

// most is the form in which enough of so many pages show the matter; nil for none.
func (x showing) most(pages int) *Shown {
	if wall := x[Wall]; wall != nil && len(x) == 1 && len(wall.Sources) >= fewestWalls && 3*len(wall.Sources) >= 2*pages {
		return wall
	}
	for _, form := range []string{"table", "picture", "list"} {
		if s := x[form]; s != nil && len(s.Sources) >= fewestShow {
			return s
		}
	}
	return nil
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
