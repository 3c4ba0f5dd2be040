package evidence

import (
	"context"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/points"
	"corpulan/core/themes"
)

// ThemePoints are the points of one theme.
type ThemePoints struct {
	Theme  string         `json:"theme"` // its key
	Points []points.Point `json:"points"`
}

// maxThemes is how many themes have their points found, those that most of the field
// has. Our own.
const maxThemes = 40

func pointsOf(ctx context.Context, f *corpus.Field, found []themes.Theme) []ThemePoints {
	idf := f.SectionIDF()
	docOf := map[int]int{}
	for i, rank := range f.Ranks {
		docOf[rank] = i
	}
	list := []ThemePoints{}
	said := map[string]bool{}
	for _, t := range found {
		if !t.Recommended() || len(list) == maxThemes || ctx.Err() != nil {
			continue
		}
		var places []points.Place
		for _, m := range t.Members {
			places = append(places, points.Place{Doc: docOf[m.Rank], Section: m.Section})
		}
		// What stands under one theme already is not said again under another.
		p := slices.DeleteFunc(points.Of(ctx, f, places, idf), func(p points.Point) bool { return said[p.Key] })
		for _, one := range p {
			said[one.Key] = true
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
