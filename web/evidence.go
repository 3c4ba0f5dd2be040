package web

import (
	"fmt"
	"hash/fnv"
	"net/http"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// evidenceBody is the Evidence place: one tab of findings and the sheet.
type evidenceBody struct {
	*analysis
	Tab     string
	Filter  string
	All     bool // flagged and yielding terms too
	Tabs    []tab
	Rows    []findingRow
	Hidden  int // terms out by default
	Running bool
	Marks   []figureRow
}

type tab struct {
	Name, Title string
	Count       int
}

// findingRow is one finding of any kind, in the one table that shows them all.
type findingRow struct {
	StudyID int64
	Kind    brief.Kind
	Key     string
	Text    string
	Note    string // type, tier, flag
	In      bool   // in the brief
	State   brief.State
	Pages   int
	Of      int
	Counts  []int // per page
	Sources []evidence.Source
	Total   int
	Range   evidence.Range
	Most    float64 // the scale of the range marks
	More    string
	Flagged string
	Swap    bool // it replaces itself on the page (htmx out of band)
}

// ID is the row's id in the page; a key may hold spaces, an id may not.
func (r findingRow) ID() string {
	h := fnv.New64a()
	_, _ = h.Write([]byte(r.Key))
	return fmt.Sprintf("row-%s-%x", r.Kind, h.Sum64())
}

func (s *Server) evidence(c *gin.Context) {
	an, err := s.analyst.analyse(c.Request.Context(), s.scope(), studyOf(c))
	if err != nil {
		s.fail(c, err)
		return
	}
	body := evidenceBody{analysis: an, Tab: c.DefaultQuery("tab", "terms"), Filter: strings.TrimSpace(c.Query("filter")), All: c.Query("all") == "1",
		Running: running(an.Gathering), Marks: figureRows(an, an.ownPages(), "words", "headings", "paragraphs", "images", "external_links")}
	rows := map[string][]findingRow{}
	for _, kind := range brief.Kinds() {
		rows[tabOf(kind)] = findings(an, kind)
	}
	terms := rows["terms"]
	if !body.All {
		rows["terms"] = slices.DeleteFunc(slices.Clone(terms), func(r findingRow) bool { return r.Flagged != "" && !r.In })
		body.Hidden = len(terms) - len(rows["terms"])
	}
	for _, t := range []tab{{"terms", "Terms", 0}, {"entities", "Entities", 0}, {"questions", "Questions", 0}, {"themes", "Themes", 0}} {
		t.Count = len(rows[t.Name])
		body.Tabs = append(body.Tabs, t)
	}
	if _, ok := rows[body.Tab]; !ok {
		body.Tab = "terms"
	}
	body.Rows = rows[body.Tab]
	if body.Filter != "" {
		want := strings.ToLower(body.Filter)
		body.Rows = slices.DeleteFunc(slices.Clone(body.Rows), func(r findingRow) bool {
			return !strings.Contains(strings.ToLower(r.Text+" "+r.Note), want)
		})
	}
	s.views.page(c, http.StatusOK, "evidence", s.inStudy(c, "evidence", body))
}

func tabOf(k brief.Kind) string {
	switch k {
	case brief.TermKind:
		return "terms"
	case brief.EntityKind:
		return "entities"
	case brief.QuestionKind:
		return "questions"
	}
	return "themes"
}

// findings lists everything of one kind as rows.
func findings(an *analysis, kind brief.Kind) []findingRow {
	e := an.Evidence
	choices := an.Saved.Choices.Data()
	in := inBrief(an.Brief, kind)
	row := func(key, text string) findingRow {
		return findingRow{StudyID: an.Study.ID, Kind: kind, Key: key, Text: text, In: in[key], State: choices.State(kind, key), Of: len(e.Sources), Sources: e.Sources}
	}
	var rows []findingRow
	switch kind {
	case brief.TermKind:
		most := 1.0
		for _, t := range e.Terms {
			if t.Recommended() {
				most = max(most, t.Use.Upper)
			}
		}
		for _, t := range e.Terms {
			r := row(t.Key, t.Text)
			r.Note, r.Pages, r.Counts, r.Total, r.Range, r.Most = string(t.Tier), t.Pages, t.Counts, t.Count, t.Use, most
			r.Flagged = t.Flag
			if t.YieldsTo != "" && r.Flagged == "" {
				r.Flagged = "part of a longer term"
			}
			rows = append(rows, r)
		}
	case brief.EntityKind:
		for _, x := range e.Entities {
			r := row(x.Key, x.Name)
			r.Note, r.Pages, r.Counts, r.Total, r.Flagged = string(x.Type), x.Pages, x.Counts, x.Mentions, x.Flag
			rows = append(rows, r)
		}
	case brief.QuestionKind:
		for _, q := range e.Questions {
			r := row(q.Key, q.Text)
			r.Note, r.Pages, r.Counts, r.Total = string(q.Kind), len(q.AnsweredBy), answerCounts(e, q), len(q.Wordings)
			r.More = askedBy(q)
			rows = append(rows, r)
		}
	case brief.ThemeKind:
		most := 1.0
		for _, t := range e.Themes {
			if t.Pages >= 2 {
				most = max(most, t.Length.Upper)
			}
		}
		for _, t := range e.Themes {
			r := row(t.Key, t.Label)
			r.Note, r.Pages, r.Counts, r.Total, r.Range, r.Most = fmt.Sprintf("h%d", t.Level), t.Pages, t.Counts, len(t.Members), t.Length, most
			if t.Generic {
				r.Flagged = "says where it stands, not what it is about"
			}
			rows = append(rows, r)
		}
	}
	return rows
}

func inBrief(b brief.Brief, kind brief.Kind) map[string]bool {
	in := map[string]bool{}
	switch kind {
	case brief.TermKind:
		for _, t := range b.Terms {
			in[t.Key] = true
		}
	case brief.EntityKind:
		for _, e := range b.Entities {
			in[e.Key] = true
		}
	case brief.QuestionKind:
		for _, q := range b.Questions {
			in[q.Key] = true
		}
	case brief.ThemeKind:
		for _, s := range b.Outline {
			in[s.Key] = true
			for _, ch := range s.Children {
				in[ch.Key] = true
			}
		}
	}
	return in
}

// answerCounts are the words with which each page answers a question.
func answerCounts(e *evidence.Evidence, q evidence.Question) []int {
	counts := make([]int, len(e.Sources))
	for i, s := range e.Sources {
		for _, a := range q.AnsweredBy {
			if a.Rank == s.Rank {
				counts[i] = a.Words
			}
		}
	}
	return counts
}

func askedBy(q evidence.Question) string {
	var parts []string
	if q.OnResults {
		parts = append(parts, "results page")
	}
	if n := len(q.AskedBy); n == 1 {
		parts = append(parts, "1 page")
	} else if n > 1 {
		parts = append(parts, fmt.Sprintf("%d pages", n))
	}
	return strings.Join(parts, ", ")
}

// choose adopts or drops a finding, or takes a decision back.
func (s *Server) choose(c *gin.Context) {
	study := studyOf(c)
	ctx := c.Request.Context()
	m := brief.Mark{Kind: brief.Kind(c.PostForm("kind")), Key: c.PostForm("key"), Text: c.PostForm("text"), State: brief.State(c.PostForm("state"))}
	if !slices.Contains(brief.Kinds(), m.Kind) || m.Key == "" || len(m.Key) > 500 || len(m.Text) > 500 || m.State != "" && m.State != brief.Adopted && m.State != brief.Dropped {
		s.views.fragment(c, http.StatusUnprocessableEntity, "notice", notice{Text: "This finding could not be recognised; reload the page and try again.", Bad: true})
		return
	}
	before, err := s.scope().Brief(ctx, study.ID)
	if err != nil {
		s.fail(c, err)
		return
	}
	_, err = s.scope().ChangeBrief(ctx, study.ID, store.AnyRevision, func(ch *brief.Choices) {
		if m.State == "" {
			ch.Clear(m.Kind, m.Key)
		} else {
			ch.Set(m)
		}
	})
	if err != nil {
		s.fail(c, err)
		return
	}
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/studies/%d/evidence", study.ID))
		return
	}
	if c.PostForm("undo") != "" { // changes more than one place: the page is drawn anew
		c.Header("HX-Refresh", "true")
		c.Status(http.StatusOK)
		return
	}
	an, err := s.analyst.analyse(ctx, s.scope(), study)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.afterChoice(c, an, m, before.Choices.Data().State(m.Kind, m.Key))
}

// choiceBody is what changes on a page after a choice.
type choiceBody struct {
	*analysis
	Row    findingRow
	Notice notice
}

func (s *Server) afterChoice(c *gin.Context, an *analysis, m brief.Mark, was brief.State) {
	said := map[brief.State]string{brief.Adopted: "Adopted: ", brief.Dropped: "Dropped: ", "": "Left to the proposal: "}[m.State]
	n := notice{Text: said + m.Text, Undo: &undo{Action: fmt.Sprintf("/studies/%d/choices", an.Study.ID), Values: map[string]string{
		"kind": string(m.Kind), "key": m.Key, "text": m.Text, "state": string(was), "undo": "1"}}}
	if c.PostForm("view") == "brief" {
		s.views.fragment(c, http.StatusOK, "brief-changed", choiceBody{an, findingRow{}, n})
		return
	}
	body := choiceBody{analysis: an, Notice: n}
	for _, r := range findings(an, m.Kind) {
		if r.Key == m.Key {
			body.Row = r
			body.Row.Swap = true
		}
	}
	s.views.fragment(c, http.StatusOK, "choice-made", body)
}
