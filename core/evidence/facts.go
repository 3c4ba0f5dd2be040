package evidence

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/reading"
)

// Fact is a sentence that carries a figure, for a writer to check. The same figure of the same thing
// is one fact on however many pages: the words are those of the page nearest to the keyword.
type Fact struct {
	Key     string     `json:"key"` // its content stems
	Text    string     `json:"text"`
	Figures []string   `json:"figures"` // as they are written
	Kind    FigureKind `json:"kind"`
	Rank    int        `json:"rank"` // of the page whose words they are
	Section int        `json:"section"`
	Says    []FactSaid `json:"says"`             // that page's sentence first, then those of others
	Beside  bool       `json:"beside,omitempty"` // none of them counts: extra sources alone say it
	URL     string     `json:"url"`              // of the page whose words they are, and its title
	Title   string     `json:"title"`
	Date    string     `json:"date,omitempty"`  // of that page, YYYY-MM-DD
	Cites   string     `json:"cites,omitempty"` // address of a link in it
}

// FactSaid is a sentence with the figure of a fact.
type FactSaid struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Text    string `json:"text"`
}

// Ranks are the pages that give the figure, ascending.
func (x Fact) Ranks() []int {
	var list []int
	for _, s := range x.Says {
		list = append(list, s.Rank)
	}
	slices.Sort(list)
	return slices.Compact(list)
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

	sameFact = 0.5 // of the content stems of the shorter of two sentences with the same figures
)

// factFound is a fact in the making.
type factFound struct {
	Fact
	values []corpus.Figure // without their words and places
	stems  map[string]bool
	near   float64 // its section to the keyword
}

// same tells whether two sentences give the same figures of the same thing: they share two content
// stems besides the figures' units, and half of those of the shorter.
func (x *factFound) same(y *factFound) bool {
	if !slices.Equal(x.values, y.values) {
		return false
	}
	both := 0
	for s := range x.stems {
		if y.stems[s] {
			both++
		}
	}
	return both >= 2 && float64(both) >= sameFact*float64(min(len(x.stems), len(y.stems)))
}

// factsOf are the sentences with a price, a share, a temperature or a measure, those of the sections
// nearest to the keyword first, and those of extra sources last.
func factsOf(f *corpus.Field, beside []corpus.RankedPage) []Fact {
	near := f.Nearness()
	var all []factFound
	for i, d := range f.Docs {
		own := factsIn(corpus.RankedPage{Rank: f.Ranks[i], Doc: d}, f.Language)
		for k := range own {
			own[k].near = near.Pages[i]
			if sections := near.Sections[i]; sections != nil {
				own[k].near *= 1 + sections[own[k].Section]
			}
		}
		all = append(all, bestFacts(own)...)
	}
	slices.SortStableFunc(all, func(a, b factFound) int { return cmp.Compare(b.near, a.near) })
	for _, p := range beside {
		own := factsIn(p, f.Language)
		for k := range own {
			own[k].Beside = true
		}
		all = append(all, bestFacts(own)...)
	}
	list := []factFound{}
	for i := range all {
		x := &all[i]
		at := slices.IndexFunc(list, func(y factFound) bool { return y.Key == x.Key || y.same(x) })
		switch {
		case at >= 0:
			list[at].Says = append(list[at].Says, x.Says...)
		case len(list) < maxFacts || x.Beside:
			list = append(list, *x)
		}
	}
	facts := []Fact{}
	for _, x := range list {
		facts = append(facts, x.Fact)
	}
	return facts
}

func bestFacts(own []factFound) []factFound {
	slices.SortStableFunc(own, func(a, b factFound) int {
		return cmp.Or(cmp.Compare(b.near, a.near), order(a.Kind)-order(b.Kind), a.Section-b.Section)
	})
	return own[:min(len(own), maxFactsPage)]
}

// factsIn are the facts of one page, each once.
func factsIn(p corpus.RankedPage, lang *language.Language) (own []factFound) {
	d := p.Doc
	seen := map[string]bool{}
	for n := range d.Sentences {
		s := &d.Sentences[n]
		if s.Heading || s.Again || s.Foreign || s.Kind == reading.LineCode || s.Kind == reading.LineCell || len(s.Tokens) < shortestFact || len(s.Tokens) > longestFact {
			continue
		}
		figures := s.Figures(lang)
		if len(figures) == 0 {
			continue
		}
		text := strings.TrimSpace(s.Text)
		x := factFound{Fact: Fact{Text: text, Rank: p.Rank, Section: s.Section, Says: []FactSaid{{p.Rank, s.Section, text}}, URL: d.Reading.URL, Title: d.Reading.Title,
			Date: cmp.Or(d.Reading.Modified, d.Reading.Published), Kind: MeasureFact}, stems: map[string]bool{}}
		for _, v := range figures {
			x.Figures = append(x.Figures, v.Text)
			switch {
			case v.Money:
				x.Kind = PriceFact
			case v.Unit == "%" || isPercent(v.Unit):
				x.Kind = better(x.Kind, ShareFact)
			case strings.HasPrefix(v.Unit, "°"):
				x.Kind = better(x.Kind, TemperatureFact)
			}
			v.Text, v.Token = "", 0
			x.values = append(x.values, v)
		}
		stems := lang.ContentStems(text)
		if x.Key = corpus.Key(stems); x.Key == "" || seen[x.Key] {
			continue
		}
		seen[x.Key] = true
		for _, t := range s.Tokens {
			if !t.Stop && !t.Number && !slices.ContainsFunc(figures, func(v corpus.Figure) bool { return v.Unit == t.Stem }) {
				x.stems[t.Stem] = true
			}
		}
		for _, l := range d.Reading.Links {
			if l.External && len(l.Text) > 2 && strings.Contains(text, l.Text) {
				x.Cites = l.URL
				break
			}
		}
		own = append(own, x)
	}
	return own
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
