package web

import (
	"bytes"
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

	"corpulan/core/demand"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/draw"

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
	Groups   *study.Groups
	Progress *study.Progress // set while the list is being compared
	Rows     []groupRow
	Total    int // groups that match
	All      int // groups there are
	Keywords int
	Map      template.HTML
	Unmapped int
	Curve    string
	Slates   []store.Slate
	File     bool // a table waits for its columns
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
	v := pageQuery(c)
	q := groupsQuery{Tab: v.Get("tab"), Filter: strings.TrimSpace(v.Get("filter")), Sort: v.Get("sort"), Down: v.Get("down") == "1", Intent: v.Get("intent"), Hardest: 100, Show: screenful, width: -1}
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
		q.Show = min(n, mostGroupsShown)
	}
	return q
}

// mostGroupsShown is how many groups one page lists at most, whatever its address says.
const mostGroupsShown = 1000

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
	return min(b.Unknown(), mostOffered)
}

// mostOffered is how many results pages are offered to be asked for with one press: some minutes.
const mostOffered = 500

// Percent is the width in hundredths, for the control.
func (b groupsBody) Percent() int { return int(math.Round(100 * b.List.Width)) }

func (s *Server) groupsPlace(c *gin.Context) {
	body, err := s.groupsBody(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	if fromHTMX(c) {
		name := "groups-answer"
		if body.From > 0 {
			name = "group-rows"
		}
		s.views.fragment(c, http.StatusOK, name, body)
		return
	}
	s.views.page(c, http.StatusOK, "groups", s.inList(c, "groups", body))
}

func (s *Server) groupsBody(c *gin.Context) (groupsBody, error) {
	ctx, sc := c.Request.Context(), s.scope(c)
	l, err := sc.List(ctx, listOf(c).ID) // as it now is, after what was just done
	if err != nil {
		return groupsBody{}, err
	}
	body := groupsBody{groupsQuery: groupsQueryOf(c), List: l}
	if _, err := sc.File(ctx, l.ID); err == nil {
		body.File = !l.Work.Data().Running
	} else if !errors.Is(err, store.ErrNotFound) {
		return body, err
	}
	if body.Slates, err = sc.Slates(ctx); err != nil {
		return body, err
	}
	body.Groups, body.Progress, err = s.demander.Groups(ctx, sc, l, body.width)
	if err != nil || body.Progress != nil {
		return body, err
	}
	g := body.Groups
	body.All, body.Keywords = len(g.Groups), g.Keywords
	body.Curve = curveText(g.Options.Curve)
	rows := body.matching(g)
	body.Total = len(rows)
	if body.Tab == "map" {
		groups := make([]demand.Group, 0, min(len(rows), mostMapped))
		slices.SortStableFunc(rows, func(a, b groupRow) int { return cmp.Compare(b.Potential.Value, a.Potential.Value) })
		for _, r := range rows[:min(len(rows), mostMapped)] {
			groups = append(groups, r.Group)
		}
		body.Map = draw.GroupMap(groups, func(x demand.Group) (string, string) {
			to := groupPath(l.ID, x.Key)
			return to, to
		})
		for _, r := range rows {
			if !r.Volume.Known || r.Volume.Value <= 0 || !r.Difficulty.Known {
				body.Unmapped++
			}
		}
		body.Unmapped += max(0, len(rows)-mostMapped)
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
		r.Months, r.Peak = draw.Months(r.Group.Months, ""), peakOf(r.Group)
	}
	if body.Tab == "ours" {
		return body, s.measureRivals(c, body.Rows)
	}
	return body, nil
}

// mostMapped is how many groups the map has: those of most potential. More would hide each other.
const mostMapped = 250

// figuresOf are what groups are sorted and filtered by, by name.
var figuresOf = map[string]func(groupRow) demand.Figure{
	"keywords": func(r groupRow) demand.Figure { return demand.Of(float64(len(r.Keywords))) }, "questions": func(r groupRow) demand.Figure { return demand.Of(float64(len(r.Questions))) },
	"volume": func(r groupRow) demand.Figure { return r.Volume }, "difficulty": func(r groupRow) demand.Figure { return r.Difficulty }, "cost": func(r groupRow) demand.Figure { return r.Cost },
	"season": func(r groupRow) demand.Figure { return r.Seasonality }, "potential": func(r groupRow) demand.Figure { return r.Potential }, "position": func(r groupRow) demand.Figure { return r.Own.Position },
	"clicks": func(r groupRow) demand.Figure { return r.Own.Clicks }, "now": func(r groupRow) demand.Figure { return r.Own.Now }, "gain": func(r groupRow) demand.Figure { return r.Own.Gain },
	"rivals": func(r groupRow) demand.Figure { return demand.Of(float64(len(r.Own.Rivals))) },
}

// bound is a bound on a figure, as the filter takes it: "cost<1".
type bound struct {
	of    func(groupRow) demand.Figure
	above bool
	value float64
}

// boundsIn parts what is typed into the filter: bounds on figures, and the words that are left.
func boundsIn(filter string) (words string, bounds []bound) {
	var rest []string
	for _, w := range strings.Fields(filter) {
		name, value, above := strings.Cut(w, ">")
		if !above {
			name, value, _ = strings.Cut(w, "<")
		}
		of, known := figuresOf[strings.ToLower(name)]
		v := demand.ParseFigure(value)
		if !known || !v.Known {
			rest = append(rest, w)
			continue
		}
		bounds = append(bounds, bound{of, above, v.Value})
	}
	return strings.Join(rest, " "), bounds
}

// matching are the groups that a query asks for, in its order.
func (q groupsQuery) matching(g *study.Groups) []groupRow {
	words, bounds := boundsIn(q.Filter)
	if q.Least > 0 {
		bounds = append(bounds, bound{figuresOf["volume"], true, q.Least - 1e-9})
	}
	want := demand.Same(words)
	rows := make([]groupRow, 0, len(g.Groups))
	for _, x := range g.Groups {
		if q.Hardest < 100 && x.Difficulty.Known && x.Difficulty.Value > q.Hardest || q.Intent != "" && x.Intent != q.Intent {
			continue
		}
		if want != "" && !strings.Contains(demand.Same(x.Name), want) && !slices.ContainsFunc(x.Keywords, func(k demand.Keyword) bool { return strings.Contains(demand.Same(k.Text), want) }) {
			continue
		}
		r := groupRow{Group: x, ListID: g.List.ID, Own: g.Own(x)}
		if slices.ContainsFunc(bounds, func(b bound) bool {
			f := b.of(r)
			return !f.Known || b.above && f.Value <= b.value || !b.above && f.Value >= b.value
		}) {
			continue
		}
		rows = append(rows, r)
	}
	if q.Tab == "ours" && q.Sort == "" {
		q.Sort, q.Down = "gain", true
	}
	compare := map[string]func(a, b groupRow) int{
		"name":   func(a, b groupRow) int { return strings.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)) },
		"intent": func(a, b groupRow) int { return strings.Compare(a.Intent, b.Intent) },
	}[q.Sort]
	if of := figuresOf[q.Sort]; of != nil {
		compare = func(a, b groupRow) int {
			x, y := of(a), of(b)
			if x.Known != y.Known { // what is not known comes last, whichever way
				if x.Known == q.Down {
					return 1
				}
				return -1
			}
			return cmp.Compare(x.Value, y.Value)
		}
	}
	if compare != nil {
		slices.SortStableFunc(rows, func(a, b groupRow) int {
			if q.Down {
				return compare(b, a)
			}
			return compare(a, b)
		})
	}
	return rows
}

// studiesOf are the studies of the groups' leading keywords that there are already.
func (s *Server) studiesOf(c *gin.Context, rows []groupRow) (map[string]int64, error) {
	l := listOf(c)
	keywords := make([]string, len(rows))
	for i, r := range rows {
		keywords[i] = r.Keywords[0].Text
	}
	found, err := s.scope(c).StudiesLike(c.Request.Context(), keywords, l.Language, l.Country)
	out := map[string]int64{}
	for i, r := range rows {
		if id := found[strings.ToLower(keywords[i])]; id != 0 {
			out[r.Key] = id
		}
	}
	return out, err
}

// measureRivals looks how much of the text of rival pages is the same.
func (s *Server) measureRivals(c *gin.Context, rows []groupRow) error {
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
	same, err := s.analyst.SameText(c.Request.Context(), s.scope(c), listOf(c).Language, pages)
	if err != nil {
		return err
	}
	p, err := s.scope(c).Publication(c.Request.Context())
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

// groupPaneBody is one group with its keywords.
type groupPaneBody struct {
	groupRow
	List   store.KeywordList
	Known  map[string]bool // keywords whose results are known
	Slates []store.Slate
}

func (s *Server) groupPane(c *gin.Context) {
	body, err := s.paneOf(c, c.Query("key"))
	if err != nil {
		s.fail(c, err)
		return
	}
	if !fromHTMX(c) {
		s.views.page(c, http.StatusOK, "group-page", s.inList(c, "group", body))
		return
	}
	s.views.fragment(c, http.StatusOK, "group-pane", body)
}

// paneOf is a group by its key; a nil body where there is none any more.
func (s *Server) paneOf(c *gin.Context, key string) (*groupPaneBody, error) {
	ctx, sc := c.Request.Context(), s.scope(c)
	l, err := sc.List(ctx, listOf(c).ID)
	if err != nil {
		return nil, err
	}
	g, progress, err := s.demander.Groups(ctx, sc, l, -1)
	if err != nil {
		return nil, err
	}
	if progress != nil {
		return nil, store.ErrNotFound
	}
	i := slices.IndexFunc(g.Groups, func(x demand.Group) bool { return x.Key == key })
	if i < 0 {
		return nil, store.ErrNotFound
	}
	body := &groupPaneBody{groupRow: groupRow{Group: g.Groups[i], ListID: l.ID, Own: g.Own(g.Groups[i])}, List: l, Known: map[string]bool{}}
	for _, k := range body.Keywords {
		_, body.Known[k.Text] = g.Options.Results[demand.Same(k.Text)]
	}
	studies, err := s.studiesOf(c, []groupRow{body.groupRow})
	if err != nil {
		return nil, err
	}
	body.Study = studies[body.Key]
	if body.Slates, err = sc.Slates(ctx); err != nil {
		return nil, err
	}
	one := []groupRow{body.groupRow}
	if err := s.measureRivals(c, one); err != nil {
		return nil, err
	}
	body.groupRow = one[0]
	body.Months, body.Peak = draw.Months(body.Group.Months, ""), peakOf(body.Group)
	return body, nil
}

// groupNames completes the name of a group that keywords are moved to.
func (s *Server) groupNames(c *gin.Context) {
	g, progress, err := s.demander.Groups(c.Request.Context(), s.scope(c), listOf(c), -1)
	if err != nil {
		s.fail(c, err)
		return
	}
	var names []string
	if want := demand.Same(c.Query("to")); progress == nil && want != "" {
		for _, x := range g.Groups {
			if strings.Contains(demand.Same(x.Name), want) && len(names) < 20 {
				names = append(names, x.Name)
			}
		}
	}
	s.views.fragment(c, http.StatusOK, "group-names", names)
}

// setWidth keeps how wide the groups are.
func (s *Server) setWidth(c *gin.Context) {
	width, err := strconv.ParseFloat(c.PostForm("width"), 64)
	if err != nil || math.IsNaN(width) || width < 0 || width > 100 {
		s.sayList(c, http.StatusUnprocessableEntity, "The width is a number from 0 to 100.")
		return
	}
	if err := s.scope(c).SetWidth(c.Request.Context(), listOf(c).ID, width/100); err != nil {
		s.fail(c, err)
		return
	}
	s.listChanged(c, notice{}, "")
}

// editHand moves, joins, splits, names and throws out, as a person asks.
func (s *Server) editHand(c *gin.Context) {
	ctx, sc, l := c.Request.Context(), s.scope(c), listOf(c)
	g, progress, err := s.demander.Groups(ctx, sc, l, -1)
	if err != nil {
		s.fail(c, err)
		return
	}
	if progress != nil {
		s.sayList(c, http.StatusConflict, "The keywords are still being compared; try again in a moment.")
		return
	}
	var keys []string
	for _, k := range c.PostFormArray("pick") {
		keys = append(keys, demand.Same(k))
	}
	byKey := func(key string) (demand.Group, bool) {
		i := slices.IndexFunc(g.Groups, func(x demand.Group) bool { return x.Key == key })
		if i < 0 {
			return demand.Group{}, false
		}
		return g.Groups[i], true
	}
	var picked []demand.Group // where groups and not keywords are picked
	for _, k := range c.PostFormArray("group") {
		if x, ok := byKey(k); ok {
			picked = append(picked, x)
		}
	}
	own, _ := byKey(c.PostForm("pane"))
	said, edit, wrong := "", (func(demand.Hand) demand.Hand)(nil), ""
	switch act := c.PostForm("act"); {
	case act == "move":
		to := demand.Same(c.PostForm("to"))
		i := slices.IndexFunc(g.Groups, func(x demand.Group) bool { return demand.Same(x.Name) == to })
		switch {
		case len(keys) == 0:
			wrong = "Pick the keywords to move first."
		case i < 0:
			wrong = fmt.Sprintf("No group is called “%s”.", shorten(c.PostForm("to"), 60))
		default:
			said = fmt.Sprintf("%s moved to “%s”", draw.Counted(len(keys), "keyword"), g.Groups[i].Name)
			edit = func(h demand.Hand) demand.Hand { return h.Move(keys, g.Groups[i], g.Groups) }
		}
	case act == "split":
		if wrong = "Pick the keywords to part from the others first."; len(keys) > 0 {
			wrong, said = "", fmt.Sprintf("%s made a group of their own", draw.Counted(len(keys), "keyword"))
			edit = func(h demand.Hand) demand.Hand { return h.Split(keys, g.Groups) }
		}
	case act == "join":
		if wrong = "Pick two groups or more to join."; len(picked) > 1 {
			wrong, said = "", fmt.Sprintf("%d groups joined as “%s”", len(picked), picked[0].Name)
			edit = func(h demand.Hand) demand.Hand { return h.Join(slices.Clone(picked)) }
		}
	case act == "rename":
		name := strings.Join(strings.Fields(c.PostForm("name")), " ")
		switch {
		case own.Key == "":
			wrong = "This group is not there any more."
		case len([]rune(name)) > longestName:
			wrong = fmt.Sprintf("A name has at most %d characters.", longestName)
		default:
			if said = fmt.Sprintf("“%s” is called “%s”", own.Name, name); name == "" {
				said = fmt.Sprintf("“%s” is called by its best keyword again", own.Name)
			}
			edit = func(h demand.Hand) demand.Hand { return h.Rename(own, name) }
		}
	case act == "loosen" && own.Key != "":
		said = fmt.Sprintf("“%s” is left to the rules again", own.Name)
		edit = func(h demand.Hand) demand.Hand { return h.Loosen(own) }
	case act == "out":
		for _, x := range picked {
			for _, k := range x.Keywords {
				keys = append(keys, demand.Same(k.Text))
			}
		}
		if wrong = "Pick what is to be thrown out first."; len(keys) > 0 {
			wrong, said = "", fmt.Sprintf("%s thrown out", draw.Counted(len(keys), "keyword"))
			reason := cmp.Or(strings.Join(strings.Fields(c.PostForm("reason")), " "), "thrown out by hand")
			edit = func(h demand.Hand) demand.Hand { return h.ThrowOut(keys, shorten(reason, longestName)) }
		}
	case act == "in":
		if wrong = "Pick what is to be taken in again first."; len(keys) > 0 {
			wrong, said = "", fmt.Sprintf("%s taken in again", draw.Counted(len(keys), "keyword"))
			edit = func(h demand.Hand) demand.Hand { return h.TakeIn(keys) }
		}
	default:
		wrong = "This is not known; reload the page and try again."
	}
	if wrong != "" {
		s.sayList(c, http.StatusUnprocessableEntity, wrong)
		return
	}
	done, err := s.commands(c).EditHand(ctx, l.ID, said, edit)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.listChanged(c, planNotice(fmt.Sprintf("/demand/%d", l.ID), done), c.PostForm("pane"))
}

// planNotice says what a command did to a list or a slate.
func planNotice(at string, d study.Done) notice {
	n := notice{Text: d.Said + ".", Word: "Undo (u)"}
	switch {
	case d.Redo:
		n.Text, n.Undo, n.Word = "Taken back: "+d.Said+".", at+"/redo", "Do it again (U)"
	case d.Change != 0:
		n.Undo = at + "/undo"
	}
	return n
}

// turnList takes back the last thing this person did to a list, or does it again.
func (s *Server) turnList(c *gin.Context) {
	l := listOf(c)
	done, err := s.commands(c).TurnPlan(c.Request.Context(), store.Subject{List: l.ID}, strings.HasSuffix(c.Request.URL.Path, "/redo"))
	switch {
	case errors.Is(err, study.ErrNothing):
		s.sayList(c, http.StatusOK, "There is nothing left to undo here.")
	case errors.Is(err, store.ErrStale):
		s.sayList(c, http.StatusConflict, fmt.Sprintf("“%s” cannot be taken back: somebody has changed the groups since. Nothing was touched.", done.Said))
	case err != nil:
		s.fail(c, err)
	default:
		s.listChanged(c, planNotice(fmt.Sprintf("/demand/%d", l.ID), done), "")
	}
}

// changedGroups is a list after something was done to it, with the pane that was open.
type changedGroups struct {
	Body   groupsBody
	Notice notice
	Pane   *groupPaneBody
	Closed bool // the pane's group is not there any more
}

// listChanged answers with the groups as they now are, and a word on what was done.
func (s *Server) listChanged(c *gin.Context, n notice, pane string) {
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/demand/%d", listOf(c).ID))
		return
	}
	body, err := s.groupsBody(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	x := changedGroups{Body: body, Notice: n}
	if pane != "" {
		if x.Pane, err = s.paneOf(c, pane); errors.Is(err, store.ErrNotFound) {
			x.Closed = true
		} else if err != nil {
			s.fail(c, err)
			return
		}
	}
	c.Header("HX-Retarget", "#groups")
	c.Header("HX-Reswap", "outerHTML")
	s.views.fragment(c, http.StatusOK, "groups-changed", x)
}

// downloadGroups hands over the groups of a list.
func (s *Server) downloadGroups(c *gin.Context) {
	g, progress, err := s.demander.Groups(c.Request.Context(), s.scope(c), listOf(c), -1)
	if err != nil {
		s.fail(c, err)
		return
	}
	if progress != nil {
		s.sayList(c, http.StatusConflict, "The keywords are still being compared; try again in a moment.")
		return
	}
	s.sendTable(c, c.Param("format"), render.GroupsTable(g.Grouping), listOf(c).Name())
}

// sendTable sends a table as a file.
func (s *Server) sendTable(c *gin.Context, format string, t render.Table, name string) {
	for _, f := range render.TableFormats() {
		if f.Name != format {
			continue
		}
		var b bytes.Buffer
		if err := f.Write(&b, t); err != nil {
			s.fail(c, err)
			return
		}
		attach(c, t.Name, name, f.Name)
		c.Data(http.StatusOK, f.MediaType, b.Bytes())
		return
	}
	s.fail(c, store.ErrNotFound)
}
