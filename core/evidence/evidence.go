// Package evidence computes what the kept pages of a study have in common:
// measures, vocabulary, entities, questions, themes, links and intent. It works
// on documents prepared from readings, in memory, and keeps for every figure
// the pages it came from.
package evidence

import (
	"corpulan/core/reading"
	"corpulan/core/text"
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
func Compute(in Input) *Evidence {
	lang := text.NewLanguage(in.Language)
	docs := make([]*Doc, len(in.Pages))
	ranks := make([]int, len(in.Pages))
	e := &Evidence{Keyword: in.Keyword, Language: lang.Code, Related: in.Related, Sources: make([]Source, len(in.Pages))}
	for i, p := range in.Pages {
		docs[i], ranks[i] = p.Doc, p.Rank
		r := p.Doc.Reading
		e.Sources[i] = Source{p.Rank, r.URL, p.Doc.Host, r.Title, r.Counts.Words, r.Kind}
	}
	f := field{docs: docs, ranks: ranks, lang: lang, keyword: in.Keyword}
	e.Placed = make([]Placement, len(docs))
	for i, d := range docs {
		e.Placed[i] = PlacementOf(d, in.Keyword)
	}
	e.Figures = f.figures(e.Placed)
	e.Terms = termsOf(docs, lang, in.Keyword)
	e.lead(Leaders)
	e.Entities = f.entities()
	e.Questions = f.questions(in.Asked)
	e.Themes = f.themes()
	e.Citations = f.citations()
	e.Intent = f.intent(in.Related, in.Asked)
	e.Forms = f.forms()
	return e
}

// field is what the parts of a computation share.
type field struct {
	docs    []*Doc
	ranks   []int // of the docs
	lang    *text.Language
	keyword string
}
