package language

import (
	"iter"
	"slices"
	"strings"
	"sync"

	"corpulan/core/text"

	"github.com/abadojack/whatlanggo"
)

// How a language is told by its function words (after Grefenstette 1995): this
// share of the words must be function words of the language, and the next
// language must have clearly fewer. Our own bounds.
const (
	wordsLookedAt  = 200
	wordsNeeded    = 18
	functionShare  = 0.25
	clearlyAhead   = 1.3
	bytesForSecond = 1200 // what the slower detector is shown
)

// Detect guesses the language of a text as an ISO 639-1 code; empty when the
// text is too short or the guess is not reliable. Function words decide for the
// languages that have rules here; for others letter trigrams are compared,
// which takes far longer.
func Detect(s string) string {
	languages := all()
	hits := make([]int, len(languages))
	words := 0
	text.EachWord(head(s, 16*wordsLookedAt), func(w text.Span) {
		if words >= wordsLookedAt {
			return
		}
		words++
		for _, i := range functionIn(w.Of(s)) {
			hits[i]++
		}
	})
	if words < wordsNeeded {
		return "" // too little for either way to be trusted
	}
	best, next := 0, 0
	for i, n := range hits {
		switch {
		case n > hits[best]:
			best, next = i, hits[best]
		case i != best && n > next:
			next = n
		}
	}
	if n := float64(hits[best]); n >= functionShare*float64(words) && n >= clearlyAhead*float64(next) {
		return languages[best].Code
	}
	info := whatlanggo.Detect(head(s, bytesForSecond))
	if !info.IsReliable() {
		return ""
	}
	return info.Lang.Iso6391()
}

// functionWords tells the languages, by their place in all(), that have a word as
// a function word: as it is written, and without accents.
var functionWords = sync.OnceValue(func() (in struct{ written, folded map[string][]int }) {
	in.written, in.folded = map[string][]int{}, map[string][]int{}
	for i, k := range all() {
		for w := range k.function.written {
			in.written[w] = append(in.written[w], i)
		}
		for w := range k.function.folded {
			in.folded[w] = append(in.folded[w], i)
		}
	}
	return in
})

// functionIn is the languages that a word is a function word of, or begins with
// an elision of; by their place in all().
func functionIn(word string) []int {
	if strings.ContainsAny(word, "'’") {
		var in []int
		for i, k := range all() {
			if k.stop(word) || k.beginsElided(word) {
				in = append(in, i)
			}
		}
		return in
	}
	folded := text.Fold(word)
	if text.IsASCII(word) {
		return functionWords().folded[folded]
	}
	lower := text.Lower(word)
	if folded != lower && strings.ToUpper(word) != word {
		return functionWords().written[lower]
	}
	return functionWords().folded[folded]
}

// beginsElided tells a word that begins with an elision of the language.
func (k *known) beginsElided(word string) bool {
	i := strings.IndexAny(word, "'’")
	return i > 0 && k.elided[strings.ToLower(word[:i])]
}

// head is the beginning of a text, of at most n bytes and whole characters.
func head(s string, n int) string {
	if len(s) <= n {
		return s
	}
	for n > 0 && s[n]&0xC0 == 0x80 {
		n--
	}
	return s[:n]
}

// owners tells for each function word which of the languages we read have it, as bits
// in the order of all.
var owners = sync.OnceValue(func() map[string]uint16 {
	of := map[string]uint16{}
	for i, k := range all() {
		for w := range k.function.folded {
			of[w] |= 1 << i
		}
	}
	return of
})

// IsForeign tells a sentence that another language than this has written, by its
// function words: two at least, and more than twice as many as this language has.
// Our own bounds.
func (l *Language) IsForeign(words iter.Seq[string]) bool {
	if !l.IsRead() {
		return false
	}
	var hits [16]int
	own := 0
	list := all()
	for w := range words {
		bits := owners()[w]
		for i := 0; bits != 0; i, bits = i+1, bits>>1 {
			if bits&1 == 0 {
				continue
			}
			if list[i].Code == l.Code {
				own++
			} else {
				hits[i]++
			}
		}
	}
	most := slices.Max(hits[:])
	return most >= 2 && most > 2*own
}
