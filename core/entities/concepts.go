package entities

import (
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/lexicon"
	"corpulan/core/message"
	"corpulan/core/text"
)

// Concept is a term of the field's vocabulary that may be a concept of its subject.
type Concept struct {
	Key, Name string
	Counts    []int          // per page
	Marked    []int          // pages that have it in the title, a heading or their opening
	LogRatio  float64        // against general language, in doublings
	Shapes    map[string]int // ways it is written, with their counts
}

// How many concepts a field has at most, and in a language without a dictionary, where only their order in the
// vocabulary speaks for them. Our own.
const (
	maxConcepts = 80
	maxUntold   = 30
)

// conceptsOf takes the terms that an encyclopedia or a dictionary has an article of, in
// English; elsewhere there is none here, and the first of the vocabulary stand for them.
func conceptsOf(f *corpus.Field, terms []Concept, known []*named) []*named {
	taken := map[string]bool{}
	for _, e := range known {
		taken[f.Language.PhraseKey(byCount(e.shapes)[0])] = true
		taken[f.Language.PhraseKey(e.Long)] = true
	}
	var list []*named
	for _, t := range terms {
		if len(list) == maxConcepts || !f.Language.Senses && len(list) == maxUntold {
			break
		}
		why, ok := isConcept(f, t)
		if !ok || isKey(strings.Fields(t.Name)) || !isNoun(f, t.Name) || taken[f.Language.PhraseKey(t.Name)] {
			continue
		}
		list = append(list, &named{Entity: Entity{Key: text.Fold(t.Name), Name: t.Name, Type: ConceptType, Why: why, Counts: t.Counts},
			shapes: t.Shapes, marked: t.Marked})
	}
	return list
}

// special is from how many doublings beyond general language on a single word belongs to a
// subject: "mudguard", and not "road". Our own.
const special = 6

func isConcept(f *corpus.Field, t Concept) (why message.Message, ok bool) {
	name := t.Name
	words := strings.Fields(strings.ToLower(name))
	if len(words) == 1 && (t.LogRatio < special || f.IsOfKeyword(f.Language.StemFolded(text.Fold(name)))) {
		return "", false
	}
	if !f.Language.Senses {
		for _, w := range words { // "half a litre", "a few shovels"
			if folded := text.Fold(w); f.Language.IsUnit(folded) || f.Language.IsNumber(folded) || f.Language.Light(folded) || f.Language.SaysNothing(folded) {
				return "", false
			}
		}
		return "one of the first terms of the field", true
	}
	for _, form := range []string{strings.ToLower(name), singular(strings.ToLower(name))} {
		if lexicon.IsTitle(form) {
			return "an article of the encyclopedia", true
		}
		if k, known := lexicon.KindOf(form); known && k != lexicon.Unit && k != lexicon.Time && k != lexicon.Person {
			return message.Of("in the dictionary: %v", inWords[k]), true
		}
	}
	if head := singular(words[len(words)-1]); len(words) > 1 {
		if k, known := lexicon.KindOf(head); known && k != lexicon.Unit && k != lexicon.Time {
			return message.Of("a term of the field, a kind of “%s”", head), true
		}
	}
	return "", false
}

// isNoun tells a term of several words, or a word that the field mostly uses as a noun
// and does not shout.
func isNoun(f *corpus.Field, name string) bool {
	const mostly = .5 // our own
	if strings.Contains(name, " ") {
		return true
	}
	folded := text.Fold(name)
	if f.Language.NounsHaveCapitals {
		return name != strings.ToLower(name)
	}
	return f.ClassOf(folded).Noun >= mostly && !(len(name) > 2 && name == strings.ToUpper(name) && corpus.IsWord(folded))
}

var inWords = map[lexicon.Kind]message.Message{lexicon.Nationality: "a people", lexicon.Both: "a people", lexicon.Organisation: "an organisation or place of work", lexicon.Location: "a place or structure", lexicon.Event: "an event",
	lexicon.Tongue: "a language", lexicon.Product: "a device or product", lexicon.Work: "a work", lexicon.Standard: "a law or standard", lexicon.Concept: "a noun"}

// singular undoes an English plural, by the dictionary.
func singular(s string) string {
	for _, e := range [][2]string{{"ies", "y"}, {"es", ""}, {"s", ""}} {
		if base, ok := strings.CutSuffix(s, e[0]); ok {
			if _, known := lexicon.KindOf(base + e[1]); known {
				return base + e[1]
			}
		}
	}
	return s
}
