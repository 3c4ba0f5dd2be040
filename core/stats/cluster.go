package stats

import "context"

// AverageLink groups n items by agglomerative clustering with average linkage
// (UPGMA; Sokal & Michener 1958): the two groups with the highest mean pairwise
// similarity are joined until none reaches the threshold. similarity must be
// symmetric. The groups hold item numbers in ascending order and are ordered by
// their first item. Time O(n²) on most input, O(n³) at worst; memory O(n²).
// It stops, with what it has, when ctx ends.
func AverageLink(ctx context.Context, n int, threshold float64, similarity func(i, j int) float64) [][]int {
	sim := make([][]float64, n)
	size := make([]int, n)
	parent := make([]int, n)
	alive := make([]bool, n)
	best := make([]int, n) // most similar later group of each
	for i := range n {
		sim[i] = make([]float64, n)
		size[i], parent[i], alive[i] = 1, i, true
	}
	for i := range n {
		if ctx.Err() != nil {
			break
		}
		for j := i + 1; j < n; j++ {
			s := similarity(i, j)
			sim[i][j], sim[j][i] = s, s
		}
	}
	find := func(i int) {
		best[i] = -1
		for j := i + 1; j < n; j++ {
			if alive[j] && (best[i] < 0 || sim[i][j] > sim[i][best[i]]) {
				best[i] = j
			}
		}
	}
	for i := range n {
		find(i)
	}
	for {
		a := -1
		for i := range n {
			if alive[i] && best[i] >= 0 && (a < 0 || sim[i][best[i]] > sim[a][best[a]]) {
				a = i
			}
		}
		if a < 0 || sim[a][best[a]] < threshold || ctx.Err() != nil {
			break
		}
		b := best[a]
		alive[b] = false
		for k := range n {
			if alive[k] && k != a {
				// Lance & Williams (1967) update for the group average.
				s := (float64(size[a])*sim[a][k] + float64(size[b])*sim[b][k]) / float64(size[a]+size[b])
				sim[a][k], sim[k][a] = s, s
			}
		}
		size[a] += size[b]
		for i := range n {
			if parent[i] == b {
				parent[i] = a
			}
		}
		// The group average never brings a group nearer than its nearer half was,
		// so only those that pointed at either half must look again.
		for i := range n {
			if alive[i] && (i == a || best[i] == a || best[i] == b) {
				find(i)
			}
		}
	}
	byRoot := map[int]int{}
	var groups [][]int
	for i := range n {
		g, ok := byRoot[parent[i]]
		if !ok {
			g = len(groups)
			byRoot[parent[i]] = g
			groups = append(groups, nil)
		}
		groups[g] = append(groups[g], i)
	}
	return groups
}
