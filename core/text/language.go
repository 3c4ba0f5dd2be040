package text

import (
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
	hits := map[string]int{}
	words := 0
	languages := lexicon.Languages()
	EachWord(s[:min(len(s), 16*wordsLookedAt)], func(w Span) {
		if words >= wordsLookedAt {
			return
		}
		words++
		for _, l := range lexicon.StopIn(Fold(w.Of(s))) {
			hits[l]++
		}
	})
	if words < wordsNeeded {
		return "" // too little for either way to be trusted
	}
	best, second := "", ""
	for _, l := range languages {
		switch {
		case best == "" || hits[l] > hits[best]:
			best, second = l, best
		case second == "" || hits[l] > hits[second]:
			second = l
		}
	}
	if float64(hits[best]) >= functionShare*float64(words) && float64(hits[best]) >= clearlyAhead*float64(hits[second]) {
		return best
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
