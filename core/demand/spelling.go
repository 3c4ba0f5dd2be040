package demand

import (
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/text"
)

// Bounds of words that are misspelled, and of queries in another language. Our own.
const (
	shortestMisspelt = 5 // letters: shorter words that differ in one are too often two words
	manyTimes        = 3 // keywords that have a word, from which it is the list's own
	moreThan         = 2 // times as many keywords that have the right spelling
)

// vocabulary are the words of a list.
type vocabulary struct {
	lang  *language.Language
	count map[string]int // keywords that have a word, folded
	words [][]string     // by keyword
}

func vocabularyOf(list []Keyword, lang *language.Language) vocabulary {
	v := vocabulary{lang, map[string]int{}, make([][]string, len(list))}
	for i, k := range list {
		text.EachWord(k.Text, func(w text.Span) {
			if folded := text.Fold(w.Of(k.Text)); !slices.Contains(v.words[i], folded) {
				v.words[i] = append(v.words[i], folded)
				v.count[folded]++
			}
		})
	}
	return v
}

// has tells whether a language has a word, as far as its lists go.
func has(lang *language.Language, word string) bool {
	return lang.Stop(word) || lang.Rank(word) > 0 || lang.Senses && corpus.IsWord(word)
}

// misspelt gives for words of a list that no dictionary has the word of the list that was meant: one letter is
// missing, too much, another one or has changed places with its neighbour (Damerau 1964), and enough more keywords have it. What only
// ends otherwise is another form of a word.
func (v vocabulary) misspelt() map[string]string {
	right := map[string][]string{} // by what is left of a word without one of its letters
	for w := range v.count {
		if utf8.RuneCountInString(w) >= shortestMisspelt-1 {
			for _, short := range lessOne(w) {
				right[short] = append(right[short], w)
			}
		}
	}
	meant := map[string]string{}
	for w, n := range v.count {
		if utf8.RuneCountInString(w) < shortestMisspelt || n >= manyTimes || has(v.lang, w) || strings.ContainsAny(w, "0123456789") {
			continue
		}
		best := ""
		for _, short := range lessOne(w) {
			for _, r := range right[short] {
				better := best == "" || v.count[r] > v.count[best] || v.count[r] == v.count[best] && r < best
				if better && v.count[r] >= moreThan*n && (has(v.lang, r) || v.count[r] >= manyTimes) && oneOff(w, r) && !endsOtherwise(w, r) {
					best = r
				}
			}
		}
		if best != "" {
			meant[w] = best
		}
	}
	return meant
}

// lessOne are a word and what is left of it without one of its letters but the first: two words within one edit of each other share
// one of them (symmetric deletion).
func lessOne(word string) []string {
	list := []string{word}
	letters := []rune(word)
	for i := 1; i < len(letters); i++ {
		list = append(list, string(letters[:i])+string(letters[i+1:]))
	}
	return list
}

// oneOff tells two words that are one edit apart.
func oneOff(a, b string) bool {
	x, y := []rune(a), []rune(b)
	if len(x) > len(y) {
		x, y = y, x
	}
	if len(y)-len(x) > 1 || a == b {
		return false
	}
	i := 0
	for i < len(x) && x[i] == y[i] {
		i++
	}
	if len(x) < len(y) {
		return slices.Equal(x[i:], y[i+1:])
	}
	return slices.Equal(x[i+1:], y[i+1:]) || i+1 < len(x) && x[i] == y[i+1] && x[i+1] == y[i] && slices.Equal(x[i+2:], y[i+2:])
}

// endsOtherwise tells two words of which only the last letter differs.
func endsOtherwise(a, b string) bool {
	x, y := []rune(a), []rune(b)
	return slices.Equal(x[:min(len(x), len(y))-1], y[:min(len(x), len(y))-1])
}

// respelled is a keyword with the words that were meant.
func respelled(s string, meant map[string]string) string {
	if len(meant) == 0 {
		return s
	}
	var out strings.Builder
	at := 0
	text.EachWord(s, func(w text.Span) {
		if right := meant[text.Fold(w.Of(s))]; right != "" {
			out.WriteString(s[at:w.Start] + right)
			at = w.End
		}
	})
	return out.String() + s[at:]
}

// otherLanguages says which keywords are in another language than the list. Of their words, two and more, some are the other's and
// none is ours alone; and either most are the other's, one of them a function word that is none of ours, or, where ours has a dictionary,
// no word at all is ours.
func (v vocabulary) otherLanguages() map[int]message.Message {
	said := map[int]message.Message{}
	for i, words := range v.words {
		best, most := "", 0
		for _, code := range language.Codes() {
			if code == v.lang.Code || len(words) < 2 {
				continue
			}
			if n, plain := v.isIn(language.For(code), words); n > most && plain {
				best, most = code, n
			}
		}
		if most > 0 {
			said[i] = message.Of("it is %v, and the list %v", message.Named(best), message.Named(v.lang.Code))
		}
	}
	return said
}

// isIn counts the words that are another language's and not ours, and tells whether they show that the whole is in it.
func (v vocabulary) isIn(other *language.Language, words []string) (theirs int, plain bool) {
	function, known, all := false, false, 0 // a function word of the other's; a word of ours; words that it has
	for _, w := range words {
		ours, alsoTheirs := v.count[w] >= manyTimes || has(v.lang, w) || utf8.RuneCountInString(w) < 2, has(other, w)
		switch {
		case ours && !alsoTheirs:
			return 0, false
		case alsoTheirs && !ours:
			theirs++
		}
		if alsoTheirs {
			all++
		}
		known = known || ours
		function = function || other.Stop(w) && !v.lang.Stop(w)
	}
	return theirs, function && 2*all > len(words) || !known && v.lang.Senses // a dictionary: of other languages only frequent words are known
}
