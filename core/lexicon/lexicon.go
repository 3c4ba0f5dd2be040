// Package lexicon holds the word lists: how often English uses a word, what part of speech it and
// those of six other languages tend to be (classes.go), the names of places, and the function words
// of each language. The lists are made by generate.mjs from published data; data/ATTRIBUTION.md
// names every source of those that are embedded, lists/SOURCES.md of those that lie beside the
// program because their licences ask to be shared alike (beside.go).
package lexicon

import (
	"io/fs"
	"iter"
	"maps"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"
)

// EnglishTotal is the number of running words behind the counts of English.
// The sum of the counts in SUBTLEX-US (Brysbaert & New 2009).
const EnglishTotal = 49719560

// Word is what is known of one English word form.
type Word struct {
	// Count is the number of times the form stands in SUBTLEX-US
	// (Brysbaert & New 2009), of EnglishTotal running words.
	Count int
	// Noun, Verb, Adjective and Adverb are WordNet 3.1 sense counts: one for
	// each sense plus its occurrences in the sense-tagged texts.
	Noun, Verb, Adjective, Adverb int
	// Syllables by the CMU Pronouncing Dictionary, 0 when it has no entry.
	Syllables int
}

// Senses is the sum of the sense counts, 0 for a form WordNet does not list.
func (w Word) Senses() int { return w.Noun + w.Verb + w.Adjective + w.Adverb }

var english = sync.OnceValue(func() map[string]Word {
	words := make(map[string]Word, 80_000)
	each("english.tsv", func(f []string) {
		var n [6]int
		for i := range n {
			n[i], _ = strconv.Atoi(f[i+1])
		}
		words[f[0]] = Word{n[0], n[1], n[2], n[3], n[4], n[5]}
	})
	return words
})

// English looks up a lower-case English word form.
func English(form string) (Word, bool) {
	w, ok := english()[form]
	return w, ok
}

// EnglishBytes is English for a form that stands in bytes; it makes no copy.
func EnglishBytes(form []byte) (Word, bool) {
	w, ok := english()[string(form)]
	return w, ok
}

// Place is a town or a country.
type Place struct {
	Country    string // ISO 3166-1 alpha-2
	Population int    // 0 for a country
}

var places = sync.OnceValue(func() map[string]Place {
	all := make(map[string]Place, 30_000)
	each("towns.tsv", func(f []string) {
		n, _ := strconv.Atoi(f[2])
		all[f[0]] = Place{f[1], n}
	})
	each("countries.tsv", func(f []string) { all[f[0]] = Place{Country: f[1]} })
	return all
})

// PlaceNamed looks up a town of 15,000 people or more, or a country, by the
// name as it is written.
func PlaceNamed(name string) (Place, bool) {
	p, ok := places()[name]
	return p, ok
}

// Kind is what a noun or a name stands for, as kinds.mjs derives it from WordNet 3.1.
type Kind string

// The kinds of kinds.tsv.
const (
	Person       Kind = "person"
	Nationality  Kind = "nationality" // inhabitants and believers too
	Both         Kind = "people and language"
	Organisation Kind = "organisation"
	Location     Kind = "place"
	Event        Kind = "event"
	Time         Kind = "time"
	Unit         Kind = "unit"
	Tongue       Kind = "language"
	Product      Kind = "product"
	Work         Kind = "work"
	Standard     Kind = "standard"
	Concept      Kind = "concept" // whatever else
)

var kinds = sync.OnceValue(func() map[string]Kind {
	all := make(map[string]Kind, 110_000)
	each("kinds.tsv", func(f []string) { all[f[0]] = kindNamed(f[1]) })
	return all
})

// kindNamed gives one string for each kind, instead of a slice of the file for each row.
func kindNamed(name string) Kind {
	for _, k := range []Kind{Person, Nationality, Both, Organisation, Location, Event, Time, Unit, Tongue, Product, Work, Standard} {
		if string(k) == name {
			return k
		}
	}
	return Concept
}

// KindOf looks up an English noun in small letters, of one word or more, or a name as
// it is written.
func KindOf(name string) (Kind, bool) {
	k, ok := kinds()[name]
	return k, ok
}

// Nearness is how an English word is near another in meaning, by WordNet 3.1.
type Nearness byte

// The kinds of nearness, the nearest first.
const (
	SameSense Nearness = 's' // a synset has both
	Derived   Nearness = 'd' // one is derived from the other
	KindOfIt  Nearness = 'h' // one is a kind of the other
	PartOfIt  Nearness = 'p' // one is a part of the other
)

// Near is a word with how near it is.
type Near struct {
	Word string
	How  Nearness
}

var related = sync.OnceValue(func() map[string][]Near {
	all := make(map[string][]Near, 15_000)
	each("related.tsv", func(f []string) {
		for other := range strings.SplitSeq(f[1], " ") {
			how := Nearness(other[0])
			all[f[0]] = append(all[f[0]], Near{other[1:], how})
			all[other[1:]] = append(all[other[1:]], Near{f[0], how})
		}
	})
	return all
})

// RelatedWords are the words of which Related knows others, in any order.
func RelatedWords() iter.Seq[string] { return maps.Keys(related()) }

// Related are the words near an English one in meaning, given in small letters, of its first
// four senses.
func Related(word string) []Near { return related()[word] }

var titles = sync.OnceValue(func() map[string]bool { return set("titles.txt") })

// IsTitle tells whether a well-read article of an English encyclopedia has the title,
// given in small letters.
func IsTitle(name string) bool { return titles()[name] }

var firstNames = sync.OnceValue(func() map[string]bool { return set("firstnames.txt") })

// IsFirstName tells whether people have the name, as it is written, before their
// family's.
func IsFirstName(name string) bool { return firstNames()[name] }

// Width is how wide a letter is in Arial, in thousandths of the font's size, by a font made
// to have its widths; of a letter that the list lacks, that of an n.
func Width(r rune) int {
	if w, ok := widths()[r]; ok {
		return w
	}
	return widths()['n']
}

var widths = sync.OnceValue(func() map[rune]int {
	all := map[rune]int{}
	each("widths.tsv", func(f []string) {
		r, _ := utf8.DecodeRuneInString(f[0])
		all[r], _ = strconv.Atoi(f[len(f)-1])
	})
	return all
})

func set(name string) map[string]bool {
	all := map[string]bool{}
	each(name, func(f []string) { all[f[0]] = true })
	return all
}

// lists are the word lists of data/stop by their names, each read once.
var lists = sync.OnceValue(func() map[string]map[string]bool {
	all := map[string]map[string]bool{}
	files, err := embedded.ReadDir("data/stop")
	if err != nil {
		panic("lexicon: " + err.Error()) // embedded: cannot be missing in a program that was built
	}
	for _, f := range files {
		name, _ := strings.CutSuffix(f.Name(), ".txt")
		base, more := strings.CutSuffix(name, "-more")
		if !more {
			base = name
		}
		if all[base] == nil {
			all[base] = map[string]bool{}
		}
		for w := range strings.FieldsSeq(read("stop/" + f.Name())) {
			all[base][w] = true
		}
	}
	return all
})

// Stop is the set of function words of a language (ISO 639-1), lower case; nil for
// a language that has none here. The set is shared: do not change it.
func Stop(language string) map[string]bool { return lists()[language] }

// Light is the set of words that carry too little meaning to begin or end a
// term ("get", "best", "lot"), though they are not function words; nil for a
// language that has none here. The set is shared: do not change it.
func Light(language string) map[string]bool { return lists()[language+"-light"] }

// General is the set of nouns that are no term of any subject by themselves ("access",
// "result"), as they are in most of a dictionary's definitions; they may stand in one
// ("access point"). nil for a language that has none here. The set is shared: do not
// change it.
func General(language string) map[string]bool { return lists()[language+"-general"] }

// commonest are the lists of common words by the language each is named after.
var commonest = byLanguage("common/", ".txt", func(name string) map[string]int {
	ranks := map[string]int{}
	for w := range strings.FieldsSeq(read(name)) {
		ranks[w] = len(ranks) + 1
	}
	return ranks
})

// byLanguage are the lists of a folder by the language each is named after, read when they are
// first asked for.
func byLanguage[T any](folder, ending string, read func(name string) T) map[string]func() T {
	all := map[string]func() T{}
	own, _ := fs.Glob(embedded, "data/"+folder+"*"+ending) // the pattern is sound
	for _, name := range append(own, Names()...) {
		name = strings.TrimPrefix(name, "data/")
		if code, ok := strings.CutPrefix(name, folder); ok {
			all[strings.TrimSuffix(code, ending)] = sync.OnceValue(func() T { return read(name) })
		}
	}
	return all
}

// Ranks are the commonest words of a language in small letters, 1 for the
// commonest: 60,000 as encyclopedias and newspapers write English, some ten thousand
// as films speak the others; nil for a language that has none here. The map is
// shared: do not change it.
func Ranks(language string) map[string]int {
	if list, ok := commonest[language]; ok {
		return list()
	}
	return nil
}

func each(name string, row func(fields []string)) {
	for line := range strings.Lines(read(name)) {
		row(strings.Split(strings.TrimSuffix(line, "\n"), "\t"))
	}
}
