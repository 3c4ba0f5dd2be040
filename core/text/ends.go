package text

import (
	"strings"
	"unicode/utf8"
)

// Ends tells a text whose last letter is one of some marks.
func Ends(s, marks string) bool {
	r, _ := utf8.DecodeLastRuneInString(s)
	return strings.ContainsRune(marks, r)
}
