package corpus

import (
	"strings"

	"corpulan/core/language"
	"corpulan/core/reading"
)

// longestPhrase is how many words a term may have. Terms of technical prose have
// mostly two, and hardly ever more than five (Justeson & Katz 1995, from
// memory).
const longestPhrase = 5

// collectPhrases finds every phrase of the document that has the shape of a
// term and counts it under its stems.
func (d *Doc) collectPhrases(lang *language.Language) {
	s := newShape(d, lang)
	var key []byte
	for i := range d.Sentences {
		sen := &d.Sentences[i]
		if sen.Kind == reading.LineCode || sen.Again || sen.Foreign {
			continue
		}
		s.each(sen.Tokens, func(from, to int) {
			toks := sen.Tokens[from:to]
			u := d.usage(toks, &key)
			u.Count++
			if n := len(u.Sections); n == 0 || u.Sections[n-1] != int32(sen.Section) {
				u.Sections = append(u.Sections, int32(sen.Section))
			}
			if sen.Heading {
				u.Headings++
			}
			if sen.Opening {
				u.Opening++
			}
			if from > 0 && !toks[0].Broken && (lang.IsDeterminer(sen.Tokens[from-1].Folded) || lang.IsPreposition(sen.Tokens[from-1].Folded)) {
				u.Begun++
			}
			if s.isBare(sen.Tokens, from, to) {
				u.Bare++
			}
			u.saw(shown(sen, from, to, lang.NounsHaveCapitals))
		})
	}
	for _, line := range d.Reading.ImageTexts {
		image := Sentence{Text: line}
		image.tokenize(lang, openingWords)
		seen := map[*Usage]bool{}
		s.each(image.Tokens, func(from, to int) {
			if u := d.Phrases[StemKey(image.Tokens[from:to])]; u != nil && !seen[u] {
				u.Images++
				seen[u] = true
			}
		})
	}
	title := Sentence{Text: d.Reading.Title}
	title.tokenize(lang, openingWords)
	s.each(title.Tokens, func(from, to int) {
		if u := d.Phrases[StemKey(title.Tokens[from:to])]; u != nil {
			u.Title = true
		}
	})
}

// isBare tells whether a phrase is no part of a longer one, as far as the words beside
// it can tell.
func (s *shape) isBare(toks []Token, from, to int) bool {
	if from > 0 && !toks[from].Broken && s.of(&toks[from-1])&canBegin != 0 {
		return false
	}
	return to == len(toks) || toks[to].Broken || s.of(&toks[to])&canEnd == 0
}

// usage is what the page does with a phrase. buf is where its key is put together.
func (d *Doc) usage(toks []Token, buf *[]byte) *Usage {
	*buf = appendKey((*buf)[:0], toks)
	u := d.Phrases[string(*buf)]
	if u == nil {
		u = &Usage{}
		d.Phrases[string(*buf)] = u
	}
	return u
}

// StemKey is the key of a run of tokens.
func StemKey(toks []Token) string {
	if len(toks) == 1 {
		return toks[0].Stem
	}
	return string(appendKey(nil, toks))
}

func appendKey(b []byte, toks []Token) []byte {
	for i := range toks {
		if i > 0 {
			b = append(b, ' ')
		}
		b = append(b, toks[i].Stem...)
	}
	return b
}

// shown is the phrase as it is written, small letters where the capital may
// be the sentence's or the heading's. Which words are names the whole field
// decides later, so capitals inside running text stay; where nouns have them, all do.
func shown(s *Sentence, from, to int, nouns bool) string {
	v := s.Text[s.Tokens[from].Start:s.Tokens[to-1].End]
	if strings.ContainsAny(v, "\u2010\u2011\u2019") {
		v = strings.NewReplacer("\u2010", "-", "\u2011", "-", "\u2019", "'").Replace(v)
	}
	v = strings.TrimSuffix(v, "'s")
	if !nouns && (s.Heading || from == 0) {
		return strings.ToLower(v)
	}
	return v
}
