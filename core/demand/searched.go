package demand

import (
	"cmp"
	"math"
	"slices"

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
	Met     []int   `json:"met"`   // ranks of pages that meet it
	Part    []int   `json:"part"`  // ranks of those that only have words of it
	Unmet   bool    `json:"unmet"` // hardly anybody meets it
}

// fewMeet is the share of pages that hardly anybody is, though never less than one. Our own.
const fewMeet = 0.1

// SearchedIn tells of each query where a field of some pages meets it, as meets has it: the ranks of the pages
// that do, and of those that only have words of it. The unmet come first, by volume.
func SearchedIn(list []Keyword, lang *language.Language, pages int, meets func(query string) (met, part []int)) []Searched {
	few := max(1, int(fewMeet*float64(pages)))
	out := make([]Searched, 0, len(list))
	for _, k := range list {
		if len(stemsOf(lang, k.Text)) == 0 {
			continue
		}
		s := Searched{Keyword: k}
		_, s.Asks = lang.KindOfQuestion(k.Text)
		s.Met, s.Part = meets(k.Text)
		s.Unmet = pages > 0 && len(s.Met) < few
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
