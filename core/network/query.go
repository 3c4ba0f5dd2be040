package network

import (
	"cmp"
	"slices"
	"strings"
	"unicode"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// Query is what people search, and how often; 1 where that is not known.
type Query struct {
	Text   string
	Volume float64
}

// maxSearched is how many words that are searched and that the field has not are added. Our own.
const maxSearched = 20

// OfQueries is the network of what people search: the terms of a field's network that stand in
// queries, and words of queries that the field's terms have not, joined where they stand in one
// query. The keyword's own words are in nearly all of them and are left out.
func OfQueries(field *Network, queries []Query, market, keyword string) *Network {
	s := searchedFor{
		lang: language.For(market), queries: queries,
		stems: make([][]string, len(queries)), sets: make([][]int, len(queries)),
		covered: map[string]bool{}, n: &Network{Nodes: []Node{}, Links: []Link{}, Communities: []Community{}},
	}
	for i, q := range queries {
		s.stems[i] = s.lang.ContentStems(q.Text)
	}
	for _, k := range s.lang.ContentStems(keyword) {
		s.covered[k] = true
	}
	for _, node := range field.Nodes {
		s.addNode(node)
	}
	s.addWords()
	c := newCounts(len(s.n.Nodes))
	for i, set := range s.sets {
		slices.Sort(set)
		c.unit(i, slices.Compact(set))
	}
	s.n.join(c, minTogeth, 1)
	return s.n
}

// searchedFor is the network of what people search, as it grows.
type searchedFor struct {
	lang    *language.Language
	queries []Query
	stems   [][]string      // content stems of each query
	sets    [][]int         // nodes of each query
	covered map[string]bool // stems that are not added: the keyword's, and those of the field's terms
	n       *Network
}

// addNode adds a term of the field that stands in queries.
func (s *searchedFor) addNode(node Node) {
	volume, found, at := 0.0, 0, len(s.n.Nodes)
	for i, stems := range s.stems {
		if slices.ContainsFunc(node.Keys, func(k string) bool { return holdsKey(stems, k) }) {
			volume += s.queries[i].Volume
			found++
			s.sets[i] = append(s.sets[i], at)
		}
	}
	if found == 0 {
		return
	}
	for _, k := range node.Keys {
		s.covered[k] = true
		for _, stem := range s.lang.ContentStems(k) {
			s.covered[stem] = true
		}
	}
	node.Searched, node.Count, node.Community = volume, found, -1
	s.n.Nodes = append(s.n.Nodes, node)
}

// holdsKey tells whether stems hold the stems of a key, one after the other.
func holdsKey(stems []string, key string) bool {
	for at := range stems {
		if rest := corpus.Key(stems[at:]); rest == key || strings.HasPrefix(rest, key+" ") {
			return true
		}
	}
	return false
}

// addWords adds the words of queries that no term of the field has, the most searched first.
func (s *searchedFor) addWords() {
	type word struct {
		Node
		in []int // queries
	}
	var words []*word
	at := map[string]*word{}
	for i, stems := range s.stems {
		for _, stem := range slices.Compact(slices.Sorted(slices.Values(stems))) {
			if s.covered[stem] || strings.IndexFunc(stem, unicode.IsLetter) < 0 {
				continue
			}
			w := at[stem]
			if w == nil {
				w = &word{Node: Node{Key: stem, Keys: []string{stem}, Text: s.lang.WordOf(s.queries[i].Text, stem), Community: -1}}
				at[stem] = w
				words = append(words, w)
			}
			w.Searched += s.queries[i].Volume
			w.Count++
			w.in = append(w.in, i)
		}
	}
	slices.SortStableFunc(words, func(a, b *word) int {
		return cmp.Or(cmp.Compare(b.Searched, a.Searched), b.Count-a.Count)
	})
	for _, w := range words[:min(len(words), maxSearched)] {
		for _, i := range w.in {
			s.sets[i] = append(s.sets[i], len(s.n.Nodes))
		}
		s.n.Nodes = append(s.n.Nodes, w.Node)
	}
}

// Over lays what people search over the network of a field: terms of the field learn how much
// they are searched for, and what is searched and not found is added, joined where queries join
// it. searched is as OfQueries gives it.
func Over(field, searched *Network) *Network {
	n := &Network{Nodes: slices.Clone(field.Nodes), Links: slices.Clone(field.Links), Communities: []Community{}}
	at := map[string]int{}
	for i, node := range n.Nodes {
		at[node.Key] = i
	}
	to := make([]int, len(searched.Nodes))
	for i, node := range searched.Nodes {
		if j, ok := at[node.Key]; ok && node.Field {
			n.Nodes[j].Searched = node.Searched
			to[i] = j
			continue
		}
		to[i] = len(n.Nodes)
		n.Nodes = append(n.Nodes, node)
	}
	for _, l := range searched.Links {
		a, b := to[l.A], to[l.B]
		if a < len(field.Nodes) && b < len(field.Nodes) {
			continue // the field joins them or not; that is what is drawn
		}
		l.A, l.B = min(a, b), max(a, b)
		n.Links = append(n.Links, l)
	}
	n.part()
	return n
}
