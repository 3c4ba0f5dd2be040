// Package network finds the terms of a field that stand together (collocation networks: Brezina,
// McEnery & Wattam 2015), lays them out, and lays what people search over what the field says.
//
//   - network.go  which terms stand together, how strongly, and in which communities
//   - query.go    the same for what people search
//   - layout.go   where terms stand on the drawing
package network

import (
	"cmp"
	"context"
	"math"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/stats"
	"corpulan/core/vocabulary"
)

// How large a network is, and what makes a link. The least number of sentences and of pages is
// as with collocates, common practice of corpus linguistics, no published source; the others are
// our own: with more links nothing can be read.
const (
	MaxNodes     = 80
	FewestNodes  = 30
	minTogeth    = 2   // sentences that have both terms
	minPages     = 2   // on which they stand
	linksOfNode  = 3   // the strongest of each node are drawn
	linksForNode = 1.6 // and no more than so many for each node in all
	minLogDice   = 7   // about one use in sixty together
)

// Node is a term in the network.
type Node struct {
	Key       string   `json:"key"`
	Keys      []string `json:"keys"`
	Text      string   `json:"text"`
	Pages     int      `json:"pages"`
	Score     float64  `json:"score"`     // of the vocabulary: how far it is the subject's; 0 for a word of queries
	Count     int      `json:"count"`     // sentences that have it
	Community int      `json:"community"` // -1 for a term that stands with none
	X         float64  `json:"x"`         // see Lay
	Y         float64  `json:"y"`
	Searched  float64  `json:"searched"` // how much it is searched for, 0 for not
	Field     bool     `json:"field"`    // the field has it
}

// Link joins two terms that stand together.
type Link struct {
	A       int     `json:"a"` // numbers of nodes, the smaller first
	B       int     `json:"b"`
	Joint   int     `json:"joint"`    // sentences, or queries, that have both
	Pages   int     `json:"pages"`    // on which they stand together
	LogDice float64 `json:"log_dice"` // see stats.LogDice
}

// Community is a group of terms that stand together more than with others.
type Community struct {
	Lead  int   `json:"lead"` // the node that its links go to, and that says most of the subject
	Nodes []int `json:"nodes"`
}

// Network is terms and what joins them.
type Network struct {
	Nodes       []Node      `json:"nodes"`
	Links       []Link      `json:"links"` // the strongest first
	Communities []Community `json:"communities"`
	Modularity  float64     `json:"modularity"` // of the communities (Newman & Girvan 2004)
	Width       float64     `json:"width"`      // of the drawing
	Height      float64     `json:"height"`
}

// Within is the unit in which terms stand together.
type Within string

// The units.
const (
	Sentence Within = "sentence"
	Section  Within = "section"
)

// Of is the network of a field's terms: the first most of them that are recommended and that
// hidden does not leave out. Its only error is ctx's.
func Of(ctx context.Context, pages []corpus.RankedPage, market string, terms []vocabulary.Term, most int, within Within, hidden map[string]bool) (*Network, error) {
	n := &Network{Nodes: []Node{}, Links: []Link{}, Communities: []Community{}}
	at := map[string]int{} // key -> node
	for _, t := range terms {
		if len(n.Nodes) >= most || len(n.Nodes) >= MaxNodes {
			break
		}
		if !t.Recommended() || t.IsKeyword || hidden[t.Key] {
			continue
		}
		for _, k := range t.Keys {
			at[k] = len(n.Nodes)
		}
		n.Nodes = append(n.Nodes, Node{Key: t.Key, Keys: t.Keys, Text: t.Text, Pages: t.Pages, Score: t.Score, Field: true, Community: -1})
	}
	c := newCounts(len(n.Nodes))
	lang := language.For(market)
	for page, p := range pages {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		c.page(page, p.Doc, lang, at, within)
	}
	for i := range n.Nodes {
		n.Nodes[i].Count = c.single[i]
	}
	n.join(c, minTogeth, minPages)
	return n, nil
}

// counts are units that have terms, and pairs of them.
type counts struct {
	single []int
	joint  map[[2]int]*together
}

type together struct{ units, pages, last int }

func newCounts(n int) *counts { return &counts{make([]int, n), map[[2]int]*together{}} }

// unit counts the terms of one unit of a page, given as sorted numbers of nodes.
func (c *counts) unit(page int, nodes []int) {
	for i, a := range nodes {
		c.single[a]++
		for _, b := range nodes[i+1:] {
			t := c.joint[[2]int{a, b}]
			if t == nil {
				t = &together{last: -1}
				c.joint[[2]int{a, b}] = t
			}
			t.units++
			if t.last != page {
				t.pages++
				t.last = page
			}
		}
	}
}

// hit is a term in a sentence, by its tokens.
type hit struct{ node, from, to int }

func (c *counts) page(page int, d *corpus.Doc, lang *language.Language, at map[string]int, within Within) {
	var unit []int
	section := -1
	flush := func() {
		slices.Sort(unit)
		c.unit(page, slices.Compact(unit))
		unit = unit[:0]
	}
	phrases := corpus.PhrasesOf(d, lang)
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if within == Sentence || s.Section != section {
			flush()
			section = s.Section
		}
		unit = append(unit, termsIn(s, at, phrases)...)
	}
	flush()
}

// termsIn are the terms of a sentence. A term within a longer one is not by itself there: it
// would stand together with it always.
func termsIn(s *corpus.Sentence, at map[string]int, phrases func(*corpus.Sentence, func(from, to int))) (nodes []int) {
	var hits []hit
	phrases(s, func(from, to int) {
		if node, ok := at[corpus.StemKey(s.Tokens[from:to])]; ok {
			hits = append(hits, hit{node, from, to})
		}
	})
	for i, h := range hits {
		if !slices.ContainsFunc(hits, func(o hit) bool { return o != hits[i] && o.from <= h.from && h.to <= o.to && o.to-o.from > h.to-h.from }) {
			nodes = append(nodes, h.node)
		}
	}
	return nodes
}

// join makes the links: of each node the strongest, in all so many that it can still be read.
func (n *Network) join(c *counts, minUnits, minOn int) {
	var all []Link
	for k, t := range c.joint {
		if t.units < minUnits || t.pages < minOn {
			continue
		}
		l := Link{A: k[0], B: k[1], Joint: t.units, Pages: t.pages, LogDice: stats.LogDice(float64(t.units), float64(c.single[k[0]]), float64(c.single[k[1]]))}
		if l.LogDice >= minLogDice {
			all = append(all, l)
		}
	}
	slices.SortFunc(all, func(a, b Link) int {
		return cmp.Or(cmp.Compare(b.LogDice, a.LogDice), b.Joint-a.Joint, a.A-b.A, a.B-b.B)
	})
	of := make([]int, len(n.Nodes)) // links that are drawn
	most := int(math.Ceil(linksForNode * float64(len(n.Nodes))))
	for _, l := range all {
		if len(n.Links) >= most {
			break
		}
		if of[l.A] < linksOfNode || of[l.B] < linksOfNode {
			of[l.A]++
			of[l.B]++
			n.Links = append(n.Links, l)
		}
	}
	n.part()
}

// part finds the communities, by modularity over the links that are drawn.
func (n *Network) part() {
	edges := make([]stats.Edge, len(n.Links))
	degree := make([]float64, len(n.Nodes))
	for i, l := range n.Links {
		w := l.LogDice - minLogDice + 1
		edges[i] = stats.Edge{A: l.A, B: l.B, Weight: w}
		degree[l.A] += w
		degree[l.B] += w
	}
	of := stats.Communities(len(n.Nodes), edges, 1)
	n.Modularity = stats.Modularity(len(n.Nodes), edges, of, 1)
	groups := map[int][]int{}
	for i, c := range of {
		if degree[i] > 0 {
			groups[c] = append(groups[c], i)
		}
	}
	for _, nodes := range groups {
		lead := nodes[0]
		for _, i := range nodes {
			if degree[i]*n.Nodes[i].Score > degree[lead]*n.Nodes[lead].Score {
				lead = i
			}
		}
		n.Communities = append(n.Communities, Community{lead, nodes})
	}
	slices.SortFunc(n.Communities, func(a, b Community) int {
		return cmp.Or(len(b.Nodes)-len(a.Nodes), a.Lead-b.Lead)
	})
	for i := range n.Nodes {
		n.Nodes[i].Community = -1
	}
	for c, g := range n.Communities {
		for _, i := range g.Nodes {
			n.Nodes[i].Community = c
		}
	}
}

// Near are the links of a node, the strongest first.
func (n *Network) Near(node int) (links []Link) {
	for _, l := range n.Links {
		if l.A == node || l.B == node {
			links = append(links, l)
		}
	}
	return links
}
