package parts

import (
	"corpulan/core/brief"
	"corpulan/core/vocabulary"
	"corpulan/render"
)

// tiersOf sets the rows of terms in columns.
func tiersOf(rows []render.Row) []tier {
	tiers := []tier{{"Staples", "on 60 % of the pages and more", nil}, {"Frequent", "on 30 % and more", nil}, {"Occasional", "on two pages and more", nil}, {"Your own", "added by hand", nil}}
	for _, r := range rows {
		at := 2
		switch vocabulary.Tier(r.Group) {
		case vocabulary.Staple:
			at = 0
		case vocabulary.Frequent:
			at = 1
		case brief.OwnTier:
			at = 3
		}
		tiers[at].Rows = append(tiers[at].Rows, r)
	}
	return tiers
}

// tier is the terms of one tier, a column of the brief.
type tier struct {
	Name  string
	About string
	Rows  []render.Row
}

// groupsOf parts rows by their groups, which follow one another.
func groupsOf(rows []render.Row) []group {
	var list []group
	for _, r := range rows {
		if len(list) == 0 || list[len(list)-1].Name != r.Group {
			list = append(list, group{Name: r.Group})
		}
		last := &list[len(list)-1]
		last.Rows = append(last.Rows, r)
	}
	return list
}

// group is rows that belong together.
type group struct {
	Name string
	Rows []render.Row
}
