package stats

import (
	"cmp"
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

// EachCosine calls yield with the cosine of each pair of vectors that share a stem, the
// first number below the second.
func EachCosine(vectors []Vector, yield func(i, j int, cosine float64)) {
	type place struct {
		vector int32
		weight float64
	}
	having := map[string][]place{}
	for i, v := range vectors {
		for _, w := range v {
			having[w.Stem] = append(having[w.Stem], place{int32(i), w.Weight})
		}
	}
	sums := make([]float64, len(vectors))
	var touched []int32
	for i, v := range vectors {
		touched = touched[:0]
		for _, w := range v {
			list := having[w.Stem]
			from, _ := slices.BinarySearchFunc(list, int32(i+1), func(p place, i int32) int { return cmp.Compare(p.vector, i) })
			for _, p := range list[from:] {
				if sums[p.vector] == 0 {
					touched = append(touched, p.vector)
				}
				sums[p.vector] += w.Weight * p.weight
			}
		}
		for _, j := range touched {
			yield(i, int(j), sums[j])
			sums[j] = 0
		}
	}
}
