package evidence

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/text"
)

// Tier says how much of the field uses a term.
type Tier string

// The tiers. A term of a single page is a hapax and never recommended.
const (
	Staple     Tier = "staple"     // at least 60 % of the pages
	Frequent   Tier = "frequent"   // at least 30 %
	Occasional Tier = "occasional" // at least two pages
	Hapax      Tier = "hapax"
)

// TierOf places a count of pages in a field; two pages are the least for any tier.
func TierOf(pages, of int) Tier {
	share := float64(pages) / float64(max(of, 1))
	switch {
	case pages < 2:
		return Hapax
	case share >= 0.6:
		return Staple
	case share >= 0.3:
		return Frequent
	}
	return Occasional
}

// Term is a word or phrase that pages of the field share.
type Term struct {
	Key       string   `json:"key"`  // stems, the same for all shapes of the term
	Keys      []string `json:"keys"` // Key, and that of a joined spelling
	Text      string   `json:"text"` // the commonest shape
	Shapes    []Shape  `json:"shapes"`
	Words     int      `json:"words"`
	Tier      Tier     `json:"tier"`
	Pages     int      `json:"pages"`  // document frequency
	Counts    []int    `json:"counts"` // per page, in the order of Evidence.Sources
	Count     int      `json:"count"`
	Use       Range    `json:"use"`  // times per page, over the pages that use it
	Rate      Range    `json:"rate"` // times per 1,000 words, over the pages that use it
	Titles    int      `json:"titles"`
	Headings  int      `json:"headings"` // pages with it in a heading
	Openings  int      `json:"openings"`
	Spread    float64  `json:"spread"` // deviation of proportions: 0 even, 1 in one page
	CValue    float64  `json:"c_value"`
	G2        float64  `json:"g2"`        // against general language; 0 where unknown
	LogRatio  float64  `json:"log_ratio"` // against general language; 0 where unknown
	Score     float64  `json:"score"`
	Flag      string   `json:"flag,omitempty"`       // why it is out by default
	YieldsTo  string   `json:"yields_to,omitempty"`  // key of a longer term that holds nearly all of it
	IsKeyword bool     `json:"is_keyword,omitempty"` // the keyword itself
}

// Shape is one way a term is written.
type Shape struct {
	Text  string `json:"text"`
	Count int    `json:"count"`
}

// Recommended tells whether a term may be proposed: at least two pages, not
// flagged, and not always part of a longer term.
func (t Term) Recommended() bool { return t.Tier != Hapax && t.Flag == "" && t.YieldsTo == "" }

// termsOf merges the phrases of all documents into the field's vocabulary.
func termsOf(docs []*Doc, lang *language.Language, keyword string) []Term {
	merged := mergePhrases(docs)
	sizes := make([]float64, len(docs))
	for i, d := range docs {
		sizes[i] = float64(d.words)
	}
	total := sum(sizes)
	capitals := capitalRatio(docs)
	keywordKey := key(lang.ContentStems(keyword))
	terms := make([]Term, 0, len(merged))
	for _, m := range merged {
		t := m.term(docs, sizes, total)
		t.IsKeyword = t.Key == keywordKey
		t.Text, t.Shapes = m.shapes(capitals)
		if lang.Code == "en" {
			t.G2, t.LogRatio = keyness(m.forms(), float64(t.Count), total, lang)
		}
		terms = append(terms, t)
	}
	addCValues(terms, merged)
	flagTerms(terms, merged, docs, lang)
	for i := range terms {
		terms[i].Score = scoreOf(terms[i], len(docs))
	}
	slices.SortFunc(terms, func(a, b Term) int {
		return cmp.Or(cmp.Compare(b.Score, a.Score), cmp.Compare(b.Pages, a.Pages), strings.Compare(a.Key, b.Key))
	})
	return terms
}

func (m *merged) term(docs []*Doc, sizes []float64, total float64) Term {
	t := Term{Key: m.key, Keys: append([]string{m.key}, m.joined...), Words: len(m.stems), Pages: m.pages, Tier: TierOf(m.pages, len(docs)), Counts: make([]int, len(docs))}
	counts := make([]float64, len(docs))
	var use, rate []float64
	for i, u := range m.uses {
		if u == nil {
			continue
		}
		t.Counts[i] = u.count
		t.Count += u.count
		counts[i] = float64(u.count)
		use = append(use, counts[i])
		rate = append(rate, 1000*counts[i]/max(sizes[i], 1))
		if u.title {
			t.Titles++
		}
		if u.headings > 0 {
			t.Headings++
		}
		if u.opening > 0 {
			t.Openings++
		}
	}
	t.Use, t.Rate = RangeOf(use), RangeOf(rate)
	t.Spread = Dispersion(counts, sizes)
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
	return LogLikelihood(count, general, total, lexicon.EnglishTotal), LogRatio(count, general, total, lexicon.EnglishTotal)
}

func addCValues(terms []Term, list []*merged) {
	phrases := make([]phrase, len(list))
	index := make(map[string]int, len(list))
	for i, m := range list {
		phrases[i] = phrase{m.stems, float64(terms[i].Count)}
		index[m.key] = i
	}
	for i, c := range cValues(phrases) {
		terms[i].CValue = c
	}
	// A phrase that nearly always stands inside one longer phrase, on nearly
	// all of its pages, yields to it.
	for i, m := range list {
		for size := 1; size < len(m.stems); size++ {
			for at := 0; at+size <= len(m.stems); at++ {
				j, ok := index[key(m.stems[at:at+size])]
				if ok && float64(terms[i].Count) >= 0.8*float64(terms[j].Count) && float64(terms[i].Pages) >= 0.8*float64(terms[j].Pages) {
					terms[j].YieldsTo = terms[i].Key
				}
			}
		}
	}
}

// flagTerms marks what is out by default: names of the sites themselves, and
// words no more frequent here than in general English.
func flagTerms(terms []Term, list []*merged, docs []*Doc, lang *language.Language) {
	sites := map[string]bool{}
	for _, d := range docs {
		for k := range d.siteNames {
			sites[k] = true
		}
	}
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
	noun, verb, adjective, adverb := partsOfSpeech(m.forms()[0])
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
