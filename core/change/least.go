package change

import "math"

// having is whether a page is in the one field and the other, and whether it has a finding
// there.
type having struct{ inBefore, hasBefore, inAfter, hasAfter bool }

// shareOf counts the pages that have a finding and those that could.
func shareOf(pages []having) (b, ofB, a, ofA int) {
	for _, p := range pages {
		if p.inBefore {
			ofB++
		}
		if p.hasBefore {
			b++
		}
		if p.inAfter {
			ofA++
		}
		if p.hasAfter {
			a++
		}
	}
	return b, ofB, a, ofA
}

// least is the change of the share of pages that have a finding as it stays whichever page is
// left out of both gatherings (leave one out; the jackknife of Quenouille 1956): the smallest
// of them, or 0 if one of them goes the other way. -1 to 1.
func least(pages []having) float64 {
	b, ofB, a, ofA := shareOf(pages)
	if ofB == 0 || ofA == 0 {
		return 0
	}
	whole := float64(a)/float64(ofA) - float64(b)/float64(ofB)
	smallest := whole
	seen := map[having]bool{}
	for _, p := range pages {
		if seen[p] { // leaving out one or another of the same makes no difference
			continue
		}
		seen[p] = true
		nB, nA := ofB-one(p.inBefore), ofA-one(p.inAfter)
		if nB == 0 || nA == 0 {
			return 0
		}
		d := float64(a-one(p.hasAfter))/float64(nA) - float64(b-one(p.hasBefore))/float64(nB)
		if d*whole <= 0 {
			return 0
		}
		if math.Abs(d) < math.Abs(smallest) {
			smallest = d
		}
	}
	return smallest
}

// worth tells whether a change is worth showing: what stays of it without any one page is still
// as much as a page. Our own.
func worth(least float64, ofB, ofA int) bool {
	return math.Abs(least)*float64(max(ofB, ofA)) >= 1-1e-9
}

func one(b bool) int {
	if b {
		return 1
	}
	return 0
}
