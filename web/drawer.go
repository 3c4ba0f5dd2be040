package web

import (
	"cmp"
	"net/http"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"

	"github.com/gin-gonic/gin"
)

// drawerBody is the evidence beside the brief: what is found by some words, or what is worth a
// look.
type drawerBody struct {
	StudyID int64
	Query   string
	Groups  []drawerGroup
	Lines   []corpus.Line // where the words stand in captured texts
	Places  int           // all there are
}

// drawerGroup is findings of one kind.
type drawerGroup struct {
	Name string
	Rows []findingRow
	More int
}

// How much the drawer shows.
const (
	drawerRows  = 8
	drawerLines = 30
)

// drawer searches the evidence and the captured texts without leaving the brief.
func (s *Server) drawer(c *gin.Context) {
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	body := drawerBody{StudyID: an.Study.ID, Query: strings.TrimSpace(c.Query("q"))}
	lang := language.For(an.Evidence.Language)
	folded, stems := text.Fold(body.Query), lang.ContentStems(body.Query)
	for _, g := range []struct {
		name string
		kind brief.Kind
	}{{"Themes", brief.ThemeKind}, {"Questions", brief.QuestionKind}, {"Terms", brief.TermKind}, {"Points", brief.PointKind}, {"Entities", brief.EntityKind}, {"Figures", brief.FactKind}} {
		rows := slices.DeleteFunc(findings(an, g.kind), func(r findingRow) bool {
			if body.Query == "" {
				return r.In || r.State == brief.Dropped || r.Pages < 2 || r.Flagged != ""
			}
			return !strings.Contains(text.Fold(r.Text), folded) && !hasAll(lang.ContentStems(r.Text), stems)
		})
		slices.SortStableFunc(rows, func(a, b findingRow) int { return cmp.Compare(b.Pages, a.Pages) })
		if len(rows) > 0 {
			body.Groups = append(body.Groups, drawerGroup{g.name, rows[:min(len(rows), drawerRows)], max(len(rows)-drawerRows, 0)})
		}
	}
	if key := lang.PhraseKey(body.Query); key != "" {
		lines := corpus.Concordance(an.Pages, key)
		if len(lines) == 0 {
			lines = corpus.Mentions(an.Pages, body.Query)
		}
		body.Places = len(lines)
		body.Lines = lines[:min(len(lines), drawerLines)]
	}
	if !fromHTMX(c) {
		s.views.page(c, http.StatusOK, "drawer", s.inStudy(c, "drawer", body))
		return
	}
	s.views.fragment(c, http.StatusOK, "drawer", body)
}

// hasAll tells that all of some stems are among others; none are in nothing.
func hasAll(have, want []string) bool {
	return len(want) > 0 && !slices.ContainsFunc(want, func(s string) bool { return !slices.Contains(have, s) })
}
