package draft

import (
	"net/http"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/draft"
	"corpulan/render"
	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// exampleLine is a sentence of the field as an example.
type exampleLine struct {
	Rank                          int
	Left, Hit, Right, Host, Where string
}

// mostExamples is how many sentences are shown for a line: one of a page.
const mostExamples = 6

// draftSentences shows how the field says a thing: a sentence a page.
func (s *handlers) draftSentences(c *gin.Context) {
	d := deskOf(c)
	an, err := s.Analyst.Analyse(c.Request.Context(), d.scope, d.study)
	if err != nil {
		s.refuse(c, err)
		return
	}
	list := examples(an, brief.Kind(c.Query("kind")), c.Query("key"))
	s.Fragment(c, http.StatusOK, "draft-examples", list)
}

func examples(an *analysis.Analysis, kind brief.Kind, key string) []exampleLine {
	var list []exampleLine
	host := map[int]string{}
	for _, p := range an.Evidence.Sources {
		host[p.Rank] = p.Host
	}
	switch kind {
	case brief.TermKind, brief.EntityKind:
		var lines []corpus.Line
		if kind == brief.TermKind {
			for _, t := range an.Evidence.Terms {
				if t.Key == key {
					lines = corpus.Concordance(an.Pages, t.Keys...)
				}
			}
		} else {
			for _, x := range an.Evidence.Entities {
				if x.Key == key {
					lines = corpus.Mentions(an.Pages, x.Variants...)
				}
			}
		}
		seen := map[int]bool{}
		for _, l := range lines {
			if !l.InHead && !seen[l.Rank] && len(list) < mostExamples {
				seen[l.Rank] = true
				list = append(list, exampleLine{l.Rank, l.Left, l.Hit, l.Right, host[l.Rank], l.Heading})
			}
		}
	case brief.QuestionKind:
		for _, q := range an.Evidence.Questions {
			if q.Key == key {
				for _, a := range q.AnsweredBy {
					if len(list) < mostExamples/2 {
						list = append(list, exampleLine{Rank: a.Rank, Left: kit.Shorten(a.Text, 400), Host: host[a.Rank], Where: a.Heading})
					}
				}
			}
		}
	case brief.ThemeKind:
		an.Brief.Each(func(x *brief.Section) {
			if x.Key == key {
				for _, p := range x.Points {
					if len(list) < mostExamples {
						list = append(list, exampleLine{Rank: p.Rank, Left: p.Text, Host: host[p.Rank]})
					}
				}
			}
		})
	}
	return list
}

// compareBody is two versions of a draft side by side.
type compareBody struct {
	desk
	From, To store.DraftVersion
	Changes  []render.Change
}

// compareDrafts tells where two versions of the draft differ.
func (s *handlers) compareDrafts(c *gin.Context) {
	body := compareBody{desk: deskOf(c)}
	var both [2]*draft.Node
	for i, name := range []string{c.Query("from"), c.DefaultQuery("to", "now")} {
		v, n, err := s.versionOf(c, name)
		if err != nil {
			if body.ByLink {
				s.Shut(c, err)
			} else {
				s.Fail(c, err)
			}
			return
		}
		both[i] = n
		if i == 0 {
			body.From = v
		} else {
			body.To = v
		}
	}
	body.Changes = render.CompareDrafts(both[0], both[1])
	if body.ByLink {
		s.Sheet(c, http.StatusOK, "draft-compare", kit.SheetData{Title: "Two versions of the draft"}, body)
		return
	}
	s.Page(c, http.StatusOK, "draft-versions", s.InStudy(c, "draft-versions", body))
}
