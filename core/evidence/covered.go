package evidence

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/entities"
	"corpulan/core/says"
	"corpulan/core/text"
	"corpulan/core/themes"
)

// Covered is whether a text of ours has a finding of the field.
type Covered struct {
	Key   string `json:"key"`
	Text  string `json:"text"`
	Note  string `json:"note,omitempty"` // type of an entity, kind of a question
	Pages int    `json:"pages"`
	Has   bool   `json:"has"`
	Where string `json:"where,omitempty"` // heading of the section of ours that has it
}

// maxCovered is how many findings of each kind are looked for in a text of ours. Our own.
const maxCovered = 40

// entitiesIn tells which names and concepts of the field our text has, in whatever way it
// writes them.
func (e *Evidence) entitiesIn(d *corpus.Doc) []Covered {
	list := []Covered{}
	said := strings.Builder{}
	for _, s := range d.Sentences {
		said.WriteString(" " + text.Fold(s.Text))
	}
	all := said.String()
	for _, x := range e.Entities {
		if x.Flag != "" || x.Pages < 2 || !x.Type.IsNamed() && x.Type != entities.ConceptType || len(list) == maxCovered {
			continue
		}
		c := Covered{Key: x.Key, Text: x.Name, Note: string(x.Type), Pages: x.Pages}
		for _, v := range append(slices.Clone(x.Variants), x.Long) {
			c.Has = c.Has || v != "" && corpus.HasWord(all, text.Fold(v))
		}
		if x.Type == entities.ConceptType && !c.Has {
			for _, k := range e.keysOf(x.Name) {
				c.Has = c.Has || d.Phrases[k] != nil
			}
		}
		list = append(list, c)
	}
	return list
}

// keysOf are the keys of the term that is written so.
func (e *Evidence) keysOf(name string) []string {
	for _, t := range e.Terms {
		if t.Text == name {
			return t.Keys
		}
	}
	return nil
}

// questionsIn tells which questions of the field that may be proposed our text answers: covers are how it treats
// the themes.
func (e *Evidence) questionsIn(d *corpus.Doc, pages []corpus.RankedPage, covers []themes.Cover) []Covered {
	ours, treats := 1, map[int]int{} // sections of ours by theme
	for _, p := range pages {
		ours = max(ours, p.Rank+1)
	}
	for i, c := range covers {
		if c.Words > 0 && treats[c.Section] == 0 { // of two the one that more of the field has
			treats[c.Section] = i + 1
		}
	}
	theirs := e.Treated()
	texts := says.In(corpus.NewField(append(slices.Clone(pages), corpus.RankedPage{Rank: ours, Doc: d}), e.Language, e.Keyword), func(rank, section int) int {
		if rank == ours {
			return treats[section]
		}
		return theirs(rank, section)
	})
	list := []Covered{}
	for _, q := range e.Questions {
		if !q.Recommended() || len(list) == maxCovered {
			continue
		}
		c := Covered{Key: q.Key, Text: q.Text, Note: string(q.Kind), Pages: len(q.AnsweredBy)}
		if a, ok := texts.AnswerOf(ours, says.Ask(texts.Language, q.Text)); ok {
			c.Has, c.Where = true, a.Heading
		}
		list = append(list, c)
	}
	return list
}

// themesIn tells which themes of two pages our text treats, in a section or in passing.
func (e *Evidence) themesIn(covers []themes.Cover) []Covered {
	list := []Covered{}
	for i, c := range covers {
		t := e.Themes[i]
		if !t.Recommended() || len(list) == maxCovered {
			continue
		}
		list = append(list, Covered{Key: t.Key, Text: t.Label, Pages: t.Pages, Has: c.Words > 0, Where: c.Text})
	}
	return list
}
