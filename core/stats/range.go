// Package stats holds the statistics of texts and fields, each under the name of
// its science, with its source:
//
//   - range.go        quartiles and outliers
//   - association.go  log-likelihood, log ratio, dispersion
//   - cvalue.go       C-value of nested phrases
//   - vector.go       weighted vectors and their cosine
//   - cluster.go      grouping by average link
//   - communities.go  communities of a graph
package stats

import (
	"math"
	"slices"
)

// Range is the spread of a figure over the pages it was taken from.
type Range struct {
	Lower  float64 `json:"lower"`  // first quartile
	Median float64 `json:"median"` // second quartile
	Upper  float64 `json:"upper"`  // third quartile
	N      int     `json:"n"`      // pages behind it
}

// RangeOf computes quartiles by linear interpolation of the order statistics,
// definition 7 of Hyndman & Fan (1996). The zero Range for no values.
func RangeOf(values []float64) Range {
	if len(values) == 0 {
		return Range{}
	}
	x := slices.Sorted(slices.Values(values))
	return Range{Lower: quantile7(x, 0.25), Median: quantile7(x, 0.5), Upper: quantile7(x, 0.75), N: len(x)}
}

// quantile7 takes sorted values; the position is h = (n-1)p, counted from 0.
func quantile7(x []float64, p float64) float64 {
	h := float64(len(x)-1) * p
	i := int(math.Floor(h))
	if i+1 >= len(x) {
		return x[len(x)-1]
	}
	return x[i] + (h-float64(i))*(x[i+1]-x[i])
}

// Outliers tells for each value whether it lies beyond Tukey's (1977) inner
// fences, 1.5 interquartile ranges outside the quartiles. With fewer than four
// values none does.
func Outliers(values []float64) []bool {
	out := make([]bool, len(values))
	if len(values) < 4 {
		return out
	}
	r := RangeOf(values)
	reach := 1.5 * (r.Upper - r.Lower)
	for i, v := range values {
		out[i] = v < r.Lower-reach || v > r.Upper+reach
	}
	return out
}

// Sum is the sum of x.
func Sum(x []float64) float64 {
	t := 0.0
	for _, v := range x {
		t += v
	}
	return t
}

// Mean is the arithmetic mean of x, 0 for none.
func Mean(x []float64) float64 {
	if len(x) == 0 {
		return 0
	}
	return Sum(x) / float64(len(x))
}
