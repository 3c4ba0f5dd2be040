package demand

import (
	"math"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/stats"
)

// meaning is how near the stems of a list are to each other, by what WordNet says of their
// words; nil where the language has no such dictionary.
type meaning map[string]map[string]float64

// How near two words are of which one is the other's synonym, derived from it, a kind or a part
// of it; all less than a word is to itself. Set on labelled queries: see docs/evaluation.md.
const (
	ofSynonym = 0.8
	ofDerived = 0.72
	ofKind    = 0.56
	ofPart    = 0.4
)

// meaningOf looks the words of a list up.
func meaningOf(list []Keyword, lang *language.Language) meaning {
	if !lang.Senses {
		return nil
	}
	stems := map[string]bool{}
	for _, k := range list {
		for _, s := range stemsOf(lang, k.Text) {
			stems[s] = true
		}
	}
	m := meaning{}
	put := func(a, b string, w float64) {
		if m[a] == nil {
			m[a] = map[string]float64{}
		}
		m[a][b] = math.Max(m[a][b], w)
	}
	for stem := range stems {
		for _, w := range corpus.RelatedByStem()[stem] {
			for _, n := range lexicon.Related(w) {
				other := lang.StemFolded(n.Word)
				if other == stem || !stems[other] {
					continue
				}
				near := map[lexicon.Nearness]float64{lexicon.SameSense: ofSynonym, lexicon.Derived: ofDerived, lexicon.KindOfIt: ofKind, lexicon.PartOfIt: ofPart}[n.How]
				put(stem, other, near)
				put(other, stem, near)
			}
		}
	}
	return m
}

// meet makes a query ready to be compared: looking words up takes longer than comparing them.
func (a *about) meet(m meaning) {
	a.near = make([]map[string]float64, len(a.vector))
	for k, x := range a.vector {
		a.near[k] = m[x.Stem]
	}
	a.norm = math.Sqrt(a.dot(a))
}

// dot is the product of two vectors, words that are near each other meeting in part.
func (a *about) dot(b *about) float64 {
	sum, k := 0.0, 0 // both are in the order of their stems
	for i, x := range a.vector {
		near := a.near[i]
		if len(near) == 0 { // as most: it meets itself alone
			for k < len(b.vector) && b.vector[k].Stem < x.Stem {
				k++
			}
			if k < len(b.vector) && b.vector[k].Stem == x.Stem {
				sum += x.Weight * b.vector[k].Weight
			}
			continue
		}
		for _, y := range b.vector {
			if x.Stem == y.Stem {
				sum += x.Weight * y.Weight
			} else if w := near[y.Stem]; w > 0 {
				sum += w * x.Weight * y.Weight
			}
		}
	}
	return sum
}

// cosine is the soft cosine of two queries (Sidorov, Gelbukh, Gómez-Adorno & Pinto 2014, "Soft
// similarity and soft cosine measure"): words that are near each other meet in part.
func (m meaning) cosine(a, b *about) float64 {
	if m == nil {
		return stats.Cosine(a.vector, b.vector)
	}
	if a.norm == 0 || b.norm == 0 {
		return 0
	}
	return math.Min(1, a.dot(b)/(a.norm*b.norm))
}
