package evidence

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/stats"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"
)

// Used is how a text of ours uses a term of the field.
type Used struct {
	Key   string      `json:"key"`
	Text  string      `json:"text"`
	Tier  string      `json:"tier"`
	Pages int         `json:"pages"`
	Of    int         `json:"of"`
	Count int         `json:"count"` // in our text
	Range stats.Range `json:"range"` // of the pages that use it, for a text of our length
	Says  Stand       `json:"says"`
}

// Stand is how our use of a term stands to the field's.
type Stand string

// The stands.
const (
	Lacking Stand = "lacking" // the field uses it and ours does not
	Seldom  Stand = "seldom"  // below the lower quartile of the pages that use it
	Usual   Stand = "usual"
	Often   Stand = "often" // above the upper fence of those pages
)

// Own is a term of ours that no page of the field uses.
type Own struct {
	Key   string `json:"key"`
	Text  string `json:"text"`
	Count int    `json:"count"`
}

// Gap is a text of ours against the field.
type Gap struct {
	Words int    `json:"words"`
	Terms []Used `json:"terms"` // the field's recommended terms, lacking ones first
	Own   []Own  `json:"own"`   // ours alone, the commonest first

	Themes    []Covered `json:"themes"`
	Entities  []Covered `json:"entities"`
	Questions []Covered `json:"questions"`
}

// How much of either is compared, and how often a term of ours stands at least. Our own.
const (
	maxCompared = 200
	maxOwn      = 60
	minOwn      = 2
)

// GapOf compares a text of ours, a page or a draft, with the field: what the field uses
// and ours lacks, and the reverse. Ranges are those of the rate, brought to our length
// and never below one. pages are those that the evidence is of.
func (e *Evidence) GapOf(d *corpus.Doc, pages []corpus.RankedPage) Gap {
	g := Gap{Words: d.Words - d.Repeated, Terms: []Used{}, Own: []Own{}}
	scale := float64(g.Words) / 1000
	known := map[string]bool{}
	for _, t := range e.Terms {
		for _, k := range t.Keys {
			known[k] = true
		}
		if !t.Recommended() || len(g.Terms) == maxCompared {
			continue
		}
		u := Used{Key: t.Key, Text: t.Text, Tier: string(t.Tier), Pages: t.Pages, Of: len(e.Sources),
			Range: stats.Range{N: t.Rate.N, Lower: max(1, t.Rate.Lower*scale), Median: max(1, t.Rate.Median*scale), Upper: max(1, t.Rate.Upper*scale)}}
		for _, k := range t.Keys {
			if p := d.Phrases[k]; p != nil {
				u.Count += p.Count
			}
		}
		// Tukey's (1977) inner fence, as for the brief.
		fence := max(u.Range.Upper+1.5*(u.Range.Upper-u.Range.Lower), u.Range.Upper+1)
		switch n := float64(u.Count); {
		case u.Count == 0:
			u.Says = Lacking
		case n < u.Range.Lower:
			u.Says = Seldom
		case n > fence:
			u.Says = Often
		default:
			u.Says = Usual
		}
		g.Terms = append(g.Terms, u)
	}
	order := map[Stand]int{Lacking: 0, Seldom: 1, Often: 2, Usual: 3}
	slices.SortStableFunc(g.Terms, func(a, b Used) int { return order[a.Says] - order[b.Says] })
	g.Own = e.own(d, pages, known)
	covers := themes.Treated(corpus.NewField(pages, e.Language, e.Keyword), e.Themes, d)
	g.Themes, g.Entities, g.Questions = e.themesIn(covers), e.entitiesIn(d), e.questionsIn(d, pages, covers)
	return g
}

// own finds the terms of our text that no page of the field has, by the same rules.
func (e *Evidence) own(d *corpus.Doc, pages []corpus.RankedPage, known map[string]bool) []Own {
	list := []Own{}
	f := corpus.NewField([]corpus.RankedPage{{Rank: 1, Doc: d}}, e.Language, e.Keyword)
	for _, t := range vocabulary.Alone(f) {
		used := slices.ContainsFunc(pages, func(p corpus.RankedPage) bool { return p.Doc.Phrases[t.Key] != nil })
		if t.Count >= minOwn && !known[t.Key] && !used {
			list = append(list, Own{t.Key, t.Text, t.Count})
		}
	}
	slices.SortFunc(list, func(a, b Own) int { return cmp.Or(b.Count-a.Count, strings.Compare(a.Key, b.Key)) })
	return list[:min(len(list), maxOwn)]
}
