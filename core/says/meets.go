package says

import (
	"slices"

	"corpulan/core/language"
)

// Meets gives the ranks of the texts that meet a search, and of those that only have its words. A text meets it
// by a section that says what it asks for, by one whose heading names the general matter that it asks of
// the keyword and nothing beside it, or by one that has all its words or others that mean the same. Words of the
// keyword, and those that say nothing of what is searched ("best", "uk", a year), are not asked for.
func (t *Texts) Meets(query string) (met, partly []int) {
	met, partly = []int{}, []int{}
	q := Ask(t.Language, query)
	q.About = t.AboutOf(q)
	want := t.wordsOf(q)
	all := t.candidates(q, t.wanted(q))
	for i, d := range t.Docs {
		if says(all[i]) || q.matter != "" && t.only(q.matter, q.tokens) && t.heads(i, q.matter) {
			met = append(met, t.Ranks[i])
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
			met = append(met, t.Ranks[i])
		case some:
			partly = append(partly, t.Ranks[i])
		}
	}
	return met, partly
}

// says tells whether one of some sections says what is asked: it is of the theme or has all of it, and the judge
// finds that likely.
func says(list []judged) bool {
	return slices.ContainsFunc(list, func(j judged) bool { return (j.traits[OfTheme] > 0 || j.whole) && j.odds >= least })
}

// heads tells whether a heading of a text names a general matter and nothing beside it and the keyword.
func (t *Texts) heads(i int, m language.Matter) bool {
	for n, p := range t.parts[i] {
		if p.matter == m && t.Docs[i].Reading.Sections[n].Words >= minAnswer && t.only(m, p.tokens) {
			return true
		}
	}
	return false
}

// only tells whether tokens are a matter, words of the keyword and those that say nothing.
func (t *Texts) only(matter language.Matter, tokens []string) bool {
	return !slices.ContainsFunc(tokens, func(s string) bool {
		return s != matterSign+string(matter) && !t.IsOfKeyword(s) && !t.Language.SaysNothing(s)
	})
}

// wordsOf are for each content word of a search beyond the keyword the stems that will do.
func (t *Texts) wordsOf(q Asked) (want [][]string) {
	for _, s := range q.Stems {
		if t.IsOfKeyword(s) || t.Language.SaysNothing(s) {
			continue
		}
		if ways := t.ways(s); !slices.ContainsFunc(ways, t.IsOfKeyword) {
			want = append(want, ways)
		}
	}
	return want
}
