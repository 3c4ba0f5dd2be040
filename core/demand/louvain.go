package demand

import (
	"maps"
	"slices"
)

// Communities parts a graph of n nodes by the method of Louvain (Blondel, Guillaume, Lambiotte
// & Lefebvre 2008, "Fast unfolding of communities in large networks"), with modularity at a
// resolution (Reichardt & Bornholdt 2006): the higher, the smaller the communities. It gives a
// community for each node, numbered by their first nodes, and is deterministic: nodes are gone
// through in their order.
func Communities(n int, edges []edge, resolution float64) []int {
	g := newNetwork(n, edges)
	if g.twice == 0 {
		return g.parted(0)
	}
	copy(g.mass, g.degree)
	return g.parted(resolution / g.twice)
}

// Dense parts a graph by the same method with the constant Potts model (Traag, Van Dooren &
// Nesterov 2011, "Narrow scope for resolution-limit-free community detection"): nodes stay
// together where the mean weight between them is at least so high, however large the rest of
// the graph is.
func Dense(n int, edges []edge, least float64) []int {
	g := newNetwork(n, edges)
	for i := range g.mass {
		g.mass[i] = 1
	}
	return g.parted(least)
}

// parted goes from level to level; two nodes together cost penalty for each unit of both masses.
func (g *network) parted(penalty float64) []int {
	of := make([]int, len(g.near))
	for i := range of {
		of[i] = i
	}
	for {
		local, moved := g.pass(penalty)
		if !moved {
			break
		}
		for i := range of {
			of[i] = local[of[i]]
		}
		g = g.fold(local)
	}
	return renumbered(of)
}

// Modularity is that of a partition: the share of weight within communities less what chance
// would put there (Newman & Girvan 2004), at a resolution.
func Modularity(n int, edges []edge, of []int, resolution float64) float64 {
	g := newNetwork(n, edges)
	if g.twice == 0 {
		return 0
	}
	within, degree := map[int]float64{}, map[int]float64{}
	for i := range n {
		degree[of[i]] += g.degree[i]
		within[of[i]] += g.self[i]
		for j, w := range g.near[i] {
			if of[i] == of[j] {
				within[of[i]] += w
			}
		}
	}
	q := 0.0
	for _, c := range slices.Sorted(maps.Keys(degree)) { // sums are the same each time
		q += within[c]/g.twice - resolution*degree[c]/g.twice*degree[c]/g.twice
	}
	return q
}

// network is a weighted graph without direction.
type network struct {
	near   []map[int]float64
	order  [][]int   // the neighbours, ascending
	self   []float64 // twice the weight of loops
	degree []float64
	mass   []float64 // what a node weighs against links
	twice  float64   // of all weight
}

func newNetwork(n int, edges []edge) *network {
	g := &network{near: make([]map[int]float64, n), self: make([]float64, n), mass: make([]float64, n)}
	for i := range g.near {
		g.near[i] = map[int]float64{}
	}
	for _, e := range edges {
		if e.a == e.b {
			g.self[e.a] += 2 * e.w
			continue
		}
		g.near[e.a][e.b] += e.w
		g.near[e.b][e.a] += e.w
	}
	g.finish()
	return g
}

func (g *network) finish() {
	g.degree, g.order, g.twice = make([]float64, len(g.near)), make([][]int, len(g.near)), 0
	for i, near := range g.near {
		g.order[i] = slices.Sorted(maps.Keys(near))
		g.degree[i] = g.self[i]
		for _, j := range g.order[i] {
			g.degree[i] += near[j]
		}
		g.twice += g.degree[i]
	}
}

// mostRounds bounds the rounds of one pass; weights that tie could go round without end.
// Our own.
const mostRounds = 100

// gainful is the least gain that moves a node. Our own.
const gainful = 1e-12

// pass moves nodes to the communities of their neighbours as long as that gains; it tells the
// communities, numbered from 0, and whether anything moved.
func (g *network) pass(penalty float64) (of []int, moved bool) {
	n := len(g.near)
	of = make([]int, n)
	total := make([]float64, n)
	for i := range of {
		of[i], total[i] = i, g.mass[i]
	}
	if g.twice == 0 {
		return of, false
	}
	links := map[int]float64{}
	for range mostRounds {
		any := false
		for i := range n {
			clear(links)
			for _, j := range g.order[i] {
				links[of[j]] += g.near[i][j]
			}
			own := of[i]
			total[own] -= g.mass[i]
			best, most := own, links[own]-penalty*total[own]*g.mass[i]
			for _, j := range g.order[i] {
				c := of[j]
				if gain := links[c] - penalty*total[c]*g.mass[i]; gain > most+gainful {
					best, most = c, gain
				}
			}
			total[best] += g.mass[i]
			if best != own {
				of[i], any, moved = best, true, true
			}
		}
		if !any {
			break
		}
	}
	return renumbered(of), moved
}

// fold makes one node of each community.
func (g *network) fold(of []int) *network {
	n := slices.Max(of) + 1
	to := &network{near: make([]map[int]float64, n), self: make([]float64, n), mass: make([]float64, n)}
	for i := range to.near {
		to.near[i] = map[int]float64{}
	}
	for i, near := range g.near {
		to.self[of[i]] += g.self[i]
		to.mass[of[i]] += g.mass[i]
		for _, j := range g.order[i] {
			if of[i] == of[j] {
				to.self[of[i]] += near[j]
			} else {
				to.near[of[i]][of[j]] += near[j]
			}
		}
	}
	to.finish()
	return to
}

// renumbered numbers communities by their first nodes.
func renumbered(of []int) []int {
	number := map[int]int{}
	out := make([]int, len(of))
	for i, c := range of {
		if _, ok := number[c]; !ok {
			number[c] = len(number)
		}
		out[i] = number[c]
	}
	return out
}
