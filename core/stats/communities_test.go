package stats

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/graph"
	"gonum.org/v1/gonum/graph/community"
	"gonum.org/v1/gonum/graph/simple"
	"pgregory.net/rapid"
)

// karate is Zachary's club (Zachary 1977, "An information flow model for conflict and fission in
// small groups"): for each of the 34 members those of a higher number that they met.
const karate = `1: 2 3 4 5 6 7 8 9 11 12 13 14 18 20 22 32
2: 3 4 8 14 18 20 22 31
3: 4 8 9 10 14 28 29 33
4: 8 13 14
5: 7 11
6: 7 11 17
7: 17
9: 31 33 34
10: 34
14: 34
15: 33 34
16: 33 34
19: 33 34
20: 34
21: 33 34
23: 33 34
24: 26 28 30 33 34
25: 26 28 32
26: 32
27: 30 34
28: 34
29: 32 34
30: 33 34
31: 33 34
32: 33 34
33: 34`

func club(t testing.TB) (n int, edges []Edge) {
	t.Helper()
	for line := range strings.SplitSeq(karate, "\n") {
		var from int
		head, rest, _ := strings.Cut(line, ":")
		_, err := fmt.Sscan(head, &from)
		require.NoError(t, err)
		for w := range strings.FieldsSeq(rest) {
			var to int
			_, err := fmt.Sscan(w, &to)
			require.NoError(t, err)
			edges = append(edges, Edge{from - 1, to - 1, 1})
		}
	}
	require.Len(t, edges, 78)
	return 34, edges
}

// gonum's is modularity by another's program, for the same partition.
func gonums(n int, edges []Edge, of []int, resolution float64) float64 {
	g := simple.NewWeightedUndirectedGraph(0, 0)
	for i := range n {
		g.AddNode(simple.Node(i))
	}
	for _, e := range edges {
		g.SetWeightedEdge(simple.WeightedEdge{F: simple.Node(e.A), T: simple.Node(e.B), W: e.Weight})
	}
	return community.Q(g, nodesBy(of), resolution)
}

// The best partition known of the club has four communities and a modularity of .4198 (Brandes
// et al. 2008, "On modularity clustering"); the method of Louvain comes near it.
func TestCommunitiesOfTheKarateClub(t *testing.T) {
	n, edges := club(t)
	of := Communities(n, edges, 1)
	q := Modularity(n, edges, of, 1)
	assert.Greater(t, q, 0.41)
	assert.LessOrEqual(t, q, 0.4198)
	assert.InDelta(t, gonums(n, edges, of, 1), q, 1e-12)
	assert.Equal(t, of, Communities(n, edges, 1), "the same each time")
	// The two factions that the club fell into: those of the instructor (1) and the officer (34).
	sides := make([]int, n)
	for _, i := range []int{9, 10, 15, 16, 19, 21, 23, 24, 25, 26, 27, 28, 29, 30, 31, 32, 33, 34} {
		sides[i-1] = 1
	}
	assert.InDelta(t, gonums(n, edges, sides, 1), Modularity(n, edges, sides, 1), 1e-12)
	fine := Communities(n, edges, 5)
	assert.Greater(t, maxOf(fine), maxOf(of), "a higher resolution gives smaller communities")
}

// On any graph modularity is gonum's, and no single move out of its community betters a result
// of Louvain's method at its last level.
func TestModularityAgainstGonum(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		n := rapid.IntRange(2, 12).Draw(r, "nodes")
		seen := map[[2]int]bool{}
		var edges []Edge
		for range rapid.IntRange(1, 30).Draw(r, "edges") {
			a, b := rapid.IntRange(0, n-1).Draw(r, "a"), rapid.IntRange(0, n-1).Draw(r, "b")
			if a, b = min(a, b), max(a, b); a != b && !seen[[2]int{a, b}] {
				seen[[2]int{a, b}] = true
				edges = append(edges, Edge{a, b, rapid.Float64Range(0.1, 1).Draw(r, "w")})
			}
		}
		if len(edges) == 0 {
			return
		}
		resolution := rapid.SampledFrom([]float64{0.5, 1, 3}).Draw(r, "resolution")
		of := Communities(n, edges, resolution)
		q := Modularity(n, edges, of, resolution)
		assert.InDelta(r, gonums(n, edges, of, resolution), q, 1e-9)
		alone := make([]int, n)
		for i := range alone {
			alone[i] = i
		}
		assert.GreaterOrEqual(r, q, Modularity(n, edges, alone, resolution)-1e-9, "no worse than each by itself")
	})
}

func maxOf(of []int) int {
	most := 0
	for _, c := range of {
		most = max(most, c)
	}
	return most
}

func nodesBy(of []int) [][]graph.Node {
	list := make([][]graph.Node, maxOf(of)+1)
	for i, c := range of {
		list[c] = append(list[c], simple.Node(i))
	}
	return list
}
