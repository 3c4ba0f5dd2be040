package web

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"

	"corpulan/core/evidence"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/draw"
	"corpulan/words"

	"github.com/gin-gonic/gin"
)

// fieldBody is the Field place: how long the pages are, how they are built,
// what they serve, and what the first ranks do that the others do not.
type fieldBody struct {
	*analysis
	Running  bool
	Older    int // pages that an older engine read
	Chart    draw.Chart
	Groups   []figureGroup
	Placing  []placing
	Contrast evidence.Contrast
	Leading  []leanRow // of the leaders
	Trailing []leanRow // of the followers
	Coverage coverage
	Open     *pageBody // what is opened beside the ribbons, by the address
}

// chartOf is the pages of a study as ribbons, from their readings or the outlines of these.
func chartOf(an *analysis, readings map[int64]*reading.Reading) draw.Chart {
	var pages []draw.Page
	for _, r := range an.Results {
		if r.ReadingID != nil && readings[*r.ReadingID] != nil {
			pages = append(pages, draw.Page{Result: r.ID, Rank: r.Rank, Host: r.Host, Reading: readings[*r.ReadingID], Own: r.Own, Aside: !r.Own && !study.Counts(r)})
		}
	}
	return draw.NewChart(an.in, an.Study.ID, an.Evidence, pages)
}

// figureGroup is the figures of one group, in the table of measures.
type figureGroup struct {
	Name string
	Rows []figureRow
}

// figureRow is a figure with the same of pages of ours.
type figureRow struct {
	evidence.Figure
	Most float64 // the scale of its mark
	in   *words.Words
	Ours []draw.Pointer
}

func (s *Server) field(c *gin.Context) {
	an, readings, err := s.fieldPages(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	ours := an.ownPages()
	body := fieldBody{analysis: an, Running: an.Gathering.Running(), Chart: chartOf(an, readings), Groups: figureGroups(an, ours), Placing: placings(an, ours), Contrast: an.Evidence.Contrast, Coverage: coverageOf(an, "")}
	body.Leading, body.Trailing = leanRows(an.Evidence.Contrast)
	body.Open, _ = openedIn(c.Request.Context(), an, body.Chart, c.Query("open")) // what is not there any more is not open
	for _, p := range body.Chart.Pages {
		if p.Reading.Engine < reading.Engine {
			body.Older++
		}
	}
	switch {
	case c.Query("table") == "":
		s.views.page(c, http.StatusOK, "field", s.inStudy(c, "field", body))
	case fromHTMX(c):
		s.views.fragment(c, http.StatusOK, "ribbons-table", body.Chart)
	default:
		s.views.page(c, http.StatusOK, "ribbons", s.inStudy(c, "field", body))
	}
}

// fieldPages is a study with the readings that its ribbons are drawn from: their outlines, and
// whole only where a section is open.
func (s *Server) fieldPages(c *gin.Context) (*analysis, map[int64]*reading.Reading, error) {
	an, err := s.findings(c)
	if err != nil {
		return nil, nil, err
	}
	if c.Query("open") == "" {
		readings, err := s.analyst.Outlines(c.Request.Context(), s.scope(c), an.Results)
		return an, readings, err
	}
	an, err = s.analyse(c)
	if err != nil {
		return nil, nil, err
	}
	return an, an.readings(), nil
}

// readings are the pages of the study as they were read.
func (an *analysis) readings() map[int64]*reading.Reading {
	all := make(map[int64]*reading.Reading, len(an.Docs))
	for id, d := range an.Docs {
		all[id] = d.Reading
	}
	return all
}

// lead parts the first ranks from the others, for this study.
func (s *Server) lead(c *gin.Context) {
	id := studyOf(c).ID
	n, err := strconv.Atoi(c.PostForm("leaders"))
	if err != nil || n < 1 || n > store.MostResults {
		s.say(c, http.StatusUnprocessableEntity, fmt.Sprintf("The number of leaders is a whole number from 1 to %d.", store.MostResults))
		return
	}
	done, err := s.commands(c).Lead(c.Request.Context(), id, n)
	if err != nil {
		s.fail(c, err)
		return
	}
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/studies/%d/field", id))
		return
	}
	s.refreshed(c, noticeOf(id, done))
}

// figureGroups are all figures by their groups.
func figureGroups(an *analysis, ours []ownPage) []figureGroup {
	var groups []figureGroup
	for _, row := range figureRows(an, ours) {
		if len(groups) == 0 || groups[len(groups)-1].Name != row.Group {
			groups = append(groups, figureGroup{Name: row.Group})
		}
		g := &groups[len(groups)-1]
		g.Rows = append(g.Rows, row)
	}
	return groups
}

// ownPage is a page of ours, measured as those of the field are.
type ownPage struct {
	Host    string
	placed  evidence.Placement
	figures map[string]float64
}

// ownPages measures the study's own pages.
func (an *analysis) ownPages() []ownPage {
	var list []ownPage
	for _, r := range an.Results {
		if r.Own && r.ReadingID != nil && an.Ours[*r.ReadingID] != nil {
			placed, figures := evidence.Measure(an.Ours[*r.ReadingID], an.Study.Keyword)
			list = append(list, ownPage{r.Host, placed, figures})
		}
	}
	return list
}

// figureRows are the figures of the keys, or all of them, each with the same
// of our pages.
func figureRows(an *analysis, ours []ownPage, keys ...string) []figureRow {
	var rows []figureRow
	for _, f := range an.Evidence.Figures {
		if len(keys) > 0 && !slices.Contains(keys, f.Key) {
			continue
		}
		row := figureRow{Figure: f, Most: scaleOf(f), in: an.in}
		for _, o := range ours {
			v := o.figures[f.Key]
			row.Ours = append(row.Ours, draw.Pointer{Name: o.Host, Value: v})
			row.Most = max(row.Most, v*1.05)
		}
		rows = append(rows, row)
	}
	return rows
}

// scaleOf is where the scale of a figure's mark ends: beyond all that is drawn
// on it, so that marks of the same figure can be compared.
func scaleOf(f evidence.Figure) float64 {
	most := max(f.Target.Upper, f.Leaders.Upper, f.Followers.Upper) * 1.15
	if most == 0 {
		return 1
	}
	return most
}

// Show writes a value of the figure with its digits.
func (f figureRow) Show(v float64) string {
	if f.in == nil {
		return strconv.FormatFloat(v, 'f', f.Digits, 64)
	}
	return f.in.Decimal(f.Digits, v)
}

// Span writes a range of the figure: "4–13", or "1" where both ends are the same.
func (f figureRow) Span(r stats.Range) string {
	from, to := f.Show(r.Lower), f.Show(r.Upper)
	if from == to {
		return from
	}
	return from + "–" + to
}

// Mark draws the figure's range with the pages of ours on it.

// fewToCompare is the median up to which a difference is told in units: twelve
// headings more than one are no twelvefold.
const fewToCompare = 20

// Compare says how the leaders' median stands to the followers'; empty where
// they cannot be compared.
func (f figureRow) Compare() string {
	unit := math.Pow10(f.Digits)
	a, b := math.Round(f.Leaders.Median*unit)/unit, math.Round(f.Followers.Median*unit)/unit // as they are shown
	if f.Leaders.N == 0 || a == b {
		return ""
	}
	sign := "+"
	if a < b {
		sign = "−"
	}
	if b < fewToCompare || f.Unit != "" {
		return sign + f.Show(abs(a-b))
	}
	return fmt.Sprintf("%s%.0f %%", sign, 100*abs(a-b)/b)
}

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

func placings(an *analysis, ours []ownPage) []placing {
	var list []placing
	for _, p := range places {
		row := placing{Name: p.name, Of: len(an.Evidence.Placed), Unit: "times"}
		for _, at := range an.Evidence.Placed {
			n := p.of(at)
			row.Counts = append(row.Counts, n)
			row.Pages += one(n > 0)
		}
		for _, o := range ours {
			if p.of(o.placed) > 0 {
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
	mostLeans   = 10
	longestLean = 72 // pixels
)

// leanRows are the strongest leans of each side.
func leanRows(c evidence.Contrast) (leading, trailing []leanRow) {
	most := 1.0
	for _, l := range c.Leans {
		most = max(most, abs(l.LogRatio))
	}
	for _, l := range c.Leans {
		row := leanRow{l, int(longestLean*abs(l.LogRatio)/most + 0.5)}
		if l.G2 > 0 && len(leading) < mostLeans {
			leading = append(leading, row)
		} else if l.G2 < 0 && len(trailing) < mostLeans {
			trailing = append(trailing, row)
		}
	}
	return leading, trailing
}

func abs(x float64) float64 { return max(x, -x) }

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
