package corpus

import (
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/lexicon"
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
}

func newShape(d *Doc, lang *language.Language) *shape {
	return &shape{doc: d, lang: lang, parts: map[string]part{}}
}

// each calls yield with the bounds of every phrase of up to longestPhrase
// words. Nothing crosses punctuation.
func (s *shape) each(toks []Token, yield func(from, to int)) {
	for i := range toks {
		first := s.of(toks[i])
		if first&canBeAlone != 0 && !midWord(toks, i, i+1) {
			yield(i, i+1)
		}
		if first&canBegin == 0 || !toks[i].WordStart {
			continue
		}
		for n := 2; n <= longestPhrase && i+n <= len(toks); n++ {
			last := toks[i+n-1]
			if last.Broken {
				break
			}
			p := s.of(last)
			if p&canEnd != 0 && !midWord(toks, i, i+n) && (n > 2 || toks[i].Stem != last.Stem) {
				yield(i, i+n)
			}
			if p&canStand == 0 && !(s.lang.Links(last.Folded) && i+n < len(toks)) {
				break
			}
		}
	}
}

// midWord tells whether a run would cut a hyphenated word in two.
func midWord(toks []Token, from, to int) bool {
	return !toks[from].WordStart || to < len(toks) && !toks[to].WordStart
}

func (s *shape) of(t Token) part {
	if p, ok := s.parts[t.Folded]; ok {
		return p
	}
	p := s.judge(t)
	s.parts[t.Folded] = p
	return p
}

func (s *shape) judge(t Token) part {
	const all = canBegin | canStand | canEnd | canBeAlone
	switch {
	case t.Stop || s.lang.Light(t.Folded):
		return 0
	case t.Number:
		if strings.IndexFunc(t.Folded, func(r rune) bool { return r >= 'a' && r <= 'z' }) > 0 && !isOrdinalOrUnit(t.Folded) {
			return all // a designation: "700c"
		}
		return 0
	case len(t.Folded) < 2:
		return canBegin | canStand // the "e" of "e-bike"
	case s.lang.IsNumber(t.Folded) && s.lang.Code != "en":
		return 0
	case s.lang.Code != "en":
		if len(t.Folded) < 3 {
			return canBegin | canStand
		}
		return s.judgeByContext(t)
	}
	noun, verb, adjective, adverb := PartsOfSpeech(t.Folded)
	total := noun + verb + adjective + adverb
	inflected := strings.HasSuffix(t.Folded, "ing") || strings.HasSuffix(t.Folded, "ed")
	switch {
	case total == 0:
		if strings.HasSuffix(t.Folded, "ly") && len(t.Folded) > 4 {
			return 0
		}
		if strings.Contains(t.Folded, "'") {
			return 0
		}
		return all // unknown to the dictionary: a trade word or a name
	case adverb*2 > total:
		return 0
	case noun*4 >= total:
		return all
	case adjective*2 >= total:
		return canBegin | canStand | canBeAlone
	case inflected:
		return canBegin | canStand
	case noun > 0:
		return canEnd // a verb first ("ride"), but a noun after another: "winter ride"
	}
	return 0
}

func isOrdinalOrUnit(s string) bool {
	tail := strings.TrimLeft(s, "0123456789.,")
	return slices.Contains([]string{"st", "nd", "rd", "th", "s", "mm", "cm", "km", "m", "kg", "g", "ml", "l", "psi", "mph", "kph", "am", "pm", "c", "f", "x", "w", "v", "k", "h", "min", "hrs"}, tail) && tail != s && !(tail == "c" && len(s) >= 4)
}

// PartsOfSpeech are WordNet's sense counts of a form, or of the base forms it
// can be an inflection of by WordNet's rules of detachment (morphy).
func PartsOfSpeech(form string) (noun, verb, adjective, adverb int) {
	if w, ok := lexicon.English(form); ok {
		noun, verb, adjective, adverb = w.Noun, w.Verb, w.Adjective, w.Adverb
	}
	if strings.HasSuffix(form, "s") && !strings.HasSuffix(form, "ss") {
		for _, base := range detach(form, "s", "", "es", "", "ies", "y", "ves", "f") {
			if w, ok := lexicon.English(base); ok {
				noun += w.Noun
				verb += w.Verb
			}
		}
		return noun, verb, adjective, adverb
	}
	for _, base := range detach(form, "ing", "", "ing", "e", "ed", "", "ed", "e", "ied", "y") {
		if w, ok := lexicon.English(base); ok {
			verb += w.Verb
		}
	}
	for _, base := range detach(form, "er", "", "er", "e", "est", "", "est", "e", "ier", "y", "iest", "y") {
		if w, ok := lexicon.English(base); ok && w.Adjective*2 > w.Senses() && noun == 0 {
			adjective += w.Adjective
		}
	}
	return noun, verb, adjective, adverb
}

// detach gives the bases left when an ending is replaced: pairs of ending and
// replacement. A doubled last consonant is undone ("fitted", "fit").
func detach(form string, rules ...string) []string {
	var bases []string
	for i := 0; i+1 < len(rules); i += 2 {
		base, ok := strings.CutSuffix(form, rules[i])
		if !ok || len(base) < 2 {
			continue
		}
		bases = append(bases, base+rules[i+1])
		if n := len(base); rules[i+1] == "" && n > 2 && base[n-1] == base[n-2] {
			bases = append(bases, base[:n-1])
		}
	}
	return bases
}
