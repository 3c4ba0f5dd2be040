// Package entities finds the things that pages of a field call by their names, all
// in find.go.
package entities

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// EntityType is what sort of thing a name stands for.
type EntityType string

// The types told apart so far; Name is a name of unknown type.
const (
	PlaceType        EntityType = "place"
	OrganisationType EntityType = "organisation"
	PersonType       EntityType = "person"
	AbbreviationType EntityType = "abbreviation"
	NameType         EntityType = "name"
)

// Entity is a thing that pages call by its name.
type Entity struct {
	Key      string     `json:"key"`
	Name     string     `json:"name"`     // the commonest way it is written
	Variants []string   `json:"variants"` // every way, the commonest first
	Type     EntityType `json:"type"`
	Pages    int        `json:"pages"`
	Mentions int        `json:"mentions"`
	Counts   []int      `json:"counts"` // mentions per page, in the order of Evidence.Sources
	Sources  []int      `json:"sources"`
	Flag     string     `json:"flag,omitempty"`
}

// mention is a run of capitalised words.
type mention struct {
	doc   int
	words []string // as written
	start bool     // it opens its sentence, whose capital may not be its own
}

// Find collects names: runs of words with capitals that are not the
// sentence's. The corpus decides: a word that the field also writes in small
// letters is no name.
func Find(f *corpus.Field) []Entity {
	var mentions []mention
	for i, d := range f.Docs {
		for _, s := range d.Sentences {
			if s.Heading || s.Kind == reading.LineCode || corpus.MostlyCapitals(s) {
				continue
			}
			mentions = append(mentions, runs(i, s, f.Language)...)
		}
	}
	headings := map[string]bool{}
	for _, d := range f.Docs {
		for _, h := range d.Reading.Headings {
			headings[text.Fold(h.Text)] = true
		}
	}
	found := map[string]*Entity{}
	shapes := map[string]map[string]int{}
	for _, m := range mentions {
		words := trimToName(f, m)
		if len(words) == 0 {
			continue
		}
		name := strings.Join(words, " ")
		k := text.Fold(name)
		if len(words) > 1 && name == strings.ToUpper(name) && headings[k] {
			continue // "see RECOVERING FROM AN ERROR": a heading is pointed at
		}
		e := found[k]
		if e == nil {
			e = &Entity{Key: k, Counts: make([]int, len(f.Docs))}
			found[k], shapes[k] = e, map[string]int{}
		}
		e.Counts[m.doc]++
		e.Mentions++
		shapes[k][name]++
	}
	sites := f.SiteNames()
	list := []Entity{}
	for k, e := range found {
		e.Variants = byCount(shapes[k])
		e.Name = e.Variants[0]
		e.Type = typeOf(e.Name, f.Language)
		if stems := f.Language.ContentStems(e.Name); sites[corpus.Key(stems)] || sites[strings.Join(stems, "")] {
			e.Flag = "the name of a site"
		}
		for i, n := range e.Counts {
			if n > 0 {
				e.Pages++
				e.Sources = append(e.Sources, f.Ranks[i])
			}
		}
		if e.Mentions > 1 {
			list = append(list, *e)
		}
	}
	slices.SortFunc(list, func(a, b Entity) int {
		return cmp.Or(b.Pages-a.Pages, b.Mentions-a.Mentions, strings.Compare(a.Key, b.Key))
	})
	return list
}

// byCount orders what was counted, the commonest first.
func byCount(counts map[string]int) []string {
	return slices.SortedFunc(maps.Keys(counts), func(a, b string) int {
		return cmp.Or(counts[b]-counts[a], strings.Compare(a, b))
	})
}

// longestName is how many words a name may have; a longer run of capitals is a
// line in title case. Our own bound.
const longestName = 12

func runs(doc int, s corpus.Sentence, lang *language.Language) []mention {
	var found []mention
	for i := 0; i < len(s.Tokens); i++ {
		if !isNameWord(s.Tokens[i]) {
			continue
		}
		end := i + 1
		for end < len(s.Tokens) && (!s.Tokens[end].Broken || lang.IsHonorific(s.Tokens[end-1].Folded) && s.Text[s.Tokens[end-1].End:s.Tokens[end].Start] == ". ") {
			if isNameWord(s.Tokens[end]) {
				end++
				continue
			}
			next := end + 1
			if lang.Joins(s.Tokens[end].Folded) && next < len(s.Tokens) && lang.IsDefinite(s.Tokens[next].Folded) {
				next++
			}
			if lang.Joins(s.Tokens[end].Folded) && next < len(s.Tokens) && !s.Tokens[next].Broken && isNameWord(s.Tokens[next]) {
				end = next + 1
				continue
			}
			break
		}
		if end-i > longestName {
			i = end - 1
			continue
		}
		m := mention{doc: doc, start: i == 0}
		for j := i; j < end; j++ {
			from := s.Tokens[j].Start
			for j+1 < end && elided(s, j) { // "d'Azur" is one word of a name
				j++
			}
			w := s.Text[from:s.Tokens[j].End]
			if !s.Tokens[j].WordStart && len(m.words) > 0 { // parts of a hyphenated name
				m.words[len(m.words)-1] += "-" + w
				continue
			}
			m.words = append(m.words, strings.TrimSuffix(strings.TrimSuffix(w, "'s"), "’s"))
		}
		found = append(found, m)
		i = end - 1
	}
	return found
}

// elided tells a token that an apostrophe joins to the next: the "d" of "d'Azur".
func elided(s corpus.Sentence, i int) bool {
	return i+1 < len(s.Tokens) && s.Tokens[i+1].WordStart && !s.Tokens[i+1].Broken && strings.ContainsAny(s.Text[s.Tokens[i].End:s.Tokens[i+1].Start], "'’")
}

func isNameWord(t corpus.Token) bool {
	return t.Capital && t.Folded != "i" && !strings.HasPrefix(t.Folded, "i'") && !strings.HasPrefix(t.Folded, "i’")
}

// trimToName takes from the front and the end of a run what the field shows
// to be ordinary words; nil if nothing of a name is left.
// The shares are our own.
func trimToName(f *corpus.Field, m mention) []string {
	const mostly = 0.6 // share of uses inside sentences with a capital
	lower := func(folded string) bool {
		return slices.ContainsFunc(f.Docs, func(d *corpus.Doc) bool { return d.Lower[folded] > 0 })
	}
	words := m.words
	ordinary := func(w string) bool {
		folded := f.Language.Bare(text.Fold(w))
		ratio, seen := f.Capitals[folded]
		return f.Language.Stop(folded) || f.Language.Joins(folded) || f.Language.InCalendar(folded) || f.Language.Light(folded) && ratio < 0.95 || (!seen || ratio < mostly) && (!isAbbreviation(w) || lower(folded))
	}
	for len(words) > 0 && (f.Language.Joins(text.Fold(words[0])) || m.start && len(words) == len(m.words) && ordinary(words[0])) {
		words = words[1:]
	}
	for len(words) > 0 && f.Language.Joins(text.Fold(words[len(words)-1])) {
		words = words[:len(words)-1]
	}
	for _, w := range words {
		if !ordinary(w) && len(w) > 1 {
			return words
		}
	}
	return nil
}

func isAbbreviation(w string) bool {
	return len(w) >= 2 && len(w) <= 6 && strings.ToUpper(w) == w && strings.ToLower(w) != w
}

func typeOf(name string, lang *language.Language) EntityType {
	words := strings.Fields(text.Fold(name))
	switch {
	case lang.IsHonorific(strings.TrimSuffix(words[0], ".")) && len(words) > 1:
		return PersonType
	case lang.EndsOrganisation(words[len(words)-1]) && len(words) > 1, lang.EndsOrganisation(words[0]) && len(words) > 2 && words[1] == "of":
		return OrganisationType
	case lang.EndsPlace(words[len(words)-1]) && len(words) > 1:
		return PlaceType
	case isAbbreviation(name):
		return AbbreviationType
	}
	if _, ok := lexicon.PlaceNamed(name); ok {
		return PlaceType
	}
	return NameType
}
