// Package field is the kept pages side by side, how each was read (pages.go), terms that stand together
// (network.go), two studies beside each other (two.go).
package field

import (
	"fmt"
	"math"
	"net/http"
	"strconv"

	"corpulan/core/evidence"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/store"
	"corpulan/web/draw"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// fieldBody is the Field place: how long the pages are, how they are built,
// what they serve, and what the first ranks do that the others do not.
type fieldBody struct {
	*kit.Analysis
	Running  bool
	Older    int // pages that an older engine read
	Chart    draw.Chart
	Groups   []figureGroup
	Placing  []placing
	Contrast evidence.Contrast
	Leading  []leanRow // of the leaders
	Trailing []leanRow // of the followers
	Coverage parts.Coverage
	Open     *pageBody // what is opened beside the ribbons, by the address
}

// figureGroup is the figures of one group, in the table of measures.
type figureGroup struct {
	Name string
	Rows []parts.FigureRow
}

func (s *handlers) field(c *gin.Context) {
	an, readings, err := s.fieldPages(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	ours := parts.OwnPages(an)
	body := fieldBody{Analysis: an, Running: an.Gathering.Running(), Chart: chartOf(an, readings), Groups: figureGroups(an, ours), Placing: placings(an, ours), Contrast: an.Evidence.Contrast, Coverage: parts.CoverageOf(an, "")}
	body.Leading, body.Trailing = leanRows(an.Evidence.Contrast)
	body.Open, _ = openedIn(c.Request.Context(), an, body.Chart, c.Query("open")) // what is not there any more is not open
	for _, p := range body.Chart.Pages {
		if p.Reading.Engine < reading.Engine {
			body.Older++
		}
	}
	switch {
	case c.Query("table") == "":
		s.Page(c, http.StatusOK, "field", s.InStudy(c, "field", body))
	case kit.FromHTMX(c):
		s.Fragment(c, http.StatusOK, "ribbons-table", body.Chart)
	default:
		s.Page(c, http.StatusOK, "ribbons", s.InStudy(c, "field", body))
	}
}

// lead parts the first ranks from the others, for this study.
func (s *handlers) lead(c *gin.Context) {
	id := kit.StudyOf(c).ID
	n, err := strconv.Atoi(c.PostForm("leaders"))
	if err != nil || n < 1 || n > store.MaxResults {
		s.Say(c, http.StatusUnprocessableEntity, message.Of("The number of leaders is a whole number from 1 to %d.", store.MaxResults))
		return
	}
	done, err := s.Commands(c).Lead(c.Request.Context(), id, n)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if !kit.FromHTMX(c) {
		kit.Back(c, fmt.Sprintf("/studies/%d/field", id))
		return
	}
	s.Refreshed(c, kit.NoticeOf(id, done))
}

// figureGroups are all figures by their groups.
func figureGroups(an *kit.Analysis, ours []parts.OwnPage) []figureGroup {
	var groups []figureGroup
	for _, row := range parts.FigureRows(an, ours) {
		if len(groups) == 0 || groups[len(groups)-1].Name != row.Group {
			groups = append(groups, figureGroup{Name: row.Group})
		}
		g := &groups[len(groups)-1]
		g.Rows = append(g.Rows, row)
	}
	return groups
}

// Mark draws the figure's range with the pages of ours on it.

// placing is one place of a page, and which pages have the keyword there.
type placing struct {
	Name   string
	Unit   string
	Counts []int // per page
	Pages  int
	Of     int
	Ours   []string // pages of ours that have it there
}

var places = []struct {
	name string
	of   func(evidence.Placement) int
}{
	{"Title tag", func(p evidence.Placement) int { return one(p.Title) }},
	{"H1", func(p evidence.Placement) int { return one(p.H1) }},
	{"Address", func(p evidence.Placement) int { return one(p.Address) }},
	{"Meta description", func(p evidence.Placement) int { return one(p.Description) }},
	{"First hundred words", func(p evidence.Placement) int { return one(p.Opening) }},
	{"Other headings", func(p evidence.Placement) int { return p.Subheadings }},
	{"Image texts", func(p evidence.Placement) int { return p.ImageTexts }},
}

func one(b bool) int {
	if b {
		return 1
	}
	return 0
}

func placings(an *kit.Analysis, ours []parts.OwnPage) []placing {
	var list []placing
	for _, p := range places {
		row := placing{Name: p.name, Of: len(an.Evidence.Placed), Unit: "times"}
		for _, at := range an.Evidence.Placed {
			n := p.of(at)
			row.Counts = append(row.Counts, n)
			row.Pages += one(n > 0)
		}
		for _, o := range ours {
			if p.of(o.Placed) > 0 {
				row.Ours = append(row.Ours, o.Host)
			}
		}
		list = append(list, row)
	}
	return list
}

// leanRow is a term that leans to one side, with the length of its bar.
type leanRow struct {
	evidence.Lean
	Bar int // pixels
}

const (
	maxLeans    = 10
	longestLean = 72 // pixels
)

// leanRows are the strongest leans of each side.
func leanRows(c evidence.Contrast) (leading, trailing []leanRow) {
	most := 1.0
	for _, l := range c.Leans {
		most = max(most, math.Abs(l.LogRatio))
	}
	for _, l := range c.Leans {
		row := leanRow{l, int(longestLean*math.Abs(l.LogRatio)/most + 0.5)}
		if l.G2 > 0 && len(leading) < maxLeans {
			leading = append(leading, row)
		} else if l.G2 < 0 && len(trailing) < maxLeans {
			trailing = append(trailing, row)
		}
	}
	return leading, trailing
}

// Significance says in words how sure a lean is: over the pages first, since words of
// one page are no independent witnesses.
func (l leanRow) Significance() string {
	switch {
	case l.Certainty() == "sure" && l.P <= 0.001:
		return "very likely"
	case l.Certainty() == "sure":
		return "likely"
	case l.Certainty() == "likely":
		return "perhaps"
	}
	return "may be chance"
}
