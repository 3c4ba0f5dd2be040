package brief

import (
	"cmp"
	"slices"

	"corpulan/core/themes"
)

func usualLength(t themes.Theme) float64 { return max(t.Length.Median, 30) }

// usualSection is how many words a section has at the least that is usual; the outline of a page has as many as go into its length.
// Some 80 to 150 words are common practice, no published source.
const usualSection = 85

// sectionsFor is how many sections a text of so many words has.
func sectionsFor(words int) int { return max(1, (words+usualSection/2)/usualSection) }

// The least and the most that a section gets, against the middle one, of what is shared out. Our own: a short matter of the field
// becomes no section of 20 words, and a long one does not take the page.
const (
	leastShare = 0.65
	mostShare  = 1.6
)

// even brings the lengths that the field gives sections nearer to each other.
func even(lengths map[string]float64, of []node) {
	var all []float64
	for _, n := range of {
		if !n.Folded {
			all = append(all, n.length)
		}
	}
	if len(all) == 0 {
		return
	}
	slices.Sort(all)
	middle := all[len(all)/2]
	for _, n := range of {
		lengths[n.Key] = min(max(n.length, leastShare*middle), mostShare*middle)
		if n.Folded {
			lengths[n.Key] = 0
		}
	}
}

func sumOf(x []float64) float64 {
	s := 0.0
	for _, v := range x {
		s += v
	}
	return s
}

// openingLength is a tenth of the page, in steps of ten words, at most 150.
// Common practice, no published source.
func openingLength(target int) int {
	return min(target/10/roundSectionsTo*roundSectionsTo, 150)
}

// sharing is how words are shared out among sections.
type sharing struct {
	c       Choices
	lengths map[string]float64 // that a section asks for by itself; 0 of what is folded
}

// set is the length a person gave a section; 0 for none.
func (s sharing) set(key string) int { return wordsIn(textOf(s.c.Sections[key].Words)) }

// need is what a section asks for: what the field gives it, or what its sub-sections do.
func (s sharing) need(x Section) float64 {
	below := 0.0
	for _, ch := range x.Children {
		below += s.need(ch)
	}
	return max(s.lengths[x.Key], below)
}

// share gives sections their part of a total. Those whose length a person set have it; the
// others share what is left as the field does, beside what the section above them keeps
// for itself, a part of that size.
func (s sharing) share(sections []Section, total int, own float64) {
	parts := []float64{own}
	for _, x := range sections {
		part := s.need(x)
		if n := s.set(x.Key); n > 0 {
			total, part = total-n, 0
		}
		parts = append(parts, part)
	}
	shares := shareOut(max(total, 0), parts)
	for i := range sections {
		x := &sections[i]
		x.Words = shares[i+1]
		if n := s.set(x.Key); n > 0 {
			x.Words, x.WordsSet = n, true
		}
		if len(x.Children) > 0 {
			below := 0.0
			for _, ch := range x.Children {
				below += s.need(ch)
			}
			s.share(x.Children, x.Words, ofItself*below)
		}
	}
}

// ofItself is what a section keeps for itself, against its sub-sections. Our own figure.
const ofItself = 0.2

// shareOut splits a total in proportion to the parts, in steps of ten words,
// so that the shares add up to the total (largest remainders, after Hamilton).
func shareOut(total int, parts []float64) []int {
	shares := make([]int, len(parts))
	all := sumOf(parts)
	if all <= 0 {
		return shares
	}
	steps := total / roundSectionsTo
	left := steps
	order := make([]int, len(parts))
	rest := make([]float64, len(parts))
	for i, p := range parts {
		exact := float64(steps) * p / all
		shares[i] = int(exact)
		rest[i] = exact - float64(shares[i])
		left -= shares[i]
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(rest[b], rest[a]) })
	for _, i := range order[:left] {
		shares[i]++
	}
	for i := range shares {
		shares[i] *= roundSectionsTo
	}
	shares[order[0]] += total % roundSectionsTo
	return shares
}
