package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/entities"
	"corpulan/render"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// evidenceBody is the Evidence place: one tab of findings and the sheet.
type evidenceBody struct {
	*analysis
	evidenceQuery
	Tabs    []tab
	Columns []tableColumn
	Rows    []findingRow // those that are shown
	From    int          // of them all
	All     int          // that match
	Hidden  int          // terms out by default
	Running bool
	Marks   []figureRow
	Fields  []semanticField // in the glossary view
	Taught  int             // entries of the house lexicon
	Against string          // the general language that keyness is against
	Types   []tab           // of entities, with how many there are
	Grid    *coverage       // themes against pages, in that view
}

// semanticField is a group of rows with the term that leads it.
type semanticField struct {
	Lead string
	Rows []findingRow
}

type tab struct {
	Name, Title string
	Count       int
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

// A screenful is shown first, and as many again each time more is asked for.
const screenful = 60

// pageQuery is the query of the page a person is on: that of the request, or,
// where htmx posts, that of the address in the browser.
func pageQuery(c *gin.Context) url.Values {
	if c.Request.Method == http.MethodGet {
		return c.Request.URL.Query()
	}
	u, err := url.Parse(c.GetHeader("HX-Current-URL"))
	if err != nil {
		return url.Values{}
	}
	return u.Query()
}

func queryOf(c *gin.Context) evidenceQuery {
	v := pageQuery(c)
	q := evidenceQuery{Tab: v.Get("tab"), Filter: strings.TrimSpace(v.Get("filter")), Flagged: v.Get("all") == "1", Grouped: (v.Get("view") == "glossary" || v.Get("view") == "grid"), Type: v.Get("type"), Sort: v.Get("sort"), Down: v.Get("down") == "1"}
	number := func(text string) int {
		n, err := strconv.Atoi(text)
		if err != nil {
			return 0
		}
		return max(n, 0)
	}
	q.From, q.Show = number(v.Get("from")), number(v.Get("show"))
	if shown := number(c.GetHeader("X-Shown")); shown > 0 {
		q.Show = (shown + screenful - 1) / screenful * screenful // as many screenfuls as the page has now
	}
	if q.Show == 0 {
		q.Show = screenful
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
func (s *Server) counted(c *gin.Context) {
	an, err := s.findings(c)
	switch {
	case err != nil:
		s.fail(c, err)
		return
	case !an.Provisional || c.Query("from") != "" && len(an.Evidence.Sources) > 0:
		c.Header("HX-Refresh", "true")
	}
	c.Status(http.StatusNoContent)
}

func (s *Server) evidence(c *gin.Context) {
	q := queryOf(c)
	body, err := s.evidenceBody(c, q)
	if err != nil {
		s.fail(c, err)
		return
	}
	switch {
	case fromHTMX(c) && q.From > 0:
		s.views.fragment(c, http.StatusOK, "more-rows", body)
	case fromHTMX(c) && c.GetHeader("HX-Target") == "findings":
		s.views.fragment(c, http.StatusOK, "findings", body)
	default:
		s.views.page(c, http.StatusOK, "evidence", s.inStudy(c, "evidence", body))
	}
}

func (s *Server) evidenceBody(c *gin.Context, q evidenceQuery) (evidenceBody, error) {
	an, err := s.findings(c)
	if err == nil {
		err = s.withFigures(c, an)
	}
	if err != nil {
		return evidenceBody{}, err
	}
	body := evidenceBody{analysis: an, evidenceQuery: q, Columns: columnsFor(q.Tab, len(an.Figures) > 0), From: q.From, Running: an.Gathering.Running(),
		Marks: figureRows(an, an.ownPages(), "words", "headings", "paragraphs", "images", "external_links")}
	var rows []findingRow
	for _, t := range []tab{{"terms", "Terms", 0}, {"entities", "Entities", 0}, {"questions", "Questions", 0}, {"themes", "Themes", 0}, {"points", "Points", 0}, {"facts", "Figures and sources", 0}} {
		all := findings(an, kindOf[t.Name])
		shown := all
		if t.Name == "terms" && !q.Flagged {
			shown = slices.DeleteFunc(slices.Clone(all), func(r findingRow) bool { return r.Flagged != "" && !r.In })
			body.Hidden = len(all) - len(shown)
		}
		t.Count = len(shown)
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
		grid := coverageOf(an, q.Filter)
		body.Grid = &grid
		return body, nil
	}
	if want := strings.ToLower(q.Filter); want != "" {
		rows = slices.DeleteFunc(slices.Clone(rows), func(r findingRow) bool {
			return !strings.Contains(strings.ToLower(r.Text+" "+r.Note), want)
		})
	}
	if q.Tab == "entities" && q.Type != "" {
		rows = slices.DeleteFunc(slices.Clone(rows), func(r findingRow) bool { return r.Note != q.Type })
	}
	body.Taught, body.Against = len(an.Lexicon), against(an.Evidence.Language)
	if q.Tab == "terms" && q.Grouped {
		body.Fields = semanticFields(rows)
		return body, nil
	}
	sortRows(rows, q.Sort, q.Down)
	body.All = len(rows)
	body.Rows = rows[min(q.From, len(rows)):min(q.From+q.Show, len(rows))]
	return body, nil
}

// typesOf counts entities by type, in the order the types are shown.
func typesOf(rows []findingRow) []tab {
	var list []tab
	for _, t := range entities.Types() {
		n := 0
		for _, r := range rows {
			if r.Note == string(t) {
				n++
			}
		}
		if n > 0 {
			list = append(list, tab{string(t), string(t), n})
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
func (b evidenceBody) NextScreen() int { return min(b.Left(), screenful) }

// kindOf is the kind of finding of each tab.
var kindOf = map[string]brief.Kind{"terms": brief.TermKind, "entities": brief.EntityKind, "questions": brief.QuestionKind, "themes": brief.ThemeKind, "points": brief.PointKind, "facts": brief.FactKind, "links": brief.LinkKind}

// downloadTable hands all findings of one kind over as a table.
func (s *Server) downloadTable(c *gin.Context) {
	name, ending, _ := strings.Cut(c.Param("table"), ".")
	kind, known := kindOf[name]
	if !known {
		s.fail(c, store.ErrNotFound)
		return
	}
	an, err := s.analyse(c)
	if err == nil {
		err = s.withFigures(c, an)
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	s.sendTable(c, ending, render.FindingsTable(an.Evidence, kind, an.Figures), an.Study.Keyword)
}
