package evidence

import (
	"context"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/points"
)

// ThemePoints are the points of one theme.
type ThemePoints struct {
	Theme  string         `json:"theme"` // its key
	Points []points.Point `json:"points"`
}

// maxOfTheme is how many points of a theme are kept, those that most pages say. Our own.
const maxOfTheme = 8

// pointsOf finds the points of the field, wherever they are said, and puts each under the theme that most of
// the sections are of in which it is said, the first of them where two are as many.
func (e *Evidence) pointsOf(ctx context.Context, f *corpus.Field) []ThemePoints {
	theme := e.Treated()
	of := map[int][]points.Point{}
	for _, p := range points.Find(ctx, f) {
		votes, best := map[int]int{}, 0
		for _, s := range slices.Concat(p.Says, p.Against) {
			if t := theme(s.Rank, s.Section); t > 0 {
				if votes[t]++; best == 0 || votes[t] > votes[best] {
					best = t
				}
			}
		}
		if best > 0 && len(of[best]) < maxOfTheme {
			of[best] = append(of[best], p)
		}
	}
	list := []ThemePoints{}
	for i, t := range e.Themes {
		p := of[i+1]
		if t.Key == PicksKey {
			p = slices.Concat(e.usesOf(), p)
		}
		if len(p) > 0 {
			list = append(list, ThemePoints{t.Key, p})
		}
	}
	return list
}

// PointsOf are the points of a theme.
func (e *Evidence) PointsOf(theme string) []points.Point {
	for _, t := range e.Points {
		if t.Theme == theme {
			return t.Points
		}
	}
	return nil
}
