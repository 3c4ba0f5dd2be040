package stats

import "math"

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
	f, n := Sum(counts), Sum(sizes)
	if f == 0 || n == 0 {
		return 0
	}
	dp := 0.0
	for i := range counts {
		dp += math.Abs(counts[i]/f - sizes[i]/n)
	}
	return dp / 2
}

// LogDice is Rychlý's (2008) association of two words that stand together joint times
// and a and b times in all: 14 plus the binary logarithm of the Dice coefficient. It
// is 14 at most, and does not depend on the size of the corpus.
func LogDice(joint, a, b float64) float64 {
	if joint <= 0 || a+b <= 0 {
		return math.Inf(-1)
	}
	return 14 + math.Log2(2*joint/(a+b))
}

// FisherExact is the two-sided p of Fisher's exact test (1935) on the table
//
//	a b
//	c d
//
// the sum of the probabilities of all tables with the same margins that are no
// likelier than this one.
func FisherExact(a, b, c, d int) float64 {
	row, column, n := a+b, a+c, a+b+c+d
	if n == 0 {
		return 1
	}
	// Probability of x in the first cell, by the hypergeometric distribution.
	log := func(x int) float64 { return lnChoose(column, x) + lnChoose(n-column, row-x) - lnChoose(n, row) }
	here := log(a)
	p := 0.0
	for x := max(0, row-(n-column)); x <= min(row, column); x++ {
		if l := log(x); l <= here+tie {
			p += math.Exp(l)
		}
	}
	return min(p, 1)
}

// tie is how near two logarithms of probabilities are when the tables are equally
// likely: well above the rounding of 64 bits, our own.
const tie = 1e-7

func lnChoose(n, k int) float64 {
	lg := func(x int) float64 { v, _ := math.Lgamma(float64(x) + 1); return v }
	return lg(n) - lg(k) - lg(n-k)
}
