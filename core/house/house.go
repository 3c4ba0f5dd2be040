// Package house holds what a publication has taught about words: which terms it never
// wants proposed, how it writes others, which are one and which are not.
//
//   - house.go  entries, and what they come to for a field
//   - csv.go    entries as CSV, out and in
package house

import (
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/message"
)

// Kind is what an entry says of its term.
type Kind string

// The kinds of entries.
const (
	Ignore  Kind = "ignore"  // never propose the term
	Prefer  Kind = "prefer"  // write the term as Other
	Merge   Kind = "merge"   // the term is one with Other
	Synonym Kind = "synonym" // the term means the same as Other, and both may be shown
	Split   Kind = "split"   // the term is not one with Other, whatever their spelling says
	Type    Kind = "type"    // the name is one of Other, which is a type of entity
	Spell   Kind = "spell"   // the word is spelt right; it changes no evidence

	// Of one study, made where its findings are shown.
	Asks   Kind = "asks"   // the question asks the same as Other
	Gather Kind = "gather" // the heading belongs to the theme that has the heading Other; to none where it is empty
	Name   Kind = "name"   // the theme that has the heading is called Other
)

// Kinds are all kinds, in the order they are shown.
func Kinds() []Kind { return []Kind{Ignore, Prefer, Merge, Synonym, Split, Type, Spell} }

// EntityTypes are the types that a name can be taught to be of.
func EntityTypes() []string {
	return []string{"person", "organisation", "product", "place", "work", "event", "standard", "people", "language", "concept", "name", "date", "money", "quantity"}
}

// OfStudy tells a kind that only a study's own findings can have.
func (k Kind) OfStudy() bool { return k == Asks || k == Gather || k == Name }

// NeedsOther tells whether an entry of the kind names a second term.
func (k Kind) NeedsOther() bool { return k != Ignore && k != Gather && k != Spell }

// Entry is one thing that was taught.
type Entry struct {
	Kind  Kind   `json:"kind"`
	Term  string `json:"term"`
	Other string `json:"other,omitempty"`
}

// longestTerm bounds what an entry may name, in characters. Our own.
const longestTerm = 300

// Check sets the white space of an entry right and tells in words what is wrong with it.
func Check(e Entry) (Entry, error) {
	e.Term, e.Other = strings.Join(strings.Fields(e.Term), " "), strings.Join(strings.Fields(e.Other), " ")
	switch {
	case !slices.Contains(Kinds(), e.Kind) && !e.Kind.OfStudy():
		return e, message.Errorf("%q is no kind of entry: they are ignore, prefer, merge, synonym, split, type and spell", e.Kind)
	case e.Term == "":
		return e, message.Errorf("the term is missing")
	case utf8.RuneCountInString(e.Term) > longestTerm || utf8.RuneCountInString(e.Other) > longestTerm:
		return e, message.Errorf("a term has at most %d characters", longestTerm)
	case e.Kind.NeedsOther() && e.Other == "":
		return e, message.Errorf("what %q is to be is missing", e.Term)
	case e.Kind == Type && !slices.Contains(EntityTypes(), e.Other):
		return e, message.Errorf("%q is no type of entity: they are %s", e.Other, strings.Join(EntityTypes(), ", "))
	case e.Kind.NeedsOther() && strings.EqualFold(e.Term, e.Other) && e.Kind != Prefer && e.Kind != Type:
		return e, message.Errorf("%q cannot be one with itself, or told from itself", e.Term)
	}
	if e.Kind == Ignore {
		e.Other = ""
	}
	return e, nil
}

// Lexicon is what entries come to in one language: terms by their stem keys.
type Lexicon struct {
	Ignored   map[string]bool
	Preferred map[string]string // the term as it is to be written
	Merged    map[string]string // the key it becomes part of, with synonyms
	Apart     map[[2]string]bool
	Types     map[string]string // of entities, by the stem keys of their names

	Asked    map[string]string // the key of the question that a question is one with
	Gathered [][2]string       // headings by their keys, and the heading whose theme they belong to
	Named    map[string]string // what the theme of a heading is called
}

// New reads entries in a language, the later ones outdoing the earlier: those of a
// study come after those of its publication.
func New(entries []Entry, lang *language.Language) *Lexicon {
	l := &Lexicon{map[string]bool{}, map[string]string{}, map[string]string{}, map[[2]string]bool{}, map[string]string{}, map[string]string{}, nil, map[string]string{}}
	for _, e := range entries {
		from, to := lang.PhraseKey(e.Term), lang.PhraseKey(e.Other)
		if from == "" {
			continue
		}
		switch e.Kind {
		case Ignore:
			l.Ignored[from] = true
		case Prefer:
			l.Preferred[from] = e.Other
			if to != from { // another word altogether: "fender" as "mudguard"
				if l.into(to) == from { // it was taught the other way round before
					delete(l.Merged, to)
				}
				l.Merged[from] = to
				l.Preferred[to] = e.Other
			}
		case Merge, Synonym:
			if l.into(to) != from { // two that are to become each other stay as they are
				l.Merged[from] = to
			}
		case Asks:
			if l.Asked[to] != from { // two that are to be each other stay as they are
				l.Asked[from] = to
			}
		case Gather:
			l.Gathered = append(l.Gathered, [2]string{from, to})
		case Name:
			l.Named[from] = e.Other
		case Type:
			l.Types[from] = e.Other
		case Split:
			l.Apart[[2]string{from, to}], l.Apart[[2]string{to, from}] = true, true
		}
	}
	return l
}

// into follows merges to their end.
func (l *Lexicon) into(key string) string {
	for range len(l.Merged) + 1 {
		next, ok := l.Merged[key]
		if !ok {
			return key
		}
		key = next
	}
	return key
}

// Into is the key of the term that a term is part of, itself where nothing is taught.
func (l *Lexicon) Into(key string) string {
	if l == nil {
		return key
	}
	return l.into(key)
}

// Parted tells two terms that are not one.
func (l *Lexicon) Parted(a, b string) bool { return l != nil && l.Apart[[2]string{a, b}] }

// TypeOf is the type that a name was taught to be of; "" where none was.
func (l *Lexicon) TypeOf(key string) string {
	if l == nil {
		return ""
	}
	return l.Types[key]
}

// Ignores tells a term that is never to be proposed.
func (l *Lexicon) Ignores(key string) bool { return l != nil && l.Ignored[key] }

// AsksTheSame is the key of the question that one was joined to, "" where it was not.
func (l *Lexicon) AsksTheSame(key string) string {
	if l == nil {
		return ""
	}
	into := l.Asked[key]
	for range len(l.Asked) { // to the end of a chain, and not around a circle
		next, ok := l.Asked[into]
		if !ok || next == key {
			break
		}
		into = next
	}
	return into
}
