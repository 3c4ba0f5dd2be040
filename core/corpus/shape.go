package corpus

import (
	"slices"
	"strings"

	"corpulan/core/language"
)

// part is what a word can be in a term.
type part uint8

const (
	canBegin part = 1 << iota
	canStand      // inside
	canEnd
	canBeAlone
)

// shape decides which runs of tokens look like a term: noun phrases, without a
// tagger, by the parts of speech a word form usually has.
type shape struct {
	doc   *Doc // whose phrases they are
	lang  *language.Language
	parts map[string]part
	now   []part // see ofAll
}

func newShape(d *Doc, lang *language.Language) *shape {
	return &shape{doc: d, lang: lang, parts: map[string]part{}}
}

// each calls yield with the bounds of every phrase of up to longestPhrase
// words. Nothing crosses punctuation.
func (s *shape) each(toks []Token, yield func(from, to int)) {
	parts := s.ofAll(toks)
	for i := range toks {
		first := parts[i]
		if first&canBeAlone != 0 && !midWord(toks, i, i+1) {
			yield(i, i+1)
		}
		if first&canBegin == 0 || !toks[i].WordStart {
			continue
		}
		for n := 2; n <= longestPhrase && i+n <= len(toks); n++ {
			last := &toks[i+n-1]
			if last.Broken {
				break
			}
			p := parts[i+n-1]
			if p&canEnd != 0 && !midWord(toks, i, i+n) && (n > 2 || toks[i].Stem != last.Stem) {
				yield(i, i+n)
			}
			if p&canStand == 0 && !(i+n < len(toks) && s.lang.Links(last.Folded)) {
				break
			}
		}
	}
}

// ofAll is what each token can be. The slice serves until the next call.
func (s *shape) ofAll(toks []Token) []part {
	s.now = s.now[:0]
	for i := range toks {
		p := s.of(&toks[i])
		if p == 0 && i+1 < len(toks) && !toks[i+1].WordStart && !toks[i].Stop && s.lang.Light(toks[i].Folded) {
			p = canBegin | canStand // "quarter-turn"
		}
		s.now = append(s.now, p)
	}
	return s.now
}

// midWord tells whether a run would cut a hyphenated word in two.
func midWord(toks []Token, from, to int) bool {
	return !toks[from].WordStart || to < len(toks) && !toks[to].WordStart
}

func (s *shape) of(t *Token) part {
	const all = canBegin | canStand | canEnd | canBeAlone
	switch joined := !t.WordStart; {
	case joined && t.Number: // "VG-10"
		return canStand | canEnd
	case joined && !s.lang.AdjectivesFollow && (t.Stop || s.lang.Light(t.Folded)): // "pull-through", "quarter-turn"; but "peut-il"
		return canStand | canEnd
	case t.Stop && !s.lang.Qualifies(t.Folded):
		return 0
	case t.Mixed && !t.Number && len(t.Folded) > 1 && !isCode(t.Folded):
		return all
	}
	if p, ok := s.parts[t.Folded]; ok {
		return p
	}
	p := s.judge(*t)
	s.parts[t.Folded] = p
	return p
}

func (s *shape) judge(t Token) part {
	const all = canBegin | canStand | canEnd | canBeAlone
	switch {
	case s.lang.Qualifies(t.Folded):
		return canBegin
	case t.Stop || s.lang.Light(t.Folded):
		return 0
	case t.Number:
		if strings.IndexFunc(t.Folded, func(r rune) bool { return r >= 'a' && r <= 'z' }) > 0 && !isOrdinalOrUnit(t.Folded) {
			return all // a designation: "700c"
		}
		return 0
	case isCode(t.Folded):
		return 0
	case len(t.Folded) < 2:
		return canBegin | canStand // the "e" of "e-bike"
	case s.lang.IsNumber(t.Folded):
		return 0
	case !s.lang.Senses && len(t.Folded) < 3:
		return canBegin | canStand
	case s.lang.NounsHaveCapitals:
		return s.judgeByCapitals(t)
	case strings.Contains(t.Folded, "'"):
		return 0
	}
	p, adverb := priorOf(t.Folded, s.lang)
	if adverb {
		return 0
	}
	c := s.doc.distributionOf(t.Folded).class(t.Folded, p, s.lang)
	switch {
	case c.Noun >= minNoun:
		return all
	case c.Adjective >= c.Verb && s.lang.AdjectivesFollow:
		return all
	case c.Adjective >= c.Verb:
		return canBegin | canStand | canBeAlone
	case strings.HasSuffix(t.Folded, "ing") || strings.HasSuffix(t.Folded, "ed"):
		return canBegin | canStand | canBeAlone
	case c.Noun > 0:
		return canEnd | canBeAlone // a verb first ("ride"), but a noun after another: "winter ride"
	}
	return canBeAlone
}

// minNoun is how likely a word must be a noun on a page to be looked at as one;
// what the field makes of it is decided over all pages, see vocabulary. Our own.
const minNoun = 0.25

// judgeByCapitals is judge for languages whose nouns have capitals.
func (s *shape) judgeByCapitals(t Token) part {
	const all = canBegin | canStand | canEnd | canBeAlone
	c := s.doc.distributionOf(t.Folded)
	common := s.lang.Rank(t.Folded) > 0 && s.lang.Rank(t.Folded) <= commonWords
	switch {
	case c.Capitals > c.Smalls:
		return all
	case c.Capitals+c.Smalls == 0 && t.Capital && !common: // at the beginning of a sentence or heading only
		return all
	case c.Modifies > 0: // an adjective: "die guten Reifen"
		return canBegin | canStand
	}
	return 0
}

// isCode tells an article number: letters with three figures and more ("k1106").
func isCode(s string) bool {
	const figuresOfACode = 3 // our own: "ip67" and "m8" are terms, and so is "x50crmov15", which has more letters
	figures := 0
	for i := range len(s) {
		if s[i] >= '0' && s[i] <= '9' {
			figures++
		}
	}
	return figures >= figuresOfACode && 2*figures >= len(s)
}

func isOrdinalOrUnit(s string) bool {
	tail := strings.TrimLeft(s, "0123456789.,")
	return slices.Contains([]string{"st", "nd", "rd", "th", "s", "mm", "cm", "km", "m", "kg", "g", "ml", "l", "psi", "mph", "kph", "am", "pm", "c", "f", "x", "w", "v", "k", "h", "min", "hrs"}, tail) && tail != s && !(tail == "c" && len(s) >= 4)
}
