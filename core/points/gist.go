package points

import (
	"cmp"
	"context"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/stats"
)

// How many sentences the gist of a page has, and out of how many they are chosen. Our own.
const (
	gistLength = 5
	maxRanked  = 200
)

// Gist is what one page says in five of its sentences, in the page's order: the most
// central by LexRank (Erkan & Radev 2004), each unlike those before it (Carbonell &
// Goldstein 1998).
func Gist(ctx context.Context, p corpus.RankedPage, market string) []Saying {
	const doc = 0
	f := corpus.NewField([]corpus.RankedPage{p}, market, "")
	list := sentencesOf(f)
	list = list[:min(len(list), maxRanked)]
	if len(list) == 0 || ctx.Err() != nil {
		return []Saying{}
	}
	vectors := make([]stats.Vector, len(list))
	for i, s := range list {
		vectors[i] = s.vector
	}
	central := lexRank(vectors)
	highest := slices.Max(central)
	var taken []int
	for len(taken) < min(gistLength, len(list)) {
		best, most := -1, 0.0
		for i := range list {
			if slices.Contains(taken, i) {
				continue
			}
			like := 0.0
			for _, t := range taken {
				like = max(like, stats.Cosine(vectors[i], vectors[t]))
			}
			score := relevance*central[i]/highest - (1-relevance)*like
			if list[i].personal {
				score -= 1 - relevance
			}
			if best < 0 || score > most+tie {
				best, most = i, score
			}
		}
		taken = append(taken, best)
	}
	slices.Sort(taken)
	gist := []Saying{}
	for _, i := range taken {
		gist = append(gist, Saying{f.Ranks[doc], list[i].section, list[i].text})
	}
	slices.SortStableFunc(gist, func(a, b Saying) int { return cmp.Compare(a.Section, b.Section) })
	return gist
}
