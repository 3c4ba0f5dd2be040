package themes

import (
	"cmp"
	"context"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// ofGroup is which share of the uses of a group's terms stands in the sections of a theme that
// gives the group its name. Our own: half, since the name says that they mostly stand there.
const ofGroup = 0.5

// Naming names groups of terms (semantic fields, communities of a network) by the themes of the
// field: by the one in whose sections most uses of the group's terms stand, each term counting
// alike, where that is half of them. A theme names one group, the one that it holds most of.
// Groups are given as the keys of their terms, each with all its shapes; the name is the number of
// the theme, -1 for none. Its only error is ctx's.
func Naming(ctx context.Context, pages []corpus.RankedPage, market string, list []Theme, groups [][][]string) ([]int, error) {
	at := map[string]int{} // key -> term, numbered over all groups
	terms := 0
	for _, group := range groups {
		for _, keys := range group {
			for _, k := range keys {
				at[k] = terms
			}
			terms++
		}
	}
	of := map[[2]int][]int{} // rank and section -> themes
	for i, t := range list {
		for _, m := range t.Members {
			of[[2]int{m.Rank, m.Section}] = append(of[[2]int{m.Rank, m.Section}], i)
		}
	}
	all, within := make([]float64, terms), make([]map[int]float64, terms)
	lang := language.For(market)
	for _, p := range pages {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		phrases := corpus.PhrasesOf(p.Doc, lang)
		for i := range p.Doc.Sentences {
			s := &p.Doc.Sentences[i]
			phrases(s, func(from, to int) {
				term, ok := at[corpus.StemKey(s.Tokens[from:to])]
				if !ok {
					return
				}
				all[term]++
				for _, t := range of[[2]int{p.Rank, s.Section}] {
					if within[term] == nil {
						within[term] = map[int]float64{}
					}
					within[term][t]++
				}
			})
		}
	}
	return namedBy(groups, len(list), all, within), nil
}

// namedBy gives each group the theme that holds most of its terms' uses, the strongest pair first.
func namedBy(groups [][][]string, themes int, all []float64, within []map[int]float64) []int {
	type pair struct {
		group, theme int
		share        float64
	}
	var pairs []pair
	names, term := make([]int, len(groups)), 0
	for g, group := range groups {
		names[g] = -1
		for t := range themes {
			share := 0.0
			for i := range group {
				if n := all[term+i]; n > 0 {
					share += within[term+i][t] / n / float64(len(group))
				}
			}
			if share >= ofGroup {
				pairs = append(pairs, pair{g, t, share})
			}
		}
		term += len(group)
	}
	slices.SortStableFunc(pairs, func(a, b pair) int { return cmp.Compare(b.share, a.share) })
	taken := map[int]bool{}
	for _, p := range pairs {
		if names[p.group] < 0 && !taken[p.theme] {
			names[p.group], taken[p.theme] = p.theme, true
		}
	}
	return names
}
