package text

import (
	"math/bits"

	"corpulan/core/lexicon"

	"github.com/abadojack/whatlanggo"
)

// How a language is told by its function words (after Grefenstette 1995): this
// share of the words must be function words of the language, and the next
// language must have clearly fewer.
const (
	wordsLookedAt  = 200
	wordsNeeded    = 18
	functionShare  = 0.25
	clearlyAhead   = 1.3
	bytesForSecond = 1200 // what the slower detector is shown
)

// Detect guesses the language of a text as an ISO 639-1 code; empty when the
// text is too short or the guess is not reliable. Function words decide for the
// languages that have them here; for others letter trigrams are compared, which
// takes far longer.
func Detect(s string) string {
	languages := lexicon.Languages()
	hits := make([]int, len(languages))
	words := 0
	EachWord(s[:min(len(s), 16*wordsLookedAt)], func(w Span) {
		if words >= wordsLookedAt {
			return
		}
		words++
		for in := lexicon.StopIn(Fold(w.Of(s))); in != 0; in &= in - 1 {
			hits[bits.TrailingZeros8(in)]++
		}
	})
	if words < wordsNeeded {
		return "" // too little for either way to be trusted
	}
	best, second := 0, 1
	if hits[1] > hits[0] {
		best, second = 1, 0
	}
	for i := 2; i < len(hits); i++ {
		switch {
		case hits[i] > hits[best]:
			best, second = i, best
		case hits[i] > hits[second]:
			second = i
		}
	}
	if float64(hits[best]) >= functionShare*float64(words) && float64(hits[best]) >= clearlyAhead*float64(hits[second]) {
		return languages[best]
	}
	return detectByTrigrams(s)
}

func detectByTrigrams(s string) string {
	info := whatlanggo.Detect(s[:min(len(s), bytesForSecond)])
	if !info.IsReliable() {
		return ""
	}
	return info.Lang.Iso6391()
}
