package themes

import (
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/house"
)

// byHand moves headings as a person has: each to the group of another heading, or to one
// of its own. A heading is meant wherever it stands with the same words.
func byHand(f *corpus.Field, heads []headingVector, groups [][]int, taught *house.Lexicon) [][]int {
	if taught == nil || len(taught.Gathered) == 0 {
		return groups
	}
	keys := make([]string, len(heads))
	for i, h := range heads {
		keys[i] = f.Language.PhraseKey(h.text)
	}
	at := make([]int, len(heads))
	for g, list := range groups {
		for _, h := range list {
			at[h] = g
		}
	}
	next := len(groups)
	for _, move := range taught.Gathered {
		to := next
		if move[1] != "" {
			anchor := slices.Index(keys, move[1])
			if anchor < 0 || move[0] == move[1] {
				continue // it is on no kept page
			}
			to = at[anchor]
		}
		for h, k := range keys {
			if k == move[0] {
				at[h] = to
			}
		}
		next = max(next, to+1)
	}
	moved := make([][]int, next)
	for h, g := range at {
		moved[g] = append(moved[g], h)
	}
	return slices.DeleteFunc(moved, func(g []int) bool { return len(g) == 0 })
}

// nameByHand is what a person has called the theme of a group, by any of its headings.
func nameByHand(f *corpus.Field, heads []headingVector, group []int, taught *house.Lexicon) string {
	if taught == nil {
		return ""
	}
	for _, h := range group {
		if name := taught.Named[f.Language.PhraseKey(heads[h].text)]; name != "" {
			return name
		}
	}
	return ""
}
