package change

import (
	"math"
	"slices"

	"corpulan/core/listed"
	"corpulan/core/stats"
)

// placesMoved is how many places a thing moves in the lists that have it, in the median, to be worth showing. Our own.
const placesMoved = 1

// things are the listed things that pages took up or let go, and those that rose or fell in the lists that have them.
func (j *joined) things(found []listed.Thing, m *Movement) {
	for _, t := range found {
		place := map[int]float64{} // by document: in its list
		for _, p := range t.Places {
			if p.By != listed.ByMention {
				place[p.Rank-1] = float64(p.Position)
			}
		}
		before := len(m.Listed)
		j.moved(&m.Listed, Finding{Key: t.Key, Text: t.Name, Made: t.Variants}, func(doc int) bool { return place[doc] > 0 }, "")
		var was, is []float64
		f := Finding{Key: t.Key, Text: t.Name, Made: t.Variants, RanksWas: []int{}, Ranks: []int{}}
		for _, p := range j.pages {
			if p.was >= 0 && place[p.was] > 0 {
				was = append(was, place[p.was])
				f.RanksWas = append(f.RanksWas, p.before.Rank)
			}
			if p.is >= 0 && place[p.is] > 0 {
				is = append(is, place[p.is])
				f.Ranks = append(f.Ranks, p.after.Rank)
			}
			if p.was >= 0 {
				f.OfBefore++
			}
			if p.is >= 0 {
				f.OfAfter++
			}
		}
		if len(was) == 0 || len(is) == 0 {
			continue
		}
		f.Before, f.After = len(was), len(is)
		f.PlaceWas, f.Place = stats.RangeOf(was).Median, stats.RangeOf(is).Median
		if len(m.Listed) > before { // its pages moved
			x := &m.Listed[before]
			x.PlaceWas, x.Place = f.PlaceWas, f.Place
			continue
		}
		if math.Abs(f.Place-f.PlaceWas) < placesMoved {
			continue
		}
		if f.How = Risen; f.Place > f.PlaceWas {
			f.How = Fallen
		}
		slices.Sort(f.RanksWas)
		slices.Sort(f.Ranks)
		m.Listed = append(m.Listed, f)
	}
}
