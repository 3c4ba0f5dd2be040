package web

import (
	"html/template"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/themes"
	"corpulan/web/draw"
)

// coverage is the grid of themes against pages.
type coverage struct {
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

// mostCovered is how many themes the grid shows, those that most of the field has.
const mostCovered = 40

// coverageOf makes the grid of a study, of the themes that hold a text.
func coverageOf(an *analysis, filter string) coverage {
	e := an.Evidence
	g := coverage{StudyID: an.Study.ID, Sources: e.Sources, Width: draw.CellWidth(len(e.Sources))}
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
	for _, t := range shared[:min(len(shared), mostCovered)] {
		row := coverRow{Key: t.Key, Label: t.Label, In: in[t.Key], Sections: t.Pages}
		row.Passing = len(t.Coverage) - t.Pages
		row.Marks = draw.CoverRow(an.in, t, e.Sources, longest, func(rank int) string {
			return sourcesPath(an.Study.ID, brief.ThemeKind, t.Key) + "&at=" + template.URLQueryEscaper(rank)
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

// openingGroup is the openings of one kind.
type openingGroup struct {
	Kind evidence.OpeningKind
	Says string
	Rows []openingRow
}

// openingRow is an opening that can be adopted where it is a finding.
type openingRow struct {
	evidence.Opening
	In bool
}

// Adoptable tells an opening that is a finding of the evidence.
func (o openingRow) Adoptable() bool { return o.Of != "search" && o.Of != "beside" }

// OpeningGroups are the openings of a study that hold a text, by their kinds.
func (an *analysis) OpeningGroups(filter string) []openingGroup {
	says := map[evidence.OpeningKind]string{evidence.AskedUnmet: "Asked, and hardly answered", evidence.SearchedUnmet: "Searched, and not met", evidence.OnePage: "On one page only", evidence.Disputed: "Disputed", evidence.InSourceOnly: "In a source of yours only"}
	var groups []openingGroup
	in := map[string]map[string]bool{}
	for _, k := range []brief.Kind{brief.QuestionKind, brief.ThemeKind, brief.PointKind} {
		in[string(k)] = inBrief(an.Brief, k)
	}
	for _, o := range an.Evidence.Openings {
		if !strings.Contains(strings.ToLower(o.Text), strings.ToLower(filter)) {
			continue
		}
		i := slices.IndexFunc(groups, func(g openingGroup) bool { return g.Kind == o.Kind })
		if i < 0 {
			groups = append(groups, openingGroup{Kind: o.Kind, Says: says[o.Kind]})
			i = len(groups) - 1
		}
		groups[i].Rows = append(groups[i].Rows, openingRow{o, in[o.Of][o.Key]})
	}
	return groups
}
