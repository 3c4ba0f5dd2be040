package demand

import (
	"math"

	"corpulan/core/message"
)

// Curve is the share of searches that click the result at each position, the first at index 0.
type Curve []float64

// DefaultCurve is the curve of the first twenty positions where nobody says otherwise: the
// trade's published curves rounded, from memory. They differ by device, by what stands on the
// results page and by whether the query names a site; so the curve can be changed.
func DefaultCurve() Curve {
	return Curve{.28, .15, .10, .07, .05, .04, .03, .025, .02, .018, .012, .011, .010, .009, .008, .007, .006, .005, .004, .003}
}

// At is the share of clicks at a position, which may be a mean of several: between two
// positions in proportion; 0 beyond the curve.
func (c Curve) At(position float64) float64 {
	if len(c) == 0 || math.IsNaN(position) || position > float64(len(c)) {
		return 0
	}
	position = math.Max(position, 1)
	below := int(position) // a position counts from 1
	share := c[below-1]
	if below < len(c) {
		share += (position - float64(below)) * (c[below] - share)
	}
	return share
}

// aimed is the position that gains are reckoned for. As asked for by the job; common practice,
// no published source.
const aimed = 3

// Sound says what is wrong with a curve that a person gave; empty where nothing is.
func (c Curve) Sound() message.Message {
	switch {
	case len(c) < aimed:
		return "A curve has at least three positions."
	case len(c) > longestCurve:
		return "A curve has at most a hundred positions."
	}
	for i, x := range c {
		if math.IsNaN(x) || x < 0 || x > 1 {
			return "A share of clicks is a number from 0 to 100 %."
		}
		if i > 0 && x > c[i-1] {
			return "A lower position has no larger share of clicks than a higher one."
		}
	}
	return ""
}

// longestCurve is how many positions a curve has at most. Our own.
const longestCurve = 100
