package entities

import (
	"regexp"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"
)

// join brings together the names of one thing: an abbreviation and its long form, one
// name with and without its number of words in capitals, and a person's last name with
// the full one.
func join(f *corpus.Field, list []*named) []*named {
	byKey := map[string]*named{}
	for _, e := range list {
		byKey[f.Language.PhraseKey(byCount(e.shapes)[0])] = e
	}
	into := map[*named]*named{}
	long := longForms(f)
	for _, e := range list {
		key := f.Language.PhraseKey(byCount(e.shapes)[0])
		if full, ok := long[key]; ok {
			e.Long = full
			if other := byKey[f.Language.PhraseKey(full)]; other != nil && other != e {
				into[other] = e
				e.Long = byCount(other.shapes)[0]
			}
		}
	}
	for _, e := range list { // "APIs"
		name := e.words[len(e.words)-1]
		if one, ok := strings.CutSuffix(name, "s"); ok && len(e.words) == 1 && isAbbreviation(one) {
			for _, other := range list {
				if len(other.words) == 1 && other.words[0] == one && other != e {
					into[e] = other
				}
			}
		}
	}
	joinStandards(f.Language, list, into)
	for last, full := range surnames(f, list) {
		if e := byKey[last]; e != nil && e != full {
			into[e] = full
		}
	}
	for _, e := range list {
		into := into[e]
		if into == nil || into == e {
			continue
		}
		for i, n := range e.Counts {
			into.Counts[i] += n
		}
		for s, n := range e.shapes {
			into.shapes[s] += n
		}
		into.mentions = append(into.mentions, e.mentions...)
		into.mentions = into.mentions[:min(len(into.mentions), maxMentions)]
		into.marked = append(into.marked, e.marked...)
		into.count(f)
	}
	// A full name stands for its last name, however seldom it is written out.
	for _, e := range into {
		if len(e.words) > 1 {
			e.shapes[strings.Join(e.words, " ")] += e.Mentions
		}
	}
	return slices.DeleteFunc(list, func(e *named) bool { return into[e] != nil })
}

// joinStandards brings the national edition of a standard, and its name with what it is before it, to the standard:
// "DIN EN 13432" and "Norm EN 13432" to "EN 13432".
func joinStandards(lang *language.Language, list []*named, into map[*named]*named) {
	first := map[string]*named{}
	for _, e := range list {
		words := e.words
		for len(words) > 2 && lang.EndsLaw(text.Fold(words[0])) {
			words = words[1:]
		}
		name := strings.Join(words, " ")
		if len(words) < 2 || !standards.MatchString(name) || !strings.ContainsAny(name, "0123456789") {
			continue
		}
		key := editions.ReplaceAllString(name, "$1")
		if one := first[key]; one != nil {
			into[e] = one
			continue
		}
		first[key] = e
		if name != strings.Join(e.words, " ") {
			e.words, e.shapes = words, map[string]int{name: e.shapes[strings.Join(e.words, " ")]}
		}
	}
}

// editions are the bodies whose name stands before that of the standard they adopt.
var editions = regexp.MustCompile(`^(?:(?:DIN|BS|NF|UNE|UNI|SS|NEN|NBN|SN)[- ])+(EN|ISO|IEC)`)

// longForms are what the pages say abbreviations stand for, by the stem key of the
// abbreviation, in the words of the first page that says it.
func longForms(f *corpus.Field) map[string]string {
	all := map[string]string{}
	for _, d := range f.Docs {
		for short, long := range d.LongForms {
			if _, ok := all[short]; !ok {
				all[short] = long
			}
		}
	}
	return all
}

// surnames are the last names of people whom the field names in full, by their keys:
// only where one person has the name.
func surnames(f *corpus.Field, list []*named) map[string]*named {
	all := map[string]*named{}
	twice := map[string]bool{}
	for _, e := range list {
		if len(e.words) != 2 || hasSigns(e.words[1]) || isNumber(e.words[1]) {
			continue
		}
		if t, _, _ := typeOf(f, e); t != PersonType {
			continue
		}
		last := text.Fold(e.words[1])
		if all[last] != nil {
			twice[last] = true
		}
		all[last] = e
	}
	for last := range twice {
		delete(all, last)
	}
	return all
}
