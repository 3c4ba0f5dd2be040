package entities

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// trimmer tells ordinary words from those of names, in one field.
type trimmer struct {
	*corpus.Field
	lower map[string]int // stems of words in small letters
	code  map[string]int // what is set as code, as it is written

	determined map[string]int // folded words that end a phrase which a determiner begins
	alone      map[string]int // folded words that are a phrase by themselves, with no determiner
}

func newTrimmer(f *corpus.Field) *trimmer {
	t := &trimmer{f, map[string]int{}, map[string]int{}, map[string]int{}, map[string]int{}}
	for _, d := range f.Docs {
		for w, n := range d.Lower {
			t.lower[f.Language.StemFolded(w)] += n
		}
		for c, n := range d.Reading.Code {
			t.code[c] += n
		}
		for n := range d.Sentences {
			t.notePhrases(&d.Sentences[n])
		}
	}
	return t
}

// notePhrases notes which words of a sentence end a phrase with a determiner before it,
// with at most one word between, and which stand alone.
func (t *trimmer) notePhrases(s *corpus.Sentence) {
	if s.Heading || s.Kind == reading.LineCode {
		return
	}
	ends := func(i int) bool { return i+1 == len(s.Tokens) || s.Tokens[i+1].Stop || s.Tokens[i+1].Broken }
	for i, tok := range s.Tokens {
		if tok.Stop || tok.Number || !ends(i) || i == 0 {
			continue
		}
		before := s.Tokens[i-1]
		switch {
		case tok.Broken:
		case t.Language.IsDeterminer(before.Folded), i > 1 && !before.Stop && !before.Broken && t.Language.IsDeterminer(s.Tokens[i-2].Folded):
			t.determined[tok.Folded]++
		case before.Stop:
			t.alone[tok.Folded]++
		}
	}
}

// trim takes from the front and the end of a run what the field shows to be ordinary
// words; no words if nothing of a name is left.
func (t *trimmer) trim(m mention) mention {
	lang := t.Language
	m = t.trimEnds(m)
	if len(m.words) == 1 && isNumber(m.words[0]) || isKey(m.words) || isAfterFigure(m, lang) {
		m.words = nil
	}
	for i, w := range m.words {
		if t.isOrdinary(w) || len(w) < 2 {
			continue
		}
		// Where nouns have capitals a run of them is a name only if each may be of one.
		if lang.NounsHaveCapitals && i > 0 && t.isOrdinary(m.words[0]) && !lang.EndsOrganisation(text.Fold(m.words[0])) && !lang.IsHonorific(text.Fold(m.words[0])) {
			m.words, m.from = m.words[i:], m.from+i
		}
		if len(m.words) == 1 && isNumber(m.words[0]) {
			break
		}
		return m
	}
	if !t.endsAName(m.words) {
		m.words = nil
	}
	return m
}

// trimEnds takes pointers, joining words and what opens a sentence from the front of a run,
// and joining words from its end.
func (t *trimmer) trimEnds(m mention) mention {
	lang := t.Language
	for len(m.words) > 0 {
		n := 0
		switch {
		case len(m.words) > 1 && isPointer(m.words[:2], lang):
			n = 2
		case lang.Joins(text.Fold(m.words[0])) || m.start && m.from == 0 && t.isOrdinary(m.words[0]) || t.opensNoName(m.words):
			n = 1
		}
		if n == 0 {
			break
		}
		m.words, m.from, m.start = m.words[n:], m.from+n, false
	}
	for len(m.words) > 0 && lang.Joins(text.Fold(m.words[len(m.words)-1])) {
		m.words, m.to = m.words[:len(m.words)-1], m.to-1
	}
	return m
}

// endsAName tells ordinary words that are a name together by the last of them: "Riverside
// Path", and "ISO 9001".
func (t *trimmer) endsAName(words []string) bool {
	lang, last := t.Language, len(words)-1
	if last < 1 || lang.NounsHaveCapitals {
		return false
	}
	folded := text.Fold(words[last])
	return lang.EndsOrganisation(folded) || lang.EndsPlace(folded) || lang.EndsLaw(folded) || lang.EndsEvent(folded) ||
		isNumber(words[last]) && isAbbreviation(words[0])
}

// opensNoName tells words in capitals that stand before a name and are none of it: a
// function word, a weekday or month.
func (t *trimmer) opensNoName(words []string) bool {
	folded := t.Language.Bare(text.Fold(words[0]))
	return len(words) > 1 && (t.Language.Stop(folded) && words[0] != strings.ToUpper(words[0]) || t.Language.InCalendar(folded))
}

// isOrdinary tells a word that is not one of a name by itself. The shares are our own.
func (t *trimmer) isOrdinary(w string) bool {
	mostly, always := 0.6, 0.95 // share of uses inside sentences with a capital
	lang := t.Language
	folded := lang.Bare(text.Fold(w))
	ratio, seen := t.Capitals[folded]
	if lang.Senses && !corpus.IsWord(folded) { // no word in small letters, but a command or a file of that name
		mostly = 0.15
	}
	switch {
	case lang.Stop(folded) && !isAbbreviation(w), lang.Joins(folded), lang.InCalendar(folded), lang.Light(folded) && ratio < always:
		return true
	case t.isShouted(w):
		return true
	case lang.NounsHaveCapitals:
		return !hasSigns(w) && t.isGermanNoun(w, folded)
	case isAbbreviation(w):
		return t.lower[lang.StemFolded(folded)] > 0 && ratio < mostly
	}
	return !isBranded(w) && !hasSigns(w) && (!seen || ratio < mostly)
}

// isShouted tells a word in capitals that is an ordinary one in small letters: a word
// of a programming language, or a cry ("SELECT", "NEVER").
func (t *trimmer) isShouted(w string) bool {
	if _, ok := lexicon.KindOf(w); ok { // NATO
		return false
	}
	small := strings.ToLower(w)
	if root := strings.TrimRightFunc(w, unicode.IsLower); len(root) < 2 || root != strings.ToUpper(root) || len(w)-len(root) > 3 { // "ATTACHed"
		return false
	}
	for _, d := range t.Docs {
		if len(w) <= longestAbbreviation && d.Abbreviations[t.Language.PhraseKey(w)] != "" {
			return false
		}
	}
	if t.Language.Senses {
		return len(w) > 2 && corpus.IsWord(small)
	}
	return len(w) > 3 && t.Language.Rank(text.Fold(small)) > 0
}

// isGermanNoun tells a noun that has its capital as all nouns: one of the language's
// words or made of two, one that stands after an article, or one with a noun's ending.
func (t *trimmer) isGermanNoun(w, folded string) bool {
	lang := t.Language
	if isPlace(w) || lexicon.IsFirstName(w) && lang.Rank(folded) == 0 {
		return false
	}
	if k, ok := lexicon.KindOf(w); ok && (k == lexicon.Organisation || k == lexicon.Product) && lang.Rank(folded) == 0 {
		return false
	}
	if lang.Rank(folded) > 0 || lang.EndsAsNoun(folded) || lang.IsCompound(folded) || t.lower[lang.StemFolded(folded)] > 0 {
		return true
	}
	return t.determined[folded] > 0 || endsInWord(folded, lang)
}

// endsInWord tells a word that ends in one of the language's words, as a compound does.
func endsInWord(folded string, lang *language.Language) bool {
	const shortest = 4 // letters of either part; our own
	for i := shortest - 1; i+shortest <= len(folded); i++ {
		if lang.Rank(folded[i:]) > 0 {
			return true
		}
	}
	return false
}

// hasSigns tells a word with a capital or a figure within: "FreeBSD", "X11". A word all in
// capitals has none.
func hasSigns(w string) bool {
	if w == strings.ToUpper(w) && len(w) > 6 {
		return false
	}
	for i, r := range w {
		if i > 0 && w[i-1] != '-' && (unicode.IsUpper(r) || unicode.IsDigit(r)) || r == '&' || r == '#' || r == '+' {
			return true
		}
	}
	return false
}

// isCode tells a name that mostly stands where code is set.
func (t *trimmer) isCode(e *named) bool {
	const mostly = 0.4 // of its mentions; our own
	n, code := 0, 0
	for shape, c := range e.shapes {
		n += c
		code += t.code[shape]
	}
	return float64(code) >= mostly*float64(n)
}

// isPointer tells two words that point at a part of a document: "Section 3.3", "Appendix C".
func isPointer(words []string, lang *language.Language) bool {
	return lang.IsPart(text.Fold(words[0])) && (isNumber(words[1]) || utf8.RuneCountInString(words[1]) == 1)
}

// isAfterFigure tells a unit that stands after its figure: "10 Go".
func isAfterFigure(m mention, lang *language.Language) bool {
	return len(m.words) == 1 && m.from > 0 && m.sentence.Tokens[m.from-1].Number && lang.IsUnit(text.Fold(m.words[0]))
}

// isCommon tells a single word that is ordinary in the language and that one page alone
// writes as a name: a label of its own ("the Director", "press Undo").
func (t *trimmer) isCommon(e *named) bool {
	if len(e.words) != 1 {
		return false
	}
	w := e.words[0]
	if hasSigns(w) {
		return e.Pages < 2 && isCamel(w)
	}
	folded := t.Language.Bare(text.Fold(w))
	if _, ok := lexicon.KindOf(w); ok && t.Language.Senses || isPlace(w) || lexicon.IsFirstName(w) && !t.Language.Senses {
		return false
	}
	if t.Language.Senses {
		return corpus.IsWord(folded) && (e.Pages < 2 || t.lower[t.Language.StemFolded(folded)] > 0)
	}
	return t.Language.Rank(folded) > 0 || t.lower[t.Language.StemFolded(folded)] > 0
}

// longestAbbreviation is how many letters one has that nobody explains. Our own.
const longestAbbreviation = 6

func isAbbreviation(w string) bool {
	return len(w) >= 2 && len(w) <= longestAbbreviation && strings.ToUpper(w) == w && strings.ToLower(w) != w && !strings.ContainsAny(w, "#+&")
}

// isCamel tells words of the language written as one, as programs name their things:
// "RecordList".
func isCamel(w string) bool {
	from, parts := 0, 0
	for i, r := range w + "A" {
		if i == 0 || !unicode.IsUpper(r) {
			continue
		}
		if part := strings.ToLower(w[from:i]); len(part) > 1 && !corpus.IsWord(part) {
			return false
		}
		from = i
		parts++
	}
	return parts > 1
}

func isNumber(w string) bool { return w != "" && strings.Trim(w, "0123456789.-") == "" }

// keys are the names of a keyboard's keys in the eight languages, folded, and other
// words that a person presses. Our own list.
var keys = language.Set(`ctrl alt altgr shift esc escape enter return tab del delete ins insert backspace home end pgup pgdn capslock cmd option ok
	strg umschalt umschalttaste eingabe eingabetaste entf einfg pos1 ende maj majuscule entree echap suppr inser verrmaj mayus mayusc intro supr maiusc invio canc
	hoofdletter wissen skift retur tabb f1 f2 f3 f4 f5 f6 f7 f8 f9 f10 f11 f12`)

func isKey(words []string) bool {
	return len(words) > 0 && !slices.ContainsFunc(words, func(w string) bool {
		for part := range strings.SplitSeq(text.Fold(w), "-") {
			if !keys[part] && len(part) > 1 {
				return true
			}
		}
		return false
	})
}
