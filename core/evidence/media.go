package evidence

import (
	"cmp"
	"slices"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Media is what the pages show beside their sentences, of one kind.
type Media struct {
	Kind     string      `json:"kind"`  // "images", "videos", "tables" or "lists"
	Pages    int         `json:"pages"` // that have some
	Range    stats.Range `json:"range"` // per page of the field, outliers left out
	Sources  []int       `json:"sources"`
	Examples []Example   `json:"examples"` // of images: what their texts say they show
}

// Example is one of the pages' own.
type Example struct {
	Text string `json:"text"`
	Rank int    `json:"rank"`
}

// DataType is a type of structured data (schema.org), and the pages that give it.
type DataType struct {
	Type    string `json:"type"`
	Sources []int  `json:"sources"`
}

// What an image's text must be to tell a writer something. Our own.
const (
	maxExamples     = 6
	shortestExample = 3   // words
	longestExample  = 110 // characters
)

// mediaOf counts what the pages show.
func (e *Evidence) mediaOf(f *corpus.Field) []Media {
	list := []Media{}
	for _, kind := range []string{"images", "videos", "tables", "lists"} {
		fig := e.Figure(kind)
		m := Media{Kind: kind, Range: fig.Target, Sources: []int{}, Examples: []Example{}}
		for i, v := range fig.Values {
			if v > 0 {
				m.Sources = append(m.Sources, e.Sources[i].Rank)
			}
		}
		if m.Pages = len(m.Sources); m.Pages == 0 {
			continue
		}
		if kind == "images" {
			m.Examples = e.imageExamples(f)
		}
		list = append(list, m)
	}
	return list
}

// imageExamples are image texts that say most of the field's terms, one of a page before
// the second of another.
func (e *Evidence) imageExamples(f *corpus.Field) []Example {
	weight := map[string]float64{} // of a stem, by the best term that has it
	for _, t := range e.Terms {
		if t.Recommended() {
			for _, st := range f.Language.ContentStems(t.Text) {
				weight[st] = max(weight[st], t.Score)
			}
		}
	}
	type scored struct {
		Example
		score float64
		nth   int // of its page
	}
	var all []scored
	seen := map[string]bool{}
	for i, d := range f.Docs {
		var of []scored
		for _, t := range d.Reading.ImageTexts {
			if folded := text.Fold(t); seen[folded] || text.CountWords(t) < shortestExample || utf8.RuneCountInString(t) > longestExample {
				continue
			} else {
				seen[folded] = true
			}
			x := scored{Example: Example{t, f.Ranks[i]}}
			for _, st := range f.Language.ContentStems(t) {
				x.score += weight[st]
			}
			if x.score > 0 {
				of = append(of, x)
			}
		}
		slices.SortStableFunc(of, func(a, b scored) int { return cmp.Compare(b.score, a.score) })
		for n := range of {
			of[n].nth = n
		}
		all = append(all, of...)
	}
	slices.SortStableFunc(all, func(a, b scored) int {
		return cmp.Or(cmp.Compare(a.nth, b.nth), cmp.Compare(b.score, a.score))
	})
	list := []Example{}
	for _, x := range all[:min(len(all), maxExamples)] {
		list = append(list, x.Example)
	}
	return list
}

// dataTypes lists the types of structured data, those of most pages first.
func dataTypes(f *corpus.Field) []DataType {
	by := map[string][]int{}
	for i, d := range f.Docs {
		for _, t := range d.Reading.DataTypes {
			if r := by[t]; len(r) == 0 || r[len(r)-1] != f.Ranks[i] {
				by[t] = append(r, f.Ranks[i])
			}
		}
	}
	list := []DataType{}
	for t, ranks := range by {
		list = append(list, DataType{t, ranks})
	}
	slices.SortFunc(list, func(a, b DataType) int {
		return cmp.Or(cmp.Compare(len(b.Sources), len(a.Sources)), cmp.Compare(a.Type, b.Type))
	})
	return list
}
