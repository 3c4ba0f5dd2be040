package parts

import (
	"html/template"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/themes"
	"corpulan/web/draw"
	"corpulan/web/kit"
)

// Coverage is the grid of themes against pages.
type Coverage struct {
	StudyID int64
	Sources []evidence.Source
	Rows    []coverRow
	More    int // themes of two pages beyond those that are shown
	Width   int // of a page's cell, in pixels
	OnePage []evidence.Opening
	Nobody  []evidence.Opening
}

// coverRow is one theme in the grid.
type coverRow struct {
	Key, Label        string
	Sections, Passing int // pages that have it in a section, and in passing
	In                bool
	Marks             template.HTML
}

// maxCovered is how many themes the grid shows, those that most of the field has.
const maxCovered = 40

// CoverageOf makes the grid of a study, of the themes that hold a text.
func CoverageOf(an *kit.Analysis, filter string) Coverage {
	e := an.Evidence
	g := Coverage{StudyID: an.Study.ID, Sources: e.Sources, Width: draw.CellWidth(len(e.Sources))}
	longest := 0
	var shared []themes.Theme
	for _, t := range e.Themes {
		if !t.Recommended() || !strings.Contains(strings.ToLower(t.Label), strings.ToLower(filter)) {
			continue
		}
		shared = append(shared, t)
		for _, c := range t.Coverage {
			longest = max(longest, c.Words)
		}
	}
	in := inBrief(an.Brief, brief.ThemeKind)
	for _, t := range shared[:min(len(shared), maxCovered)] {
		row := coverRow{Key: t.Key, Label: t.Label, In: in[t.Key], Sections: t.Pages}
		row.Passing = len(t.Coverage) - t.Pages
		row.Marks = draw.CoverRow(an.In, t, e.Sources, longest, func(rank int) string {
			return kit.SourcesPath(an.Study.ID, brief.ThemeKind, t.Key) + "&at=" + template.URLQueryEscaper(rank)
		})
		g.Rows = append(g.Rows, row)
	}
	g.More = len(shared) - len(g.Rows)
	for _, o := range e.Openings {
		switch {
		case o.Kind == evidence.OnePage:
			g.OnePage = append(g.OnePage, o)
		case (o.Kind == evidence.AskedUnmet || o.Kind == evidence.SearchedUnmet) && len(o.Ranks) == 0:
			g.Nobody = append(g.Nobody, o)
		}
	}
	return g
}
