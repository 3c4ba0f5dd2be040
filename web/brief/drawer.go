package brief

import (
	"cmp"
	"net/http"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/fit"
	"corpulan/core/language"
	"corpulan/core/text"
	"corpulan/core/themes"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// drawerBody is the evidence beside the brief: what is found by some words, or what is worth a
// look.
type drawerBody struct {
	StudyID int64
	Query   string
	Groups  []drawerGroup
	Lines   []corpus.ConcordanceLine // where the words stand in captured texts
	Places  int                      // all there are

	Themes []kit.Option // to browse by, by key
	Theme  string
	Taken  map[string]string // what became of a sentence: "cut", "adopted", or "used" in the draft
}

// Became is what became of a sentence, as one line of the drawer.
func (b drawerBody) Became(l corpus.ConcordanceLine) string {
	return b.BecameOf(l.Left + l.Hit + l.Right)
}

// BecameOf is what became of a sentence.
func (b drawerBody) BecameOf(text string) string {
	return b.Taken[strings.Join(strings.Fields(text), " ")]
}

// drawerGroup is findings of one kind.
type drawerGroup struct {
	Name string
	Rows []parts.FindingRow
	More int
}

// How much the drawer shows.
const (
	drawerRows  = 8
	drawerLines = 30

	drawerPassages = 120
)

// drawer searches the evidence and the captured texts without leaving the brief.
func (s *handlers) drawer(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	body := drawerBody{StudyID: an.Study.ID, Query: strings.TrimSpace(c.Query("q")), Theme: c.Query("theme"), Taken: map[string]string{}}
	pages := slices.Concat(an.Pages, an.Beside)
	if err := s.takenOf(c, an, &body); err != nil {
		s.Fail(c, err)
		return
	}
	for _, t := range an.Evidence.Themes {
		if t.Recommended() {
			body.Themes = append(body.Themes, kit.Option{Value: t.Key, Name: t.Label})
		}
		if t.Key == body.Theme {
			lines := passagesOf(pages, t)
			body.Places, body.Lines = len(lines), lines[:min(len(lines), drawerPassages)]
		}
	}
	lang := language.For(an.Evidence.Language)
	folded, stems := text.Fold(body.Query), lang.ContentStems(body.Query)
	for _, g := range []struct {
		name string
		kind brief.Kind
	}{{"Themes", brief.ThemeKind}, {"Questions", brief.QuestionKind}, {"Terms", brief.TermKind}, {"Points", brief.PointKind}, {"Entities", brief.EntityKind}, {"Figures", brief.FactKind}} {
		rows := slices.DeleteFunc(parts.Findings(an, g.kind), func(r parts.FindingRow) bool {
			if body.Query == "" {
				return r.In || r.State == brief.Dropped || r.Pages < 2 || r.Flagged != ""
			}
			return !strings.Contains(text.Fold(r.Text), folded) && !hasAll(lang.ContentStems(r.Text), stems)
		})
		slices.SortStableFunc(rows, func(a, b parts.FindingRow) int { return cmp.Compare(b.Pages, a.Pages) })
		if len(rows) > 0 && body.Theme == "" {
			body.Groups = append(body.Groups, drawerGroup{g.name, rows[:min(len(rows), drawerRows)], max(len(rows)-drawerRows, 0)})
		}
	}
	if key := lang.PhraseKey(body.Query); key != "" {
		lines := corpus.Concordance(pages, key)
		if len(lines) == 0 {
			lines = corpus.Mentions(pages, body.Query)
		}
		body.Places = len(lines)
		body.Lines = lines[:min(len(lines), drawerLines)]
	}
	if !kit.FromHTMX(c) {
		s.Page(c, http.StatusOK, "drawer", s.InStudy(c, "drawer", body))
		return
	}
	s.Fragment(c, http.StatusOK, "drawer", body)
}

// hasAll tells that all of some stems are among others; none are in nothing.
func hasAll(have, want []string) bool {
	return len(want) > 0 && !slices.ContainsFunc(want, func(s string) bool { return !slices.Contains(have, s) })
}

// passagesOf are the sentences of a theme's sections, page by page.
func passagesOf(pages []corpus.RankedPage, t themes.Theme) (lines []corpus.ConcordanceLine) {
	for _, p := range pages {
		for i := range p.Doc.Sentences {
			x := &p.Doc.Sentences[i]
			if x.Heading || x.Again || x.Foreign || !slices.ContainsFunc(t.Members, func(m themes.ThemeHeading) bool { return m.Rank == p.Rank && m.Section == x.Section }) {
				continue
			}
			lines = append(lines, corpus.ConcordanceLine{Rank: p.Rank, Section: x.Section, Heading: p.Doc.Reading.Sections[x.Section].Heading, Right: x.Text})
		}
	}
	return lines
}

// takenOf notes which sentences are among the cuttings, and which of those the draft has.
func (s *handlers) takenOf(c *gin.Context, an *kit.Analysis, body *drawerBody) error {
	if len(an.Brief.Cuttings) == 0 && len(an.Brief.Facts) == 0 {
		return nil
	}
	_, draft, err := s.Commands(c).Draft(c.Request.Context(), an.Study.ID)
	if err != nil {
		return err
	}
	used := map[string]bool{}
	if !draft.Empty() {
		used = fit.Used(&an.Brief, draft.Read(an.Brief.Address, an.Study.Language), language.For(an.Study.Language))
	}
	took := func(text, became, key string) {
		if used[key] {
			became = "used"
		}
		body.Taken[strings.Join(strings.Fields(text), " ")] = became
	}
	for _, x := range an.Brief.Facts {
		took(x.Text, "adopted", fit.FactKey(x))
	}
	for _, x := range an.Brief.Cuttings {
		took(x.Text, "cut", x.ID)
	}
	return nil
}
