// Package vocabulary finds the terms that the pages of a field share:
//
//   - find.go    the vocabulary of a field: figures, keyness, flags, order
//   - tier.go    staple, frequent, occasional, hapax
//   - merge.go   phrases of all pages brought together
//   - shapes.go  how a term is written
package vocabulary

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Term is a word or phrase that pages of the field share.
type Term struct {
	Key       string      `json:"key"`  // stems, the same for all shapes of the term
	Keys      []string    `json:"keys"` // Key, and that of a joined spelling
	Text      string      `json:"text"` // the commonest shape
	Shapes    []Shape     `json:"shapes"`
	Words     int         `json:"words"`
	Tier      Tier        `json:"tier"`
	Pages     int         `json:"pages"`  // document frequency
	Counts    []int       `json:"counts"` // per page, in the order of Evidence.Sources
	Count     int         `json:"count"`
	Use       stats.Range `json:"use"`  // times per page, over the pages that use it
	Rate      stats.Range `json:"rate"` // times per 1,000 words, over the pages that use it
	Titles    int         `json:"titles"`
	Headings  int         `json:"headings"` // pages with it in a heading
	Openings  int         `json:"openings"`
	Spread    float64     `json:"spread"` // deviation of proportions: 0 even, 1 in one page
	CValue    float64     `json:"c_value"`
	G2        float64     `json:"g2"`        // against general language; 0 where unknown
	LogRatio  float64     `json:"log_ratio"` // against general language; 0 where unknown
	Score     float64     `json:"score"`
	Flag      string      `json:"flag,omitempty"`       // why it is out by default
	YieldsTo  string      `json:"yields_to,omitempty"`  // key of a longer term that holds nearly all of it
	IsKeyword bool        `json:"is_keyword,omitempty"` // the keyword itself
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
// that say most of it first.
func Find(f *corpus.Field) []Term {
	merged := mergePhrases(f.Docs)
	sizes, total := f.Sizes()
	keywordKey := corpus.Key(f.Language.ContentStems(f.Keyword))
	terms := make([]Term, 0, len(merged))
	for _, m := range merged {
		t := m.term(f.Docs, sizes, total)
		t.IsKeyword = t.Key == keywordKey
		t.Text, t.Shapes = m.shapes(f.Capitals, f.Language.NounsHaveCapitals)
		switch {
		case f.Language.Code == "en":
			t.G2, t.LogRatio = keyness(m.forms(), float64(t.Count), total, f.Language)
		case f.Language.IsRead():
			t.G2, t.LogRatio = keynessByRank(m.forms(), float64(t.Count), total, f.Language)
		}
		terms = append(terms, t)
	}
	addCValues(terms, merged)
	flagTerms(terms, merged, f)
	for i := range terms {
		terms[i].Score = scoreOf(terms[i], len(f.Docs))
	}
	slices.SortFunc(terms, func(a, b Term) int {
		return cmp.Or(cmp.Compare(b.Score, a.Score), cmp.Compare(b.Pages, a.Pages), strings.Compare(a.Key, b.Key))
	})
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
	}
	t.Use, t.Rate = stats.RangeOf(use), stats.RangeOf(rate)
	t.Spread = stats.Dispersion(counts, sizes)
	return t
}

// keyness compares the term with general English. How often a phrase stands in
// general English is not known; it cannot be oftener than its rarest word, and
// that bound is what it is compared with, so that no phrase looks more special
// than it is.
func keyness(forms []string, count, total float64, lang *language.Language) (g2, ratio float64) {
	general := math.Inf(1)
	for _, f := range forms {
		if lang.Stop(f) {
			continue
		}
		w, _ := lexicon.English(f)
		n := w.Count
		// The other number of the word is the same word.
		if s, ok := lexicon.English(strings.TrimSuffix(f, "s")); ok && strings.HasSuffix(f, "s") {
			n += s.Count
		} else if s, ok := lexicon.English(f + "s"); ok {
			n += s.Count
		}
		general = min(general, float64(n))
	}
	if math.IsInf(general, 1) {
		return 0, 0
	}
	return stats.LogLikelihood(count, general, total, lexicon.EnglishTotal), stats.LogRatio(count, general, total, lexicon.EnglishTotal)
}

// Of languages beside English only the order of the commonest words is known, and
// how often each stands in general language follows by Zipf's law (1949): a tenth
// of all words divided by the rank. What is not among them stands no oftener than
// the last of them.
const (
	zipf         = 0.1
	lastRank     = 10_000     // of the lists; see lexicon.Ranks
	generalWords = 10_000_000 // running words that the frequencies are taken of, our own
)

// keynessByRank is keyness where only ranks are known.
func keynessByRank(forms []string, count, total float64, lang *language.Language) (g2, ratio float64) {
	general := math.Inf(1)
	for _, f := range forms {
		if f = lang.Bare(f); f == "" || lang.Stop(f) {
			continue
		}
		rank := lang.Rank(f)
		if rank == 0 {
			rank = lastRank
		}
		general = min(general, zipf/float64(rank)*generalWords)
	}
	if math.IsInf(general, 1) {
		return 0, 0
	}
	return stats.LogLikelihood(count, general, total, generalWords), stats.LogRatio(count, general, total, generalWords)
}

// addCValues computes the C-values, and finds the phrases that yield to longer
// ones. Nearly always is four fifths: our own.
func addCValues(terms []Term, list []*merged) {
	phrases := make([]stats.Phrase, len(list))
	index := make(map[string]int, len(list))
	for i, m := range list {
		phrases[i] = stats.Phrase{Words: m.stems, Frequency: float64(terms[i].Count)}
		index[m.key] = i
	}
	for i, c := range stats.CValues(phrases) {
		terms[i].CValue = c
	}
	// A phrase that nearly always stands inside one longer phrase, on nearly
	// all of its pages, yields to it.
	for i, m := range list {
		for size := 1; size < len(m.stems); size++ {
			for at := 0; at+size <= len(m.stems); at++ {
				j, ok := index[corpus.Key(m.stems[at:at+size])]
				if ok && float64(terms[i].Count) >= 0.8*float64(terms[j].Count) && float64(terms[i].Pages) >= 0.8*float64(terms[j].Pages) {
					terms[j].YieldsTo = terms[i].Key
				}
			}
		}
	}
}

// flagTerms marks what is out by default: names of the sites themselves, and
// words no more frequent here than in general English.
// 6.63 is the critical value of G² for p < .01 (Rayson & Garside 2000).
func flagTerms(terms []Term, list []*merged, f *corpus.Field) {
	sites, lang := f.SiteNames(), f.Language
	for i := range terms {
		t := &terms[i]
		if t.IsKeyword {
			continue
		}
		switch {
		case sites[t.Key] || sites[strings.ReplaceAll(t.Key, " ", "")]:
			t.Flag = "the name of a site"
		case t.Words == 1 && lang.InCalendar(text.Fold(t.Text)):
			t.Flag = "a date"
		case t.Words == 1 && lang.IsUnit(text.Fold(t.Text)):
			t.Flag = "a unit"
		case lang.Code == "en" && (t.G2 < 6.63 || t.LogRatio < leastLogRatio(list[i])):
			t.Flag = "general English"
		case lang.Code != "en" && lang.IsRead() && (t.G2 < 6.63 || t.LogRatio < 1):
			t.Flag = "general " + language.Name(lang.Code)
		}
	}
}

// leastLogRatio is how far beyond general English a term must be: twice as
// frequent, and sixty-four times for an adjective on its own ("windproof", but
// not "wet"), which says little without its noun.
func leastLogRatio(m *merged) float64 {
	if len(m.stems) > 1 {
		return 1
	}
	noun, verb, adjective, adverb := corpus.PartsOfSpeech(m.forms()[0])
	if total := noun + verb + adjective + adverb; total > 0 && noun*4 < total {
		return 6
	}
	return 1
}

// scoreOf orders the vocabulary: the share of the field that uses the term,
// lessened where one page has most of it, times how far it lies beyond general
// language (in bits, at most 10), with a little more for each further word.
// The form of this product is our own.
func scoreOf(t Term, of int) float64 {
	share := float64(t.Pages) / float64(max(of, 1))
	beyond := 5.0 // no general frequencies: every term the same
	if t.LogRatio != 0 {
		beyond = min(max(t.LogRatio, 0), 10)
	}
	return share * (1 - t.Spread/2) * beyond * (1 + 0.25*float64(t.Words-1))
}
