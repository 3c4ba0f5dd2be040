// Package evidence is what was found: rows of each kind, decided about (choose.go), the sentences behind
// them (sources.go, beside.go), the house lexicon, standing, and a text of ours against the field.
package evidence

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/entities"
	"corpulan/core/message"
	"corpulan/render"
	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// evidenceBody is the Evidence place: one tab of findings and the sheet.
type evidenceBody struct {
	*kit.Analysis
	evidenceQuery
	Tabs    []tab
	Columns []tableColumn
	Chosen  []columnChoice     // columns that can be
	Rows    []parts.FindingRow // those that are shown
	From    int                // of them all
	All     int                // that match
	Hidden  int                // terms out by default
	Running bool
	Fields  []semanticField // in the glossary view
	Against string          // the general language that keyness is against
	Types   []tab           // of entities, with how many there are
	Grid    *parts.Coverage // themes against pages, in that view
	Compare *compared       // listed things by criteria, in that view
}

// OpeningGroups are the openings of the study that hold a text, by their kinds.
func (b evidenceBody) OpeningGroups(filter string) []parts.OpeningGroup {
	return parts.OpeningGroups(b.Analysis, filter)
}

// further leads to the other ways to look at what was found.
func (s *handlers) further(c *gin.Context) {
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, http.StatusOK, "further", s.InStudy(c, "further", an))
}

// semanticField is a group of rows with the term that leads it.
type semanticField struct {
	Lead string
	Rows []parts.FindingRow
}

type tab struct {
	Name  string
	Title message.Message
	Count int
}

// evidenceQuery is what of the evidence is asked for; it stands in the address.
type evidenceQuery struct {
	Tab     string
	Filter  string
	Flagged bool   // flagged and yielding terms too
	Grouped bool   // terms by semantic field
	Type    string // of entities
	Sort    string
	Down    bool
	From    int
	Show    int
}

func queryOf(c *gin.Context) evidenceQuery {
	v := kit.PageQuery(c)
	q := evidenceQuery{Tab: v.Get("tab"), Filter: strings.TrimSpace(v.Get("filter")), Flagged: v.Get("all") == "1", Grouped: v.Get("view") != "", Type: v.Get("type"), Sort: v.Get("sort"), Down: v.Get("down") == "1"}
	number := func(text string) int {
		n, err := strconv.Atoi(text)
		if err != nil {
			return 0
		}
		return max(n, 0)
	}
	q.From, q.Show = number(v.Get("from")), number(v.Get("show"))
	if shown := number(c.GetHeader("X-Shown")); shown > 0 {
		q.Show = (shown + kit.Screenful - 1) / kit.Screenful * kit.Screenful // as many screenfuls as the page has now
	}
	if q.Show == 0 {
		q.Show = kit.Screenful
	}
	if columnsOf[q.Tab] == nil {
		q.Tab = "terms"
	}
	return q
}

// With is the address of the same with some things changed: "sort", "pages".
func (q evidenceQuery) With(pairs ...any) string {
	v := url.Values{"tab": {q.Tab}}
	set := func(name, value string) {
		if v.Del(name); value != "" && value != "0" && value != "false" {
			v.Set(name, value)
		}
	}
	set("filter", q.Filter)
	set("sort", q.Sort)
	set("type", q.Type)
	if q.Flagged {
		v.Set("all", "1")
	}
	if q.Down {
		v.Set("down", "1")
	}
	if q.Grouped {
		v.Set("view", "glossary")
	}
	for i := 0; i+1 < len(pairs); i += 2 {
		set(fmt.Sprint(pairs[i]), fmt.Sprint(pairs[i+1]))
	}
	return "?" + v.Encode()
}

// counted has a page of evidence loaded again once all pages are counted that had come, or, where
// none were, once some are.
func (s *handlers) counted(c *gin.Context) {
	an, err := s.Findings(c)
	switch {
	case err != nil:
		s.Fail(c, err)
		return
	case !an.Provisional || c.Query("from") != "" && len(an.Evidence.Sources) > 0:
		c.Header("HX-Refresh", "true")
	}
	c.Status(http.StatusNoContent)
}

func (s *handlers) evidence(c *gin.Context) {
	q := queryOf(c)
	body, err := s.evidenceBody(c, q)
	if err != nil {
		s.Fail(c, err)
		return
	}
	switch {
	case kit.FromHTMX(c) && q.From > 0:
		s.Fragment(c, http.StatusOK, "more-rows", body)
	case kit.FromHTMX(c) && c.GetHeader("HX-Target") == "findings":
		s.Fragment(c, http.StatusOK, "findings", body)
	default:
		s.Page(c, http.StatusOK, "evidence", s.InStudy(c, "evidence", body))
	}
}

func (s *handlers) evidenceBody(c *gin.Context, q evidenceQuery) (evidenceBody, error) {
	find := s.Findings
	if q.Tab == "terms" && !q.Grouped && !kit.FromHTMX(c) {
		find = s.First
	}
	an, err := find(c)
	if err == nil {
		err = s.WithFigures(c, an)
	}
	if err != nil {
		return evidenceBody{}, err
	}
	body := evidenceBody{Analysis: an, evidenceQuery: q, Columns: columnsFor(q.Tab, len(an.Figures) > 0), From: q.From, Chosen: choices(c, q.Tab), Running: an.Gathering.Running()}
	var rows []parts.FindingRow
	for _, t := range []tab{{"terms", "Terms", 0}, {"entities", "Entities", 0}, {"questions", "Questions", 0}, {"themes", "Themes", 0}, {"points", "Points", 0}, {"listed", "Listed", 0}, {"facts", "Figures and sources", 0}} {
		all := parts.Findings(an, kindOf[t.Name])
		shown := all
		if t.Name == "terms" && !q.Flagged {
			shown = slices.DeleteFunc(slices.Clone(all), func(r parts.FindingRow) bool { return r.Flagged != "" && !r.In })
			body.Hidden = len(all) - len(shown)
		}
		if t.Count = len(shown); t.Count == 0 && t.Name == "listed" && q.Tab != "listed" {
			continue // most fields list nothing
		}
		body.Tabs = append(body.Tabs, t)
		if t.Name == q.Tab {
			rows = shown
		}
		if t.Name == "entities" {
			body.Types = typesOf(all)
		}
	}
	body.Tabs = append(body.Tabs, tab{"openings", "Openings", len(an.Evidence.Openings)})
	if q.Tab == "themes" && q.Grouped {
		grid := parts.CoverageOf(an, q.Filter)
		body.Grid = &grid
		return body, nil
	}
	if want := strings.ToLower(q.Filter); want != "" {
		rows = slices.DeleteFunc(slices.Clone(rows), func(r parts.FindingRow) bool {
			return !strings.Contains(strings.ToLower(r.Text+" "+r.Note), want)
		})
	}
	if q.Tab == "entities" && q.Type != "" {
		rows = slices.DeleteFunc(slices.Clone(rows), func(r parts.FindingRow) bool { return r.Note != q.Type })
	}
	body.Against = against(an.Evidence.Language)
	if q.Tab == "terms" && q.Grouped {
		an, err := s.Analyse(c)
		if err == nil {
			body.Fields, err = semanticFields(c.Request.Context(), an, rows)
		}
		return body, err
	}
	sortRows(rows, q.Sort, q.Down)
	if q.Tab == "listed" && q.Grouped {
		body.Compare = compare(an, rows)
		return body, nil
	}
	body.All = len(rows)
	body.Rows = rows[min(q.From, len(rows)):min(q.From+q.Show, len(rows))]
	return body, nil
}

// typesOf counts entities by type, in the order the types are shown.
func typesOf(rows []parts.FindingRow) []tab {
	var list []tab
	for _, t := range entities.Types() {
		n := 0
		for _, r := range rows {
			if r.Note == string(t) {
				n++
			}
		}
		if n > 0 {
			list = append(list, tab{string(t), message.Label(t, "names"), n})
		}
	}
	return list
}

// Left is how many rows are beyond those that are shown.
func (b evidenceBody) Left() int { return b.All - b.From - len(b.Rows) }

// Next is where they begin.
func (b evidenceBody) Next() int { return b.From + len(b.Rows) }

// KindOfTab is the kind of finding that is shown.
func (b evidenceBody) KindOfTab() brief.Kind { return kindOf[b.Tab] }

// NextScreen is how many of them come with the next press.
func (b evidenceBody) NextScreen() int { return min(b.Left(), kit.Screenful) }

// kindOf is the kind of finding of each tab.
var kindOf = map[string]brief.Kind{"terms": brief.TermKind, "entities": brief.EntityKind, "questions": brief.QuestionKind, "themes": brief.ThemeKind, "points": brief.PointKind, "facts": brief.FactKind, "links": brief.LinkKind, "listed": brief.ThingKind}

// comparison is the table of listed things by criteria, among the tables that can be taken.
const comparison = "comparison"

// downloadTable hands all findings of one kind over as a table.
func (s *handlers) downloadTable(c *gin.Context) {
	name, ending, _ := strings.Cut(c.Param("table"), ".")
	kind, known := kindOf[name]
	if !known && name != comparison {
		s.Fail(c, store.ErrNotFound)
		return
	}
	an, err := s.Analyse(c)
	if err == nil {
		err = s.WithFigures(c, an)
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	if name == comparison {
		s.SendTable(c, ending, render.ComparisonTable(an.Evidence), an.Study.Keyword)
		return
	}
	s.SendTable(c, ending, render.FindingsTable(an.Evidence, kind, an.Figures), an.Study.Keyword)
}

// evidenceChanged draws the place anew after something was done.
func (s *handlers) evidenceChanged(c *gin.Context, n kit.Notice) {
	body, err := s.evidenceBody(c, queryOf(c))
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Redrawn(c, "#findings", "evidence-changed", kit.Changed[evidenceBody]{Body: body, Notice: n})
}
