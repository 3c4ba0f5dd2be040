package evidence

import (
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/reading"
)

// longestPhrase is how many words a term may have.
const longestPhrase = 4

// collectPhrases finds every phrase of the document that has the shape of a
// term and counts it under its stems.
func (d *Doc) collectPhrases(lang *language.Language) {
	s := newShape(lang)
	for i := range d.sentences {
		sen := &d.sentences[i]
		if sen.kind == reading.LineCode {
			continue
		}
		s.each(sen.tokens, func(from, to int) {
			toks := sen.tokens[from:to]
			u := d.usage(toks)
			u.count++
			if sen.heading {
				u.headings++
			}
			if sen.opening {
				u.opening++
			}
			u.saw(shown(sen, from, to))
		})
	}
	title := sentence{text: d.Reading.Title}
	title.tokenize(lang, openingWords)
	s.each(title.tokens, func(from, to int) {
		if u := d.phrases[stemKey(title.tokens[from:to])]; u != nil {
			u.title = true
		}
	})
}

func (d *Doc) usage(toks []token) *usage {
	k := stemKey(toks)
	u := d.phrases[k]
	if u == nil {
		stems := make([]string, len(toks))
		for i, t := range toks {
			stems[i] = t.stem
		}
		u = &usage{stems: stems}
		d.phrases[k] = u
	}
	return u
}

func stemKey(toks []token) string {
	if len(toks) == 1 {
		return toks[0].stem
	}
	var b strings.Builder
	for i, t := range toks {
		if i > 0 {
			b.WriteByte(' ')
		}
		b.WriteString(t.stem)
	}
	return b.String()
}

// shown is the phrase as it is written, small letters where the capital may
// be the sentence's or the heading's. Which words are names the whole field
// decides later, so capitals inside running text stay.
func shown(s *sentence, from, to int) string {
	v := s.text[s.tokens[from].start:s.tokens[to-1].end]
	if strings.ContainsAny(v, "\u2010\u2011\u2019") {
		v = strings.NewReplacer("\u2010", "-", "\u2011", "-", "\u2019", "'").Replace(v)
	}
	v = strings.TrimSuffix(v, "'s")
	if s.heading || from == 0 {
		return strings.ToLower(v)
	}
	return v
}

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
	lang  *language.Language
	parts map[string]part
}

func newShape(lang *language.Language) *shape { return &shape{lang: lang, parts: map[string]part{}} }

// each calls yield with the bounds of every phrase of up to longestPhrase
// words. Nothing crosses punctuation.
func (s *shape) each(toks []token, yield func(from, to int)) {
	for i := range toks {
		first := s.of(toks[i])
		if first&canBeAlone != 0 && !midWord(toks, i, i+1) {
			yield(i, i+1)
		}
		if first&canBegin == 0 || !toks[i].wordStart {
			continue
		}
		for n := 2; n <= longestPhrase && i+n <= len(toks); n++ {
			last := toks[i+n-1]
			if last.broken {
				break
			}
			p := s.of(last)
			if p&canEnd != 0 && !midWord(toks, i, i+n) && (n > 2 || toks[i].stem != last.stem) {
				yield(i, i+n)
			}
			if p&canStand == 0 && !(s.lang.Links(last.folded) && i+n < len(toks)) {
				break
			}
		}
	}
}

// midWord tells whether a run would cut a hyphenated word in two.
func midWord(toks []token, from, to int) bool {
	return !toks[from].wordStart || to < len(toks) && !toks[to].wordStart
}

func (s *shape) of(t token) part {
	if p, ok := s.parts[t.folded]; ok {
		return p
	}
	p := s.judge(t)
	s.parts[t.folded] = p
	return p
}

func (s *shape) judge(t token) part {
	const all = canBegin | canStand | canEnd | canBeAlone
	switch {
	case t.stop || s.lang.Light(t.folded):
		return 0
	case t.number:
		if strings.IndexFunc(t.folded, func(r rune) bool { return r >= 'a' && r <= 'z' }) > 0 && !isOrdinalOrUnit(t.folded) {
			return all // a designation: "700c"
		}
		return 0
	case len(t.folded) < 2:
		return canBegin | canStand // the "e" of "e-bike"
	case s.lang.Code != "en":
		if len(t.folded) < 3 {
			return canBegin | canStand
		}
		return all
	}
	noun, verb, adjective, adverb := partsOfSpeech(t.folded)
	total := noun + verb + adjective + adverb
	inflected := strings.HasSuffix(t.folded, "ing") || strings.HasSuffix(t.folded, "ed")
	switch {
	case total == 0:
		if strings.HasSuffix(t.folded, "ly") && len(t.folded) > 4 {
			return 0
		}
		if strings.Contains(t.folded, "'") {
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

// partsOfSpeech are WordNet's sense counts of a form, or of the base forms it
// can be an inflection of by WordNet's rules of detachment (morphy).
func partsOfSpeech(form string) (noun, verb, adjective, adverb int) {
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
