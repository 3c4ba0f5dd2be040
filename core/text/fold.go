package text

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// Fold makes a word comparable: lower case, accents and the typographic forms
// of apostrophe and hyphen taken away, a possessive 's taken off. For matching
// only; what a person sees is the text as it was written.
func Fold(word string) string {
	if IsASCII(word) {
		word = strings.ToLower(word)
	} else {
		word = foldUnicode(word)
	}
	return strings.TrimSuffix(word, "'s")
}

// Lower is Fold with the accents left, each letter one character with its own (NFC).
func Lower(word string) string {
	if IsASCII(word) {
		return Fold(word)
	}
	return strings.TrimSuffix(plainSigns.Replace(strings.ToLower(norm.NFC.String(word))), "'s")
}

var plainSigns = strings.NewReplacer("\u2019", "'", "\u02BC", "'", "\u2018", "'", "\u2010", "-", "\u2011", "-", "\u00AD", "")

// IsASCII tells a text without accents or signs of its own, which most words are.
func IsASCII(s string) bool {
	for i := 0; i < len(s); i++ {
		if s[i] >= utf8.RuneSelf {
			return false
		}
	}
	return true
}

func foldUnicode(s string) string {
	var b strings.Builder
	for _, r := range norm.NFKD.String(s) {
		switch {
		case unicode.Is(unicode.Mn, r), r == '\u00AD':
		case r == '\u2019' || r == '\u02BC' || r == '\u2018':
			b.WriteByte('\'')
		case r == '\u2010' || r == '\u2011':
			b.WriteByte('-')
		case r == 'œ' || r == 'Œ':
			b.WriteString("oe")
		case r == 'ß':
			b.WriteString("ss")
		default:
			b.WriteRune(unicode.ToLower(r))
		}
	}
	return b.String()
}
