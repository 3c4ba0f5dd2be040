package reading

import (
	"regexp"
	"regexp/syntax"
	"slices"
	"strings"
	"unicode"
)

// phrases are many patterns of which a text must match one as a whole. Which
// could match is told by the text's first word, so that most texts are asked
// about none of them.
type phrases struct {
	byFirst map[string][]*regexp.Regexp
	any     []*regexp.Regexp // of patterns that may begin with anything
}

// newPhrases compiles patterns that are matched whatever the case, with a tail
// after each.
func newPhrases(tail string, patterns ...string) *phrases {
	p := &phrases{byFirst: map[string][]*regexp.Regexp{}}
	for _, pattern := range patterns {
		re := regexp.MustCompile(`(?i)^(?:` + pattern + `)` + tail + `$`)
		tree, err := syntax.Parse(`(?i)`+pattern, syntax.Perl)
		if err != nil {
			panic(err) // MustCompile would have
		}
		words, ok := openings{}.through(tree, []opening{{}})
		if !ok || slices.ContainsFunc(words, func(o opening) bool { return !o.ended && o.word == "" }) {
			p.any = append(p.any, re)
			continue
		}
		for _, o := range words {
			if l := p.byFirst[o.word]; !slices.Contains(l, re) {
				p.byFirst[o.word] = append(l, re)
			}
		}
	}
	return p
}

// match tells whether a whole text is one of the phrases.
func (p *phrases) match(s string) bool {
	first := s
	if i := strings.IndexFunc(s, func(r rune) bool { return !unicode.IsLetter(r) }); i >= 0 {
		first = s[:i]
	}
	matches := func(re *regexp.Regexp) bool { return re.MatchString(s) }
	return slices.ContainsFunc(p.byFirst[strings.ToLower(first)], matches) || slices.ContainsFunc(p.any, matches)
}

// opening is a first word as far as it is known; ended when something that is
// no letter follows it.
type opening struct {
	word  string
	ended bool
}

// openings computes the first words of what a pattern matches: the FIRST sets
// of parsing, taken as far as the first character that is no letter.
type openings struct{}

// mostLetters in a class that is still written out.
const mostLetters = 8

// through extends the openings by what re matches; false if they are not to be told.
func (f openings) through(re *syntax.Regexp, before []opening) ([]opening, bool) {
	switch re.Op {
	case syntax.OpLiteral:
		for _, r := range re.Rune {
			before = f.by(before, r)
		}
		return before, true
	case syntax.OpCharClass:
		var runes []rune
		letters := false
		for i := 0; i < len(re.Rune); i += 2 {
			for r := re.Rune[i]; r <= re.Rune[i+1]; r++ {
				letters = letters || unicode.IsLetter(r)
				if runes = append(runes, r); len(runes) > 2*mostLetters && letters || len(runes) > 1000 {
					return before, allEnded(before)
				}
			}
		}
		if !letters {
			return f.by(before, ' '), true
		}
		var all []opening
		for _, r := range runes {
			all = append(all, f.by(before, r)...)
		}
		return all, true
	case syntax.OpCapture:
		return f.through(re.Sub[0], before)
	case syntax.OpConcat:
		ok := true
		for _, sub := range re.Sub {
			if before, ok = f.through(sub, before); !ok {
				return nil, false
			}
		}
		return before, true
	case syntax.OpAlternate:
		var all []opening
		for _, sub := range re.Sub {
			more, ok := f.through(sub, before)
			if !ok {
				return nil, false
			}
			all = append(all, more...)
		}
		return all, true
	case syntax.OpQuest:
		more, ok := f.through(re.Sub[0], before)
		return append(slices.Clone(before), more...), ok
	case syntax.OpStar, syntax.OpPlus, syntax.OpRepeat:
		more, ok := f.through(re.Sub[0], before)
		if !ok || !allEnded(more) { // a second time would go on
			return before, allEnded(before)
		}
		if re.Op == syntax.OpStar || re.Op == syntax.OpRepeat && re.Min == 0 {
			more = append(slices.Clone(before), more...)
		}
		return more, true
	case syntax.OpEmptyMatch, syntax.OpWordBoundary:
		return before, true
	}
	return before, allEnded(before)
}

func (openings) by(before []opening, r rune) []opening {
	after := make([]opening, len(before))
	for i, o := range before {
		if !o.ended && unicode.IsLetter(r) {
			o.word += string(unicode.ToLower(r))
		} else {
			o.ended = true
		}
		after[i] = o
	}
	return after
}

func allEnded(all []opening) bool {
	return !slices.ContainsFunc(all, func(o opening) bool { return !o.ended })
}
