package demand

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/analysis"
	"corpulan/core/demand"
)

// figuresOf are what groups are sorted and filtered by, by name.
var figuresOf = map[string]func(groupRow) demand.Figure{
	"keywords": func(r groupRow) demand.Figure { return demand.Of(float64(len(r.Keywords))) }, "questions": func(r groupRow) demand.Figure { return demand.Of(float64(len(r.Questions))) },
	"volume": func(r groupRow) demand.Figure { return r.Volume }, "difficulty": func(r groupRow) demand.Figure { return r.Difficulty }, "cost": func(r groupRow) demand.Figure { return r.Cost },
	"season": func(r groupRow) demand.Figure { return r.Seasonality }, "potential": func(r groupRow) demand.Figure { return r.Potential }, "position": func(r groupRow) demand.Figure { return r.Own.Position },
	"clicks": func(r groupRow) demand.Figure { return r.Own.Clicks }, "now": func(r groupRow) demand.Figure { return r.Own.Now }, "gain": func(r groupRow) demand.Figure { return r.Own.Gain },
	"rivals": func(r groupRow) demand.Figure { return demand.Of(float64(len(r.Own.Rivals))) },
}

// bound is a bound on a figure, as the filter takes it: "cost<1".
type bound struct {
	of    func(groupRow) demand.Figure
	above bool
	value float64
}

// boundsIn parts what is typed into the filter: bounds on figures, and the words that are left.
func boundsIn(filter string) (words string, bounds []bound) {
	var rest []string
	for _, w := range strings.Fields(filter) {
		name, value, above := strings.Cut(w, ">")
		if !above {
			name, value, _ = strings.Cut(w, "<")
		}
		of, known := figuresOf[strings.ToLower(name)]
		v := demand.ParseFigure(value)
		if !known || !v.Known {
			rest = append(rest, w)
			continue
		}
		bounds = append(bounds, bound{of, above, v.Value})
	}
	return strings.Join(rest, " "), bounds
}

// matching are the groups that a query asks for, in its order.
func (q groupsQuery) matching(g *analysis.Groups) []groupRow {
	words, bounds := boundsIn(q.Filter)
	if q.Least > 0 {
		bounds = append(bounds, bound{figuresOf["volume"], true, q.Least - 1e-9})
	}
	want := demand.Same(words)
	rows := make([]groupRow, 0, len(g.Groups))
	for _, x := range g.Groups {
		if q.Hardest < 100 && x.Difficulty.Known && x.Difficulty.Value > q.Hardest || q.Intent != "" && x.Intent != q.Intent {
			continue
		}
		if want != "" && !strings.Contains(demand.Same(x.Name), want) && !slices.ContainsFunc(x.Keywords, func(k demand.Keyword) bool { return strings.Contains(demand.Same(k.Text), want) }) {
			continue
		}
		r := groupRow{Group: x, ListID: g.List.ID, Own: g.Own(x)}
		if slices.ContainsFunc(bounds, func(b bound) bool {
			f := b.of(r)
			return !f.Known || b.above && f.Value <= b.value || !b.above && f.Value >= b.value
		}) {
			continue
		}
		rows = append(rows, r)
	}
	if q.Tab == "ours" && q.Sort == "" {
		q.Sort, q.Down = "gain", true
	}
	compare := map[string]func(a, b groupRow) int{
		"name":   func(a, b groupRow) int { return strings.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)) },
		"intent": func(a, b groupRow) int { return strings.Compare(a.Intent, b.Intent) },
	}[q.Sort]
	if of := figuresOf[q.Sort]; of != nil {
		compare = func(a, b groupRow) int {
			x, y := of(a), of(b)
			if x.Known != y.Known { // what is not known comes last, whichever way
				if x.Known == q.Down {
					return 1
				}
				return -1
			}
			return cmp.Compare(x.Value, y.Value)
		}
	}
	if compare != nil {
		slices.SortStableFunc(rows, func(a, b groupRow) int {
			if q.Down {
				return compare(b, a)
			}
			return compare(a, b)
		})
	}
	return rows
}
