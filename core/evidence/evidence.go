// Package evidence computes what the kept pages of a study have in common:
// measures, vocabulary, entities, questions, themes, links and intent. It works
// on documents prepared from readings, in memory, and keeps for every figure
// the pages it came from.
package evidence

import (
	"context"
	"fmt"

	"corpulan/core/language"
	"corpulan/core/reading"
)

// Page is a kept page of the field.
type Page struct {
	Rank int
	Doc  *Doc
}

// Input is what evidence is computed from.
type Input struct {
	Keyword  string
	Language string // ISO 639-1, as the documents were prepared
	Pages    []Page // in rank order
	Asked    []string
	Related  []string
}

// Evidence is all that is computed over the field.
type Evidence struct {
	Keyword   string      `json:"keyword"`
	Language  string      `json:"language"`
	Sources   []Source    `json:"sources"`
	Figures   []Figure    `json:"figures"`
	Placed    []Placement `json:"placed"` // of the keyword, per page
	Contrast  Contrast    `json:"contrast"`
	Terms     []Term      `json:"terms"`
	Entities  []Entity    `json:"entities"`
	Questions []Question  `json:"questions"`
	Themes    []Theme     `json:"themes"`
	Citations []Citation  `json:"citations"`
	Intent    []Share     `json:"intent"`
	Forms     []Share     `json:"forms"`
	Related   []string    `json:"related"`
	Notes     []string    `json:"notes,omitempty"` // what was left out of the comparison, and why
}

// Size is about how many bytes the evidence takes in memory, for caches to count.
func (e *Evidence) Size() int64 {
	n := int64(len(e.Sources))
	size := 4000 + n*600 + int64(len(e.Terms))*(700+8*n) + int64(len(e.Entities))*(300+16*n)
	for _, q := range e.Questions {
		size += 300 + int64(len(q.Wordings)+len(q.AnsweredBy))*150
	}
	for _, t := range e.Themes {
		size += 500 + 8*n + int64(len(t.Members))*150
	}
	return size
}

// Source is one kept page, as a brief names it.
type Source struct {
	Rank  int          `json:"rank"`
	URL   string       `json:"url"`
	Host  string       `json:"host"`
	Title string       `json:"title"`
	Words int          `json:"words"`
	Kind  reading.Kind `json:"kind"`
}

// Compute makes the evidence of a field. An empty field gives empty evidence.
// Its only error is ctx's.
func Compute(ctx context.Context, in Input) (*Evidence, error) {
	lang := language.For(in.Language)
	docs := make([]*Doc, len(in.Pages))
	ranks := make([]int, len(in.Pages))
	e := &Evidence{Keyword: in.Keyword, Language: lang.Code, Related: append([]string{}, in.Related...), Sources: make([]Source, len(in.Pages))}
	for i, p := range in.Pages {
		docs[i], ranks[i] = p.Doc, p.Rank
		r := p.Doc.Reading
		e.Sources[i] = Source{p.Rank, r.URL, p.Doc.Host, r.Title, r.Counts.Words, r.Kind}
	}
	f := field{ctx: ctx, docs: docs, ranks: ranks, lang: lang, keyword: in.Keyword}
	f.noteCuts()
	e.Placed = make([]Placement, len(docs))
	for i, d := range docs {
		e.Placed[i] = PlacementOf(d, in.Keyword)
	}
	e.Figures = f.figures(e.Placed)
	// One after another, so that nobody waits long for a computation given up.
	for _, find := range []func(){
		func() { e.Terms = termsOf(docs, lang, in.Keyword) },
		func() { e.lead(Leaders) },
		func() { e.Entities = f.entities() },
		func() { e.Questions = f.questions(in.Asked) },
		func() { e.Themes = f.themes() },
		func() { e.Citations = f.citations() },
		func() { e.Intent = f.intent(in.Related, in.Asked) },
		func() { e.Forms = f.forms() },
	} {
		if find(); ctx.Err() != nil {
			return nil, ctx.Err()
		}
	}
	e.Notes = f.notes
	return e, nil
}

// field is what the parts of a computation share.
type field struct {
	ctx     context.Context // of the computation: a field lives no longer
	docs    []*Doc
	ranks   []int // of the docs
	lang    *language.Language
	keyword string
	notes   []string
}

// note tells the person what was left out of the comparison.
func (f *field) note(format string, args ...any) {
	f.notes = append(f.notes, fmt.Sprintf(format, args...))
}

func (f *field) noteCuts() {
	for i, d := range f.docs {
		if cut := d.Cut(); cut > 0 {
			f.note("Of rank %d the first %d words are compared; it has %d.", f.ranks[i], d.words, d.Reading.Counts.Words)
		}
	}
}
