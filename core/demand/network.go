package demand

import (
	"cmp"
	"slices"

	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/stats"
)

// Link is a link that a slate proposes from one of its pages to another.
type Link struct {
	From   string       `json:"from"` // keys of pages
	To     string       `json:"to"`
	Anchor string       `json:"anchor"`
	Why    message.Kept `json:"why"`
}

// Siblings that are linked. Our own; each has two or three links besides those to the pillar,
// as is common practice, no published source.
const (
	nearSibling = 0.15 // likeness of their words from which two share a theme
	maxSibling  = 3    // links of one page to siblings
)

// LinksOf proposes the links between the pages of a slate: every supporting article to the
// pillar page and back, and to the siblings that share most of its words. Anchors are keywords
// of the page that is linked to, in turn, so that no two links to a page have the same one as
// long as it has enough of them.
func LinksOf(pages []Planned, market string) []Link {
	lang := language.For(market)
	df := map[string]int{}
	stems := make([]map[string]bool, len(pages))
	for i, p := range pages {
		stems[i] = map[string]bool{}
		for _, k := range append([]string{p.Keyword}, p.Secondary...) {
			for _, s := range stemsOf(lang, k) {
				stems[i][s] = true
			}
		}
		for s := range stems[i] {
			df[s]++
		}
	}
	vectors := make([]stats.Vector, len(pages))
	for i := range pages {
		var w []stats.Weighted
		for s := range stems[i] {
			if df[s] < len(pages) { // what all have joins none of them
				w = append(w, stats.Weighted{Stem: s, Weight: stats.IDF(df[s], len(pages))})
			}
		}
		slices.SortFunc(w, func(a, b stats.Weighted) int { return cmp.Compare(a.Stem, b.Stem) })
		vectors[i] = stats.NewVector(w)
	}
	used := make([]int, len(pages))
	links := []Link{}
	add := func(from, to int, why message.Kept) {
		names := append([]string{pages[to].Keyword}, pages[to].Secondary...)
		links = append(links, Link{pages[from].Key, pages[to].Key, names[used[to]%len(names)], why})
		used[to]++
	}
	pillar := slices.IndexFunc(pages, func(p Planned) bool { return p.Pillar })
	for i := range pages {
		if pillar >= 0 && i != pillar {
			add(i, pillar, "every supporting article leads to the pillar page")
			add(pillar, i, "the pillar page leads to each of its articles")
		}
	}
	for i := range pages {
		if i == pillar {
			continue
		}
		type near struct {
			at int
			w  float64
		}
		var list []near
		for j := range pages {
			if j != i && j != pillar {
				if w := stats.Cosine(vectors[i], vectors[j]); w >= nearSibling {
					list = append(list, near{j, w})
				}
			}
		}
		slices.SortStableFunc(list, func(a, b near) int { return cmp.Compare(b.w, a.w) })
		for _, x := range list[:min(len(list), maxSibling)] {
			add(i, x.at, message.Of("they share a theme: %s", sharedWord(lang, pages[i], pages[x.at], df, len(pages))).Keep())
		}
	}
	return links
}

// sharedWord is the rarest word that two pages' keywords have in common.
func sharedWord(lang *language.Language, a, b Planned, df map[string]int, n int) string {
	theirs := map[string]bool{}
	for _, k := range append([]string{b.Keyword}, b.Secondary...) {
		for _, s := range stemsOf(lang, k) {
			theirs[s] = true
		}
	}
	best, least := "", n
	for _, k := range append([]string{a.Keyword}, a.Secondary...) {
		for _, s := range stemsOf(lang, k) {
			if theirs[s] && (best == "" || df[s] < least) {
				best, least = lang.WordOf(k, s), df[s]
			}
		}
	}
	return best
}
