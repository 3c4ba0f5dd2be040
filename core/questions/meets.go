package questions

import (
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// Meeter tells which pages of a field meet what people search: the same judgement by which pages answer a
// question.
type Meeter struct {
	a    *answerer
	bare [][]language.Matter // by page: the general matters that headings name and nothing else beside the keyword
}

// NewMeeter prepares it for a field; treated may be nil.
func NewMeeter(f *corpus.Field, treated Treated) Meeter {
	a := newAnswerer(f, f.KeywordStems())
	a.headed = headingsOf(f, treated)
	m := Meeter{a, make([][]language.Matter, len(f.Docs))}
	for i, d := range f.Docs {
		for _, s := range d.Reading.Sections {
			if matter, tokens := tokensOf(f.Language, s.Heading); matter != "" && s.Words >= minAnswer && m.only(matter, tokens) {
				m.bare[i] = append(m.bare[i], matter)
			}
		}
	}
	return m
}

// only tells whether tokens are a matter, words of the keyword and those that say nothing.
func (m Meeter) only(matter language.Matter, tokens []string) bool {
	return !slices.ContainsFunc(tokens, func(t string) bool {
		return t != matterSign+string(matter) && !m.a.IsOfKeyword(t) && !m.a.Language.SaysNothing(t)
	})
}

// Meets gives the ranks of the pages that meet a query, and of those that only have its words. A page meets it
// by a section of the theme that it asks about, by one whose heading names the general matter that it asks of
// the keyword, or by one that has all its words or others that mean the same. Words of the keyword, and those
// that say nothing of what is searched ("best", "uk", a year), are not asked for.
func (m Meeter) Meets(query string) (met, partly []int) {
	met, partly = []int{}, []int{}
	q := askedOf(m.a.Language, query)
	q.theme = m.a.headed.themeOf(q)
	want := m.wanted(q)
	for i, d := range m.a.Docs {
		if _, ok := m.a.sectionOfTheme(i, d, []asked{q}); ok || q.matter != "" && m.only(q.matter, q.tokens) && slices.Contains(m.bare[i], q.matter) {
			met = append(met, m.a.Ranks[i])
			continue
		}
		whole, some := len(want) == 0 && q.matter == "", false
		for _, section := range d.Sections {
			n := 0
			for _, ways := range want {
				if slices.ContainsFunc(ways, func(s string) bool { return section[s] > 0 }) {
					n++
				}
			}
			whole = whole || n > 0 && n == len(want)
			some = some || n > 0
		}
		switch {
		case whole:
			met = append(met, m.a.Ranks[i])
		case some:
			partly = append(partly, m.a.Ranks[i])
		}
	}
	return met, partly
}

// wanted are for each content word of a query beyond the keyword the stems that will do.
func (m Meeter) wanted(q asked) (want [][]string) {
	for _, s := range q.stems {
		if m.a.IsOfKeyword(s) || m.a.Language.SaysNothing(s) {
			continue
		}
		ways := append([]string{s}, m.a.SameInMeaning(s)...)
		if !slices.ContainsFunc(ways, m.a.IsOfKeyword) {
			want = append(want, ways)
		}
	}
	return want
}
