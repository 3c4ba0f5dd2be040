package says

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"
)

// From which weighted Jaccard similarity two wordings are one question; fixed against the pairs in
// core/questions/find_test.go, the others measured: docs/evaluation.md.
const (
	sameQuestion = 0.61
	sameInTheme  = 0.2 // of two about one matter of the field
	sameHeading  = 0.5 // of a question and a heading that is about what it asks
	ofKeyword    = 0.3 // weight of a word of the keyword
)

// Wording is one way a question was put, and where.
type Wording struct {
	Text    string `json:"text"`
	Rank    int    `json:"rank"`  // 0 for the results page
	Place   string `json:"place"` // "results page", "FAQ", "heading" or "text"
	Section int    `json:"section"`
}

// Asked is what a question or a search asks for.
type Asked struct {
	Wording
	Kind  language.QuestionKind
	About About    // the theme that it asks about
	Stems []string // content stems, sorted, each once

	matter language.Matter   // the first general matter that it names
	only   []string          // what it asks beside its matter, or beside a choice
	plain  language.Matter   // its matter, or Choose where it asks for a choice
	tokens []string          // what it asks about: stems, in the place of the words that name the matter its name; sorted, each once
	signs  []string          // single letters that tell one thing from another: "e" of "e-bike"
	or     bool              // it asks which of two
	weak   map[string]bool   // stems of what is done or how things are, which answers say otherwise
	forms  map[string]string // the folded words, by their stems
}

// About is a theme that is asked about.
type About struct {
	Theme int     // 0 where none is known
	Whole float64 // how far what is asked is all that a heading of the theme says, 0 to 1
}

// Ask takes a question or a search apart.
func Ask(lang *language.Language, q string) Asked {
	a := Asked{Wording: Wording{Text: q}, forms: map[string]string{}}
	q = lang.Asked(q)
	a.Stems, a.weak = questionStems(lang, q), weakStems(lang, q)
	a.Kind, _ = lang.KindOfQuestion(q)
	a.matter, a.tokens = tokensOf(lang, q)
	a.plain, a.only = a.matter, a.tokens
	if a.matter == "" {
		a.plain, a.only = choiceOf(lang, q)
	}
	text.EachWord(q, func(w text.Span) {
		word := text.Fold(w.Of(q))
		a.forms[lang.StemFolded(word)] = word
		a.or = a.or || lang.IsOr(word)
		if sign, _, joined := strings.Cut(word, "-"); len(sign) == 1 && (joined || word != w.Of(q)) && !lang.Stop(sign) {
			a.signs = append(a.signs, sign)
		}
	})
	return a
}

// AsksMore tells whether something beyond the keyword is asked.
func (a Asked) AsksMore(common map[string]bool) bool {
	return a.matter != "" || slices.ContainsFunc(a.Stems, func(s string) bool { return !common[s] })
}

// Tokens are what is asked about; see Asked.
func (a Asked) Tokens() []string { return a.tokens }

// matterSign stands before the name of a matter among stems.
const matterSign = "="

// tokensOf are what a question or a heading is about: its stems, function words and light ones left out, and in
// the place of those that name a general matter the matter; the first it names, beside.
func tokensOf(lang *language.Language, s string) (first language.Matter, tokens []string) {
	named, words := lang.Matters(text.WithoutNumber(s))
	said := make([]bool, len(words))
	for _, n := range named {
		if n.Matter == language.Beside || isWide(n.Matter) {
			continue
		}
		if first == "" {
			first = n.Matter
			tokens = append(tokens, matterSign+string(n.Matter))
		}
		for _, w := range n.Words {
			said[w] = true
		}
	}
	for i, w := range words {
		if !said[i] && len(w) > 1 && !lang.Stop(w) && !lang.AsksWith(w) {
			tokens = append(tokens, lang.StemFolded(w))
		}
	}
	slices.Sort(tokens)
	return first, slices.Compact(tokens)
}

// choiceOf is language.Choose and what is asked besides, of a question that asks which to choose: "which
// should you buy".
func choiceOf(lang *language.Language, q string) (language.Matter, []string) {
	named, words := lang.Matters(q)
	i := slices.IndexFunc(named, func(n language.NamedMatter) bool { return n.Matter == language.Choose })
	if i < 0 {
		return "", nil
	}
	var tokens []string
	for at, w := range words {
		if len(w) > 1 && !slices.Contains(named[i].Words, at) && !lang.Stop(w) && !lang.AsksWith(w) {
			tokens = append(tokens, lang.StemFolded(w))
		}
	}
	return language.Choose, tokens
}

// isWide tells a matter that says little of what is asked: what something is, how it is done.
func isWide(m language.Matter) bool {
	switch m {
	case language.WhatIs, language.Steps, language.Tips, language.Choose, language.Problems, language.Worth, language.Prepare, language.Kinds, language.After:
		return true
	}
	return false
}

func questionStems(lang *language.Language, q string) []string {
	light := map[string]bool{} // "need", "use": they say nothing of what is asked about
	text.EachWord(q, func(w text.Span) {
		if folded := text.Fold(w.Of(q)); lang.AsksWith(folded) {
			light[lang.StemFolded(folded)] = true
		}
	})
	stems := slices.DeleteFunc(lang.ContentStems(q), func(s string) bool { return light[s] })
	slices.Sort(stems)
	return slices.Compact(stems)
}

// weakStems are those of a question's verbs and adjectives, as far as the language shows
// them: by the capitals that nouns have, in English by the dictionary.
func weakStems(lang *language.Language, q string) map[string]bool {
	weak := map[string]bool{}
	text.EachWord(q, func(w text.Span) {
		word := w.Of(q)
		folded := text.Fold(word)
		switch {
		case lang.NounsHaveCapitals:
			weak[lang.StemFolded(folded)] = text.Lower(word) == word
		case lang.Senses:
			noun, verb, adjective, _ := corpus.PartsOfSpeech(folded)
			weak[lang.StemFolded(folded)] = verb+adjective > noun || noun == 0 && strings.HasSuffix(folded, "ly") // "differently"
		}
	})
	return weak
}

// Same compares two questions by their kinds, whether they ask which of two, the general matters they
// name, and what else they are about; common are the stems of the keyword.
func Same(a, b Asked, common map[string]bool) bool {
	if KindsAgree(a.Kind, b.Kind) && a.plain != "" && a.plain == b.plain && a.asksPlainly(common) && b.asksPlainly(common) {
		return true
	}
	if !KindsAgree(a.Kind, b.Kind) || a.or != b.or || a.matter != "" && b.matter != "" && a.matter != b.matter {
		return false
	}
	alike := Likeness(a, b, common)
	return alike >= sameQuestion || alike >= sameInTheme && a.About.Theme > 0 && a.About.Theme == b.About.Theme && a.Kind == b.Kind
}

// asksPlainly tells a question for its matter and the keyword, and for nothing else: "what does it cost".
func (a Asked) asksPlainly(common map[string]bool) bool {
	return !slices.ContainsFunc(a.only, func(s string) bool { return !common[s] && !strings.HasPrefix(s, matterSign) })
}

// Likeness is the weighted Jaccard similarity of what two questions are about, 0 to 1.
// The words of the keyword stand in nearly every question of its field and so weigh less.
func Likeness(a, b Asked, common map[string]bool) float64 {
	return jaccard(a.tokens, b.tokens, common)
}

// AboutHeading is a theme with a heading, as far as that says what is asked.
func (a Asked) AboutHeading(lang *language.Language, theme int, heading string, common map[string]bool) About {
	_, tokens := tokensOf(lang, heading)
	return About{theme, jaccard(a.tokens, tokens, common)}
}

func jaccard(a, b []string, common map[string]bool) float64 {
	weight := func(s string) float64 {
		if common[s] {
			return ofKeyword
		}
		return 1
	}
	shared, all := 0.0, 0.0
	for _, s := range a {
		all += weight(s)
		if slices.Contains(b, s) {
			shared += weight(s)
		}
	}
	for _, s := range b {
		if !slices.Contains(a, s) {
			all += weight(s)
		}
	}
	if all == 0 {
		return 0
	}
	return shared / all
}

// KindsAgree holds apart questions that share their words but ask for
// different things: when against where.
func KindsAgree(a, b language.QuestionKind) bool {
	loose := func(k language.QuestionKind) bool {
		return k == language.What || k == language.YesNo || k == language.How || k == language.Which
	}
	return a == b || loose(a) && loose(b)
}
