package change

import (
	"cmp"
	"slices"

	"corpulan/core/address"
	"corpulan/core/reading"
)

// pair is a page as it is in two gatherings; nil where it is not.
type pair struct{ before, after *Result }

// match tells which page is which: by their addresses first; then, of one site, by what they
// say, for a page whose address has changed. Pages are in the order they now have, then those
// that are gone, in the order they had.
func match(before, after []Result) []pair {
	at := map[string]int{} // number of a page of before, by its addresses
	for i := range before {
		for _, key := range before[i].keys() {
			if _, taken := at[key]; !taken {
				at[key] = i
			}
		}
	}
	taken := make([]bool, len(before))
	of := make([]int, len(after)) // number of the page before, -1 for none
	for i := range after {
		of[i] = -1
		for _, key := range after[i].keys() {
			if b, ok := at[key]; ok && !taken[b] {
				taken[b], of[i] = true, b
				break
			}
		}
	}
	type like struct {
		before, after int
		share         float64
	}
	var alike []like
	for i := range after {
		if of[i] >= 0 || after[i].Doc == nil {
			continue
		}
		for b := range before {
			if taken[b] || before[b].Doc == nil || before[b].Doc.Site != after[i].Doc.Site || before[b].Doc.Site == "" {
				continue
			}
			if share := reading.Resemblance(before[b].Doc.Reading.Sketch, after[i].Doc.Reading.Sketch); share >= reading.NearDuplicate {
				alike = append(alike, like{b, i, share})
			}
		}
	}
	slices.SortStableFunc(alike, func(x, y like) int { return cmp.Compare(y.share, x.share) })
	for _, l := range alike {
		if !taken[l.before] && of[l.after] < 0 {
			taken[l.before], of[l.after] = true, l.before
		}
	}
	pairs := make([]pair, 0, len(after))
	for i := range after {
		p := pair{after: &after[i]}
		if of[i] >= 0 {
			p.before = &before[of[i]]
		}
		pairs = append(pairs, p)
	}
	for b := range before {
		if !taken[b] {
			pairs = append(pairs, pair{before: &before[b]})
		}
	}
	return pairs
}

// keys are what the addresses of a page are told apart by, that of the results first.
func (r *Result) keys() []string {
	var keys []string
	for _, a := range append([]string{r.URL}, r.Also...) {
		if k := address.Parse(a).Key(); k != "" && !slices.Contains(keys, k) {
			keys = append(keys, k)
		}
	}
	if len(keys) == 0 && r.URL != "" { // a file of unknown origin
		keys = append(keys, r.URL)
	}
	return keys
}

// place is where the page stood and stands; false for one that ranked in neither gathering.
func (p pair) place() (Place, bool) {
	pl := Place{How: Same}
	for _, side := range []struct {
		r  *Result
		at *Rank
	}{{p.before, &pl.Before}, {p.after, &pl.After}} {
		if side.r == nil {
			continue
		}
		if !side.r.Added {
			*side.at = Rank(side.r.Rank)
		}
		pl.URL, pl.Title = side.r.URL, side.r.title()
	}
	if p.before != nil && p.after != nil && !address.Same(p.before.URL, p.after.URL) && p.before.URL != p.after.URL {
		pl.Was = p.before.URL
	}
	switch {
	case pl.Before == 0 && pl.After == 0:
		return pl, false
	case pl.Before == 0:
		pl.How = New
	case pl.After == 0:
		pl.How = Gone
	case pl.After < pl.Before:
		pl.How = Up
	case pl.After > pl.Before:
		pl.How = Down
	}
	return pl, true
}

func (r *Result) title() string {
	if r.Doc != nil && r.Doc.Reading.Title != "" {
		return r.Doc.Reading.Title
	}
	return r.Title
}

// counts tells whether the page is part of its field.
func (r *Result) counts() bool { return r != nil && r.Kept && r.Doc != nil }
