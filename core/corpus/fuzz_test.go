package corpus

import (
	"strings"
	"testing"
	"unicode/utf8"

	"corpulan/core/language"
)

// A long form is an end of the text before it, whatever stands there.
func FuzzLongForm(f *testing.F) {
	f.Add("BB", "the bottom bracket")
	f.Add("TTF-1", "thyroid transcription factor 1")
	f.Add("İ.", "İstanbul ſ")
	f.Fuzz(func(t *testing.T, short, before string) {
		if !utf8.ValidString(short) || !utf8.ValidString(before) {
			return // readings are UTF-8
		}
		if long := LongForm(short, before); long != "" && !strings.HasSuffix(strings.TrimSpace(before), long) {
			t.Fatalf("%q is no end of %q", long, before)
		}
	})
}

// Every token lies within its sentence, in order, whatever the text.
func FuzzTokens(f *testing.F) {
	f.Add("See /usr/lib or https://a.example/b?c=d, it's e-bike l'hiver.")
	f.Add("a\\b@c~d://e \u00a0 x")
	f.Fuzz(func(t *testing.T, line string) {
		s := Sentence{Text: line}
		s.tokenize(newLookup(language.For("fr")), MaxWords)
		last := 0
		for _, tok := range s.Tokens {
			if tok.Start < last || tok.End < tok.Start || tok.End > len(line) {
				t.Fatalf("%+v after %d in %q", tok, last, line)
			}
			last = tok.Start
		}
	})
}
