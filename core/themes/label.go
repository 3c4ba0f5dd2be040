package themes

import (
	"math"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/stats"
)

// numbering is what counts a heading and is none of its name: "3.", "13.3.3.", "2.1", "A.",
// "(4)", "Step 4:", "Steps 7 to 9 –", "Chapter 2.". A plain number without a sign after it
// is part of the name ("5 tips").
var numbering = regexp.MustCompile(`^(?:\(?(?:\p{Lu}\.)?\d+(?:\.\d+)+[.):]?\s+|\(?(?:\d+|[A-Z]|[ivx]+)[.):]\s+|\p{L}+\s+(?:\d+(?:\.\d+)*|[A-Z]|[IVX]+)(?:\s*(?:\p{Ll}+|[-–—])\s*\d+)?\s*[.:)–—]\s+)`)

// trimNumbering takes the number off a heading and keeps its capital.
func trimNumbering(s string) string {
	rest := s[len(numbering.FindString(s)):]
	if rest == s || strings.IndexFunc(rest, unicode.IsLetter) < 0 {
		return s
	}
	r := []rune(rest)
	if first, _ := utf8.DecodeRuneInString(s); !unicode.IsLower(first) {
		r[0] = unicode.ToUpper(r[0])
	}
	return string(r)
}

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
