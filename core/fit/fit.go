// Package fit tells how far a draft meets its brief, and what in it is too near to the pages
// it was researched from. Every part of a fit is explained by what is missing and what is
// overdone; the kept pages of the field can be scored by the same rule.
//
//   - fit.go        the parts, their weights, and their sum
//   - prose.go      what of a draft counts as sentences
//   - taken.go      sentences that are those of a captured page
//   - terms.go      terms used in sentences
//   - sections.go   sections covered, questions answered, entities named
//   - judged.go     questions of which the writer says that they are answered, or not
//   - left.go       words that do not count; what one more paragraph would bring
//   - alone.go      what the draft has and no page
//   - things.go     listed things, and the table that compares them
//   - subject.go    how far a draft may get that is about something else
//   - form.go       length; title, headings, links, images, reading grade
//   - missing.go    what is missing, the cheapest first
//   - report.go     all of it for programs, and in lines; names.go  what parts are called
//   - field.go      how the pages of the field fit the same brief
//   - marks.go      the places in the text that all this is about
//   - claims.go     what of a text wants a source; figures.go  where it comes from
//   - cuttings.go   cuttings that stand in the draft
//   - closeness.go  what stands word for word in a captured page
package fit

import (
	"cmp"
	"math"
	"slices"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/message"
)

// Fit is how far a draft meets a brief, 0 to 100.
type Fit struct {
	Fit       float64     `json:"fit"`
	Words     int         `json:"words"`  // of its sentences, each sentence once
	Quoted    int         `json:"quoted"` // words that are marked as quoted, which count neither for nor against
	Copied    int         `json:"copied"` // words of sentences that stand on captured pages, or nearly so; the same
	Left      []Left      `json:"left"`   // words of sentences and lists that do not count, and why
	Limit     *Limit      `json:"limit,omitempty"`
	Parts     []Part      `json:"parts"`
	Closeness []Closeness `json:"closeness"` // by page, the closest first
}

// Part is one part of a fit.
type Part struct {
	Name     string  `json:"name"`
	Weight   float64 `json:"weight"` // of the whole; the weights of a fit add up to 1
	Score    float64 `json:"score"`  // 0 to 1
	Missing  []Item  `json:"missing"`
	Overdone []Item  `json:"overdone"`
	Met      []Item  `json:"met"`
}

// Item is one thing that a brief asks for.
type Item struct {
	Key   string          `json:"key,omitempty"`
	Text  message.Message `json:"text"`
	Says  message.Message `json:"says"`            // how it stands: "not used", "2 of 3 to 5 times"
	Score float64         `json:"score"`           // 0 to 1
	Where string          `json:"where,omitempty"` // heading of the section of the draft that has it

	Words   int     `json:"words,omitempty"`   // of the section of the draft that covers a section of the brief, those that count
	Passage string  `json:"passage,omitempty"` // of the draft, that answers a question
	Judged  bool    `json:"judged,omitempty"`  // it stands so because the writer says it
	Section int     `json:"-"`                 // of the draft's reading, that has it; -1 for none
	Gain    float64 `json:"gain"`              // what the fit would rise by if this were met, in points
	Effort  int     `json:"effort"`            // about how many words that takes

	Waits bool `json:"waits,omitempty"` // it is there, and counts in full once the text is longer

	over  bool    // it stands too often
	share float64 // of its part, 0 to 1
}

// The names of the parts.
const (
	Terms     = "terms"
	Sections  = "sections"
	Questions = "questions"
	Things    = "things"
	Entities  = "entities"
	Length    = "length"
	Form      = "form"
)

// The weights of the parts. That terms weigh most is common practice, no published source; the
// figures are our own. A part that a brief asks nothing of gives its weight to the others.
const (
	termsWeigh     = 0.42
	sectionsWeigh  = 0.22
	questionsWeigh = 0.12
	thingsWeigh    = 0.14
	entitiesWeigh  = 0.06
	lengthWeighs   = 0.10
	formWeighs     = 0.08
)

// Of measures a draft, prepared with the stems of the brief's language, against a brief; what is
// taken from captured pages counts for nothing; nil for a page of the field. It is deterministic, and looks at nothing else.
func Of(b *brief.Brief, draft *corpus.Doc, taken Taken) Fit { return OfJudged(b, draft, taken, nil) }

// OfJudged is Of a draft whose writer says of some questions that they are answered, or not.
func OfJudged(b *brief.Brief, draft *corpus.Doc, taken Taken, judged Judged) Fit {
	t := newText(draft, b, taken)
	parts := []struct {
		weight float64
		part   Part
		asked  bool
	}{}
	add := func(weight float64, p Part, asked bool) {
		parts = append(parts, struct {
			weight float64
			part   Part
			asked  bool
		}{weight, p, asked})
	}
	add(termsWeigh, t.terms(b), len(b.Terms) > 0)
	add(sectionsWeigh, t.sections(b), len(b.Outline) > 0)
	add(questionsWeigh, t.questions(b, judged), len(b.Questions) > 0)
	add(thingsWeigh, t.things(b), len(b.Picks) > 0)
	add(entitiesWeigh, t.entities(b), len(b.Entities) > 0)
	add(lengthWeighs, t.length(b), true)
	add(formWeighs, t.form(b), true)
	whole := 0.0
	for _, p := range parts {
		if p.asked {
			whole += p.weight
		}
	}
	f := Fit{Words: t.words, Quoted: t.quoted, Copied: t.copied, Left: t.left.list(), Closeness: []Closeness{}}
	for _, p := range parts {
		if !p.asked {
			continue
		}
		p.part.Weight = p.weight / whole
		for _, list := range [][]Item{p.part.Missing, p.part.Overdone} {
			for i := range list {
				list[i].Gain = math.Round(1000*p.part.Weight*list[i].share*(1-list[i].Score)) / 10
			}
		}
		f.Fit += 100 * p.part.Weight * p.part.Score
		f.Parts = append(f.Parts, p.part)
	}
	if taken != nil { // a page of the field is of the field, whatever words it has
		if l := t.limit(b); l != nil && l.Most < f.Fit {
			f.Fit, f.Limit = l.Most, l
		}
	}
	f.Fit = math.Round(10*f.Fit) / 10
	return f
}

// part makes a part of items that weigh differently: its score is their weighted mean.
func part(name string, items []Item, weights []float64) Part {
	p := Part{Name: name, Missing: []Item{}, Overdone: []Item{}, Met: []Item{}}
	sum, whole := 0.0, 0.0
	for i := range items {
		sum += weights[i] * items[i].Score
		whole += weights[i]
	}
	for i, x := range items {
		x.share = weights[i] / whole
		switch {
		case x.over:
			p.Overdone = append(p.Overdone, x)
		case x.Score < 1:
			p.Missing = append(p.Missing, x)
		default:
			p.Met = append(p.Met, x)
		}
	}
	if whole > 0 {
		p.Score = sum / whole
	}
	// The cheapest to mend first: what is nearest to being met.
	slices.SortStableFunc(p.Missing, func(a, b Item) int { return cmp.Compare(b.Score, a.Score) })
	return p
}

// overdone is what an item says that stands too often.
const overdone = "overdone"
