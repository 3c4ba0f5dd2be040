// Package points finds what several pages of a field state: sentences that say the same of the same thing,
// wherever on their pages they stand, those that most pages say first.
//
//   - find.go       the points of a field
//   - sentences.go  sentences that state something, and how alike they are
//   - gist.go       one page in five sentences
//   - lexrank.go    which sentences of a page are central
//   - figures.go    whether pages agree on their figures
package points

import (
	"cmp"
	"context"
	"math"
	"slices"

	"corpulan/core/corpus"
)

// Point is a statement that several pages make, in the words of one of them.
type Point struct {
	Key      string   `json:"key"` // its content stems
	Text     string   `json:"text"`
	Rank     int      `json:"rank"`    // of the page whose words they are
	Section  int      `json:"section"` // of that page
	Ranks    []int    `json:"ranks"`   // of the pages that say the same
	Says     []Saying `json:"says"`    // all of them, the words above first
	Disputed []Spread `json:"disputed,omitempty"`
	Against  []Saying `json:"against,omitempty"` // sentences of other pages that give other figures
}

// Saying is one page's sentence.
type Saying struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Text    string `json:"text"`
}

// Bounds, all our own but the first, which is measured: docs/evaluation.md.
const (
	saysSame   = 0.42 // cosine from which two sentences say the same
	butFor     = 0.36 // cosine from which two that give other figures of one unit are about one thing
	surely     = 0.52 // the same, where they share no more than fewShared words
	fewShared  = 2    // content words that they share at least, the keyword's not counted
	usualWords = 9    // content words of a statement that reads well
	tie        = 1e-9 // what two scores may differ by and be the same: well above rounding
	relevance  = 0.7  // against novelty, in a gist
)

// Find finds the points of a field: each is a sentence with those of other pages that say the same as it,
// one of each page, so that no page stands behind a point that does not say it (star clusters; Aslam,
// Pelekhov & Rus 2004), or that would but for a figure. Those that more pages say, and say more alike, come first.
func Find(ctx context.Context, f *corpus.Field) []Point {
	list := sentencesOf(f)
	near, against := neighboursOf(f, list)
	worth := make([]float64, len(list))
	order := make([]int, 0, len(list))
	for i, s := range list {
		if !s.whole || len(near[i]) == 0 && len(against[i]) == 0 {
			continue
		}
		for _, n := range slices.Concat(near[i], against[i]) {
			worth[i] += n.alike
		}
		worth[i] /= 1 + math.Abs(float64(len(s.stems)-usualWords))/usualWords
		if s.personal { // nobody says it plainly
			worth[i] /= 4
		}
		order = append(order, i)
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(worth[b], worth[a]) })
	points := []Point{}
	used := make([]bool, len(list))
	for _, i := range order {
		if used[i] || ctx.Err() != nil {
			continue
		}
		star := []int{i}
		for _, n := range near[i] {
			if !used[n.at] {
				star = append(star, n.at)
			}
		}
		others := slices.DeleteFunc(slices.Clone(against[i]), func(n neighbour) bool { // who says both does not dispute it
			return slices.ContainsFunc(star, func(j int) bool { return list[j].doc == list[n.at].doc })
		})
		if len(star) < 2 && len(others) == 0 {
			continue
		}
		for _, j := range star {
			used[j] = true
		}
		for _, n := range others { // they are told with it
			used[n.at] = used[n.at] || len(near[n.at]) == 0
		}
		p := pointOf(f, list, star)
		p.Disputed, p.Against = disputed(f, list, i, others)
		points = append(points, p)
	}
	slices.SortStableFunc(points, func(a, b Point) int { return len(b.Ranks) - len(a.Ranks) })
	return points
}

// pointOf is the point of a star, whose first sentence has the words.
func pointOf(f *corpus.Field, list []sentence, star []int) Point {
	s := list[star[0]]
	stems := slices.Compact(slices.Sorted(slices.Values(s.stems)))
	p := Point{Key: corpus.Key(stems), Text: s.text, Rank: f.Ranks[s.doc], Section: s.section}
	for _, i := range star {
		p.Says = append(p.Says, Saying{f.Ranks[list[i].doc], list[i].section, list[i].text})
		p.Ranks = append(p.Ranks, f.Ranks[list[i].doc])
	}
	slices.Sort(p.Ranks)
	p.Ranks = slices.Compact(p.Ranks)
	return p
}
