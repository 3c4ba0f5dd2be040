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

// mostSearched is how many words that are searched and that the field has not are added. Our own.
const mostSearched = 20

// OfQueries is the network of what people search: the terms of a field's network that stand in
// queries, and words of queries that the field's terms have not, joined where they stand in one
// query. The keyword's own words are in nearly all of them and are left out.
func OfQueries(field *Network, queries []Query, market, keyword string) *Network {
	n := &Network{Nodes: []Node{}, Links: []Link{}, Communities: []Community{}}
	lang := language.For(market)
	common := map[string]bool{}
	for _, s := range lang.ContentStems(keyword) {
		common[s] = true
	}
	type word struct {
		text   string
		volume float64
		n      int
	}
	covered := map[string]bool{}
	inQueries := make([][]string, len(queries)) // content stems of each
	words, order := map[string]*word{}, []string{}
	for i, q := range queries {
		inQueries[i] = lang.ContentStems(q.Text)
	}
	has := func(stems []string, key string) bool {
		for at := range stems {
			rest := corpus.Key(stems[at:])
			if rest == key || len(rest) > len(key) && rest[:len(key)] == key && rest[len(key)] == ' ' {
				return true
			}
		}
		return false
	}
	of := map[int]int{} // node of the field -> ours
	sets := make([][]int, len(queries))
	for f, node := range field.Nodes {
		volume, found := 0.0, 0
		for i, stems := range inQueries {
			if slices.ContainsFunc(node.Keys, func(k string) bool { return has(stems, k) }) {
				volume += queries[i].Volume
				found++
				sets[i] = append(sets[i], f)
				for _, k := range node.Keys {
					for _, s := range lang.ContentStems(k) {
						covered[s] = true
					}
					covered[k] = true
				}
			}
		}
		if found > 0 {
			node.Searched, node.Count, node.Community = volume, found, -1
			of[f] = len(n.Nodes)
			n.Nodes = append(n.Nodes, node)
		}
	}
	for i := range sets {
		for j := range sets[i] {
			sets[i][j] = of[sets[i][j]]
		}
	}
	for i, stems := range inQueries {
		for _, s := range slices.Compact(slices.Sorted(slices.Values(stems))) {
			if common[s] || covered[s] || strings.IndexFunc(s, unicode.IsLetter) < 0 {
				continue
			}
			if words[s] == nil {
				words[s] = &word{text: lang.WordOf(queries[i].Text, s)}
				order = append(order, s)
			}
			words[s].volume += queries[i].Volume
			words[s].n++
		}
	}
	slices.SortStableFunc(order, func(a, b string) int {
		x, y := words[a], words[b]
		return cmp.Or(cmp.Compare(y.volume, x.volume), y.n-x.n)
	})
	mine := map[string]int{}
	for _, s := range order[:min(len(order), mostSearched)] {
		w := words[s]
		mine[s] = len(n.Nodes)
		n.Nodes = append(n.Nodes, Node{Key: s, Keys: []string{s}, Text: w.text, Count: w.n, Searched: w.volume, Community: -1})
	}
	c := newCounts(len(n.Nodes))
	for i, stems := range inQueries {
		set := sets[i]
		for _, s := range stems {
			if at, ok := mine[s]; ok {
				set = append(set, at)
			}
		}
		slices.Sort(set)
		c.unit(i, slices.Compact(set))
	}
	n.join(c, leastTogeth, 1)
	return n
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
