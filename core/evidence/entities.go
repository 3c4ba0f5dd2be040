package evidence

import (
	"cmp"
	"maps"
	"slices"
	"strings"

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

// entities collects names: runs of words with capitals that are not the
// sentence's. The corpus decides: a word that the field also writes in small
// letters is no name.
func (f *field) entities() []Entity {
	capitals := capitalRatio(f.docs)
	var mentions []mention
	for i, d := range f.docs {
		for _, s := range d.sentences {
			if s.heading || s.kind == reading.LineCode || mostlyCapitals(s) {
				continue
			}
			mentions = append(mentions, runs(i, s, f.lang)...)
		}
	}
	headings := map[string]bool{}
	for _, d := range f.docs {
		for _, h := range d.Reading.Headings {
			headings[text.Fold(h.Text)] = true
		}
	}
	found := map[string]*Entity{}
	shapes := map[string]map[string]int{}
	for _, m := range mentions {
		words := f.trimToName(m, capitals)
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
			e = &Entity{Key: k, Counts: make([]int, len(f.docs))}
			found[k], shapes[k] = e, map[string]int{}
		}
		e.Counts[m.doc]++
		e.Mentions++
		shapes[k][name]++
	}
	sites := map[string]bool{}
	for _, d := range f.docs {
		for k := range d.siteNames {
			sites[k] = true
		}
	}
	list := []Entity{}
	for k, e := range found {
		e.Variants = byCount(shapes[k])
		e.Name = e.Variants[0]
		e.Type = typeOf(e.Name, f.lang)
		if stems := f.lang.ContentStems(e.Name); sites[key(stems)] || sites[strings.Join(stems, "")] {
			e.Flag = "the name of a site"
		}
		for i, n := range e.Counts {
			if n > 0 {
				e.Pages++
				e.Sources = append(e.Sources, f.ranks[i])
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

func runs(doc int, s sentence, lang *language.Language) []mention {
	var found []mention
	for i := 0; i < len(s.tokens); i++ {
		if !isNameWord(s.tokens[i]) {
			continue
		}
		end := i + 1
		for end < len(s.tokens) && (!s.tokens[end].broken || lang.IsHonorific(s.tokens[end-1].folded) && s.text[s.tokens[end-1].end:s.tokens[end].start] == ". ") {
			if isNameWord(s.tokens[end]) {
				end++
				continue
			}
			next := end + 1
			if lang.Joins(s.tokens[end].folded) && next < len(s.tokens) && lang.IsDefinite(s.tokens[next].folded) {
				next++
			}
			if lang.Joins(s.tokens[end].folded) && next < len(s.tokens) && !s.tokens[next].broken && isNameWord(s.tokens[next]) {
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
			from := s.tokens[j].start
			for j+1 < end && elided(s, j) { // "d'Azur" is one word of a name
				j++
			}
			w := s.text[from:s.tokens[j].end]
			if !s.tokens[j].wordStart && len(m.words) > 0 { // parts of a hyphenated name
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
func elided(s sentence, i int) bool {
	return i+1 < len(s.tokens) && s.tokens[i+1].wordStart && !s.tokens[i+1].broken && strings.ContainsAny(s.text[s.tokens[i].end:s.tokens[i+1].start], "'’")
}

func isNameWord(t token) bool {
	return t.capital && t.folded != "i" && !strings.HasPrefix(t.folded, "i'") && !strings.HasPrefix(t.folded, "i’")
}

// trimToName takes from the front and the end of a run what the field shows
// to be ordinary words; nil if nothing of a name is left.
func (f *field) trimToName(m mention, capitals map[string]float64) []string {
	const mostly = 0.6 // share of uses inside sentences with a capital
	lower := func(folded string) bool {
		return slices.ContainsFunc(f.docs, func(d *Doc) bool { return d.lower[folded] > 0 })
	}
	words := m.words
	ordinary := func(w string) bool {
		folded := f.lang.Bare(text.Fold(w))
		ratio, seen := capitals[folded]
		return f.lang.Stop(folded) || f.lang.Joins(folded) || f.lang.InCalendar(folded) || f.lang.Light(folded) && ratio < 0.95 || (!seen || ratio < mostly) && (!isAbbreviation(w) || lower(folded))
	}
	for len(words) > 0 && (f.lang.Joins(text.Fold(words[0])) || m.start && len(words) == len(m.words) && ordinary(words[0])) {
		words = words[1:]
	}
	for len(words) > 0 && f.lang.Joins(text.Fold(words[len(words)-1])) {
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
