package stats

import "context"

// AverageLink groups n items by agglomerative clustering with average linkage
// (UPGMA; Sokal & Michener 1958): the two groups with the highest mean pairwise
// similarity are joined until none reaches the threshold. similarity must be
// symmetric. The groups hold item numbers in ascending order and are ordered by
// their first item. Time O(n²) on most input, O(n³) at worst; memory O(n²).
// It stops, with what it has, when ctx ends.
func AverageLink(ctx context.Context, n int, threshold float64, similarity func(i, j int) float64) [][]int {
	l := newLinkage(n)
	for i := range n {
		if ctx.Err() != nil {
			break
		}
		for j := i + 1; j < n; j++ {
			s := similarity(i, j)
			l.sim[i][j], l.sim[j][i] = s, s
		}
	}
	for i := range n {
		l.look(i)
	}
	for ctx.Err() == nil {
		a := l.nearest()
		if a < 0 || l.sim[a][l.best[a]] < threshold {
			break
		}
		l.join(a, l.best[a])
	}
	return l.groups()
}

// linkage is a clustering in the making: each group goes by the first of its items.
type linkage struct {
	sim   [][]float64
	size  []int
	group []int // of each item
	alive []bool
	best  []int // most similar later group of each; -1 for none
}

func newLinkage(n int) *linkage {
	l := &linkage{make([][]float64, n), make([]int, n), make([]int, n), make([]bool, n), make([]int, n)}
	for i := range n {
		l.sim[i] = make([]float64, n)
		l.size[i], l.group[i], l.alive[i] = 1, i, true
	}
	return l
}

// look finds the most similar later group of one.
func (l *linkage) look(i int) {
	l.best[i] = -1
	for j := i + 1; j < len(l.sim); j++ {
		if l.alive[j] && (l.best[i] < 0 || l.sim[i][j] > l.sim[i][l.best[i]]) {
			l.best[i] = j
		}
	}
}

// nearest is the first of the two most similar groups; -1 if there is one group.
func (l *linkage) nearest() int {
	a := -1
	for i, alive := range l.alive {
		if alive && l.best[i] >= 0 && (a < 0 || l.sim[i][l.best[i]] > l.sim[a][l.best[a]]) {
			a = i
		}
	}
	return a
}

// join takes group b into group a.
func (l *linkage) join(a, b int) {
	l.alive[b] = false
	for k, alive := range l.alive {
		if alive && k != a {
			// Lance & Williams (1967) update for the group average.
			s := (float64(l.size[a])*l.sim[a][k] + float64(l.size[b])*l.sim[b][k]) / float64(l.size[a]+l.size[b])
			l.sim[a][k], l.sim[k][a] = s, s
		}
	}
	l.size[a] += l.size[b]
	for i, g := range l.group {
		if g == b {
			l.group[i] = a
		}
	}
	// The group average never brings a group nearer than its nearer half was,
	// so only those that pointed at either half must look again.
	for i, alive := range l.alive {
		if alive && (i == a || l.best[i] == a || l.best[i] == b) {
			l.look(i)
		}
	}
}

func (l *linkage) groups() (groups [][]int) {
	at := map[int]int{}
	for i, g := range l.group {
		n, ok := at[g]
		if !ok {
			n = len(groups)
			at[g] = n
			groups = append(groups, nil)
		}
		groups[n] = append(groups[n], i)
	}
	return groups
}
