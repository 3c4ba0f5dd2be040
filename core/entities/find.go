// Package entities finds the things that pages of a field call by their names, the
// figures several pages give, and the concepts of its subject:
//
//   - find.go     all of a field's entities
//   - names.go    runs of words that may be names
//   - ordinary.go words that are of no name: common ones, code, keys, German nouns
//   - small.go    names that are written small
//   - join.go     names of one thing brought together
//   - types.go    what sort of thing a name stands for, with the reason
//   - context.go  what the sentences around a name tell of that
//   - figures.go  dates, money and quantities
//   - concepts.go terms of the vocabulary that are concepts
package entities

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/core/text"
)

// EntityType is what sort of thing a name stands for.
type EntityType string

// The types; Name is a name that nothing tells the type of.
const (
	PersonType       EntityType = "person"
	OrganisationType EntityType = "organisation"
	ProductType      EntityType = "product" // wares, models, programs
	PlaceType        EntityType = "place"
	WorkType         EntityType = "work"
	EventType        EntityType = "event"
	StandardType     EntityType = "standard" // laws too
	PeopleType       EntityType = "people"   // a nationality, a faith
	LanguageType     EntityType = "language"
	DateType         EntityType = "date"
	MoneyType        EntityType = "money"
	QuantityType     EntityType = "quantity"
	ConceptType      EntityType = "concept"
	NameType         EntityType = "name"
)

// Types are all types, in the order they are shown.
func Types() []EntityType {
	return []EntityType{PersonType, OrganisationType, ProductType, PlaceType, WorkType, EventType, StandardType, PeopleType, LanguageType, ConceptType, NameType, DateType, MoneyType, QuantityType}
}

// IsNamed tells a type of things with names of their own; the others are concepts and
// figures.
func (t EntityType) IsNamed() bool {
	return t != ConceptType && t != DateType && t != MoneyType && t != QuantityType
}

// Entity is a thing that pages call by its name.
type Entity struct {
	Key      string          `json:"key"`
	Name     string          `json:"name"`           // the commonest way it is written
	Long     string          `json:"long,omitempty"` // what the pages say an abbreviation stands for
	Variants []string        `json:"variants"`       // every way, the commonest first
	Type     EntityType      `json:"type"`
	Why      message.Message `json:"why"` // what tells its type
	Pages    int             `json:"pages"`
	Mentions int             `json:"mentions"`
	Salience float64         `json:"salience"` // 0 to 1; see salience
	Counts   []int           `json:"counts"`   // mentions per page, in the order of Evidence.Sources
	Sources  []int           `json:"sources"`
	Flag     message.Message `json:"flag,omitempty"`
}

// named is an entity in the making.
type named struct {
	Entity
	words    []string
	shapes   map[string]int
	mentions []mention // that were read in sentences, the first of each page first
	marked   []int     // pages that have it in a title, a heading or their opening
	sure     float64   // how much speaks for the type
}

// Find collects names: runs of words with capitals that are not the sentence's, and
// others the field treats as names. The corpus decides: a word that the field also
// writes in small letters is no name. concepts are terms of the field's vocabulary, and
// taught is what the house has taught of types.
func Find(f *corpus.Field, concepts []Concept, taught *house.Lexicon) []Entity {
	t := newTrimmer(f)
	found := namesOf(t)
	found = append(found, smallNames(t, found)...)
	found = join(f, found)
	sites := siteNames(f)
	for _, e := range found {
		e.Name = byCount(e.shapes)[0]
		e.Type, e.Why, e.sure = typeOf(f, e)
		if pages, is := sites[squeezed(e.Name)]; is && e.Pages == 1 && slices.Equal(e.Sources, pages) {
			e.Flag = "the name of a site"
		}
	}
	spread(found, f.Language)
	found = slices.DeleteFunc(found, func(e *named) bool { return !standsAsName(f, e) })
	for _, e := range found {
		if e.Type == PeopleType && e.Flag == "" {
			e.Flag = "a people, not a name to use"
		}
	}
	found = append(found, figuresOf(f)...)
	found = append(found, conceptsOf(f, concepts, found)...)
	list := []Entity{}
	for _, e := range found {
		e.finish(f)
		if t := taught.TypeOf(f.Language.PhraseKey(e.Name)); t != "" {
			e.Type, e.Why = EntityType(t), "taught by the house"
		}
		if taught.Ignores(f.Language.PhraseKey(e.Name)) {
			e.Flag = "ignored by the house lexicon"
		}
		if e.Mentions > 1 || e.Pages > 1 {
			list = append(list, e.Entity)
		}
	}
	slices.SortFunc(list, func(a, b Entity) int {
		return cmp.Or(group(a.Type)-group(b.Type), b.Pages-a.Pages, cmp.Compare(b.Salience, a.Salience), strings.Compare(a.Key, b.Key))
	})
	return list
}

// group puts names before concepts, and those before figures.
func group(t EntityType) int {
	switch {
	case t.IsNamed():
		return 0
	case t == ConceptType:
		return 1
	}
	return 2
}

// standsAsName tells whether enough speaks for a name of one word that nothing tells the
// type of: where nouns have capitals something must, and elsewhere a second page.
func standsAsName(f *corpus.Field, e *named) bool {
	return len(e.words) > 1 || e.Type != NameType || !f.Language.NounsHaveCapitals && (e.Pages > 1 || f.Language.Senses)
}

// finish counts the pages and sets the salience: over the pages, one for a mention, the
// logarithm of the others, and one more each for standing in the title, a heading or the
// opening; as a share of what a name would have that is marked so on every page and named
// there as often as the one oftenest named. Our own.
func (e *named) finish(f *corpus.Field) {
	e.Variants = byCount(e.shapes)
	if e.Name == "" {
		e.Name = e.Variants[0]
	}
	e.count(f)
	sum, most := 0.0, 0.0
	for i, n := range e.Counts {
		if n == 0 {
			continue
		}
		w := 1 + math.Log(float64(n))
		most = max(most, w)
		if slices.Contains(e.marked, i) {
			w++
		}
		sum += w
	}
	if most > 0 {
		e.Salience = sum / ((most + 1) * float64(len(f.Docs)))
	}
}

func (e *named) count(f *corpus.Field) {
	e.Pages, e.Sources, e.Mentions = 0, []int{}, 0
	for i, n := range e.Counts {
		e.Mentions += n
		if n > 0 {
			e.Pages++
			e.Sources = append(e.Sources, f.Ranks[i])
		}
	}
}

// byCount orders what was counted, the commonest first.
func byCount(counts map[string]int) []string {
	return slices.SortedFunc(maps.Keys(counts), func(a, b string) int {
		return cmp.Or(counts[b]-counts[a], strings.Compare(a, b))
	})
}

// siteNames are the names that sites of the field give themselves, squeezed, with the
// ranks of the pages of those sites.
func siteNames(f *corpus.Field) map[string][]int {
	all := map[string][]int{}
	for i, d := range f.Docs {
		for k := range d.SiteNames {
			k = squeezed(k)
			all[k] = append(all[k], f.Ranks[i])
		}
		all[squeezed(d.Reading.SiteName)] = append(all[squeezed(d.Reading.SiteName)], f.Ranks[i])
	}
	for k := range all {
		slices.Sort(all[k])
		all[k] = slices.Compact(all[k])
	}
	return all
}

// squeezed is a name without its spaces and signs, for comparing alone.
func squeezed(name string) string {
	return strings.NewReplacer(" ", "", "-", "", ".", "", "&", "").Replace(text.Fold(name))
}
