package fit

import (
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// The kinds of claims.
const (
	FigureClaim      = "figure"
	DateClaim        = "date"
	NameClaim        = "name"
	SuperlativeClaim = "superlative"
)

// claim is something a sentence says that wants a source, with what makes it the same as another.
type claim struct {
	corpus.Figure
	kind string
	key  string // what both must share; numbers are compared besides
}

// claimsOf are the claims of a sentence: its dates, its other numbers, what it says to go beyond all others, and its names.
func claimsOf(s *corpus.Sentence, lang *language.Language, lower func(word string) bool) []claim {
	list, dates := datesOf(s, lang)
	for _, f := range s.Numbers(lang) {
		if within(dates, f.Token) {
			continue
		}
		list = append(list, claim{f, FigureClaim, countedBy(f)})
	}
	words := make([]string, len(s.Tokens))
	for i, t := range s.Tokens {
		words[i] = t.Folded
	}
	for _, p := range lang.Superlatives(words, func(i int) bool { return i > 0 && s.Tokens[i].Capital }) {
		list = append(list, claim{corpus.Figure{Text: s.Text[s.Tokens[p[0]].Start:s.Tokens[p[1]-1].End], Token: p[0]}, SuperlativeClaim, "beyond all " + strings.Join(words[p[0]:p[1]], " ")})
	}
	for from := 0; from < len(s.Tokens); {
		to := from
		for to < len(s.Tokens) && isNameToken(s, to, from, lang, lower) {
			to++
		}
		if to > from {
			list = append(list, claim{corpus.Figure{Text: s.Text[s.Tokens[from].Start:s.Tokens[to-1].End], Token: from}, NameClaim, nameKey(words[from:to])})
		}
		from = to + 1
	}
	return list
}

func nameKey(words []string) string { return "name " + strings.Join(words, " ") }

// isNameToken tells a token that is of a name which begins at another: with a capital that is not the sentence's, no letter alone, of no month or
// day, nowhere written in small letters. Where all nouns have capitals it has another besides: "pH", "VG-10", "DIN".
func isNameToken(s *corpus.Sentence, i, from int, lang *language.Language, lower func(word string) bool) bool {
	t := s.Tokens[i]
	if !t.Capital || t.Stop || t.Number || i == 0 || t.End-t.Start < 2 || lower(t.Folded) || lang.InCalendar(t.Folded) || i > from && t.Broken {
		return false
	}
	return !lang.NounsHaveCapitals || t.Mixed || strings.ToUpper(s.Text[t.Start:t.End]) == s.Text[t.Start:t.End]
}
