package language

import (
	"slices"
	"strings"
	"sync"

	"corpulan/core/lexicon"
	"corpulan/core/text"

	"github.com/blevesearch/snowballstem"
	"github.com/go-playground/locales"
)

// Rules is all that depends on one language: each has them in a file of its own.
// Words stand in a string with spaces between them, phrases as text.Phrases
// reads them. What no source is named for is common usage, put together by us.
type Rules struct {
	Code string // ISO 639-1

	// What there is for one language and not for another, beside words.
	Senses  bool   // dictionaries tell what its words mean, and how often each is a noun, a verb, an adjective (WordNet, SUBTLEX)
	Graded  bool   // the reading grade of Kincaid is made for it
	Address string // letters as addresses of pages write them, "ä=ae ö=oe"; others lose their marks

	ease   Ease   // how easily a text reads
	Nuclei string // groups of vowels that are spoken as one syllable
	Mute   string // endings that are no syllable

	stemmer func(*snowballstem.Env) bool // Snowball's
	dates   locales.Translator           // names of months and weekdays, from the CLDR

	Function      string // function words beyond Snowball's list
	Content       string // words of Snowball's list that are names of things as well
	Abbreviations string // that more of the sentence follows, without their last full stop
	Elisions      string // what an apostrophe joins to the next word: l'hiver
	Definite      string // articles
	Indefinite    string // articles
	Determiners   string // beside the articles, what a noun follows
	Numbers       string // one to twelve, in order
	Qualifiers    string // say little alone, but begin terms: "full suspension"
	FirstPerson   string // words of a writer about themselves

	// What stands before a word tells what it is, beside the determiners.
	Prepositions, BeforeVerbs, BeforeAdjectives string
	VerbEndings                                 string // of forms that are rather participles or infinitives
	AdjectiveEndings                            string // of adjectives before a noun
	NounEndings                                 string

	Spellings string // spellings of one word, as other=ours; their plurals in -s follow
	// What the stemmer leaves apart, folded: plurals as many=one; endings as from=to/least, least
	// being how many letters the word has, put in place before the stemmer and after it.
	Plurals, Before, After string

	Units     string // that stand beside figures and say nothing by themselves
	SameThing string // words for one thing in the countries of the language, as other=ours; _ for a space

	Shares      string // parts of anything, that "of" follows: "half", "beginning"
	Times       string // units of time, parts of the day and the year
	Or          string // between two things to choose from
	Reasons     string // before a reason or a consequence: "because"
	You         string // how a writer calls the reader, among friends where that is another word than to strangers; the commonest first
	YouFormal   string // to strangers, where that is another word, with its capital
	We          string // how a writer calls those who publish
	Superlative Superlative
	Leans       string    // that begin a sentence which leans on the one before it: "otherwise"
	Yes, No     string    // with which an answer begins
	Turns       string    // that may stand before a question: "but what if"
	Asking      string    // that questions have and that say nothing of what is asked: "really need"
	Knowing     string    // before what one wants to know: "how do I know which"
	Openings    []Opening // ways a question begins
	Auxiliaries string    // that follow a question word where a heading asks without a mark
	Pronouns    string    // that follow such an auxiliary

	PointOfDecimals   bool   // "1,200.5"; else "1.200,5"
	NounsHaveCapitals bool   // as in German
	AdjectivesFollow  bool   // as in French: "baguette magique"
	JoinsWords        bool   // as in German: "Fahrradschloss"
	Linkers           string // letters that may stand between joined words

	Linking       string // may stand inside a term: "range of motion"
	Joining       string // may stand inside a name: "Isle of Wight"
	Honorifics    string
	Organisations string // words that end an organisation's name
	Places        string // words that end a place's name
	Laws          string // words that end the name of a law or a standard, or a compound that is one
	Events        string // words that end the name of an event
	Works         string // words that a work's name follows: "the book ..."
	Parts         string // of a document, that a number follows: "Section 3.3"
	Versions      string // words that follow the name of a program or a ware: "version"
	Speaking      string // what people do who are quoted
	Within        string // prepositions before a place

	Generic []string // headings that say where they stand, not what they are about

	Furniture Furniture
	Title     Title
}

// Furniture are the phrases that sites put among an author's words.
type Furniture struct {
	Headings    []string // whole headings
	Lines       []string // whole lines
	Credits     []string // what begins a credit; a name follows
	Stamps      []string // what stands before a date
	Changes     string   // words of a stamp that tell of a change, not of publication
	DateWords   string   // words that stand between the parts of a date
	Press       string   // what one can press
	PressedOn   string   // words that may follow it
	ReadingTime []string
}

// Title are the phrases of a title that tell what the page is for.
type Title struct {
	Buying, Comparing, Explaining, Guiding, Stepping []string

	// What a title can be made by: {K} is the keyword with a capital, {N} the number of things listed, {Y} a year, {1} to {3} what
	// the page is about. And stands before the last of some names.
	Patterns []Pattern
	And      string
}

// Pattern is a way to make a title, with the trait it gives it.
type Pattern struct{ Trait, Text string }

// Opening is a way a question begins, and what is asked then.
type Opening struct {
	Words string
	Kind  QuestionKind
}

// all the languages we read, in the order in which they are shown.
var all = sync.OnceValue(func() []*known {
	var list []*known
	for _, r := range []Rules{english(), german(), french(), spanish(), italian(), dutch(), portuguese(), swedish()} {
		list = append(list, know(r))
	}
	return list
})

// known is a language's rules made ready; it never changes.
type known struct {
	Rules
	function sets // function words
	light    map[string]bool
	held     map[string]bool // abbreviations
	elided   map[string]bool
	openings []Opening // folded, the longest first

	// Words of Rules, folded.
	auxiliaries, pronouns, calendar, definite, determiners, numbers, units, linking, joining, honorifics, organisations, places, laws, events, works, parts, versions, speaking, within, or, reasons, times, shares, generic, qualifiers, prepositions, beforeVerbs, beforeAdjectives, firstPerson, turns, leans, knowing, asking, yes, no map[string]bool
	nuclei, mute                                                                                                                                                                                                                                                                                                                           []string // the longest first

	verbEndings, adjectiveEndings, nounEndings []string
	ranks                                      map[string]int            // of the commonest words, folded
	generals                                   func() map[string]bool    // see IsGeneral
	general                                    func() map[string]float64 // see PerMillion
	common                                     func() map[string]string  // stems of the commonest words
	spellings                                  map[string]string         // folded, from other spellings to ours
	plurals                                    map[string]string         // see inflected
	before, after                              []ending
	superlative                                superlative
	cues                                       func() cues    // see Matters
	listing                                    func() listing // see IsLabel
}

// sets are words as they are written, and without accents.
type sets struct{ written, folded map[string]bool }

func know(r Rules) *known {
	k := &known{Rules: r, light: map[string]bool{}, held: Set(r.Abbreviations), elided: Set(r.Elisions)}
	k.auxiliaries, k.pronouns, k.definite, k.units = Set(r.Auxiliaries), Set(r.Pronouns), Set(r.Definite), Set(r.Units)
	k.linking, k.joining, k.honorifics, k.organisations, k.places = Set(r.Linking), Set(r.Joining), Set(r.Honorifics), Set(r.Organisations), Set(r.Places)
	k.superlative = r.Superlative.ready()
	k.laws, k.events, k.works, k.parts, k.versions, k.speaking, k.within, k.or, k.reasons, k.times, k.shares = Set(r.Laws), Set(r.Events), Set(r.Works), Set(r.Parts), Set(r.Versions), Set(r.Speaking), Set(r.Within), Set(r.Or), Set(r.Reasons), Set(r.Times), Set(r.Shares)
	k.determiners, k.numbers = Set(r.Definite+" "+r.Indefinite+" "+r.Determiners), Set(r.Numbers)
	k.qualifiers, k.prepositions, k.beforeVerbs, k.beforeAdjectives = Set(r.Qualifiers), Set(r.Prepositions), Set(r.BeforeVerbs), Set(r.BeforeAdjectives)
	k.verbEndings, k.adjectiveEndings, k.nounEndings = endings(r.VerbEndings), endings(r.AdjectiveEndings), endings(r.NounEndings)
	k.firstPerson, k.turns, k.leans, k.knowing, k.asking, k.yes, k.no = Set(r.FirstPerson), Set(r.Turns), Set(r.Leans), Set(r.Knowing), Set(r.Asking), Set(r.Yes), Set(r.No)
	k.nuclei, k.mute = longestFirst(r.Nuclei), longestFirst(r.Mute)
	k.plurals, k.before, k.after = pairsOf(r.Plurals), endingsOf(r.Before), endingsOf(r.After)
	k.spellings = map[string]string{}
	for pair := range strings.FieldsSeq(r.Spellings) {
		other, ours, ok := strings.Cut(pair, "=")
		if !ok {
			panic("language: no pair of spellings: " + pair)
		}
		k.spellings[other], k.spellings[other+"s"] = ours, ours+"s"
	}
	k.ranks = map[string]int{}
	for w, rank := range lexicon.Ranks(r.Code) {
		if folded := text.Fold(w); k.ranks[folded] == 0 || rank < k.ranks[folded] {
			k.ranks[folded] = rank
		}
	}
	k.generals = sync.OnceValue(k.generalStems)
	k.general, k.common = sync.OnceValue(k.stemFrequencies), sync.OnceValue(k.commonStems)
	k.cues, k.listing = sync.OnceValue(k.readCues), sync.OnceValue(k.readListing)
	k.calendar, k.generic = map[string]bool{}, map[string]bool{}
	for _, h := range r.Generic {
		k.generic[foldLine(h)] = true
	}
	if r.dates != nil {
		for _, w := range slices.Concat(r.dates.MonthsWide(), r.dates.WeekdaysWide()) {
			k.calendar[bare(w)] = true
		}
	}
	k.function = sets{map[string]bool{}, map[string]bool{}}
	for w := range lexicon.Light(r.Code) {
		k.light[text.Fold(w)] = true
	}
	content := Set(r.Content)
	add := func(w string) {
		if content[text.Fold(w)] {
			return
		}
		k.function.written[w] = true
		k.function.folded[text.Fold(w)] = true
	}
	for w := range lexicon.Stop(r.Code) {
		add(w)
	}
	for _, words := range []string{r.Function, r.Definite, r.Indefinite} {
		for w := range strings.FieldsSeq(words) {
			add(w)
		}
	}
	for _, o := range r.Openings {
		k.openings = append(k.openings, Opening{foldLine(o.Words), o.Kind})
	}
	slices.SortStableFunc(k.openings, func(a, b Opening) int { return len(b.Words) - len(a.Words) })
	return k
}

// unknown is a language we have no rules for. Abbreviations of English, which
// are found in texts of many languages, hold its sentences together.
var unknown = sync.OnceValue(func() *known { return know(Rules{Abbreviations: english().Abbreviations}) })

func knownOf(code string) *known {
	for _, k := range all() {
		if k.Code == code {
			return k
		}
	}
	return unknown()
}

// Codes lists the languages we read, as ISO 639-1.
func Codes() []string {
	var codes []string
	for _, k := range all() {
		codes = append(codes, k.Code)
	}
	return codes
}

// Texts are texts by the codes of the languages they are in: English, German, French, Spanish,
// Italian, Dutch, Portuguese, Swedish.
func Texts(en, de, fr, es, it, nl, pt, sv string) map[string]string {
	return map[string]string{"en": en, "de": de, "fr": fr, "es": es, "it": it, "nl": nl, "pt": pt, "sv": sv}
}

// Each gives the rules of every language we read, one after another.
func Each(yield func(*Rules) bool) {
	for _, k := range all() {
		if !yield(&k.Rules) {
			return
		}
	}
}

// Set is the words of a list, folded.
func Set(words string) map[string]bool {
	s := map[string]bool{}
	for w := range strings.FieldsSeq(words) {
		s[text.Fold(w)] = true
	}
	return s
}

// What a folded word is in the language, by the lists of its Rules.
func (k *known) IsUnit(folded string) bool          { return k.units[folded] }
func (k *known) IsNumber(folded string) bool        { return k.numbers[folded] }
func (k *known) IsDeterminer(folded string) bool    { return k.determiners[folded] }
func (k *known) IsDefinite(folded string) bool      { return k.definite[folded] }
func (k *known) Links(folded string) bool           { return k.linking[folded] }
func (k *known) Joins(folded string) bool           { return k.joining[folded] }
func (k *known) IsPart(folded string) bool          { return k.parts[folded] }
func (k *known) IsHonorific(folded string) bool     { return k.honorifics[folded] }
func (k *known) Qualifies(folded string) bool       { return k.qualifiers[folded] }
func (k *known) IsPreposition(folded string) bool   { return k.prepositions[folded] }
func (k *known) BeforeVerb(folded string) bool      { return k.beforeVerbs[folded] }
func (k *known) BeforeAdjective(folded string) bool { return k.beforeAdjectives[folded] }
func (k *known) IsFirstPerson(folded string) bool   { return k.firstPerson[folded] }

func (k *known) TellsVersion(folded string) bool { return k.versions[folded] }
func (k *known) Speaks(folded string) bool       { return k.speaking[folded] }
func (k *known) IsWithin(folded string) bool     { return k.within[folded] }
func (k *known) IsOr(folded string) bool         { return k.or[folded] }
func (k *known) TellsTime(folded string) bool    { return k.times[folded] || k.calendar[bare(folded)] }
func (k *known) IsShare(folded string) bool      { return k.shares[folded] }
func (k *known) TellsReason(folded string) bool  { return k.reasons[folded] }
func (k *known) TellsWork(folded string) bool    { return k.works[folded] }

// EndsOrganisation, EndsPlace, EndsLaw and EndsEvent tell a folded word that ends the
// name of such a thing; in a language that joins words, a compound that ends in one.
func (k *known) EndsOrganisation(folded string) bool { return k.endsWith(folded, k.organisations) }
func (k *known) EndsPlace(folded string) bool        { return k.endsWith(folded, k.places) }
func (k *known) EndsLaw(folded string) bool          { return k.endsWith(folded, k.laws) }
func (k *known) EndsEvent(folded string) bool        { return k.endsWith(folded, k.events) }

// shortestHead is how many letters the last word of a compound has at least. Our own.
const shortestHead = 4

func (k *known) endsWith(folded string, words map[string]bool) bool {
	if words[folded] || !k.JoinsWords {
		return words[folded]
	}
	for w := range words {
		if len(w) >= shortestHead && len(folded) >= len(w)+shortestHead-1 && strings.HasSuffix(folded, w) {
			return true
		}
	}
	return false
}

// LeansBack tells a sentence that leans on the one before it, by its first word: it cannot stand alone.
func (k *known) LeansBack(sentence string) bool {
	first, _, _ := strings.Cut(strings.TrimSpace(sentence), " ")
	return k.leans[text.Fold(strings.Trim(first, ",:;“”«»\"'’"))]
}

// IsCompound tells a folded word that is two known ones, in a language that joins words.
func (k *known) IsCompound(folded string) bool {
	for i := shortestHead - 1; i+shortestHead-1 <= len(folded); i++ {
		if k.ranks[folded[i:]] == 0 {
			continue
		}
		for _, link := range k.Between() {
			if first, ok := strings.CutSuffix(folded[:i], link); ok && len(first) >= shortestHead-1 && k.ranks[first] > 0 {
				return true
			}
		}
	}
	return false
}

// Between are the letters that may stand between the words of a compound, none among
// them; nil for a language that does not join words.
func (k *known) Between() []string {
	if !k.JoinsWords {
		return nil
	}
	return append([]string{""}, strings.Fields(k.Linkers)...)
}

// EndsAsNoun, EndsAsVerb and EndsAsAdjective tell a folded word by its ending.
func (k *known) EndsAsNoun(folded string) bool      { return endsIn(folded, k.nounEndings) }
func (k *known) EndsAsVerb(folded string) bool      { return endsIn(folded, k.verbEndings) }
func (k *known) EndsAsAdjective(folded string) bool { return endsIn(folded, k.adjectiveEndings) }

func endings(list string) []string {
	var folded []string
	for e := range strings.FieldsSeq(list) {
		folded = append(folded, text.Fold(e))
	}
	return folded
}

func endsIn(folded string, endings []string) bool {
	return slices.ContainsFunc(endings, func(e string) bool { return len(folded) > len(e)+2 && strings.HasSuffix(folded, e) })
}

// IsGeneric tells a heading that says where it stands and not what it is about.
func (k *known) IsGeneric(heading string) bool { return k.generic[foldLine(heading)] }

// foldLine folds a line of words. What text.Fold does to a word's end ("bike's")
// it leaves.
func foldLine(line string) string {
	const end = "\x00"
	return strings.TrimSuffix(text.Fold(line+end), end)
}

func longestFirst(words string) []string {
	list := strings.Fields(words)
	slices.SortStableFunc(list, func(a, b string) int { return len(b) - len(a) })
	return list
}
