package text

import (
	"strings"

	"corpulan/core/lexicon"

	"github.com/blevesearch/snowballstem"
	"github.com/blevesearch/snowballstem/dutch"
	"github.com/blevesearch/snowballstem/english"
	"github.com/blevesearch/snowballstem/french"
	"github.com/blevesearch/snowballstem/german"
	"github.com/blevesearch/snowballstem/italian"
	"github.com/blevesearch/snowballstem/portuguese"
	"github.com/blevesearch/snowballstem/spanish"
	"github.com/blevesearch/snowballstem/swedish"
)

// Language brings the shapes of a word together in one language. It remembers
// the stems it has made and so must not be shared between goroutines.
type Language struct {
	Code        string // ISO 639-1
	stop, light map[string]bool
	stem        func(*snowballstem.Env) bool
	stems       map[string]string
}

// NewLanguage prepares a language by its ISO 639-1 code. A language without a
// stemmer here gets folded words as stems and no function words.
func NewLanguage(code string) *Language {
	code = BaseLanguage(code)
	stemmers := map[string]func(*snowballstem.Env) bool{
		"en": english.Stem, "de": german.Stem, "fr": french.Stem, "es": spanish.Stem,
		"it": italian.Stem, "nl": dutch.Stem, "pt": portuguese.Stem, "sv": swedish.Stem,
	}
	return &Language{
		Code: code, stop: lexicon.Stop(code), light: lexicon.Light(code),
		stem: stemmers[code], stems: map[string]string{},
	}
}

// Stem is the Snowball stem of a word (Porter 2001), made from its folded form.
func (l *Language) Stem(word string) string { return l.StemFolded(Fold(word)) }

// StemFolded is Stem for a word that Fold has been through already.
func (l *Language) StemFolded(folded string) string {
	if s, ok := l.stems[folded]; ok {
		return s
	}
	s := folded
	if l.stem != nil {
		env := snowballstem.NewEnv(folded)
		l.stem(env)
		s = env.Current()
	}
	l.stems[folded] = s
	return s
}

// Stop tells whether a folded word is a function word. A contraction is one if
// what stands before its apostrophe is ("you'll", "don't").
func (l *Language) Stop(folded string) bool {
	if l.stop[folded] {
		return true
	}
	if i := strings.IndexByte(folded, '\''); i > 0 {
		return l.stop[folded[:i]] || l.stop[strings.TrimSuffix(folded[:i], "n")]
	}
	return false
}

// Light tells whether a folded word is too general to begin or end a term.
func (l *Language) Light(folded string) bool { return l.light[folded] }

// ContentStems are the stems of the words of a text that are neither function
// words nor single letters, in order, repeats kept; compounds are split at the
// hyphen.
func (l *Language) ContentStems(s string) []string {
	var stems []string
	EachWord(s, func(w Span) {
		for part := range strings.SplitSeq(Fold(w.Of(s)), "-") {
			if part != "" && !l.Stop(part) && len(part) > 1 {
				stems = append(stems, l.StemFolded(part))
			}
		}
	})
	return stems
}

// BaseLanguage is the primary subtag of a language tag: "en" of "en-GB".
func BaseLanguage(tag string) string {
	tag, _, _ = strings.Cut(strings.ToLower(strings.TrimSpace(tag)), "-")
	tag, _, _ = strings.Cut(tag, "_")
	return tag
}
