package draft

import (
	"net/http"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/draft"
	"corpulan/render"
	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// exampleLine is a sentence of the field as an example.
type exampleLine struct {
	Rank                          int
	Left, Hit, Right, Host, Where string
}

// maxExamples is how many sentences are shown for a line: one of a page.
const maxExamples = 6

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
	f, ok := an.Evidence.Finding(kind, key)
	if !ok {
		return nil
	}
	seen := map[int]bool{}
	for _, l := range an.Evidence.Lines(kind, f, an.Pages) {
		if !l.InHead && !seen[l.Rank] && len(list) < maxExamples {
			seen[l.Rank] = true
			list = append(list, exampleLine{l.Rank, l.Left, l.Hit, l.Right, host[l.Rank], l.Heading})
		}
	}
	for _, p := range an.Evidence.Passages(kind, f, an.Pages) {
		if p.Text == "" && p.Section >= 0 {
			p.Text = parts.SectionText(an.Pages, p.Rank, p.Section, parts.FewLines)
		}
		if p.Text != "" && len(list) < maxExamples {
			list = append(list, exampleLine{Rank: p.Rank, Left: kit.Shorten(p.Text, 400), Host: host[p.Rank], Where: p.Heading})
		}
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
