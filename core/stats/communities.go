package stats

import (
	"cmp"
	"slices"
)

// Edge joins two nodes of a graph.
type Edge struct {
	A, B   int
	Weight float64
}

// Communities parts a graph of n nodes by the method of Louvain (Blondel, Guillaume, Lambiotte
// & Lefebvre 2008, "Fast unfolding of communities in large networks"), with modularity at a
// resolution (Reichardt & Bornholdt 2006): the higher, the smaller the communities. It gives a
// community for each node, numbered by their first nodes, and is deterministic: nodes are gone
// through in their order.
func Communities(n int, edges []Edge, resolution float64) []int {
	g := NewGraph(n, edges)
	if g.twice == 0 {
		return g.parted(0, nil)
	}
	copy(g.mass, g.degree)
	return g.parted(resolution/g.twice, nil)
}

// Dense parts a graph by the same method with the constant Potts model (Traag, Van Dooren &
// Nesterov 2011, "Narrow scope for resolution-limit-free community detection"): nodes stay
// together where the mean weight between them is at least so high, however large the rest of
// the graph is.
func Dense(n int, edges []Edge, least float64) []int { return NewGraph(n, edges).Dense(least, nil) }

// Dense is the function Dense with some nodes put together beforehand: those with the same number in held,
// which is -1 for all others. They stay together, apart from other such; others may join them.
func (g *Graph) Dense(least float64, held []int) []int {
	for i := range g.mass {
		g.mass[i] = 1
	}
	return g.parted(least, held)
}

// parted goes from level to level; two nodes together cost penalty for each unit of both masses.
func (g *Graph) parted(penalty float64, held []int) []int {
	of := make([]int, len(g.near))
	for i := range of {
		of[i] = i
	}
	if held != nil {
		of = together(held)
		g = g.fold(of)
		for i, h := range held {
			if h >= 0 {
				g.held[of[i]] = true
			}
		}
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

// together numbers nodes anew, those that are held together alike.
func together(held []int) []int {
	number := map[int]int{}
	of := make([]int, len(held))
	next := 0
	for i, h := range held {
		at, known := number[h]
		if h < 0 || !known {
			at = next
			next++
			if h >= 0 {
				number[h] = at
			}
		}
		of[i] = at
	}
	return of
}

// Modularity is that of a partition: the share of weight within communities less what chance
// would put there (Newman & Girvan 2004), at a resolution.
func Modularity(n int, edges []Edge, of []int, resolution float64) float64 {
	g := NewGraph(n, edges)
	if g.twice == 0 {
		return 0
	}
	most := 0
	for _, c := range of {
		most = max(most, c)
	}
	within, degree := make([]float64, most+1), make([]float64, most+1)
	for i := range n {
		degree[of[i]] += g.degree[i]
		within[of[i]] += g.self[i]
		for _, l := range g.near[i] {
			if of[i] == of[l.to] {
				within[of[i]] += l.w
			}
		}
	}
	q := 0.0
	for c := range within {
		q += within[c]/g.twice - resolution*degree[c]/g.twice*degree[c]/g.twice
	}
	return q
}

// Graph is a weighted graph without direction.
type Graph struct {
	near   [][]link  // the neighbours, ascending
	self   []float64 // twice the weight of loops
	degree []float64
	mass   []float64 // what a node weighs against links
	held   []bool    // it stays in its own community; others may join
	twice  float64   // of all weight
}

// link leads to a neighbour.
type link struct {
	to int
	w  float64
}

func empty(n int) *Graph {
	return &Graph{near: make([][]link, n), self: make([]float64, n), degree: make([]float64, n), mass: make([]float64, n), held: make([]bool, n)}
}

// NewGraph makes a graph of n nodes; an edge that is given twice has both weights.
func NewGraph(n int, edges []Edge) *Graph {
	g := empty(n)
	for _, e := range edges {
		if e.A == e.B {
			g.self[e.A] += 2 * e.Weight
			continue
		}
		g.near[e.A] = append(g.near[e.A], link{e.B, e.Weight})
		g.near[e.B] = append(g.near[e.B], link{e.A, e.Weight})
	}
	for i, near := range g.near {
		slices.SortStableFunc(near, func(a, b link) int { return cmp.Compare(a.to, b.to) })
		kept := near[:0]
		for _, l := range near { // an edge given twice is one
			if n := len(kept); n > 0 && kept[n-1].to == l.to {
				kept[n-1].w += l.w
				continue
			}
			kept = append(kept, l)
		}
		g.near[i] = kept
	}
	g.finish()
	return g
}

func (g *Graph) finish() {
	g.twice = 0
	for i, near := range g.near {
		g.degree[i] = g.self[i]
		for _, l := range near {
			g.degree[i] += l.w
		}
		g.twice += g.degree[i]
	}
}

// maxRounds bounds the rounds of one pass; weights that tie could go round without end.
// Our own.
const maxRounds = 100

// gainful is the least gain that moves a node. Our own.
const gainful = 1e-12

// pass moves nodes to the communities of their neighbours as long as that gains; it tells the
// communities, numbered from 0, and whether anything moved.
func (g *Graph) pass(penalty float64) (of []int, moved bool) {
	n := len(g.near)
	of = make([]int, n)
	total, links := make([]float64, n), make([]float64, n)
	for i := range of {
		of[i], total[i] = i, g.mass[i]
	}
	if g.twice == 0 {
		return of, false
	}
	for range maxRounds {
		any := false
		for i, near := range g.near {
			if g.held[i] {
				continue
			}
			own := of[i]
			links[own] = 0
			for _, l := range near {
				links[of[l.to]] = 0
			}
			for _, l := range near {
				links[of[l.to]] += l.w
			}
			total[own] -= g.mass[i]
			best, most := own, links[own]-penalty*total[own]*g.mass[i]
			for _, l := range near {
				c := of[l.to]
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
func (g *Graph) fold(of []int) *Graph {
	members := make([][]int, slices.Max(of)+1)
	for i, c := range of {
		members[c] = append(members[c], i)
	}
	to := empty(len(members))
	weight := make([]float64, len(members))
	var met []int
	for c, list := range members {
		met = met[:0]
		for _, i := range list {
			to.self[c] += g.self[i]
			to.mass[c] += g.mass[i]
			to.held[c] = to.held[c] || g.held[i]
			for _, l := range g.near[i] {
				switch d := of[l.to]; {
				case d == c:
					to.self[c] += l.w
				case weight[d] == 0:
					met = append(met, d)
					fallthrough
				default:
					weight[d] += l.w
				}
			}
		}
		slices.Sort(met)
		met = slices.Compact(met)
		for _, d := range met {
			to.near[c] = append(to.near[c], link{d, weight[d]})
			weight[d] = 0
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
