package stats

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// Type 7 quartiles of 1..10 as R's quantile() documentation and Hyndman & Fan
// (1996) define them (from memory): 3.25, 5.5, 7.75.
func TestRangeOf(t *testing.T) {
	for name, c := range map[string]struct {
		values []float64
		want   Range
	}{
		"one to ten": {[]float64{10, 9, 8, 7, 6, 5, 4, 3, 2, 1}, Range{3.25, 5.5, 7.75, 10}},
		"two":        {[]float64{2, 4}, Range{2.5, 3, 3.5, 2}},
		"one":        {[]float64{7}, Range{7, 7, 7, 1}},
		"none":       {nil, Range{}},
	} {
		assert.Equal(t, c.want, RangeOf(c.values), name)
	}
}

func TestRangeStaysInsideItsValues(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.SliceOfN(rapid.Float64Range(0, 1e6), 1, 60).Draw(t, "values")
		r := RangeOf(v)
		if !(slices.Min(v) <= r.Lower && r.Lower <= r.Median && r.Median <= r.Upper && r.Upper <= slices.Max(v)) {
			t.Fatalf("%v of %v", r, v)
		}
	})
}

// Tukey's (1977) inner fences, worked by hand: quartiles 2 and 4, so that the
// fences stand at -1 and 7.
func TestOutliers(t *testing.T) {
	assert.Equal(t, []bool{false, false, false, false, true}, Outliers([]float64{1, 2, 3, 4, 100}))
	assert.Equal(t, []bool{false, false, false}, Outliers([]float64{1, 2, 300}), "three pages have no outlier")
	assert.Equal(t, []bool{false, false, false, false}, Outliers([]float64{5, 5, 5, 5}))
}

// G² worked by hand from Rayson & Garside (2000): a = 10 in 1,000 words, b = 5
// in 2,000. E1 = 5, E2 = 10, so that G² = 2 (10 ln 2 + 5 ln 1/2) = 10 ln 2.
func TestLogLikelihood(t *testing.T) {
	assert.InDelta(t, 10*math.Ln2, LogLikelihood(10, 5, 1000, 2000), 1e-9)
	assert.InDelta(t, -10*math.Ln2, LogLikelihood(5, 10, 2000, 1000), 1e-9, "rarer in the first corpus")
	assert.Zero(t, LogLikelihood(10, 20, 1000, 2000), "the same rate")
	assert.Zero(t, LogLikelihood(0, 0, 1000, 2000))
	assert.Zero(t, LogLikelihood(1, 1, 0, 2000))
}

// Hardie (2014): one point of log ratio is a doubling; zero counts as a half.
func TestLogRatio(t *testing.T) {
	assert.InDelta(t, 2, LogRatio(8, 2, 1000, 1000), 1e-9)
	assert.InDelta(t, 4, LogRatio(8, 0, 1000, 1000), 1e-9)
	assert.InDelta(t, -1, LogRatio(4, 8, 1000, 1000), 1e-9)
}

// The five-part corpus by which Gries (2008) explains DP (from memory): parts
// of 9, 10, 10, 10 and 11 words hold 1 to 5 of the 15 occurrences: DP = 0.18.
func TestDispersion(t *testing.T) {
	sizes := []float64{9, 10, 10, 10, 11}
	assert.InDelta(t, 0.18, Dispersion([]float64{1, 2, 3, 4, 5}, sizes), 0.001)
	assert.Zero(t, Dispersion([]float64{9, 10, 10, 10, 11}, sizes), "spread as the text is")
	assert.InDelta(t, 0.82, Dispersion([]float64{15, 0, 0, 0, 0}, sizes), 1e-9, "all in one part: 1 less its share")
}

// The example printed in Frantzi, Ananiadou & Mima (2000), section 2.3 (from
// memory): strings round "basal cell carcinoma" in an eye-pathology corpus.
func TestCValue(t *testing.T) {
	p := []Phrase{
		{[]string{"adenoid", "cystic", "basal", "cell", "carcinoma"}, 5},
		{[]string{"cystic", "basal", "cell", "carcinoma"}, 11},
		{[]string{"ulcerated", "basal", "cell", "carcinoma"}, 7},
		{[]string{"recurrent", "basal", "cell", "carcinoma"}, 5},
		{[]string{"circumscribed", "basal", "cell", "carcinoma"}, 3},
		{[]string{"basal", "cell", "carcinoma"}, 984},
	}
	c := CValues(p)
	for i, want := range []float64{11.61, 12, 14, 10, 6, 1551.36} {
		assert.InDelta(t, want, c[i], 0.01, strings.Join(p[i].Words, " "))
	}
}

// AverageLink against a plain implementation that computes every mean anew. The
// similarities come from a seed and not from rapid's own draws, which love round
// numbers: where two pairs are equally near, either may be joined first.
func TestAverageLinkAgainstThePlainWay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 14).Draw(t, "n")
		random := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		sim := make([][]float64, n)
		for i := range sim {
			sim[i] = make([]float64, n)
			for j := range i {
				sim[i][j] = random.Float64()
				sim[j][i] = sim[i][j]
			}
		}
		got := AverageLink(t.Context(), n, 0.5, func(i, j int) float64 { return sim[i][j] })
		if want := plainAverageLink(sim, 0.5); !assert.ObjectsAreEqual(want, got) {
			t.Fatalf("want %v, got %v", want, got)
		}
	})
	assert.Empty(t, AverageLink(t.Context(), 0, 0.5, nil))
}

func plainAverageLink(sim [][]float64, threshold float64) [][]int {
	var groups [][]int
	for i := range sim {
		groups = append(groups, []int{i})
	}
	for {
		a, b, best := -1, -1, threshold
		for i := range groups {
			for j := i + 1; j < len(groups); j++ {
				total := 0.0
				for _, x := range groups[i] {
					for _, y := range groups[j] {
						total += sim[x][y]
					}
				}
				if m := total / float64(len(groups[i])*len(groups[j])); m > best+1e-12 || a < 0 && m >= threshold {
					a, b, best = i, j, m
				}
			}
		}
		if a < 0 {
			break
		}
		groups[a] = append(groups[a], groups[b]...)
		slices.Sort(groups[a])
		groups = slices.Delete(groups, b, b+1)
	}
	slices.SortFunc(groups, func(a, b []int) int { return a[0] - b[0] })
	return groups
}

// The lady tasting tea, the worked example of Fisher (1935), The Design of Experiments:
// all eight cups right has p = 1/70 on one side, 2/70 on both. Three leaders that all
// have a term against none of seven followers: 1 of the 120 ways to choose three of ten.
func TestFisherExact(t *testing.T) {
	assert.InDelta(t, 2.0/70, FisherExact(4, 0, 0, 4), 1e-9)
	assert.InDelta(t, 34.0/70, FisherExact(3, 1, 1, 3), 1e-9)
	assert.InDelta(t, 1.0/120, FisherExact(3, 0, 0, 7), 1e-9)
	assert.InDelta(t, 1, FisherExact(0, 3, 0, 7), 1e-9)
	assert.InDelta(t, 1, FisherExact(0, 0, 0, 0), 1e-9)
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(0, 12)
		a, b, c, d := n.Draw(t, "a"), n.Draw(t, "b"), n.Draw(t, "c"), n.Draw(t, "d")
		p := FisherExact(a, b, c, d)
		assert.True(t, p > 0 && p <= 1)
		assert.InDelta(t, p, FisherExact(c, d, a, b), 1e-9, "the same from the other side")
	})
}

// By Rychlý's (2008) definition: two words that always stand together have 14; one
// joint use in 16,000 of each has 0.
func TestLogDice(t *testing.T) {
	assert.InDelta(t, 14, LogDice(50, 50, 50), 1e-9)
	assert.InDelta(t, 0, LogDice(1, 16384, 16384), 1e-9)
	assert.InDelta(t, LogDice(5, 50, 100)+1, LogDice(10, 50, 100), 1e-9, "twice as often together is one more")
	assert.True(t, math.IsInf(LogDice(0, 5, 5), -1))
}
