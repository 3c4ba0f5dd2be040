// Package vocabulary finds the terms that the pages of a field share:
//
//   - find.go     the vocabulary of a field: figures, keyness, flags, order
//   - merge.go    phrases of all pages brought together
//   - shapes.go   how a term is written
//   - fitness.go  which phrases are terms, by what the field does with their words
//   - keyness.go  how far a term lies beyond general language
//   - compounds.go terms that are parts of one word
//   - nested.go   terms that are part of longer ones
//   - groups.go   semantic fields
//   - tier.go     staple, frequent, occasional, hapax
package vocabulary

import (
	"cmp"
	"context"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/core/stats"
)

// Term is a word or phrase that pages of the field share.
type Term struct {
	Key       string          `json:"key"`  // stems, the same for all shapes of the term
	Keys      []string        `json:"keys"` // Key, and that of a joined spelling
	Text      string          `json:"text"` // the commonest shape
	Shapes    []Shape         `json:"shapes"`
	Words     int             `json:"words"`
	Tier      Tier            `json:"tier"`
	Pages     int             `json:"pages"`  // document frequency
	Counts    []int           `json:"counts"` // per page, in the order of Evidence.Sources
	Count     int             `json:"count"`
	Use       stats.Range     `json:"use"`  // times per page, over the pages that use it
	Rate      stats.Range     `json:"rate"` // times per 1,000 words, over the pages that use it
	Titles    int             `json:"titles"`
	Headings  int             `json:"headings"` // pages with it in a heading
	Openings  int             `json:"openings"`
	Images    int             `json:"images"`          // pages with it in an image's text
	Short     []string        `json:"short,omitempty"` // shorter forms that stand for it
	Parts     []string        `json:"parts,omitempty"` // keys of the terms that a compound is made of
	Spread    float64         `json:"spread"`          // deviation of proportions: 0 even, 1 in one page
	CValue    float64         `json:"c_value"`
	G2        float64         `json:"g2"`        // against general language; 0 where unknown
	LogRatio  float64         `json:"log_ratio"` // against general language; 0 where unknown
	Nearness  float64         `json:"nearness"`  // to the keyword, 0 to 1
	Score     float64         `json:"score"`
	Field     string          `json:"field,omitempty"`      // key of the first term of its semantic field
	Flag      message.Message `json:"flag,omitempty"`       // why it is out by default
	YieldsTo  string          `json:"yields_to,omitempty"`  // key of a longer term that holds nearly all of it
	IsKeyword bool            `json:"is_keyword,omitempty"` // the keyword itself
}

// Shape is one way a term is written.
type Shape struct {
	Text  string `json:"text"`
	Count int    `json:"count"`
}

// Recommended tells whether a term may be proposed: at least two pages, not
// flagged, and not always part of a longer term.
func (t Term) Recommended() bool { return t.Tier != Hapax && t.Flag == "" && t.YieldsTo == "" }

// Find merges the phrases of all pages into the field's vocabulary, the terms
// that say most of it first. What the house has taught is heeded; nil is nothing.
func Find(ctx context.Context, f *corpus.Field, taught *house.Lexicon) []Term {
	list := mergePhrases(f.Docs, f.Language, taught)
	sizes, total := f.Sizes()
	keywordKey := corpus.Key(f.Language.ContentStems(f.Keyword))
	near := f.Nearness()
	terms := make([]Term, 0, len(list))
	for _, m := range list {
		t := m.term(f.Docs, sizes, total)
		t.IsKeyword = t.Key == keywordKey
		t.Text, t.Shapes = m.shapes(f.Capitals, f.Language.NounsHaveCapitals)
		t.G2, t.LogRatio = keyness(m, float64(t.Count), total, f.Language)
		t.Nearness = nearnessOf(m, near)
		terms = append(terms, t)
	}
	flagTerms(terms, list, f)
	heed(terms, taught)
	addCValues(terms, list)
	yield(terms, list)
	addParts(terms, list, f.Language)
	for i := range terms {
		terms[i].Score = scoreOf(&terms[i], near.Share(func(page int) bool { return list[i].uses[page] != nil }))
	}
	slices.SortFunc(terms, func(a, b Term) int {
		return cmp.Or(cmp.Compare(b.Score, a.Score), cmp.Compare(b.Pages, a.Pages), strings.Compare(a.Key, b.Key))
	})
	byKey := make(map[string]*merged, len(list))
	for _, m := range list {
		byKey[m.key] = m
	}
	group(ctx, terms, byKey)
	return terms
}

func (m *merged) term(docs []*corpus.Doc, sizes []float64, total float64) Term {
	t := Term{Key: m.key, Keys: append([]string{m.key}, m.joined...), Words: len(m.stems), Pages: m.pages, Tier: TierOf(m.pages, len(docs)), Counts: make([]int, len(docs))}
	counts := make([]float64, len(docs))
	var use, rate []float64
	for i, u := range m.uses {
		if u == nil {
			continue
		}
		t.Counts[i] = u.Count
		t.Count += u.Count
		counts[i] = float64(u.Count)
		use = append(use, counts[i])
		rate = append(rate, 1000*counts[i]/max(sizes[i], 1))
		if u.Title {
			t.Titles++
		}
		if u.Headings > 0 {
			t.Headings++
		}
		if u.Opening > 0 {
			t.Openings++
		}
		if u.Images > 0 {
			t.Images++
		}
	}
	t.Use, t.Rate = stats.RangeOf(use), stats.RangeOf(rate)
	t.Spread = stats.Dispersion(counts, sizes)
	return t
}

// Alone is the vocabulary of a field of one page: what would be a term if two pages
// had it.
func Alone(f *corpus.Field) []Term {
	var list []Term
	for _, t := range Find(context.Background(), f, nil) {
		if t.Flag == "" && t.YieldsTo == "" {
			list = append(list, t)
		}
	}
	return list
}

// heed flags what the house ignores, and writes terms as it does.
func heed(terms []Term, taught *house.Lexicon) {
	if taught == nil {
		return
	}
	for i := range terms {
		t := &terms[i]
		for _, k := range t.Keys {
			if taught.Ignored[k] {
				t.Flag = isIgnored
			}
			if as, ok := taught.Preferred[k]; ok {
				t.Text = as
			}
		}
	}
}

// nearnessOf is how near a term is to the keyword: the mean over the sections it stands
// in of the share of the keyword's stems that stand there too.
func nearnessOf(m *merged, near *corpus.Nearness) float64 {
	sum, count := 0.0, 0
	for i, u := range m.uses {
		if u == nil || near.Sections[i] == nil {
			continue
		}
		for _, j := range u.Sections {
			sum += near.Sections[i][j]
			count++
		}
	}
	return sum / float64(max(count, 1))
}

// scoreOf orders the vocabulary: the share of the field that uses the term, pages near
// the keyword counting more, lessened where one page has most of it, times how far it
// lies beyond general language in bits, how near the keyword it stands, and half as much
// again for a second and a third word. The form of this product is our own; its exponents are
// the best of 18 on the fields of docs/evaluation.md, where the others differ little.
func scoreOf(t *Term, share float64) float64 {
	return share * (1 - t.Spread/2) * math.Pow(max(t.LogRatio, 0), 1.25) * math.Pow(0.5+t.Nearness, 1.5) * (1 + 0.5*float64(min(t.Words, 3)-1))
}
