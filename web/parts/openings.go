package parts

import (
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/web/kit"
)

// OpeningGroup is the openings of one kind.
type OpeningGroup struct {
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
func OpeningGroups(an *kit.Analysis, filter string) []OpeningGroup {
	says := map[evidence.OpeningKind]string{evidence.AskedUnmet: "Asked, and hardly answered", evidence.SearchedUnmet: "Searched, and not met", evidence.OnePage: "On one page only", evidence.Disputed: "Disputed", evidence.Unmeasured: "Told, and not measured", evidence.InWalls: "In walls of text", evidence.InSourceOnly: "In a source of yours only"}
	var groups []OpeningGroup
	in := map[string]map[string]bool{}
	for _, k := range []brief.Kind{brief.QuestionKind, brief.ThemeKind, brief.PointKind} {
		in[string(k)] = inBrief(an.Brief, k)
	}
	for _, o := range an.Evidence.Openings {
		if !strings.Contains(strings.ToLower(o.Text), strings.ToLower(filter)) {
			continue
		}
		i := slices.IndexFunc(groups, func(g OpeningGroup) bool { return g.Kind == o.Kind })
		if i < 0 {
			groups = append(groups, OpeningGroup{Kind: o.Kind, Says: says[o.Kind]})
			i = len(groups) - 1
		}
		groups[i].Rows = append(groups[i].Rows, openingRow{o, in[o.Of][o.Key]})
	}
	return groups
}
