package evidence

import (
	"cmp"
	"math"
	"slices"
	"strings"
)

// Lean tells how a term parts the first ranks from the others.
type Lean struct {
	Key           string  `json:"key"`
	Text          string  `json:"text"`
	LeaderPages   int     `json:"leader_pages"`
	FollowerPages int     `json:"follower_pages"`
	LeaderRate    float64 `json:"leader_rate"`   // times per 1,000 words
	FollowerRate  float64 `json:"follower_rate"` // times per 1,000 words
	G2            float64 `json:"g2"`            // above zero where the leaders use it more
	LogRatio      float64 `json:"log_ratio"`
	P             float64 `json:"p"` // the smallest of .05, .01, .001, .0001 that G² stays under
}

// Contrast is the leaders against the followers.
type Contrast struct {
	Leaders   int    `json:"leaders"`   // pages
	Followers int    `json:"followers"` // pages
	Leans     []Lean `json:"leans"`     // of the leaders first, strongest first; then the followers'
	Enough    bool   `json:"enough"`    // false where there are fewer than two of either
}

// criticalValues of G² with one degree of freedom.
var criticalValues = []struct{ g2, p float64 }{{15.13, 0.0001}, {10.83, 0.001}, {6.63, 0.01}, {3.84, 0.05}}

// contrast compares the terms of the first ranks with those of the others by
// log-likelihood (see LogLikelihood) and log ratio. A term needs two pages of
// the side it leans to; one page's hobby-horse leans nowhere.
func (f *field) contrast(terms []Term, leaders int) Contrast {
	split := f.leading(leaders)
	c := Contrast{Leaders: split, Followers: len(f.docs) - split, Leans: []Lean{}, Enough: enoughToCompare(split, len(f.docs))}
	if !c.Enough {
		return c
	}
	sizes := make([]float64, len(f.docs))
	for i, d := range f.docs {
		sizes[i] = float64(d.words)
	}
	ours, theirs := sum(sizes[:split]), sum(sizes[split:])
	for _, t := range terms {
		if t.Flag != "" || t.YieldsTo != "" {
			continue
		}
		l := Lean{Key: t.Key, Text: t.Text}
		a, b := 0.0, 0.0
		for i, n := range t.Counts {
			switch {
			case n == 0:
			case i < split:
				l.LeaderPages++
				a += float64(n)
			default:
				l.FollowerPages++
				b += float64(n)
			}
		}
		l.G2, l.LogRatio = LogLikelihood(a, b, ours, theirs), LogRatio(a, b, ours, theirs)
		if l.G2 > 0 && l.LeaderPages < 2 || l.G2 < 0 && l.FollowerPages < 2 {
			continue
		}
		i := slices.IndexFunc(criticalValues, func(v struct{ g2, p float64 }) bool { return math.Abs(l.G2) >= v.g2 })
		if i < 0 {
			continue
		}
		l.P, l.LeaderRate, l.FollowerRate = criticalValues[i].p, perThousand(a, ours), perThousand(b, theirs)
		c.Leans = append(c.Leans, l)
	}
	slices.SortFunc(c.Leans, func(a, b Lean) int {
		if (a.G2 > 0) != (b.G2 > 0) {
			return cmp.Compare(b.G2, a.G2)
		}
		return cmp.Or(cmp.Compare(math.Abs(b.G2), math.Abs(a.G2)), strings.Compare(a.Key, b.Key))
	})
	return c
}

func perThousand(n, of float64) float64 { return math.Round(10000*n/of) / 10 }
