package corpus

import (
	"strings"

	"corpulan/core/language"
	"corpulan/core/lexicon"
)

// Class is how likely a word is to be a noun, a verb or an adjective in a field:
// three shares whose sum is 1.
type Class struct{ Noun, Verb, Adjective float64 }

// priorWeight is how many uses in the field weigh as much as what was known before.
// Our own.
const priorWeight = 4

// mostlyFirst is the share of nouns among the words that a determiner begins and
// another word follows, where adjectives follow. Our own.
const mostlyFirst = 0.8

// ClassOf joins what a dictionary says of a folded word with the company the field
// keeps it in: a Dirichlet prior with the counts of the field on top.
func (f *Field) ClassOf(folded string) Class {
	return f.DistributionOf(folded).class(folded, f.Prior(folded), f.Language)
}

// Prior is what is known of a folded word before the field is read.
func (f *Field) Prior(folded string) Class {
	if p, ok := f.priors.Load(folded); ok {
		return p.(Class)
	}
	p, _ := priorOf(folded, f.Language)
	f.priors.Store(folded, p)
	return p
}

func (c Distribution) class(folded string, p Class, lang *language.Language) Class {
	noun, verb, adjective := priorWeight*p.Noun, priorWeight*p.Verb, priorWeight*p.Adjective
	noun += float64(c.Heads)
	verb += float64(c.Acts)
	adjective += float64(c.Predicates)
	if c.Capitals > c.Smalls && !lang.Senses && !lang.NounsHaveCapitals { // a name: "Linux" ends as French adjectives do
		noun += float64(c.Capitals)
	}
	// Before a further word stand nouns and adjectives; where adjectives follow, nouns.
	switch either := p.Noun + p.Adjective; {
	case lang.EndsAsVerb(folded) && !(lang.AdjectivesFollow && c.Heads > max(c.Acts, 1)): // "gritted roads"; but "el liner azul"
		adjective += float64(c.Modifies)
	case lang.AdjectivesFollow:
		noun += mostlyFirst * float64(c.Modifies)
		adjective += (1 - mostlyFirst) * float64(c.Modifies)
	case either > 0:
		noun += float64(c.Modifies) * p.Noun / either
		adjective += float64(c.Modifies) * p.Adjective / either
	}
	sum := noun + verb + adjective
	return Class{noun / sum, verb / sum, adjective / sum}
}

// priorOf is Prior, and whether the word is mostly an adverb, which no term has.
func priorOf(folded string, lang *language.Language) (p Class, adverb bool) {
	if lang.Senses {
		return englishPrior(folded)
	}
	if lang.NounsHaveCapitals {
		return verbal, false
	}
	known, ok := lexicon.ClassOf(lang.Code, folded)
	if !ok {
		return unseen, false
	}
	p = Class{known.Noun, known.Verb + known.Adverb, known.Adjective}
	adverb = known.Adverb > p.Noun+p.Adjective
	if r := lang.Rank(folded); r > 0 && r <= commonWords {
		return p.mixed(common, doubtCommon), adverb
	}
	return p.mixed(unseen, doubtEnding), adverb
}

// How much of what is known is doubted: of a common word, which is used in more ways than its
// dictionary has, and of one that is told by its ending. Our own.
const (
	doubtCommon = .4
	doubtEnding = .25
)

// mixed is the class with a share of another.
func (c Class) mixed(o Class, share float64) Class {
	sum := c.Noun + c.Verb + c.Adjective // about 1: it is rounded
	if sum == 0 {
		return o
	}
	part := (1 - share) / sum
	return Class{part*c.Noun + share*o.Noun, part*c.Verb + share*o.Verb, part*c.Adjective + share*o.Adjective}
}

// What a form is taken for where no dictionary has it. A word seen nowhere before is
// just short of a noun: one use as such makes it one. Our own.
var (
	nounish = Class{.7, .1, .2}
	unseen  = Class{.42, .2, .38}
	common  = Class{.3, .4, .3}
	verbal  = Class{.2, .4, .4}
	gerund  = Class{.4, .5, .1}
)

// commonWords is up to which rank a word of a language without a dictionary is common,
// and rather a verb or an adjective than a trade's noun. Our own.
const commonWords = 3000

func englishPrior(folded string) (p Class, adverb bool) {
	noun, verb, adjective, adverbs := PartsOfSpeech(folded)
	total := float64(noun + verb + adjective + adverbs)
	switch {
	case total == 0 && strings.HasSuffix(folded, "ed"):
		return verbal, false
	case total == 0 && strings.HasSuffix(folded, "ing"):
		return gerund, false
	case total == 0 && strings.HasSuffix(folded, "ly") && len(folded) > 4:
		return unseen, true
	case total == 0:
		return nounish, false // a trade word or a name
	}
	// An adverb is as little of a term as a verb.
	return Class{float64(noun) / total, float64(verb+adverbs) / total, float64(adjective) / total}, 2*float64(adverbs) > total
}

// IsWord tells an English form that WordNet has, as it is or as an inflection.
func IsWord(form string) bool {
	noun, verb, adjective, adverb := PartsOfSpeech(form)
	return noun+verb+adjective+adverb > 0
}

// PartsOfSpeech are WordNet's sense counts of a form, or of the base forms it
// can be an inflection of by WordNet's rules of detachment (morphy).
func PartsOfSpeech(form string) (noun, verb, adjective, adverb int) {
	w, _ := lexicon.English(form)
	noun, verb, adjective, adverb = w.Noun, w.Verb, w.Adjective, w.Adverb
	switch {
	case strings.HasSuffix(form, "s"):
		if !strings.HasSuffix(form, "ss") {
			detach(form, nounEndings, func(w lexicon.Word) {
				noun += w.Noun
				verb += w.Verb
			})
		}
	case strings.HasSuffix(form, "ing"), strings.HasSuffix(form, "ed"):
		detach(form, verbEndings, func(w lexicon.Word) { verb += w.Verb })
	case strings.HasSuffix(form, "er"), strings.HasSuffix(form, "est"):
		detach(form, adjectiveEndings, func(w lexicon.Word) {
			if w.Adjective*2 > w.Senses() && noun == 0 {
				adjective += w.Adjective
			}
		})
	}
	return noun, verb, adjective, adverb
}

// Endings with what may stand in their place in a base form.
var (
	nounEndings      = [][2]string{{"s", ""}, {"es", ""}, {"ies", "y"}, {"ves", "f"}}
	verbEndings      = [][2]string{{"ing", ""}, {"ing", "e"}, {"ed", ""}, {"ed", "e"}, {"ied", "y"}}
	adjectiveEndings = [][2]string{{"er", ""}, {"er", "e"}, {"est", ""}, {"est", "e"}, {"ier", "y"}, {"iest", "y"}}
)

// detach calls found with the listed bases that are left when an ending is replaced. A
// doubled last consonant is undone ("fitted", "fit").
func detach(form string, endings [][2]string, found func(lexicon.Word)) {
	var buf [40]byte // longer forms are copied elsewhere
	for _, e := range endings {
		base, ok := strings.CutSuffix(form, e[0])
		if !ok || len(base) < 2 {
			continue
		}
		if w, ok := lexicon.EnglishBytes(append(append(buf[:0], base...), e[1]...)); ok {
			found(w)
		}
		if n := len(base); e[1] == "" && n > 2 && base[n-1] == base[n-2] {
			if w, ok := lexicon.English(base[:n-1]); ok {
				found(w)
			}
		}
	}
}
