package language

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/text"
)

// Ease is how easily a text reads, by the formula made for its language.
type Ease struct {
	Formula string  // whose it is
	Plain   float64 // what plain text has
	Harder  bool    // more is harder
	of      func(text.Prose) float64
}

// Of is the ease of some prose; 0 of none.
func (e Ease) Of(p text.Prose) float64 {
	if e.of == nil || p.Words == 0 || p.Sentences == 0 {
		return 0
	}
	return text.Round2(e.of(p))
}

// Meets tells whether a text is as easy as another one, but for a little.
func (e Ease) Meets(ease, asked, but float64) bool {
	if e.Harder {
		return ease <= asked+but
	}
	return ease >= asked-but
}

// EaseOf is the formula of a language; ok is false where none is known. A page that does not say its language is taken for English until
// its text says another.
func EaseOf(code string) (Ease, bool) {
	if code == "" {
		code = Program
	}
	e := knownOf(code).Rules.ease
	return e, e.of != nil
}

// The formulas, all but one with words and syllables for words a sentence and syllables a word. Written from memory of their
// publications.
var (
	// Flesch (1948): 206.835 − 1.015·words − 84.6·syllables.
	flesch = Ease{"Flesch", 60, false, func(p text.Prose) float64 { return linear(p, 206.835, 1.015, 84.6) }}
	// Amstad (1978), "Wie verständlich sind unsere Zeitungen?": 180 − words − 58.5·syllables.
	amstad = Ease{"Amstad", 60, false, func(p text.Prose) float64 { return linear(p, 180, 1, 58.5) }}
	// Kandel & Moles (1958): 207 − 1.015·words − 73.6·syllables.
	kandelMoles = Ease{"Kandel–Moles", 60, false, func(p text.Prose) float64 { return linear(p, 207, 1.015, 73.6) }}
	// Fernández Huerta (1959): 206.84 − 1.02·words − 60·syllables.
	fernandezHuerta = Ease{"Fernández Huerta", 60, false, func(p text.Prose) float64 { return linear(p, 206.84, 1.02, 60) }}
	// Douma (1960), "De leesbaarheid van landbouwbladen": 206.84 − 0.93·words − 77·syllables.
	douma = Ease{"Douma", 60, false, func(p text.Prose) float64 { return linear(p, 206.84, 0.93, 77) }}
	// Martins, Ghiraldelo, Nunes & Oliveira (1996): Flesch's with 42 more.
	martins = Ease{"Martins", 60, false, func(p text.Prose) float64 { return linear(p, 248.835, 1.015, 84.6) }}
	// Gulpease, Lucisano & Piemontese (1988): 89 + (300·sentences − 10·letters)/words.
	gulpease = Ease{"Gulpease", 60, false, func(p text.Prose) float64 {
		return 89 + (300*float64(p.Sentences)-10*float64(p.Letters))/float64(p.Words)
	}}
	// LIX, Björnsson (1968): words a sentence and the percentage of words of more than six letters; more is harder.
	lix = Ease{"LIX", 40, true, func(p text.Prose) float64 {
		return float64(p.Words)/float64(p.Sentences) + 100*float64(p.Long)/float64(p.Words)
	}}
)

func linear(p text.Prose, base, perSentence, perWord float64) float64 {
	return base - perSentence*float64(p.Words)/float64(p.Sentences) - perWord*float64(p.Syllables)/float64(p.Words)
}

// Syllables counts the syllables of a word: of an English one by a dictionary, of others by the vowels, and the groups of vowels that are
// spoken as one, less what is mute at the end. At least 1.
func (l *Language) Syllables(word string) int {
	if l.Code == Program || l.Code == "" {
		return text.Syllables(word)
	}
	word = text.Lower(word)
	for _, end := range l.known.mute {
		if stem, ok := strings.CutSuffix(word, end); ok && strings.ContainsFunc(stem, l.isVowel) {
			word = stem
			break
		}
	}
	n := 0
	for rest := word; rest != ""; {
		group := ""
		for _, g := range l.known.nuclei { // the longest first
			if strings.HasPrefix(rest, g) {
				group = g
				break
			}
		}
		r, size := utf8.DecodeRuneInString(rest)
		switch {
		case group != "":
			n++
			rest = rest[len(group):]
		case l.isVowel(r):
			n++
			rest = rest[size:]
		default:
			rest = rest[size:]
		}
	}
	return max(n, 1)
}

func (l *Language) isVowel(r rune) bool {
	return unicode.IsLetter(r) && strings.ContainsRune("aeiouyáéíóúàèìòùâêîôûäëïöüãõåæœøý", r)
}
