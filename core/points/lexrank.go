package points

import "corpulan/core/stats"

// damping is how often a reader goes on from one sentence to a like one instead of to
// any (Erkan & Radev 2004), and rounds how often the ranks are handed on: they settle
// to the third figure well before. Our own for the rounds.
const (
	damping = 0.85
	rounds  = 40
)

// lexRank is continuous LexRank (Erkan & Radev 2004): the stationary distribution of a
// walk over sentences that goes to like ones in proportion to their cosine. The ranks
// sum to one.
func lexRank(vectors []stats.Vector) []float64 {
	n := len(vectors)
	cosine := make([][]float64, n)
	for i := range cosine {
		cosine[i] = make([]float64, n)
	}
	sums := make([]float64, n)
	for i := range n {
		for j := i; j < n; j++ {
			c := stats.Cosine(vectors[i], vectors[j])
			cosine[i][j], cosine[j][i] = c, c
		}
	}
	for i := range n {
		sums[i] = stats.Sum(cosine[i])
	}
	rank, next := make([]float64, n), make([]float64, n)
	for i := range rank {
		rank[i] = 1 / float64(n)
	}
	for range rounds {
		for i := range n {
			in := 0.0
			for j := range n {
				if sums[j] > 0 {
					in += rank[j] * cosine[j][i] / sums[j]
				}
			}
			next[i] = (1-damping)/float64(n) + damping*in
		}
		rank, next = next, rank
	}
	return rank
}
