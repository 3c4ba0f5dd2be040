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
	Keyword   string     `json:"keyword"`
	Language  string     `json:"language"`
	Sources   []Source   `json:"sources"`
	Measures  Measures   `json:"measures"`
	Terms     []Term     `json:"terms"`
	Entities  []Entity   `json:"entities"`
	Questions []Question `json:"questions"`
	Themes    []Theme    `json:"themes"`
	Citations []Citation `json:"citations"`
	Intent    []Share    `json:"intent"`
	Related   []string   `json:"related"`
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

// Measures are the ranges of the field's plain counts.
type Measures struct {
	Words      Measure `json:"words"`
	Headings   Measure `json:"headings"`
	Images     Measure `json:"images"`
	Paragraphs Measure `json:"paragraphs"`
	Sentences  Measure `json:"sentences"`
	Links      Measure `json:"links"`
	Tables     Measure `json:"tables"`
	Lists      Measure `json:"lists"`
}

// Measure is one count over the field.
type Measure struct {
	Range
	Target   Range `json:"target"`   // the same without outliers
	Values   []int `json:"values"`   // per page, in the order of Evidence.Sources
	Outliers []int `json:"outliers"` // ranks of the pages beyond Tukey's fences
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
	e.Measures = f.measures()
	e.Terms = termsOf(docs, lang, in.Keyword)
	e.Entities = f.entities()
	e.Questions = f.questions(in.Asked)
	e.Themes = f.themes()
	e.Citations = f.citations()
	e.Intent = f.intent()
	return e
}

// field is what the parts of a computation share.
type field struct {
	docs    []*Doc
	ranks   []int // of the docs
	lang    *text.Language
	keyword string
}

func (f *field) measures() Measures {
	of := func(count func(*reading.Reading) int) Measure {
		m := Measure{Values: make([]int, len(f.docs)), Outliers: []int{}}
		values := make([]float64, len(f.docs))
		for i, d := range f.docs {
			m.Values[i] = count(d.Reading)
			values[i] = float64(m.Values[i])
		}
		m.Range = RangeOf(values)
		var usual []float64
		for i, out := range Outliers(values) {
			if out {
				m.Outliers = append(m.Outliers, f.ranks[i])
			} else {
				usual = append(usual, values[i])
			}
		}
		m.Target = RangeOf(usual)
		return m
	}
	return Measures{
		Words:      of(func(r *reading.Reading) int { return r.Counts.Words }),
		Headings:   of(func(r *reading.Reading) int { return len(r.Headings) }),
		Images:     of(func(r *reading.Reading) int { return r.Counts.Images }),
		Paragraphs: of(func(r *reading.Reading) int { return r.Counts.Paragraphs }),
		Sentences:  of(func(r *reading.Reading) int { return r.Counts.Sentences }),
		Links:      of(func(r *reading.Reading) int { return r.Counts.InternalLinks + r.Counts.ExternalLinks }),
		Tables:     of(func(r *reading.Reading) int { return r.Counts.Tables }),
		Lists:      of(func(r *reading.Reading) int { return r.Counts.Lists }),
	}
}
