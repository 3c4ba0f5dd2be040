package fit

import (
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/language"
)

// Alone is what a draft has and no page of the field: what a reader finds nowhere else. Sections are not told: a matter that one
// page alone has cannot be known by the likeness of texts (docs/evaluation.md).
type Alone struct {
	Answers []string `json:"answers"` // questions of the brief that the draft answers and no page does
	Claims  []Figure `json:"claims"`  // figures and dates with a source that is no page of the field
	Terms   []string `json:"terms"`   // used twice and more
}

// aloneTerms is how many terms are told. Our own.
const aloneTerms = 12

// AloneIn finds what only a draft has.
func AloneIn(f Fit, doc *corpus.Doc, pages []corpus.RankedPage, claims []Figure, e *evidence.Evidence) Alone {
	a := Alone{Answers: []string{}, Claims: []Figure{}, Terms: []string{}}
	docs := make([]*corpus.Doc, len(pages))
	for i, p := range pages {
		docs[i] = p.Doc
	}
	for _, t := range evidence.OnlyIn(corpus.RankedPage{Rank: 1, Doc: doc}, docs, language.For(e.Language), e.Keyword, nil, aloneTerms) {
		a.Terms = append(a.Terms, t.Text)
	}
	for _, c := range claims {
		if c.WantsSource() && c.Source != "" && !c.Page && len(c.Ranks) == 0 {
			a.Claims = append(a.Claims, c)
		}
	}
	unmet := map[string]bool{}
	for _, q := range e.Questions {
		unmet[q.Key] = len(q.AnsweredBy) == 0
	}
	for _, p := range f.Parts {
		for _, x := range p.Met {
			if p.Name == Questions && unmet[x.Key] {
				a.Answers = append(a.Answers, x.Text.String())
			}
		}
	}
	return a
}

// Empty tells that a draft has nothing that the pages lack.
func (a Alone) Empty() bool {
	return len(a.Terms)+len(a.Claims)+len(a.Answers) == 0
}
