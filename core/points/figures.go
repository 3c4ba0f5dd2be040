package points

import (
	"math"
	"slices"

	"corpulan/core/corpus"
)

// Spread is what pages say of one figure: the same unit, and values that do not meet.
type Spread struct {
	Unit   string  `json:"unit"`
	Values []Value `json:"values"`
	per    string  // what they are counted by
}

// Value is one page's figure, as it is written.
type Value struct {
	Rank int     `json:"rank"`
	Text string  `json:"text"`
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

// roughly is by how much of the greater two figures differ that say the same: pages round. Our own.
const roughly = 0.1

// meet tells whether two figures of one unit can be the same.
func meet(a, b corpus.Figure) bool {
	slack := roughly * max(math.Abs(a.To), math.Abs(b.To))
	return a.From <= b.To+slack && b.From <= a.To+slack
}

// apart gives the first figures of two sentences that are of one unit and none of which meets any of the
// other's: what is said twice is no two things.
func apart(a, b sentence) (x, y corpus.Figure, found bool) {
	for _, x := range a.figures {
		of := func(z corpus.Figure) bool { return z.Unit == x.Unit && z.Per == x.Per }
		if !slices.ContainsFunc(b.figures, of) {
			continue
		}
		if !slices.ContainsFunc(a.figures, func(p corpus.Figure) bool {
			return of(p) && slices.ContainsFunc(b.figures, func(q corpus.Figure) bool { return of(q) && meet(p, q) })
		}) {
			return x, b.figures[slices.IndexFunc(b.figures, of)], true
		}
	}
	return x, y, false
}

// disputed is what the sentences of other pages that would say the same as one but for a figure say instead.
func disputed(f *corpus.Field, list []sentence, of int, others []neighbour) (spreads []Spread, against []Saying) {
	s := list[of]
	for _, n := range others {
		o := list[n.at]
		x, y, _ := apart(s, o)
		i := slices.IndexFunc(spreads, func(p Spread) bool { return p.Unit == x.Unit && p.per == x.Per })
		if i < 0 {
			i = len(spreads)
			spreads = append(spreads, Spread{x.Unit, []Value{{f.Ranks[s.doc], x.Text, x.From, x.To}}, x.Per})
		}
		spreads[i].Values = append(spreads[i].Values, Value{f.Ranks[o.doc], y.Text, y.From, y.To})
		against = append(against, Saying{f.Ranks[o.doc], o.section, o.text})
	}
	return spreads, against
}
