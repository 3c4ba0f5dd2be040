package demand

import (
	"cmp"
	"context"
	"maps"
	"math"
	"slices"

	"corpulan/core/language"
	"corpulan/core/stats"
)

// How alike two queries are. Shared results are the main signal: two queries belong on one page
// where at least three or four of their first ten results are the same (common practice, no
// published source). Words alone are poor evidence; see docs/evaluation.md.
const (
	FirstResults = 10  // that are compared
	FewestShared = 3   // of them, that say one page
	againstWords = 0.3 // what likeness of words is worth where results are known and say otherwise; our own
	minWords     = 0.2 // likeness of words below it is none; our own
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

// stemsOf are the stems that a query is compared by: content words, those that say little of
// what is asked left to weigh less.
func stemsOf(lang *language.Language, s string) []string {
	stems := lang.ContentStems(s)
	slices.Sort(stems)
	return slices.Compact(stems)
}

// weigh makes the vector of a query, by the list's frequencies of stems.
func (a *about) weigh(df map[string]int, light map[string]bool, n int) {
	weights := make([]stats.Weighted, 0, len(a.stems))
	for _, s := range a.stems {
		w := stats.IDF(df[s], n)
		if light[s] {
			w *= ofLight
		}
		weights = append(weights, stats.Weighted{Stem: s, Weight: w})
	}
	a.vector = stats.NewVector(weights)
}

// ofLight is what a word is worth that says little of what is asked ("best", "need"), against
// another. Set on labelled queries: see docs/evaluation.md.
const ofLight = 0.7

// like is how alike two queries are.
func (a *about) like(b *about, m meaning) float64 {
	words := m.cosine(a, b)
	if a.asks && b.asks && a.kind != b.kind {
		words *= ofOtherKind
	}
	if words < minWords {
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
	if shared < FewestShared {
		return words * againstWords
	}
	return math.Min(1, 0.5+float64(shared)/FirstResults/2)
}

// ofOtherKind is what the words are worth of two questions that ask different things of one
// matter: when against how. Our own.
const ofOtherKind = 0.7

// Bounds on the pairs that are compared. Our own: a stem that stands in more of them tells
// none apart, and is met by the others.
const (
	commonest = 400
	maxOfOne  = 60
)

// likenesses are the edges between keywords, those that share nothing left out: of each
// keyword those with which it shares the rarest stems and addresses.
func likenesses(ctx context.Context, all []about, m meaning, done func(int)) ([]edge, error) {
	n := len(all)
	number := map[string]int{}
	var with [][]int32 // keywords by stem or address
	of := make([][]int32, n)
	see := func(i int, what string) {
		at, ok := number[what]
		if !ok {
			at = len(with)
			number[what] = at
			with = append(with, nil)
		}
		with[at] = append(with[at], int32(i))
		of[i] = append(of[i], int32(at))
	}
	for i := range all {
		for _, s := range all[i].stems {
			see(i, s)
		}
		for _, u := range slices.Sorted(maps.Keys(all[i].results)) {
			see(i, "\x00"+u)
		}
		all[i].meet(m)
	}
	for i := range all { // and those with a word that is near one of its own
		for _, s := range all[i].stems {
			for _, other := range slices.Sorted(maps.Keys(m[s])) {
				of[i] = append(of[i], int32(number[other]))
			}
		}
	}
	var edges []edge
	score := make([]float64, n)
	var near, best []int
	for i := range all {
		if i%reportEvery == 0 {
			if err := ctx.Err(); err != nil {
				return nil, err
			}
			if done != nil {
				done(i)
			}
		}
		near = near[:0]
		for _, at := range of[i] {
			if len(with[at]) > commonest {
				continue
			}
			rare := stats.IDF(len(with[at]), n)
			for _, o := range with[at] {
				if int(o) <= i {
					continue
				}
				if score[o] == 0 {
					near = append(near, int(o))
				}
				score[o] += rare
			}
		}
		best = best[:0]
		for _, o := range near { // the first in this order, without putting the others in any
			nearer := func(a, b int) int { return cmp.Or(cmp.Compare(score[b], score[a]), a-b) }
			if len(best) == maxOfOne && nearer(o, best[maxOfOne-1]) > 0 {
				continue
			}
			at, _ := slices.BinarySearchFunc(best, o, nearer)
			best = slices.Insert(best[:min(len(best), maxOfOne-1)], at, o)
		}
		for _, o := range best {
			if w := all[i].like(&all[o], m); w > 0 {
				edges = append(edges, edge{i, o, w})
			}
		}
		for _, o := range near {
			score[o] = 0
		}
	}
	return edges, nil
}

// reportEvery is after how many keywords the progress is told. Our own.
const reportEvery = 500
