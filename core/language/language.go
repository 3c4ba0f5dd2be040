// Package language holds all that depends on a language, one file for each that
// we read (english.go, german.go ...), and what is done with it:
//
//   - rules.go     what there is to know of a language
//   - language.go  stems, function words, the parts of a word, sentences
//   - inflection.go plurals that the stemmer leaves apart
//   - frequency.go how often general language has a word
//   - detect.go    which language a text is in
//   - question.go  what a question asks, and whether a sentence is one
//   - matters.go   general matters that headings name; how, in matters/
//   - listing.go   labels of lists of things, words of praise and blame; in listing/
//   - dates.go     names of months and weekdays
//   - tags.go      language tags and the names of languages
package language

import (
	"cmp"
	"strings"
	"sync"

	"github.com/blevesearch/snowballstem"

	"corpulan/core/text"
)

// Language brings the shapes of a word together in one language. It remembers
// the stems it has made. Any number of goroutines may use it.
type Language struct {
	Code string // ISO 639-1
	*known
	stems sync.Map // by folded word
}

// For prepares a language by its tag. A language that we have no rules for gets
// folded words as stems and no function words.
func For(tag string) *Language {
	code := Base(tag)
	return &Language{Code: code, known: knownOf(code)}
}

// Dictionary is the language whose words the dictionaries know; see Rules.Senses.
func Dictionary() *Language { return For(Program) }

// Program is the code of the language that the program itself speaks, where nothing says another.
const Program = "en"

// Graded tells whether the readability formulas are made for a language; so does a page that does
// not say its language, until its text does.
func Graded(code string) bool { return code == "" || knownOf(code).Rules.Graded }

// InAddress is a text as addresses of pages write its letters: small, without marks.
func (l *Language) InAddress(s string) string {
	s = text.Lower(s)
	for _, pair := range strings.Fields(l.Rules.Address) {
		from, to, _ := strings.Cut(pair, "=")
		s = strings.ReplaceAll(s, from, to)
	}
	return text.Fold(strings.ReplaceAll(s, "ß", "ss"))
}

// IsRead tells whether there are rules for the language.
func (l *Language) IsRead() bool { return l.Rules.Code != "" }

// Stem is the Snowball stem of a word (Porter 2001), made from its folded form, with plurals that
// Snowball leaves apart brought together (see inflection.go).
func (l *Language) Stem(word string) string { return l.StemFolded(text.Fold(word)) }

// StemFolded is Stem for a word that text.Fold has been through already.
func (l *Language) StemFolded(folded string) string {
	if s, ok := l.common()[folded]; ok {
		return s
	}
	if s, ok := l.stems.Load(folded); ok {
		return s.(string)
	}
	s := l.stem(folded)
	l.stems.Store(folded, s)
	return s
}

func (k *known) stem(folded string) string {
	s := k.inflected(k.spelt(folded))
	if k.stemmer != nil {
		env := snowballstem.NewEnv(s)
		k.stemmer(env)
		s = env.Current()
	}
	return k.joinedStem(s)
}

// commonest is how many of the commonest words have their stems made once for all.
// They are nine in ten of the words of most pages. Our own.
const commonest = 10_000

func (k *known) commonStems() map[string]string {
	of := make(map[string]string, commonest)
	for w, rank := range k.ranks {
		if rank <= commonest {
			of[w] = k.stem(w)
		}
	}
	for w := range k.function.folded {
		of[w] = k.stem(w)
	}
	return of
}

// spelt is the spelling by which all spellings of a folded word have one stem.
func (k *known) spelt(folded string) string {
	if ours, ok := k.spellings[folded]; ok {
		return ours
	}
	if len(k.spellings) == 0 {
		return folded
	}
	// -ize and -ise, -yze and -yse of longer words; that the one is a word is not
	// asked, since the spelling is never shown.
	const long = 6 // characters: "organize", but not "size" and "prize"; our own
	for _, end := range []string{"ze", "zed", "zes", "zing", "zation", "zations", "zer", "zers"} {
		if stem, ok := strings.CutSuffix(folded, end); ok && len(folded) > long && (strings.HasSuffix(stem, "i") || strings.HasSuffix(stem, "y")) {
			return stem + "s" + end[1:]
		}
	}
	return folded
}

// Stop tells whether a word is a function word. Accents count where they are
// written: French "ou" and "où" are two function words, "mais" is one and "maïs"
// is corn. A contraction is one if what stands before its apostrophe is
// ("you'll", "don't"); a word with an elision if what follows it is ("qu'il").
func (l *Language) Stop(word string) bool { return l.known.stop(word) }

func (k *known) stop(word string) bool {
	folded := text.Fold(word)
	if k.function.has(word, folded) {
		return true
	}
	i := strings.IndexByte(folded, '\'')
	if i <= 0 {
		return false
	}
	if k.elided[folded[:i]] {
		return k.function.folded[folded[i+1:]]
	}
	return k.function.folded[folded[:i]] || k.function.folded[strings.TrimSuffix(folded[:i], "n")]
}

func (s sets) has(word, folded string) bool {
	if !s.folded[folded] {
		return false
	}
	if text.IsASCII(word) {
		return true
	}
	lower := text.Lower(word)
	return lower == folded || s.written[lower] || strings.ToUpper(word) == word
}

// Light tells whether a folded word is too general to begin or end a term.
func (l *Language) Light(folded string) bool { return l.light[folded] }

// Part is a part of a word, in bytes of it, end exclusive.
type Part struct {
	Start, End int
	Begins     bool // a word of its own, and not the rest of a compound
}

// EachPart cuts a word at its hyphens, and at an elision: "e-bike" is "e" and
// "bike", "d'hiver" is "d" and the word "hiver".
func (l *Language) EachPart(word string, yield func(Part)) {
	begins := true
	start := -1
	end := func(i int) {
		if start < 0 {
			return
		}
		if at, width := l.elision(word[start:i]); at > 0 {
			yield(Part{start, start + at, begins})
			start, begins = start+at+width, true
		}
		yield(Part{start, i, begins})
		begins, start = false, -1
	}
	for i, r := range word {
		if r == '-' || r == '\u2010' || r == '\u2011' {
			end(i)
		} else if start < 0 {
			start = i
		}
	}
	end(len(word))
}

// elision finds the apostrophe of an elision and its width in bytes; 0 where
// there is none or nothing follows.
func (l *Language) elision(word string) (at, width int) {
	if len(l.elided) == 0 {
		return 0, 0
	}
	at = strings.IndexAny(word, "'’ʼ‘")
	if at <= 0 || !l.elided[text.Fold(word[:at])] {
		return 0, 0
	}
	rest := strings.TrimLeft(word[at:], "'’ʼ‘")
	if rest == "" {
		return 0, 0
	}
	return at, len(word) - at - len(rest)
}

// Bare is a folded word without an elision before it.
func (l *Language) Bare(folded string) string {
	at, width := l.elision(folded)
	return folded[at+width:]
}

// ContentStems are the stems of the words of a text that are neither function
// words nor single letters, in order, repeats kept; compounds are split at the
// hyphen.
func (l *Language) ContentStems(s string) []string {
	var stems []string
	text.EachWord(s, func(w text.Span) {
		word := w.Of(s)
		l.EachPart(word, func(p Part) {
			part := word[p.Start:p.End]
			folded := text.Fold(part)
			if len(folded) > 1 && !l.Stop(part) {
				stems = append(stems, l.StemFolded(folded))
			}
		})
	})
	return stems
}

// WordOf is the first word of a text that has a stem, as it is written there; the stem itself
// where none has.
func (l *Language) WordOf(s, stem string) string {
	word := ""
	text.EachWord(s, func(w text.Span) {
		if word == "" && l.Stem(w.Of(s)) == stem {
			word = w.Of(s)
		}
	})
	return cmp.Or(word, stem)
}

// Sentences splits a text into sentences, held together across the language's
// abbreviations; see text.Sentences.
func (l *Language) Sentences(s string) []text.Span {
	return text.Sentences(s, func(word, next string) bool {
		return l.held[strings.ToLower(word)] || word != "" && len(word) <= longestDay && strings.Trim(word, "0123456789") == "" && l.InCalendar(strings.Trim(next, ".,;:!?"))
	})
}

// Synonyms are pairs of stem keys, as the stems of a phrase with spaces between them,
// that mean one thing in different countries, the second the one we prefer.
func (l *Language) Synonyms() [][2]string {
	var pairs [][2]string
	for pair := range strings.FieldsSeq(l.SameThing) {
		other, ours, _ := strings.Cut(pair, "=")
		pairs = append(pairs, [2]string{l.PhraseKey(strings.ReplaceAll(other, "_", " ")), l.PhraseKey(strings.ReplaceAll(ours, "_", " "))})
	}
	return pairs
}

// PhraseKey is the key of a phrase: the stems of all its words, function words
// too, with a space between.
func (l *Language) PhraseKey(phrase string) string {
	var stems []string
	text.EachWord(phrase, func(w text.Span) {
		word := w.Of(phrase)
		l.EachPart(word, func(p Part) {
			if stem := l.Stem(word[p.Start:p.End]); stem != "" {
				stems = append(stems, stem)
			}
		})
	})
	return strings.Join(stems, " ")
}
