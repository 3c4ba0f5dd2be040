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
func (d *Doc) collectPhrases(lang *language.Language, known *lookup) {
	s := newShape(d, lang)
	var made usages
	for i := range d.Sentences {
		sen := &d.Sentences[i]
		if sen.Kind == reading.LineCode || sen.Again || sen.Foreign {
			continue
		}
		s.each(sen.Tokens, func(from, to int) {
			toks := sen.Tokens[from:to]
			u := made.of(d, toks)
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
			if from > 0 && !toks[0].Broken {
				switch before := sen.Tokens[from-1].Folded; {
				case lang.IsDeterminer(before):
					u.The++
					u.Begun++
				case lang.IsPreposition(before):
					u.Begun++
				}
			}
			if s.isBare(sen.Tokens, from, to) {
				u.Bare++
			}
			u.saw(shown(sen, from, to, lang.NounsHaveCapitals))
		})
	}
	for _, line := range d.Reading.ImageTexts {
		image := Sentence{Text: line}
		image.tokenize(known, openingWords)
		seen := map[*Usage]bool{}
		s.each(image.Tokens, func(from, to int) {
			if u := d.Phrases[StemKey(image.Tokens[from:to])]; u != nil && !seen[u] {
				u.Images++
				seen[u] = true
			}
		})
	}
	title := Sentence{Text: d.Reading.Title}
	title.tokenize(known, openingWords)
	s.each(title.Tokens, func(from, to int) {
		if u := d.Phrases[StemKey(title.Tokens[from:to])]; u != nil {
			u.Title = true
		}
	})
}

// PhrasesOf gives a function that goes through the phrases of a document's sentences that have
// the shape of a term, by their tokens: those that the vocabulary counts. A sentence that does
// not count has none.
func PhrasesOf(d *Doc, lang *language.Language) func(s *Sentence, yield func(from, to int)) {
	shape := newShape(d, lang)
	return func(s *Sentence, yield func(from, to int)) {
		if s.Kind != reading.LineCode && !s.Again && !s.Foreign {
			shape.each(s.Tokens, yield)
		}
	}
}

// isBare tells whether a phrase is no part of a longer one, as far as the words beside
// it can tell.
func (s *shape) isBare(toks []Token, from, to int) bool {
	if from > 0 && !toks[from].Broken && s.of(&toks[from-1])&canBegin != 0 {
		return false
	}
	return to == len(toks) || toks[to].Broken || s.of(&toks[to])&canEnd == 0
}

// usages makes the records of a page's phrases in lots, since most phrases are used once:
// each with room for one way of writing and one section.
type usages struct {
	room     []Usage
	surfaces []Surface
	sections []int32
	key      []byte // where a key is put together
}

// usageLot is how many are made at once. Our own.
const usageLot = 256

// of is what the page does with a phrase.
func (us *usages) of(d *Doc, toks []Token) *Usage {
	us.key = appendKey(us.key[:0], toks)
	if u := d.Phrases[string(us.key)]; u != nil {
		return u
	}
	if len(us.room) == 0 {
		us.room, us.surfaces, us.sections = make([]Usage, usageLot), make([]Surface, usageLot), make([]int32, usageLot)
	}
	u := &us.room[0]
	u.Surfaces, u.Sections = us.surfaces[:0:1], us.sections[:0:1]
	us.room, us.surfaces, us.sections = us.room[1:], us.surfaces[1:], us.sections[1:]
	d.Phrases[string(us.key)] = u
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
