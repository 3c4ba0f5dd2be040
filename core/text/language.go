package text

import "github.com/abadojack/whatlanggo"

// Detect guesses the language of a text as an ISO 639-1 code; empty when the
// text is too short or the guess is not reliable.
func Detect(s string) string {
	const enough = 4000 // bytes; more changes nothing and costs time
	if len(s) > enough {
		s = s[:enough]
	}
	if len(s) < 60 {
		return ""
	}
	info := whatlanggo.Detect(s)
	if !info.IsReliable() {
		return ""
	}
	return info.Lang.Iso6391()
}
