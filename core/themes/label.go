package themes

import (
	"math"
	"strings"
	"unicode"

	"corpulan/core/stats"
)

// quietCase writes a heading that is all in capitals as a sentence begins.
func quietCase(s string) string {
	if len(s) < 6 || strings.ToUpper(s) != s || strings.ToLower(s) == s {
		return s
	}
	r := []rune(strings.ToLower(s))
	r[0] = unicode.ToUpper(r[0])
	return string(r)
}

// perWord is what a heading loses for each word beyond two when a theme is named: a
// short name is what a person would write. Measured: docs/evaluation.md.
const perWord = 0.02

// medoid is the heading whose words are most like those of the others of its group,
// short ones first; of two the same, the shorter.
// What is nearer than 1e-9 is the same: our own.
func medoid(heads []headingVector, group []int) int {
	best, bestSim := group[0], math.Inf(-1)
	for _, i := range group {
		var sims []float64
		for _, j := range group {
			if i != j {
				sims = append(sims, stats.Cosine(heads[i].title, heads[j].title))
			}
		}
		m := stats.Mean(sims) - perWord*float64(max(len(strings.Fields(heads[i].text))-2, 0))
		if m > bestSim+1e-9 || m > bestSim-1e-9 && len(heads[i].text) < len(heads[best].text) {
			best, bestSim = i, m
		}
	}
	return best
}
