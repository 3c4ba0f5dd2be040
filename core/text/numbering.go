package text

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"
)

// numbering is what counts a heading and is none of its name: "3.", "13.3.3.", "2.1", "A.",
// "(4)", "II.", "#3:", "Nr. 2:", "1 –", "Step 4:", "Steps 7 to 9 –", "Chapter 2.". A plain number
// without a sign after it is part of the name ("5 tips"), and so is a year before a dash.
var numbering = regexp.MustCompile(`^(?:` + strings.Join([]string{
	`\(?(?:\p{Lu}\.)?\d+(?:\.\d+)+[.):]?`,
	`\(?(?:\d+|[A-Z]|[ivx]+|[IVX]+)[.):]`,
	`\d{1,2}` + gap + `*[-–—]`,
	`(?:#|[Nn][°ºr]\.?` + gap + `?|No\.` + gap + `?)\d+` + gap + `*[-.:)–—]?`,
	`\p{L}+` + gap + `+#?(?:\d+(?:\.\d+)*|[A-Z]|[IVX]+)(?:` + gap + `*(?:\p{Ll}+|[-–—])` + gap + `*\d+)?` + gap + `*[.:)–—]`,
}, `|`) + `)` + gap + `+`)

// gap is a space, those too that no line breaks at.
const gap = `[\s\x{00A0}\x{2009}\x{202F}]`

// WithoutNumber takes the number off a heading and keeps its capital.
func WithoutNumber(s string) string {
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
