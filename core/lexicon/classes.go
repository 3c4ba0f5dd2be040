package lexicon

import (
	"strings"
	"unicode/utf8"
)

// Shares are how far a word is a noun, a verb, an adjective and an adverb: their sum is 1, but
// for rounding.
type Shares struct{ Noun, Verb, Adjective, Adverb float64 }

// longestEnding is how many letters of a word its class is told by; classes.mjs makes no longer
// endings. Our own.
const longestEnding = 7

// ClassOf is what a folded word of a language is by classes.mjs: as its spelling dictionary has
// it where its ending misleads, else as words of that ending are. It is false for languages
// without such a table, English and German among them.
func ClassOf(code, folded string) (Shares, bool) {
	read, ok := classes[code]
	if !ok {
		return Shares{}, false
	}
	table := read()
	if s, ok := table["^"+folded]; ok {
		return s, true
	}
	end := folded
	for utf8.RuneCountInString(end) > longestEnding {
		_, size := utf8.DecodeRuneInString(end)
		end = end[size:]
	}
	for end != "" {
		if s, ok := table[end]; ok {
			return s, true
		}
		_, size := utf8.DecodeRuneInString(end)
		end = end[size:]
	}
	return table["*"], true
}

// classes are the tables that there are, by the language each is named after.
var classes = byLanguage("classes/", ".tsv", func(name string) map[string]Shares {
	table := make(map[string]Shares, 5_000)
	each(name, func(f []string) {
		if n := strings.TrimSpace(f[1]); len(n) == 4 {
			table[f[0]] = Shares{share(n[0]), share(n[1]), share(n[2]), share(n[3])}
		}
	})
	return table
})

// share is a digit of the tables, in ninths.
func share(digit byte) float64 { return float64(digit-'0') / 9 }
