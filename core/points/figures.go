package points

import (
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/stats"
)

// Spread is what pages say of one figure: the same unit, and values that do not meet.
type Spread struct {
	Unit   string  `json:"unit"`
	Values []Value `json:"values"`
}

// Value is one page's figure, as it is written.
type Value struct {
	Rank int     `json:"rank"`
	Text string  `json:"text"`
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

// sameThing is how alike two sentences must be for their figures to be of one thing.
// Our own.
const sameThing = 0.5

// disputed finds units for which two pages of a group give figures that do not meet.
func disputed(f *corpus.Field, group []sentence) []Spread {
	byUnit := map[string][]Value{}
	var units []string
	for _, s := range group {
		seen := map[string]bool{}
		for _, x := range s.figures {
			if seen[x.Unit] { // two figures of one sentence are of two things
				delete(byUnit, x.Unit)
				continue
			}
			seen[x.Unit] = true
			if byUnit[x.Unit] == nil {
				units = append(units, x.Unit)
			}
			byUnit[x.Unit] = append(byUnit[x.Unit], Value{f.Ranks[s.doc], x.Text, x.From, x.To})
		}
	}
	alike := map[[2]int]bool{}
	for _, a := range group {
		for _, b := range group {
			if stats.Cosine(a.vector, b.vector) >= sameThing {
				alike[[2]int{f.Ranks[a.doc], f.Ranks[b.doc]}] = true
			}
		}
	}
	var list []Spread
	for _, unit := range slices.Compact(slices.Sorted(slices.Values(units))) {
		values := byUnit[unit]
		for i, a := range values {
			if slices.ContainsFunc(values[:i], func(b Value) bool {
				return b.Rank != a.Rank && alike[[2]int{b.Rank, a.Rank}] && (a.From > b.To || b.From > a.To)
			}) {
				list = append(list, Spread{unit, values})
				break
			}
		}
	}
	return list
}
