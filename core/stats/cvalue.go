package stats

import (
	"math"
	"slices"
	"strings"
)

// Phrase is a candidate as the C-value sees it.
type Phrase struct {
	Words     []string
	Frequency float64
}

// CValues computes the C-value of each phrase (Frantzi, Ananiadou & Mima
// 2000): log2|a| · f(a), less the mean frequency with which a stands inside
// longer candidates. Occurrences are passed from the longest down, so that one
// inside a phrase of five words is not taken off again for the four inside it.
// A single word has log2 1 = 0 by the formula.
func CValues(phrases []Phrase) []float64 {
	index := make(map[string]int, len(phrases))
	order := make([]int, len(phrases))
	for i, p := range phrases {
		index[strings.Join(p.Words, " ")] = i
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return len(phrases[b].Words) - len(phrases[a].Words) })
	nested := make([]float64, len(phrases)) // t(a): occurrences inside longer candidates
	longer := make([]float64, len(phrases)) // c(a): how many longer candidates
	c := make([]float64, len(phrases))
	for _, i := range order {
		p := phrases[i]
		n := len(p.Words)
		own := p.Frequency
		if longer[i] > 0 {
			own -= nested[i] / longer[i]
		}
		c[i] = math.Log2(float64(n)) * own
		for size := 1; size < n; size++ {
			for at := 0; at+size <= n; at++ {
				if j, ok := index[strings.Join(p.Words[at:at+size], " ")]; ok {
					nested[j] += p.Frequency - nested[i]
					longer[j]++
				}
			}
		}
	}
	return c
}
