package brief

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/themes"
)

// nearTo is how like two matters are at least, by the stems of their headings and texts, for the one to be treated within the
// section on the other. Our own: looked at on the fields of the evaluation.
const nearTo = 0.12

// fold leaves as many sections of a proposed outline as its length has room for. The matters that the fewest pages have lose their
// heading: each goes into the section it is nearest to, or, where it is near to none, to the end, as also treated by some. What a
// person adopted stays a section, and so do what a kind of page brings and the list of things.
func fold(nodes []node, e *evidence.Evidence, c Choices, room int) []node {
	byKey := map[string]themes.Theme{}
	for _, t := range e.Themes {
		byKey[t.Key] = t
	}
	left, own := 0, 0
	for _, n := range nodes {
		if _, isTheme := byKey[n.Key]; isTheme {
			left++
		} else {
			own++
		}
	}
	before := left
	for left > max(1, room-own/2) { // what a kind of page brings is short, and does not drive out what the field treats
		i := leastOf(nodes, func(n node) bool {
			_, isTheme := byKey[n.Key]
			return isTheme && n.Key != evidence.PicksKey && c.State(ThemeKind, n.Key) != Adopted
		})
		if i < 0 {
			break
		}
		nodes[i].Folded = true
		left--
	}
	if left == before {
		return nodes
	}
	return placeFolded(nodes, byKey, language.For(e.Language))
}

// leastOf is the number of the section that can go and fewest pages have, the shorter first; none that has sections below it.
func leastOf(nodes []node, may func(node) bool) int {
	least := -1
	for i, n := range nodes {
		if n.Folded || !may(n) || slices.ContainsFunc(nodes[i+1:end(nodes, i)], func(x node) bool { return !x.Folded }) {
			continue
		}
		if least < 0 || cmp.Or(cmp.Compare(n.Pages, nodes[least].Pages), cmp.Compare(n.length, nodes[least].length)) <= 0 {
			least = i
		}
	}
	return least
}

// end is behind the last of the nodes below one.
func end(nodes []node, i int) int {
	to := i + 1
	for to < len(nodes) && nodes[to].Level > nodes[i].Level {
		to++
	}
	return to
}

// placeFolded puts what is folded behind the section it is nearest to: the one it stood below, else by the words of both.
func placeFolded(nodes []node, byKey map[string]themes.Theme, lang *language.Language) []node {
	words := map[string]map[string]float64{}
	in := map[string]float64{} // matters that a stem stands in
	for _, n := range nodes {
		words[n.Key] = profile(byKey[n.Key], lang)
		for st := range words[n.Key] {
			in[st]++
		}
	}
	var kept, rest []node
	below := map[string][]node{}
	for i, n := range nodes {
		if !n.Folded {
			kept = append(kept, n)
			continue
		}
		at, most := "", nearTo
		for _, x := range nodes {
			if x.Folded || x.Key == evidence.PicksKey || strings.HasPrefix(x.Key, OwnPrefix) {
				continue
			}
			if like := likeness(words[n.Key], words[x.Key], in, len(nodes)); like > most {
				at, most = x.Key, like
			}
		}
		if n.Level > TopLevel { // it stood below a section
			for p := i - 1; p >= 0; p-- {
				if nodes[p].Level < n.Level {
					if !nodes[p].Folded {
						at = nodes[p].Key
					}
					break
				}
			}
		}
		if at == "" {
			n.Level = TopLevel
			rest = append(rest, n)
		} else {
			below[at] = append(below[at], n)
		}
	}
	var out []node
	for _, n := range kept {
		out = append(out, n)
		for _, x := range below[n.Key] {
			x.Level = min(n.Level+1, DeepestLevel)
			out = append(out, x)
		}
	}
	return append(out, rest...)
}

// likeness is the cosine of two matters' stems, each weighted by how few of the matters have it.
func likeness(a, b map[string]float64, in map[string]float64, of int) float64 {
	idf := func(st string) float64 { return math.Log(float64(of+1) / in[st]) }
	dot, x, y := 0.0, 0.0, 0.0
	for st, w := range a {
		x += w * w * idf(st) * idf(st)
		dot += w * b[st] * idf(st) * idf(st)
	}
	for st, w := range b {
		y += w * w * idf(st) * idf(st)
	}
	if dot == 0 {
		return 0
	}
	return dot / math.Sqrt(x*y)
}
