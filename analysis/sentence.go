package analysis

import (
	"strings"
)

// Sentence makes a sentence of an error's text.
func Sentence(s string) string {
	if s == "" {
		return s
	}
	s = strings.ToUpper(s[:1]) + s[1:]
	if !strings.HasSuffix(s, ".") {
		s += "."
	}
	return s
}
