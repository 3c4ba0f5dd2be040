package evidence

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

// LogLikelihood is G² of a word that stands a times among c words of one
// corpus and b times among d words of another (Dunning 1993, in the two-cell
// form of Rayson & Garside 2000). It is negative where the word is rarer in
// the first. Critical values with one degree of freedom: 3.84, 6.63, 10.83,
// 15.13 for p < .05, .01, .001, .0001.
func LogLikelihood(a, b, c, d float64) float64 {
	if c <= 0 || d <= 0 || a+b <= 0 {
		return 0
	}
	e1 := c * (a + b) / (c + d)
	e2 := d * (a + b) / (c + d)
	g := 0.0
	if a > 0 {
		g += a * math.Log(a/e1)
	}
	if b > 0 {
		g += b * math.Log(b/e2)
	}
	if a/c < b/d {
		return -2 * g
	}
	return 2 * g
}

// LogRatio is the binary logarithm of the ratio of two relative frequencies
// (Hardie 2014); a count of zero stands for half an occurrence.
func LogRatio(a, b, c, d float64) float64 {
	if c <= 0 || d <= 0 {
		return 0
	}
	return math.Log2((max(a, 0.5) / c) / (max(b, 0.5) / d))
}

// Dispersion is Gries's (2008) deviation of proportions, DP: 0 where the
// occurrences are spread over the parts as the text is, near 1 where they stand
// in one small part. counts and sizes run in parallel.
func Dispersion(counts, sizes []float64) float64 {
	f, n := sum(counts), sum(sizes)
	if f == 0 || n == 0 {
		return 0
	}
	dp := 0.0
	for i := range counts {
		dp += math.Abs(counts[i]/f - sizes[i]/n)
	}
	return dp / 2
}

func sum(x []float64) float64 {
	t := 0.0
	for _, v := range x {
		t += v
	}
	return t
}

func mean(x []float64) float64 {
	if len(x) == 0 {
		return 0
	}
	return sum(x) / float64(len(x))
}

// phrase is a candidate as the C-value sees it.
type phrase struct {
	stems []string
	freq  float64
}

// cValues computes the C-value of each phrase (Frantzi, Ananiadou & Mima
// 2000): log2|a| · f(a), less the mean frequency with which a stands inside
// longer candidates. Occurrences are passed from the longest down, so that one
// inside a phrase of five words is not taken off again for the four inside it.
// A single word has log2 1 = 0 by the formula.
func cValues(phrases []phrase) []float64 {
	index := make(map[string]int, len(phrases))
	order := make([]int, len(phrases))
	for i, p := range phrases {
		index[key(p.stems)] = i
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return len(phrases[b].stems) - len(phrases[a].stems) })
	nested := make([]float64, len(phrases)) // t(a): occurrences inside longer candidates
	longer := make([]float64, len(phrases)) // c(a): how many longer candidates
	c := make([]float64, len(phrases))
	for _, i := range order {
		p := phrases[i]
		n := len(p.stems)
		own := p.freq
		if longer[i] > 0 {
			own -= nested[i] / longer[i]
		}
		c[i] = math.Log2(float64(n)) * own
		for size := 1; size < n; size++ {
			for at := 0; at+size <= n; at++ {
				if j, ok := index[key(p.stems[at:at+size])]; ok {
					nested[j] += p.freq - nested[i]
					longer[j]++
				}
			}
		}
	}
	return c
}
