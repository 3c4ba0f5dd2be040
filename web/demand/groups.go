package demand

import (
	"cmp"
	"errors"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/analysis"
	"corpulan/core/demand"
	"corpulan/render"
	"corpulan/store"
	"corpulan/web/draw"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// groupsQuery is what of a list's groups is asked for; it stands in the address.
type groupsQuery struct {
	Tab     string // "", "map", "ours" or "out"
	Filter  string
	Sort    string
	Down    bool
	Least   float64 // volume
	Hardest float64 // difficulty; 100 for all
	Intent  string
	Show    int
	From    int
	width   float64 // negative for the list's own
}

// groupsBody is one list: its groups as a table or a map, where we stand, what is out.
type groupsBody struct {
	groupsQuery
	List     store.KeywordList
	Groups   *analysis.Groups
	Progress *analysis.Progress // set while the list is being compared
	Rows     []groupRow
	Total    int // groups that match
	All      int // groups there are
	Keywords int
	Map      template.HTML
	Unmapped int
	Curve    string
	Slates   []store.Slate
	File     *store.KeywordFile // the table that was brought last, without its rows; nil for none
	Service  bool
}

// groupRow is a group in the table.
type groupRow struct {
	demand.Group
	ListID int64
	Own    demand.Own
	Study  int64
	Months template.HTML
	Peak   string
}

// groupPath is where a group of a list is shown; a key may hold any character.
func groupPath(list int64, key string) string {
	return fmt.Sprintf("/demand/%d/group?%s", list, url.Values{"key": {key}}.Encode())
}

// With is the address of the same with some things changed.
func (q groupsQuery) With(pairs ...any) string {
	v := url.Values{}
	set := func(name, value string) {
		if v.Del(name); value != "" && value != "0" && value != "false" {
			v.Set(name, value)
		}
	}
	set("tab", q.Tab)
	set("filter", q.Filter)
	set("sort", q.Sort)
	if q.Down {
		v.Set("down", "1")
	}
	if q.Least > 0 {
		set("least", strconv.FormatFloat(q.Least, 'f', -1, 64))
	}
	if q.Hardest < 100 {
		v.Set("hardest", strconv.FormatFloat(q.Hardest, 'f', -1, 64))
	}
	set("intent", q.Intent)
	for i := 0; i+1 < len(pairs); i += 2 {
		set(fmt.Sprint(pairs[i]), fmt.Sprint(pairs[i+1]))
	}
	return "?" + v.Encode()
}

// SortBy is the address that sorts by a column; the second press turns it round.
func (q groupsQuery) SortBy(column string) string {
	if q.Sort == column && q.Down {
		return q.With("sort", column, "down", "")
	}
	return q.With("sort", column, "down", "1")
}

// Sorted says how a column is sorted, for aria-sort.
func (q groupsQuery) Sorted(column string) string {
	switch {
	case q.Sort != column:
		return ""
	case q.Down:
		return "descending"
	}
	return "ascending"
}

func groupsQueryOf(c *gin.Context) groupsQuery {
	v := kit.PageQuery(c)
	q := groupsQuery{Tab: v.Get("tab"), Filter: strings.TrimSpace(v.Get("filter")), Sort: v.Get("sort"), Down: v.Get("down") == "1", Intent: v.Get("intent"), Hardest: 100, Show: kit.Screenful, width: -1}
	if !slices.Contains([]string{"", "map", "ours", "out"}, q.Tab) {
		q.Tab = ""
	}
	if x := demand.ParseFigure(v.Get("least")); x.Known {
		q.Least = math.Max(0, x.Value)
	}
	if x := demand.ParseFigure(v.Get("hardest")); x.Known {
		q.Hardest = math.Min(100, math.Max(0, x.Value))
	}
	if n, err := strconv.Atoi(v.Get("from")); err == nil && n > 0 {
		q.From = n
	}
	if n, err := strconv.Atoi(v.Get("show")); err == nil && n > 0 {
		q.Show = min(n, maxGroupsShown)
	}
	return q
}

// maxGroupsShown is how many groups one page lists at most, whatever its address says.
const maxGroupsShown = 1000

// Next is where the rows that are not shown begin.
func (b groupsBody) Next() int { return b.From + len(b.Rows) }

// Left is how many rows are not shown.
func (b groupsBody) Left() int { return max(0, b.Total-b.Next()) }

// Unknown is of how many keywords the results are not known.
func (b groupsBody) Unknown() int {
	if b.Groups == nil {
		return 0
	}
	return b.Groups.Keywords - b.Groups.Known
}

// ByWords is how many keywords are worth asking for, where most are grouped by words alone; 0
// where they are not, or something is being asked already.
func (b groupsBody) ByWords() int {
	if b.Groups == nil || 2*b.Groups.Known >= b.Groups.Keywords || b.List.Work.Data().Running {
		return 0
	}
	return min(b.Unknown(), maxOffered)
}

// maxOffered is how many results pages are offered to be asked for with one press: some minutes.
const maxOffered = 500

// Percent is the width in hundredths, for the control.
func (b groupsBody) Percent() int { return int(math.Round(100 * b.List.Width)) }

func (s *handlers) groupsPlace(c *gin.Context) {
	body, err := s.groupsBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if kit.FromHTMX(c) {
		name := "groups-answer"
		if body.From > 0 {
			name = "group-rows"
		}
		s.Fragment(c, http.StatusOK, name, body)
		return
	}
	s.Page(c, http.StatusOK, "groups", s.inList(c, "groups", body))
}

func (s *handlers) groupsBody(c *gin.Context) (groupsBody, error) {
	ctx, sc := c.Request.Context(), s.Scope(c)
	l, err := sc.List(ctx, parts.ListOf(c).ID) // as it now is, after what was just done
	if err != nil {
		return groupsBody{}, err
	}
	body := groupsBody{groupsQuery: groupsQueryOf(c), List: l}
	if f, err := sc.FileSaid(ctx, l.ID); err == nil {
		body.File = &f
	} else if !errors.Is(err, store.ErrNotFound) {
		return body, err
	}
	if body.Slates, err = s.SlatesFor(c, l); err != nil {
		return body, err
	}
	body.Groups, body.Progress, err = s.Demander.Groups(ctx, sc, l, body.width)
	if err != nil || body.Progress != nil {
		return body, err
	}
	g := body.Groups
	body.All, body.Keywords = len(g.Groups), g.Keywords
	body.Curve = curveText(g.Options.Curve)
	rows := body.matching(g)
	body.Total = len(rows)
	if body.Tab == "map" {
		groups := make([]demand.Group, 0, min(len(rows), maxMapped))
		slices.SortStableFunc(rows, func(a, b groupRow) int { return cmp.Compare(b.Potential.Value, a.Potential.Value) })
		for _, r := range rows[:min(len(rows), maxMapped)] {
			groups = append(groups, r.Group)
		}
		body.Map = draw.GroupMap(s.Tongue(c).Words, groups, func(x demand.Group) (string, string) {
			to := groupPath(l.ID, x.Key)
			return to, to
		})
		for _, r := range rows {
			if !r.Volume.Known || r.Volume.Value <= 0 || !r.Difficulty.Known {
				body.Unmapped++
			}
		}
		body.Unmapped += max(0, len(rows)-maxMapped)
		return body, nil
	}
	body.Rows = rows[min(body.From, len(rows)):min(len(rows), body.From+body.Show)]
	studies, err := s.studiesOf(c, body.Rows)
	if err != nil {
		return body, err
	}
	for i := range body.Rows {
		r := &body.Rows[i]
		r.Study = studies[r.Key]
		r.Months, r.Peak = draw.Months(s.Tongue(c).Words, r.Group.Months), peakOf(r.Group)
	}
	if body.Tab == "ours" {
		return body, s.measureRivals(c, body.Rows)
	}
	return body, nil
}

// maxMapped is how many groups the map has: those of most potential. More would hide each other.
const maxMapped = 250

// studiesOf are the studies of the groups' leading keywords that there are already.
func (s *handlers) studiesOf(c *gin.Context, rows []groupRow) (map[string]int64, error) {
	l := parts.ListOf(c)
	keywords := make([]string, len(rows))
	for i, r := range rows {
		keywords[i] = r.Keywords[0].Text
	}
	found, err := s.Scope(c).StudiesLike(c.Request.Context(), keywords, l.Language, l.Country)
	out := map[string]int64{}
	for i, r := range rows {
		if id := found[strings.ToLower(keywords[i])]; id != 0 {
			out[r.Key] = id
		}
	}
	return out, err
}

// measureRivals looks how much of the text of rival pages is the same.
func (s *handlers) measureRivals(c *gin.Context, rows []groupRow) error {
	var pages []string
	for _, r := range rows {
		if len(r.Own.Rivals) > 0 {
			pages = append(pages, r.Own.Page)
			for _, x := range r.Own.Rivals {
				pages = append(pages, x.Page)
			}
		}
	}
	if len(pages) == 0 {
		return nil
	}
	same, err := s.Analyst.SameText(c.Request.Context(), s.Scope(c), parts.ListOf(c).Language, pages)
	if err != nil {
		return err
	}
	p, err := s.Scope(c).Publication(c.Request.Context())
	if err != nil {
		return err
	}
	curve := p.Settings.Data().Curve
	if len(curve) == 0 {
		curve = demand.DefaultCurve()
	}
	for i := range rows {
		if len(rows[i].Own.Rivals) > 0 {
			rows[i].Own = demand.OwnOf(rows[i].Group, curve, same)
		}
	}
	return nil
}

// peakOf says when a group is searched most, where a year is known: "December", or how long
// before the last month where nobody has said which that is.
func peakOf(g demand.Group) string {
	if len(g.Months) < 12 {
		return ""
	}
	best := 0
	for i, m := range g.Months {
		if m > g.Months[best] {
			best = i
		}
	}
	back := len(g.Months) - 1 - best
	if last, err := time.Parse("2006-01", g.Until); err == nil {
		return "in " + last.AddDate(0, -back, 0).Month().String()
	}
	if back == 0 {
		return "in the last month of the list"
	}
	return fmt.Sprintf("%s before the last month of the list", draw.Counted(back, "month"))
}

func curveText(c demand.Curve) string {
	parts := make([]string, len(c))
	for i, x := range c {
		parts[i] = strconv.FormatFloat(math.Round(1000*x)/10, 'f', -1, 64)
	}
	return strings.Join(parts, " ")
}

// downloadGroups hands over the groups of a list.
func (s *handlers) downloadGroups(c *gin.Context) {
	g, progress, err := s.Demander.Groups(c.Request.Context(), s.Scope(c), parts.ListOf(c), -1)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if progress != nil {
		s.SayList(c, http.StatusConflict, "The keywords are still being compared; try again in a moment.")
		return
	}
	s.SendTable(c, c.Param("format"), render.GroupsTable(g.Grouping), parts.ListOf(c).Name())
}
