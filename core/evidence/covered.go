package evidence

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/entities"
	"corpulan/core/questions"
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

// questionsIn tells which questions of the field that may be proposed our text answers.
func (e *Evidence) questionsIn(f *corpus.Field) []Covered {
	list := []Covered{}
	for _, q := range e.Questions {
		if !q.Recommended() || len(list) == maxCovered {
			continue
		}
		c := Covered{Key: q.Key, Text: q.Text, Note: string(q.Kind), Pages: len(q.AnsweredBy)}
		if a := questions.AnswersOf(f, q.Text); len(a) > 0 {
			c.Has, c.Where = true, a[0].Heading
		}
		list = append(list, c)
	}
	return list
}

// themesIn tells which themes of two pages our text treats, in a section or in passing.
func (e *Evidence) themesIn(d *corpus.Doc, pages []corpus.RankedPage) []Covered {
	list := []Covered{}
	for i, c := range themes.Treated(corpus.NewField(pages, e.Language, e.Keyword), e.Themes, d) {
		t := e.Themes[i]
		if !t.Recommended() || len(list) == maxCovered {
			continue
		}
		list = append(list, Covered{Key: t.Key, Text: t.Label, Pages: t.Pages, Has: c.Words > 0, Where: c.Text})
	}
	return list
}
