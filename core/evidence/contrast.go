package evidence

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"corpulan/core/stats"
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
	P             float64 `json:"p"`       // the smallest of .05, .01, .001, .0001 that G² stays under
	PagesP        float64 `json:"pages_p"` // of the pages that use it, by Fisher's exact test
}

// Contrast is the leaders against the followers.
type Contrast struct {
	First     int    `json:"first"`     // ranks that lead
	Leaders   int    `json:"leaders"`   // kept pages of them
	Followers int    `json:"followers"` // the other kept pages
	Leans     []Lean `json:"leans"`     // of the leaders first, strongest first; then the followers'
	Enough    bool   `json:"enough"`    // false where there are fewer than two of either
}

// criticalValues of G² with one degree of freedom.
var criticalValues = []struct{ g2, p float64 }{{15.13, 0.0001}, {10.83, 0.001}, {6.63, 0.01}, {3.84, 0.05}}

// Leaders is how many of the first ranks lead, unless another number is asked for.
// Common practice, no published source.
const Leaders = 3

// lead parts the field into its first ranks and the others, and compares their
// figures and terms. It asks for two of either at least.
func (e *Evidence) lead(leaders int) {
	split := 0 // the sources are in rank order
	for split < len(e.Sources) && e.Sources[split].Rank <= leaders {
		split++
	}
	e.Contrast = Contrast{First: leaders, Leaders: split, Followers: len(e.Sources) - split, Leans: []Lean{}, Enough: split >= 2 && len(e.Sources)-split >= 2}
	for i := range e.Figures {
		f := &e.Figures[i]
		f.Leaders, f.Followers = stats.Range{}, stats.Range{}
		if e.Contrast.Enough {
			f.Leaders, f.Followers = stats.RangeOf(f.Values[:split]), stats.RangeOf(f.Values[split:])
		}
	}
	if e.Contrast.Enough {
		e.Contrast.Leans = e.leans(split)
	}
}

// leans compares the terms of the first pages with those of the others by
// log-likelihood (see LogLikelihood) and log ratio, and over pages by Fisher's exact
// test: words of one page are no independent witnesses, so that G² alone is too sure
// of itself. A term needs two pages of
// the side it leans to; one page's hobby-horse leans nowhere.
func (e *Evidence) leans(split int) []Lean {
	leans := []Lean{}
	ours, theirs := 0.0, 0.0 // words
	for i, words := range e.sizes {
		if i < split {
			ours += words
		} else {
			theirs += words
		}
	}
	for _, t := range e.Terms {
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
		l.G2, l.LogRatio = stats.LogLikelihood(a, b, ours, theirs), stats.LogRatio(a, b, ours, theirs)
		if l.G2 > 0 && l.LeaderPages < 2 || l.G2 < 0 && l.FollowerPages < 2 {
			continue
		}
		i := slices.IndexFunc(criticalValues, func(v struct{ g2, p float64 }) bool { return math.Abs(l.G2) >= v.g2 })
		if i < 0 {
			continue
		}
		l.P, l.LeaderRate, l.FollowerRate = criticalValues[i].p, perThousand(a, ours), perThousand(b, theirs)
		l.PagesP = stats.FisherExact(l.LeaderPages, split-l.LeaderPages, l.FollowerPages, len(t.Counts)-split-l.FollowerPages)
		leans = append(leans, l)
	}
	slices.SortFunc(leans, func(a, b Lean) int {
		if (a.G2 > 0) != (b.G2 > 0) {
			return cmp.Compare(b.G2, a.G2)
		}
		return cmp.Or(cmp.Compare(math.Abs(b.G2), math.Abs(a.G2)), strings.Compare(a.Key, b.Key))
	})
	return leans
}

// Certainty says in words how sure a lean is; the bound of "likely" is our own. With three pages against seven no
// difference of pages comes under p = .05 but all against none.
func (l Lean) Certainty() string {
	switch {
	case l.PagesP < 0.05:
		return "sure"
	case l.PagesP < 0.2:
		return "likely"
	}
	return "in words only"
}

func perThousand(n, of float64) float64 { return math.Round(10000*n/of) / 10 }
