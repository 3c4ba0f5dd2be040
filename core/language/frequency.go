package language

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"corpulan/core/lexicon"
	"corpulan/core/text"
)

// Rank is the place of a folded word among the commonest of the language, 1 for
// the commonest; 0 for a word that is not among them. In English they are those of
// written language, in the others of what films speak.
func (k *known) Rank(folded string) int { return k.ranks[folded] }

// How often a word stands in general language follows from its rank by Zipf's law
// (1949): a tenth of all words divided by the rank.
const zipf = 0.1

// million is what frequencies are counted in: common practice of corpus linguistics,
// no published source.
const million = 1_000_000

// rarest is how often a word stands that no list has, in a million words: English
// lists have 60,000 and more words, the others 10,000. Our own.
const (
	rarestEnglish = 0.5
	rarest        = zipf / 10_000 * million
)

// PerMillion is how often general language has a folded word in a million words. English
// is counted as films speak it and ranked as encyclopedias and newspapers write it, and
// the oftener counts: "current" and "section" are hardly ever said, and stand in every
// written text. A word's other number is the same word. In the other languages, all
// words of a stem are.
func (l *Language) PerMillion(folded string) float64 {
	if l.Code != "en" {
		return max(l.general()[l.StemFolded(folded)], rarest)
	}
	n := l.ofForm(folded)
	if one, ok := strings.CutSuffix(folded, "s"); ok {
		n += l.ofForm(one)
	} else {
		n += l.ofForm(folded + "s")
	}
	return max(n, rarestEnglish)
}

// ofForm is the greater of what is counted and what Zipf's law (1949) makes of the rank.
func (l *Language) ofForm(folded string) float64 {
	n := 0.0
	if w, ok := lexicon.English(folded); ok {
		n = float64(w.Count) / lexicon.EnglishTotal * million
	}
	if r := l.Rank(folded); r > 0 {
		n = max(n, zipf/float64(r)*1e6)
	}
	return n
}

// stemFrequencies are the frequencies of ranked words, summed by stem.
func (k *known) stemFrequencies() map[string]float64 {
	l := &Language{Code: k.Code, known: k}
	of := make(map[string]float64, len(k.ranks))
	// In one order, since sums of floats depend on it.
	for _, w := range slices.SortedFunc(maps.Keys(k.ranks), func(a, b string) int { return cmp.Or(cmp.Compare(k.ranks[a], k.ranks[b]), strings.Compare(a, b)) }) {
		of[l.StemFolded(w)] += zipf / float64(k.ranks[w]) * million
	}
	return of
}

// IsGeneral tells the stem of a noun that is no term of any subject by itself.
func (k *known) IsGeneral(stem string) bool { return k.generals()[stem] }

func (k *known) generalStems() map[string]bool {
	of := map[string]bool{}
	for w := range lexicon.General(k.Code) {
		of[k.stem(text.Fold(w))] = true
	}
	return of
}
