package vocabulary

import (
	"math"
	"strings"

	"corpulan/core/language"
	"corpulan/core/stats"
)

// generalWords is how many running words of general language the field is compared
// with: what is known are frequencies in a million. Our own.
const (
	generalWords    = 10_000_000
	generalMillions = generalWords / 1_000_000
)

// keyness compares the term with general language. How often a phrase stands there is
// not known; it cannot be oftener than its rarest word, and that bound is what it is
// compared with, so that no phrase looks more special than it is. Nothing is known
// of the function words of a phrase, and of a language that we do not read.
func keyness(m *merged, count, total float64, lang *language.Language) (g2, ratio float64) {
	return keynessAgainst(generalFrequency(m, lang), count, total)
}

// ofRarest is how large a part of the uses of its rarest word a phrase is taken to be where it is asked whether
// general language has it as often: hardly any phrase is more of it. Our own.
const ofRarest = 0.5

// isOrdinary tells a term that is no more frequent in the field than in general language. 6.63 is the critical
// value of G² for p < .01 (Rayson & Garside 2000).
func isOrdinary(t *Term, m *merged, total float64, lang *language.Language) bool {
	g2, ratio := t.G2, t.LogRatio
	if t.Words > 1 {
		g2, ratio = keynessAgainst(ofRarest*generalFrequency(m, lang), float64(t.Count), total)
	}
	return g2 < 6.63 || ratio < 1
}

// keynessAgainst compares a count in total words with a frequency in a million.
func keynessAgainst(general, count, total float64) (g2, ratio float64) {
	if general == 0 {
		return 0, 0
	}
	of := general * generalMillions
	return stats.LogLikelihood(count, of, total, generalWords), stats.LogRatio(count, of, total, generalWords)
}

// generalFrequency is that bound in a million words, 0 where nothing is known. A
// single word is all its forms together: "depends" is no rarer than "depend".
func generalFrequency(m *merged, lang *language.Language) float64 {
	if !lang.IsRead() {
		return 0
	}
	if len(m.stems) == 1 {
		sum := 0.0
		seen := map[string]bool{}
		for _, w := range m.wordForms() {
			form := strings.TrimSuffix(lang.Bare(w.Text), "s") // PerMillion has both numbers of a word
			if form != "" && !seen[form] && !lang.Stop(form) {
				seen[form] = true
				sum += lang.PerMillion(form)
			}
			if !lang.Senses {
				break // PerMillion has all forms
			}
		}
		return sum
	}
	least := math.Inf(1)
	for _, f := range m.forms() {
		if f = lang.Bare(f); f != "" && !lang.Stop(f) {
			least = min(least, lang.PerMillion(f))
		}
	}
	if math.IsInf(least, 1) {
		return 0
	}
	return least
}
