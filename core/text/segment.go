// Package text splits running text into sentences and words, folds them for
// comparison, and measures how readable a text is:
//
//   - segment.go      words and sentences (Unicode's UAX #29)
//   - fold.go         case, accents and signs taken away, for matching only
//   - numbering.go    what counts a heading and is none of its name
//   - phrases.go      tables of phrases that a line may be
//   - readability.go  Flesch's measures, and syllables
package text

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/clipperhouse/uax29/v2/sentences"
	"github.com/clipperhouse/uax29/v2/words"
)

// Span is a stretch of a text in bytes, end exclusive.
type Span struct{ Start, End int }

// Of cuts the span out of the text it was found in.
func (s Span) Of(text string) string { return text[s.Start:s.End] }

// joiners keep a hyphenated compound one word ("e-bike"); UAX #29 already keeps
// apostrophes inside a word. U+2010 and U+2011 are the typographic hyphens.
var joiners = &words.Joiners[string]{Middle: []rune{'-', '\u2010', '\u2011'}}

// Words finds the words of a text: UAX #29 word segments with a letter or a
// digit in them, with hyphenated compounds kept whole.
func Words(text string) []Span {
	spans := make([]Span, 0, len(text)/6+1)
	EachWord(text, func(s Span) { spans = append(spans, s) })
	return spans
}

// CountWords is len(Words(text)) without the slice.
func CountWords(text string) int {
	n := 0
	EachWord(text, func(Span) { n++ })
	return n
}

// EachWord calls yield for every word of the text, in order. Of UAX #29 it parts what a colon
// joins, as the CLDR does, but for endings: "Expenses:Food" are two words, "EU:s" and
// "Fahrer:innen" one each.
func EachWord(text string, yield func(Span)) {
	it := words.FromString(text)
	it.Joiners(joiners)
	for it.Next() {
		if v := it.Value(); hasLetterOrDigit(v) {
			// A joiner at either end ("-5", "winter-") is punctuation, not part of the word.
			start, end := it.Start(), it.End()
			core := strings.TrimFunc(v, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.IsMark(r) })
			if len(core) != len(v) {
				start += strings.Index(v, core)
				end = start + len(core)
			}
			for at := 0; ; {
				colon := partingColon(core[at:])
				if colon < 0 {
					yield(Span{start + at, end})
					break
				}
				yield(Span{start + at, start + at + colon})
				at += colon + 1
			}
		}
	}
}

// longestEnding is how many small letters after a colon are an ending at most: "innen". Our own.
const longestEnding = 5

// partingColon is where a colon stands between two words, -1 where none does.
func partingColon(s string) int {
	for from := 0; ; {
		i := strings.IndexByte(s[from:], ':')
		if i < 0 {
			return -1
		}
		i += from
		rest := s[i+1:]
		if next := strings.IndexByte(rest, ':'); next >= 0 {
			rest = rest[:next]
		}
		first, _ := utf8.DecodeRuneInString(rest)
		n := utf8.RuneCountInString(rest)
		if utf8.RuneCountInString(s[:min(i, 2*utf8.UTFMax)]) > 1 && n > 1 && (unicode.IsUpper(first) || n > longestEnding) {
			return i
		}
		from = i + 1
	}
}

// HasWord tells whether a text holds any word: CountWords(s) > 0, but cheap.
func HasWord(s string) bool { return hasLetterOrDigit(s) }

func hasLetterOrDigit(s string) bool {
	for _, r := range s {
		if r < utf8.RuneSelf {
			if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' {
				return true
			}
		} else if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return true
		}
	}
	return false
}

// Sentences splits a text by UAX #29 sentence boundaries and holds a sentence
// together across an abbreviation: UAX #29 knows nothing of them and would break
// before a capital. abbreviation tells them, without their last full stop, by the word that follows: "am 3. März". White
// space around a sentence is left out; a line break always ends a sentence.
func Sentences(text string, abbreviation func(word, next string) bool) []Span {
	var spans []Span
	it := sentences.FromString(text)
	open := -1 // start of a sentence still waiting for its end
	for it.Next() {
		start, end := it.Start(), it.End()
		if open >= 0 {
			start = open
		}
		trimmed := trimSpan(text, Span{start, end})
		if trimmed.Start == trimmed.End {
			open = -1
			continue
		}
		if endsInAbbreviation(trimmed.Of(text), text[end:], abbreviation) && !strings.ContainsAny(text[trimmed.End:end], "\n\r\u2028\u2029") {
			open = start
			continue
		}
		open = -1
		spans = append(spans, trimmed)
	}
	if open >= 0 {
		spans = append(spans, trimSpan(text, Span{open, len(text)}))
	}
	return spans
}

func trimSpan(text string, s Span) Span {
	v := s.Of(text)
	left := strings.TrimLeftFunc(v, unicode.IsSpace)
	s.Start += len(v) - len(left)
	s.End = s.Start + len(strings.TrimRightFunc(left, unicode.IsSpace))
	return s
}

func endsInAbbreviation(sentence, rest string, abbreviation func(word, next string) bool) bool {
	body, found := strings.CutSuffix(sentence, ".")
	if !found {
		return false
	}
	i := strings.LastIndexFunc(body, func(r rune) bool { return unicode.IsSpace(r) || r == '(' || r == '[' })
	last := body[i+1:]
	if strings.EqualFold(last, "no") || strings.EqualFold(last, "nos") {
		// "No." is an answer as often as a number; it is "number" only before one.
		return rest != "" && rest[0] >= '0' && rest[0] <= '9'
	}
	next, _, _ := strings.Cut(strings.TrimLeft(rest, " \u00a0"), " ")
	if abbreviation(last, next) {
		return true
	}
	// A single capital is an initial: "J. Hartwell".
	r, size := utf8.DecodeRuneInString(last)
	return size == len(last) && unicode.IsUpper(r) && r != 'I'
}
