package evidence

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/message"
)

// Share is how much of the field serves one intent or has one form.
type Share struct {
	Kind    string   `json:"kind"`
	Share   float64  `json:"share"` // 0 to 1; the shares of a field add up to 1
	Signals []Signal `json:"signals"`
	Sources []int    `json:"sources"` // ranks of the pages that lean to it most
}

// Signal is what speaks for a share, and on which pages.
type Signal struct {
	Says    message.Message `json:"says"`
	Sources []int           `json:"sources"` // ranks; empty for the results page itself
}

// vote is one signal of one page.
type vote struct {
	kind   string
	says   message.Message
	weight float64
}

// shares adds up the voices of the pages, and of what speaks for none of them.
func shares(f *corpus.Field, votes func(rank int, d *corpus.Doc) []vote, beside []vote) []Share {
	by := map[string]*Share{}
	total := 0.0
	cast := func(list []vote, rank int) {
		whole := 0.0
		for _, v := range list {
			whole += v.weight
		}
		if whole == 0 {
			return
		}
		total++
		mine := map[string]float64{}
		for _, v := range list {
			s := by[v.kind]
			if s == nil {
				s = &Share{Kind: v.kind, Sources: []int{}}
				by[v.kind] = s
			}
			s.Share += v.weight / whole
			mine[v.kind] += v.weight
			s.signal(v.says, rank)
		}
		if rank > 0 {
			best := list[0].kind
			for _, v := range list {
				if mine[v.kind] > mine[best] {
					best = v.kind
				}
			}
			by[best].Sources = append(by[best].Sources, rank)
		}
	}
	for i, d := range f.Docs {
		cast(votes(f.Ranks[i], d), f.Ranks[i])
	}
	if len(f.Docs) > 0 {
		cast(beside, 0)
	}
	list := []Share{}
	for _, s := range by {
		s.Share /= total
		slices.SortStableFunc(s.Signals, func(a, b Signal) int { return len(b.Sources) - len(a.Sources) })
		list = append(list, *s)
	}
	slices.SortFunc(list, func(a, b Share) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), strings.Compare(a.Kind, b.Kind))
	})
	return list
}

// signal notes what speaks for a share; rank 0 is the results page.
func (s *Share) signal(says message.Message, rank int) {
	i := slices.IndexFunc(s.Signals, func(g Signal) bool { return g.Says == says })
	if i < 0 {
		i = len(s.Signals)
		s.Signals = append(s.Signals, Signal{Says: says, Sources: []int{}})
	}
	if rank > 0 {
		s.Signals[i].Sources = append(s.Signals[i].Sources, rank)
	}
}
