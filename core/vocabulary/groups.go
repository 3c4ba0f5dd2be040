package vocabulary

import (
	"context"
	"math"
	"slices"

	"corpulan/core/stats"
)

// How terms come to a semantic field, all our own: docs/evaluation.md shows some.
const (
	maxGrouped = 150  // terms, the first ones of the vocabulary
	together   = 0.22 // mean similarity of a group
	sharedWord = 0.3  // what a word in common adds ("brake pads", "rear brake")
)

// group parts the first terms into semantic fields: terms that stand in the same
// sections, or have a word in common. Section vectors are compared as cosines with the
// sections weighted by how few terms they have (inverse document frequency; Salton &
// Buckley 1988), by average linkage. Each term of a group of two and more gets the key
// of the group's first.
func group(ctx context.Context, terms []Term, byKey map[string]*merged) {
	var chosen []int
	for i := range terms {
		if terms[i].Recommended() && len(chosen) < maxGrouped {
			chosen = append(chosen, i)
		}
	}
	if len(chosen) < 2 {
		return
	}
	sections := sectionsOf(terms, chosen, byKey)
	words := make([][]string, len(chosen))
	for n, i := range chosen {
		words[n] = byKey[terms[i].Key].stems
	}
	similarity := func(a, b int) float64 {
		s := sections.cosine(a, b)
		if slices.ContainsFunc(words[a], func(w string) bool { return slices.Contains(words[b], w) }) ||
			slices.Contains(terms[chosen[a]].Parts, terms[chosen[b]].Key) || slices.Contains(terms[chosen[b]].Parts, terms[chosen[a]].Key) {
			s = 1 - (1-s)*(1-sharedWord)
		}
		return s
	}
	for _, g := range stats.AverageLink(ctx, len(chosen), together, similarity) {
		if len(g) < 2 {
			continue
		}
		for _, n := range g {
			terms[chosen[n]].Field = terms[chosen[g[0]]].Key
		}
	}
}

// inSections are the sections that each term stands in, numbered over all pages and
// ascending, with the squared weight of each section and the length of each list.
type inSections struct {
	of      [][]int
	weights []float64
	length  []float64
}

func sectionsOf(terms []Term, chosen []int, byKey map[string]*merged) inSections {
	var offsets []int
	all := 0
	for doc := range byKey[terms[chosen[0]].Key].uses {
		offsets = append(offsets, all)
		for _, i := range chosen {
			if u := byKey[terms[i].Key].uses[doc]; u != nil && len(u.Sections) > 0 {
				all = max(all, offsets[doc]+int(u.Sections[len(u.Sections)-1])+1)
			}
		}
	}
	s := inSections{make([][]int, len(chosen)), make([]float64, all), make([]float64, len(chosen))}
	for n, i := range chosen {
		for doc, u := range byKey[terms[i].Key].uses {
			if u == nil {
				continue
			}
			for _, section := range u.Sections {
				s.of[n] = append(s.of[n], offsets[doc]+int(section))
				s.weights[offsets[doc]+int(section)]++
			}
		}
	}
	for i, n := range s.weights {
		if n > 0 {
			idf := stats.IDF(int(n), len(chosen))
			s.weights[i] = idf * idf
		}
	}
	for n, list := range s.of {
		for _, i := range list {
			s.length[n] += s.weights[i]
		}
		s.length[n] = math.Sqrt(s.length[n])
	}
	return s
}

func (s inSections) cosine(a, b int) float64 {
	dot, i, j := 0.0, 0, 0
	x, y := s.of[a], s.of[b]
	for i < len(x) && j < len(y) {
		switch {
		case x[i] == y[j]:
			dot += s.weights[x[i]]
			i++
			j++
		case x[i] < y[j]:
			i++
		default:
			j++
		}
	}
	if dot == 0 {
		return 0
	}
	return dot / (s.length[a] * s.length[b])
}
