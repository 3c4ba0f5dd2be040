package demand

import (
	"cmp"
	"math"
	"slices"

	"corpulan/core/address"
	"corpulan/core/language"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// How alike two queries are. Shared results are the main signal: two queries belong on one page
// where at least three or four of their first ten results are the same (common practice, no
// published source). Words alone are poor evidence; see docs/evaluation.md.
const (
	firstResults = 10  // that are compared
	fewestShared = 3   // of them, that say one page
	againstWords = 0.3 // what likeness of words is worth where results are known and say otherwise; our own
	leastWords   = 0.2 // likeness of words below it is none; our own
)

// Results are the addresses of a query's results, in rank order, by the query as Same has it.
type Results map[string][]string

// edge is a likeness of two keywords, 0 to 1.
type edge struct {
	a, b int
	w    float64
}

// signs are what a query is compared by.
type signs struct {
	vector  stats.Vector
	kind    language.QuestionKind
	asks    bool
	results map[string]bool // keys of addresses; nil where none are known
}

// likenesses are the edges between keywords, those that share nothing left out.
func likenesses(list []Keyword, results Results, lang *language.Language) []edge {
	all := signsOf(list, results, lang)
	var edges []edge
	pairs := candidates(list, all, lang)
	for _, p := range pairs {
		if w := all[p[0]].like(&all[p[1]]); w > 0 {
			edges = append(edges, edge{p[0], p[1], w})
		}
	}
	return edges
}

// stemsOf are the stems that a query is compared by: content words, those that say little of
// what is asked left to weigh less.
func stemsOf(lang *language.Language, s string) []string {
	stems := lang.ContentStems(s)
	slices.Sort(stems)
	return slices.Compact(stems)
}

func signsOf(list []Keyword, results Results, lang *language.Language) []signs {
	stems := make([][]string, len(list))
	df := map[string]int{}
	light := map[string]bool{}
	for i, k := range list {
		stems[i] = stemsOf(lang, k.Text)
		for _, s := range stems[i] {
			df[s]++
		}
		text.EachWord(k.Text, func(w text.Span) {
			if folded := text.Fold(w.Of(k.Text)); lang.Light(folded) {
				light[lang.StemFolded(folded)] = true
			}
		})
	}
	all := make([]signs, len(list))
	for i, k := range list {
		weights := make([]stats.Weighted, 0, len(stems[i]))
		for _, s := range stems[i] {
			w := stats.IDF(df[s], len(list))
			if light[s] {
				w *= ofLight
			}
			weights = append(weights, stats.Weighted{Stem: s, Weight: w})
		}
		all[i].vector = stats.NewVector(weights)
		all[i].kind, all[i].asks = lang.KindOfQuestion(k.Text)
		if urls, ok := results[Same(k.Text)]; ok {
			all[i].results = map[string]bool{}
			for _, u := range urls[:min(len(urls), firstResults)] {
				all[i].results[address.Parse(u).Key()] = true
			}
		}
	}
	return all
}

// ofLight is what a word is worth that says little of what is asked ("best", "need"), against
// another. Our own.
const ofLight = 0.5

// like is how alike two queries are.
func (a *signs) like(b *signs) float64 {
	words := stats.Cosine(a.vector, b.vector)
	if a.asks && b.asks && a.kind != b.kind {
		words *= ofOtherKind
	}
	if words < leastWords {
		words = 0
	}
	if a.results == nil || b.results == nil {
		return words
	}
	shared := 0
	for u := range a.results {
		if b.results[u] {
			shared++
		}
	}
	if shared < fewestShared {
		return words * againstWords
	}
	return math.Min(1, 0.5+float64(shared)/firstResults/2)
}

// ofOtherKind is what the words are worth of two questions that ask different things of one
// matter: when against how. Our own.
const ofOtherKind = 0.7

// Bounds on the pairs that are compared. Our own: a stem that stands in more of them tells
// none apart, and is met by the others.
const (
	commonest   = 400
	mostOfOne   = 60
	mostAddress = 400
)

// candidates are the pairs that share a result or a stem that is not all too common; of each
// keyword those that share the rarest.
func candidates(list []Keyword, all []signs, lang *language.Language) [][2]int {
	by := map[string][]int{}
	for i, k := range list {
		for _, s := range stemsOf(lang, k.Text) {
			by[s] = append(by[s], i)
		}
		for u := range all[i].results {
			by["\x00"+u] = append(by["\x00"+u], i)
		}
	}
	var pairs [][2]int
	score := map[int]float64{}
	for i, k := range list {
		clear(score)
		for _, s := range stemsOf(lang, k.Text) {
			if with := by[s]; len(with) <= commonest {
				for _, o := range with {
					if o > i {
						score[o] += stats.IDF(len(with), len(list))
					}
				}
			}
		}
		for u := range all[i].results {
			if with := by["\x00"+u]; len(with) <= mostAddress {
				for _, o := range with {
					if o > i {
						score[o] += stats.IDF(len(with), len(list))
					}
				}
			}
		}
		near := make([]int, 0, len(score))
		for o := range score {
			near = append(near, o)
		}
		slices.SortFunc(near, func(a, b int) int { return cmp.Or(cmp.Compare(score[b], score[a]), a-b) })
		for _, o := range near[:min(len(near), mostOfOne)] {
			pairs = append(pairs, [2]int{i, o})
		}
	}
	return pairs
}
