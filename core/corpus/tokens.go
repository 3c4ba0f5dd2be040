package corpus

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/text"
)

// Cut cuts a line of text into sentences with their tokens, as those of a page are; spans are
// their places in it.
func Cut(lang *language.Language, line string) (list []Sentence, spans []text.Span) {
	known := newLookup(lang)
	for _, sp := range lang.Sentences(line) {
		s := Sentence{Text: sp.Of(line)}
		s.tokenize(known, MaxWords)
		list, spans = append(list, s), append(spans, sp)
	}
	return list, spans
}

// bytesPerWord is about how long a word is with the space after it, so that most
// sentences have room for their tokens at once. Our own.
const bytesPerWord = 5

// tokenize cuts the sentence into tokens, of at most so many words, and returns
// its number of words.
func (s *Sentence) tokenize(known *lookup, most int) int {
	words := 0
	last := 0
	s.Tokens = make([]Token, 0, len(s.Text)/bytesPerWord+1)
	text.EachWord(s.Text, func(sp text.Span) {
		if words >= most {
			return
		}
		words++
		word := sp.Of(s.Text)
		gap := s.Text[last:sp.Start]
		broken := !spaceOnly(gap)
		designation := gap == "-" && len(s.Tokens) > 0 && s.Tokens[len(s.Tokens)-1].Capital // "VG-10"
		last = sp.End
		first := true
		known.lang.EachPart(word, func(p language.Part) {
			t := known.token(word[p.Start:p.End])
			if t.Folded == "" {
				first = false
				return
			}
			t.Start, t.End, t.Broken, t.WordStart = sp.Start+p.Start, sp.Start+p.End, broken && first, p.Begins
			t.Stop = t.Stop && !isSign(word, p) || inAddress(s.Text, t.Start, t.End)
			if designation && first && t.Number {
				t.Broken, t.WordStart = false, false
			}
			s.Tokens = append(s.Tokens, t)
			first = false
		})
	})
	return words
}

// isSign tells a single letter that a hyphen joins to a word, which is none of the language's: the "O" of "O-ring".
func isSign(word string, p language.Part) bool {
	return p.End == p.Start+1 && p.End < len(word) && word[p.End] == '-'
}

// lookup remembers what the words of a page are, since most come again.
type lookup struct {
	lang  *language.Language
	words map[string]Token // as written
}

func newLookup(lang *language.Language) *lookup { return &lookup{lang, map[string]Token{}} }

// token is a word as far as it is the same wherever it stands.
func (l *lookup) token(part string) Token {
	if t, ok := l.words[part]; ok {
		return t
	}
	r, _ := utf8.DecodeRuneInString(part)
	t := Token{Folded: text.Fold(part), Stop: l.lang.Stop(part), Number: unicode.IsDigit(r), Capital: unicode.IsUpper(r)}
	if _, first := utf8.DecodeRuneInString(part); len(part) > first {
		t.Mixed = strings.IndexFunc(part[first:], unicode.IsUpper) >= 0
	}
	if t.Folded != "" {
		t.Stem = l.lang.StemFolded(t.Folded)
	}
	l.words[part] = t
	return t
}

// longestChunk is how far an address is looked for around a word, in bytes. Our own.
const longestChunk = 200

// inAddress tells whether a word is part of an address or a path, which are no
// words: "/usr/lib", "https://a.example/b", "name@a.example"; "and/or" is two.
func inAddress(line string, from, to int) bool {
	const joints = `/\@~`
	if !(from > 0 && strings.IndexByte(joints+":.", line[from-1]) >= 0 || to < len(line) && strings.IndexByte(joints+":", line[to]) >= 0) {
		return false
	}
	begin := strings.LastIndexAny(line[max(0, from-longestChunk):from], " \t\n\u00a0") + 1 + max(0, from-longestChunk)
	end := to + len(line[to:])
	if i := strings.IndexAny(line[to:min(len(line), to+longestChunk)], " \t\n\u00a0"); i >= 0 {
		end = to + i
	}
	chunk := strings.TrimLeft(line[begin:end], "(\"'“‘<[")
	return strings.Contains(chunk, "://") || strings.ContainsAny(chunk, `\@~`) || strings.HasPrefix(chunk, "/") || strings.HasPrefix(chunk, "./") ||
		strings.HasPrefix(chunk, "www.") || strings.Count(chunk, "/") > 1
}

// isForeign asks the language only where enough words are no function words of its own.
func (s *Sentence) isForeign(lang *language.Language) bool {
	own := 0
	for i := range s.Tokens {
		if s.Tokens[i].Stop {
			own++
		}
	}
	return len(s.Tokens) > 2*own && lang.IsForeign(s.eachWord)
}

// eachWord gives the folded words of the sentence.
func (s *Sentence) eachWord(yield func(folded string) bool) {
	for i := range s.Tokens {
		if !yield(s.Tokens[i].Folded) {
			return
		}
	}
}

func spaceOnly(s string) bool {
	for _, r := range s {
		if !unicode.IsSpace(r) {
			return false
		}
	}
	return true
}
