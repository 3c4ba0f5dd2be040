package demand

import (
	"cmp"
	"math"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// nearEnough is how much of a keyword's words, weighed by how rare they are in a list, a query
// has that is near it. Our own.
const nearEnough = 0.5

// Near are the keywords of a list that are near one: they have half of its words, rare ones
// counting more. Of a list about bicycles those with no more than “bicycle” are not.
func Near(list []Keyword, keyword, market string) []Keyword {
	lang := language.For(market)
	want := stemsOf(lang, keyword)
	with, df := make([][]string, len(list)), map[string]int{}
	for i, k := range list {
		with[i] = stemsOf(lang, k.Text)
		for _, s := range with[i] {
			df[s]++
		}
	}
	// The plain inverse frequency: a word that all have weighs nothing.
	weight := func(s string) float64 { return math.Log(float64(len(list)+1) / float64(df[s]+1)) }
	all := 0.0
	for _, s := range want {
		all += weight(s)
	}
	var near []Keyword
	for i, k := range list {
		have := 0.0
		for _, s := range want {
			if slices.Contains(with[i], s) {
				have += weight(s)
			}
		}
		if all > 0 && have >= nearEnough*all {
			near = append(near, k)
		}
	}
	return near
}

// Searched is a query against the field: where it is met.
type Searched struct {
	Keyword Keyword `json:"keyword"`
	Asks    bool    `json:"asks"`  // it is a question
	Met     []int   `json:"met"`   // ranks of pages with all its words in one section
	Part    []int   `json:"part"`  // ranks of those that have them in the page
	Unmet   bool    `json:"unmet"` // hardly anybody meets it
}

// fewMeet is the share of pages that hardly anybody is, though never less than one. Our own.
const fewMeet = 0.1

// SearchedIn tells of each query where the field meets it: a page does where the stems of its
// content words stand in one section, and in part where they stand in the page. The unmet come
// first, by volume.
func SearchedIn(list []Keyword, f *corpus.Field) []Searched {
	all := make([]map[string]bool, len(f.Docs))
	for i, d := range f.Docs {
		all[i] = map[string]bool{}
		for _, stems := range d.Sections {
			for s := range stems {
				all[i][s] = true
			}
		}
	}
	few := max(1, int(fewMeet*float64(len(f.Docs))))
	out := make([]Searched, 0, len(list))
	for _, k := range list {
		want := stemsOf(f.Language, k.Text)
		if len(want) == 0 {
			continue
		}
		s := Searched{Keyword: k, Met: []int{}, Part: []int{}}
		_, s.Asks = f.Language.KindOfQuestion(k.Text)
		for i, d := range f.Docs {
			if slices.ContainsFunc(want, func(w string) bool { return !all[i][w] }) {
				continue
			}
			if slices.ContainsFunc(d.Sections, func(stems map[string]int) bool {
				return !slices.ContainsFunc(want, func(w string) bool { return stems[w] == 0 })
			}) {
				s.Met = append(s.Met, f.Ranks[i])
			} else {
				s.Part = append(s.Part, f.Ranks[i])
			}
		}
		s.Unmet = len(f.Docs) > 0 && len(s.Met) < few
		out = append(out, s)
	}
	slices.SortStableFunc(out, func(a, b Searched) int {
		if a.Unmet != b.Unmet {
			if a.Unmet {
				return -1
			}
			return 1
		}
		return cmp.Or(cmp.Compare(b.Keyword.Volume.Value, a.Keyword.Volume.Value), cmp.Compare(len(a.Met), len(b.Met)))
	})
	return out
}

// NotSearched are those of some terms and questions of a field that no query asks for: a query
// does that has all their stems.
func NotSearched(found []string, list []Keyword, market string) []string {
	lang := language.For(market)
	have := make([]map[string]bool, len(list))
	by := map[string][]int{}
	for i, k := range list {
		have[i] = map[string]bool{}
		for _, s := range stemsOf(lang, k.Text) {
			have[i][s] = true
			by[s] = append(by[s], i)
		}
	}
	out := []string{}
	for _, f := range found {
		want := stemsOf(lang, f)
		if len(want) == 0 {
			continue
		}
		if !slices.ContainsFunc(by[want[0]], func(i int) bool {
			return !slices.ContainsFunc(want, func(w string) bool { return !have[i][w] })
		}) {
			out = append(out, f)
		}
	}
	return out
}
