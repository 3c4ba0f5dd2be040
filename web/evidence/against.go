package evidence

import (
	"fmt"
	"html/template"
	"net/http"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/web/draw"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// againstBody is a text of ours against the field: an own page, or the draft.
type againstBody struct {
	*kit.Analysis
	Pages  []ownChoice
	Chosen int64 // result of the own page; 0 for the draft
	Draft  bool  // there is one
	Gap    *evidence.Gap
	counts map[evidence.Stand]int
	Most   float64 // scale of the range marks
}

// MarkOf draws the field's range with ours on it.
func (b againstBody) MarkOf(t evidence.Used) template.HTML {
	return draw.RangeMark(b.In, t.Range, b.Most, draw.Pointer{Name: b.In.Look("this text"), Value: float64(t.Count)})
}

// Count is how many terms stand so.
func (b againstBody) Count(stand string) int { return b.counts[evidence.Stand(stand)] }

type ownChoice struct {
	ID   int64
	Host string
}

// against compares an own page, or the draft, with the field.
func (s *handlers) against(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	body := againstBody{Analysis: an, counts: map[evidence.Stand]int{}}
	var doc *corpus.Doc
	for _, r := range an.Results {
		if !r.Own || r.ReadingID == nil || an.Docs[*r.ReadingID] == nil {
			continue
		}
		body.Pages = append(body.Pages, ownChoice{r.ID, r.Host})
		if c.Query("page") == fmt.Sprint(r.ID) || doc == nil && c.Query("page") == "" {
			body.Chosen, doc = r.ID, an.Docs[*r.ReadingID]
		}
	}
	_, text, err := s.Commands(c).Draft(c.Request.Context(), an.Study.ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if body.Draft = !text.Empty(); body.Draft && (c.Query("page") == "draft" || doc == nil) {
		body.Chosen, doc = 0, text.Read(an.Brief.Address, an.Study.Language)
	}
	if doc != nil {
		gap := an.Evidence.GapOf(doc, an.Pages)
		body.Gap = &gap
		for _, t := range gap.Terms {
			body.counts[t.Says]++
			body.Most = max(body.Most, t.Range.Upper, float64(t.Count))
		}
	}
	s.Page(c, http.StatusOK, "against", s.InStudy(c, "against", body))
}
