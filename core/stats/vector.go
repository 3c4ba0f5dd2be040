package stats

import (
	"math"
	"slices"
	"strings"
)

// Weighted is a stem with its weight.
type Weighted struct {
	Stem   string
	Weight float64
}

// Vector is a sparse vector in the order of its stems, of length one.
type Vector []Weighted

// NewVector makes a vector of weights in any order, each stem once.
func NewVector(list []Weighted) Vector {
	v := slices.Clone(list)
	slices.SortFunc(v, func(a, b Weighted) int { return strings.Compare(a.Stem, b.Stem) })
	n := 0.0
	for _, s := range v {
		n += s.Weight * s.Weight
	}
	for i := range v {
		v[i].Weight /= math.Sqrt(n)
	}
	return v
}

// Cosine is the cosine of the angle between two vectors, 0 to 1 where no weight
// is below 0.
func Cosine(a, b Vector) float64 {
	dot, i, j := 0.0, 0, 0
	for i < len(a) && j < len(b) {
		switch strings.Compare(a[i].Stem, b[j].Stem) {
		case 0:
			dot += a[i].Weight * b[j].Weight
			i++
			j++
		case -1:
			i++
		default:
			j++
		}
	}
	return dot
}

// IDF is the smooth inverse document frequency of what stands in some of all
// documents, as scikit-learn's TfidfTransformer defines it: ln((1 + all) / (1 + some)) + 1.
func IDF(some, all int) float64 { return math.Log(float64(1+all)/float64(1+some)) + 1 }
