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
	return f.CompanyOf(folded).class(folded, f.Language)
}

// Prior is what is known of a folded word before the field is read.
func (f *Field) Prior(folded string) Class { return prior(folded, f.Language) }

func (c Company) class(folded string, lang *language.Language) Class {
	p := prior(folded, lang)
	noun, verb, adjective := priorWeight*p.Noun, priorWeight*p.Verb, priorWeight*p.Adjective
	noun += float64(c.Heads)
	verb += float64(c.Acts)
	adjective += float64(c.Predicates)
	// Before a further word stand nouns and adjectives; where adjectives follow, nouns.
	switch either := p.Noun + p.Adjective; {
	case lang.EndsAsVerb(folded): // "gritted roads"
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

func prior(folded string, lang *language.Language) Class {
	if lang.Code == "en" {
		return englishPrior(folded)
	}
	if lang.NounsHaveCapitals {
		return verbal
	}
	switch {
	case lang.EndsAsVerb(folded):
		return verbal
	case lang.EndsAsNoun(folded):
		return nounish
	}
	if r := lang.Rank(folded); r > 0 && r <= commonWords {
		return common
	}
	return unseen
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

func englishPrior(folded string) Class {
	noun, verb, adjective, adverb := PartsOfSpeech(folded)
	total := float64(noun + verb + adjective + adverb)
	switch {
	case total == 0 && strings.HasSuffix(folded, "ed"):
		return verbal
	case total == 0 && strings.HasSuffix(folded, "ing"):
		return gerund
	case total == 0:
		return nounish // a trade word or a name
	}
	// An adverb is as little of a term as a verb.
	return Class{float64(noun) / total, float64(verb+adverb) / total, float64(adjective) / total}
}

// PartsOfSpeech are WordNet's sense counts of a form, or of the base forms it
// can be an inflection of by WordNet's rules of detachment (morphy).
func PartsOfSpeech(form string) (noun, verb, adjective, adverb int) {
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
