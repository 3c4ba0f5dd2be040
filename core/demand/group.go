package demand

import (
	"cmp"
	"context"
	"math"
	"slices"

	"corpulan/core/language"
	"corpulan/core/message"
)

// Group is the keywords of one page.
type Group struct {
	Key         string       `json:"key"`  // tells it from others of the list
	Name        string       `json:"name"` // the keyword with the most volume, else the plainest
	Keywords    []Keyword    `json:"keywords"`
	Volume      Figure       `json:"volume"`     // of all together
	Difficulty  Figure       `json:"difficulty"` // median
	Cost        Figure       `json:"cost"`       // median
	Intent      string       `json:"intent"`
	IntentWhy   message.Kept `json:"intent_why"`
	Questions   []string     `json:"questions"`
	Seasonality Figure       `json:"seasonality"`       // of the month with the most searches against the mean of all; 1 for none
	Months      []float64    `json:"months,omitempty"`  // searches of all together by month, the oldest first
	Until       string       `json:"until,omitempty"`   // the last of Months, as 2026-10; empty where no list says
	Shared      bool         `json:"shared"`            // shared results had a say
	Potential   Figure       `json:"potential"`         // clicks a month at position 3 by the curve, less by difficulty
	ByHand      bool         `json:"by_hand,omitempty"` // a person put it together
}

// Grouping is what a list comes to.
type Grouping struct {
	Groups []Group `json:"groups"`
	Out    []Out   `json:"out"`
	Width  float64 `json:"width"`
}

// GroupOf groups keywords into pages' worth.
func GroupOf(list []Keyword, o Options) Grouping {
	g, _ := NewGraph(context.Background(), list, o, nil) // its only error is the context's
	return g.Part(o)
}

// summed makes a group of keywords.
func (g *Graph) summed(members []int, o Options, lang *language.Language, wishes []wish) Group {
	slices.SortStableFunc(members, func(a, b int) int {
		return cmp.Or(cmp.Compare(g.list[b].Volume.Value, g.list[a].Volume.Value), cmp.Compare(len(g.all[a].stems), len(g.all[b].stems)))
	})
	first := members[0]
	x := Group{Key: g.keys[first], Name: g.list[first].Text, Questions: []string{}, Keywords: make([]Keyword, len(members))}
	var difficulty, cost, months []float64
	known := 0
	for n, i := range members {
		k := g.list[i]
		x.Keywords[n] = k
		if k.Volume.Known {
			x.Volume = Of(x.Volume.Value + k.Volume.Value)
		}
		if k.Difficulty.Known {
			difficulty = append(difficulty, k.Difficulty.Value)
		}
		if k.Cost.Known {
			cost = append(cost, k.Cost.Value)
		}
		if g.all[i].asks { // queries have no question mark
			x.Questions = append(x.Questions, k.Text)
		}
		if len(months) == 0 {
			x.Until = k.Until
		}
		for n, m := range k.Trend {
			if k.Until != x.Until {
				break // of another year: not to be laid over these
			}
			if n == len(months) {
				months = append(months, 0)
			}
			months[n] += m.Value
		}
		if g.all[i].results != nil {
			known++
		}
		if with, ok := o.Hand.Of[g.keys[i]]; ok {
			x.Key, x.ByHand = with, true
		}
	}
	x.Shared = known > 1
	x.Difficulty, x.Cost, x.Seasonality = median(difficulty), median(cost), seasonality(months)
	x.Months = months
	x.Intent, x.IntentWhy = g.intentOf(members, wishes)
	if x.Volume.Known {
		x.Potential = Of(math.Round(x.Volume.Value * o.Curve.At(aimed) * (1 - math.Min(math.Max(x.Difficulty.Value, 0), 100)/100)))
	}
	if i := slices.IndexFunc(members, func(i int) bool { return g.keys[i] == x.Key }); x.ByHand && i >= 0 {
		x.Name = g.list[members[i]].Text // whoever joins does not give the group another name
	}
	if name := o.Hand.Names[x.Key]; name != "" {
		x.Name = name
	} else if i := slices.IndexFunc(members, func(i int) bool { return o.Hand.Names[g.keys[i]] != "" }); i >= 0 {
		x.Name = o.Hand.Names[g.keys[members[i]]]
	}
	return x
}

func median(x []float64) Figure {
	if len(x) == 0 {
		return Figure{}
	}
	slices.Sort(x)
	if n := len(x); n%2 == 0 {
		return Of((x[n/2-1] + x[n/2]) / 2)
	}
	return Of(x[len(x)/2])
}

// fewestMonths is how many months show a season at the least: a year.
const fewestMonths = 12 // common practice, no published source

func seasonality(months []float64) Figure {
	sum, most := 0.0, 0.0
	for _, m := range months {
		sum += m
		most = max(most, m)
	}
	if len(months) < fewestMonths || sum == 0 {
		return Figure{}
	}
	return Of(math.Round(100*most*float64(len(months))/sum) / 100)
}
