package questions

import (
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"
)

// From which weighted Jaccard similarity two wordings are one question; fixed against the pairs in
// find_test.go, the others measured: docs/evaluation.md.
const (
	sameQuestion = 0.62
	sameInTheme  = 0.2 // of two about one matter of the field
	sameHeading  = 0.5 // of a question and a heading that is about what it asks
	ofKeyword    = 0.3 // weight of a word of the keyword
)

// askedOf is a question with what it is compared by.
func askedOf(lang *language.Language, q string) asked {
	a := asked{Wording: Wording{Text: q}, stems: questionStems(lang, q), weak: weakStems(lang, q)}
	a.kind, _ = lang.KindOfQuestion(q)
	text.EachWord(q, func(w text.Span) { a.or = a.or || lang.IsOr(text.Fold(w.Of(q))) })
	a.matter, a.tokens = tokensOf(lang, q)
	return a
}

// fill tells whether a question asks something beyond the keyword itself.
func (a *asked) fill(common map[string]bool) {
	a.full = a.matter != "" || slices.ContainsFunc(a.stems, func(s string) bool { return !common[s] })
}

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
		if !said[i] && len(w) > 1 && !lang.Stop(w) && !lang.Light(w) {
			tokens = append(tokens, lang.StemFolded(w))
		}
	}
	slices.Sort(tokens)
	return first, slices.Compact(tokens)
}

// isWide tells a matter that says little of what is asked: what something is, how it is done.
func isWide(m language.Matter) bool {
	switch m {
	case language.WhatIs, language.Steps, language.Tips, language.Choose, language.Problems, language.Worth, language.Prepare, language.Kinds, language.After:
		return true
	}
	return false
}

// groupQuestions puts each wording to the first group whose leading wording asks the same, or opens a new one.
func groupQuestions(all []asked, common map[string]bool) [][]asked {
	var groups [][]asked
next:
	for _, a := range all {
		for i, g := range groups {
			if sameAsking(g[0], a, common) {
				groups[i] = append(g, a)
				continue next
			}
		}
		groups = append(groups, []asked{a})
	}
	return groups
}

// sameAsking compares two questions by their kinds, whether they ask which of two, the general matters they
// name, and what else they are about.
func sameAsking(a, b asked, common map[string]bool) bool {
	if !kindsAgree(a.kind, b.kind) || a.or != b.or || a.matter != "" && b.matter != "" && a.matter != b.matter {
		return false
	}
	alike := similarity(a, b, common)
	return alike >= sameQuestion || alike >= sameInTheme && a.theme > 0 && a.theme == b.theme && a.kind == b.kind
}

// similarity is the weighted Jaccard similarity of what two questions are about, 0 to 1.
// The words of the keyword stand in nearly every question of its field and so weigh less.
// The weight was fixed against the pairs in find_test.go.
func similarity(a, b asked, common map[string]bool) float64 {
	return jaccard(a.tokens, b.tokens, common)
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

// kindsAgree holds apart questions that share their words but ask for
// different things: when against where.
func kindsAgree(a, b language.QuestionKind) bool {
	loose := func(k language.QuestionKind) bool {
		return k == language.What || k == language.YesNo || k == language.How || k == language.Which
	}
	return a == b || loose(a) && loose(b)
}

// headed are the sections of the themes of a field.
type headed struct {
	common   map[string]bool
	sections map[int]map[int][]int // by theme and page number, in order
	tokens   map[int][][]string    // of the headings of a theme
	theme    map[[2]int]int        // of a rank and section
}

func headingsOf(f *corpus.Field, treated Treated) *headed {
	h := &headed{f.KeywordStems(), map[int]map[int][]int{}, map[int][][]string{}, map[[2]int]int{}}
	if treated == nil {
		return h
	}
	for i, d := range f.Docs {
		for n, s := range d.Reading.Sections {
			t := treated(f.Ranks[i], n)
			if t == 0 {
				continue
			}
			if h.sections[t] == nil {
				h.sections[t] = map[int][]int{}
			}
			h.sections[t][i] = append(h.sections[t][i], n)
			_, tokens := tokensOf(f.Language, s.Heading)
			h.tokens[t] = append(h.tokens[t], tokens)
			h.theme[[2]int{f.Ranks[i], n}] = t
		}
	}
	return h
}

// themeOf is the theme that a question asks about: that of the section it heads, else the one with the heading
// most like it.
func (h *headed) themeOf(q asked) int {
	if q.Place == "heading" {
		return h.theme[[2]int{q.Rank, q.Section}]
	}
	best, most := 0, 0.0
	for _, t := range sortedKeys(h.tokens) {
		for _, tokens := range h.tokens[t] {
			if alike := jaccard(q.tokens, tokens, h.common); alike >= sameHeading && alike > most {
				best, most = t, alike
			}
		}
	}
	return best
}

func sortedKeys[V any](m map[int]V) []int {
	keys := make([]int, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}
