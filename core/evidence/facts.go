package evidence

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/reading"
)

// Fact is a sentence that carries a figure, for a writer to check.
type Fact struct {
	Key     string     `json:"key"` // its content stems
	Text    string     `json:"text"`
	Figures []string   `json:"figures"` // as they are written
	Kind    FigureKind `json:"kind"`
	Rank    int        `json:"rank"`
	Section int        `json:"section"`
	Date    string     `json:"date,omitempty"`  // of the page, YYYY-MM-DD
	Cites   string     `json:"cites,omitempty"` // address of a link in it
}

// FigureKind is what the figure of a fact is.
type FigureKind string

// The kinds, in the order in which they are preferred.
const (
	PriceFact       FigureKind = "price"
	ShareFact       FigureKind = "share"
	TemperatureFact FigureKind = "temperature"
	MeasureFact     FigureKind = "measure"
)

// Bounds of facts, all our own.
const (
	maxFacts     = 80
	maxFactsPage = 12 // of one page
	shortestFact = 6  // words
	longestFact  = 50
)

// factsOf are the sentences with a price, a share, a temperature or a measure, those of
// the sections nearest to the keyword first, each once.
func factsOf(f *corpus.Field) []Fact {
	type found struct {
		Fact
		near float64
	}
	near := f.Nearness()
	var all []found
	seen := map[string]bool{}
	for i, d := range f.Docs {
		var own []found
		for n := range d.Sentences {
			s := &d.Sentences[n]
			if s.Heading || s.Again || s.Foreign || s.Kind == reading.LineCode || s.Kind == reading.LineCell || len(s.Tokens) < shortestFact || len(s.Tokens) > longestFact {
				continue
			}
			figures := s.Figures(f.Language)
			if len(figures) == 0 {
				continue
			}
			fact := Fact{Text: strings.TrimSpace(s.Text), Rank: f.Ranks[i], Section: s.Section, Date: cmp.Or(d.Reading.Modified, d.Reading.Published), Kind: MeasureFact}
			for _, x := range figures {
				fact.Figures = append(fact.Figures, x.Text)
				switch {
				case x.Money:
					fact.Kind = PriceFact
				case x.Unit == "%" || isPercent(x.Unit):
					fact.Kind = better(fact.Kind, ShareFact)
				case strings.HasPrefix(x.Unit, "°"):
					fact.Kind = better(fact.Kind, TemperatureFact)
				}
			}
			fact.Key = corpus.Key(f.Language.ContentStems(fact.Text))
			if fact.Key == "" || seen[fact.Key] {
				continue
			}
			seen[fact.Key] = true
			for _, l := range d.Reading.Links {
				if l.External && len(l.Text) > 2 && strings.Contains(fact.Text, l.Text) {
					fact.Cites = l.URL
					break
				}
			}
			weight := near.Pages[i]
			if sections := near.Sections[i]; sections != nil {
				weight *= 1 + sections[s.Section]
			}
			own = append(own, found{fact, weight})
		}
		slices.SortStableFunc(own, func(a, b found) int {
			return cmp.Or(cmp.Compare(b.near, a.near), order(a.Kind)-order(b.Kind), a.Section-b.Section)
		})
		all = append(all, own[:min(len(own), maxFactsPage)]...)
	}
	slices.SortStableFunc(all, func(a, b found) int { return cmp.Compare(b.near, a.near) })
	list := []Fact{}
	for _, x := range all[:min(len(all), maxFacts)] {
		list = append(list, x.Fact)
	}
	return list
}

func isPercent(unit string) bool {
	return slices.Contains([]string{"percent", "prozent", "procent", "per cent"}, unit)
}

func order(k FigureKind) int {
	return slices.Index([]FigureKind{PriceFact, ShareFact, TemperatureFact, MeasureFact}, k)
}

// better is the kind that is preferred.
func better(a, b FigureKind) FigureKind {
	if order(b) < order(a) {
		return b
	}
	return a
}
