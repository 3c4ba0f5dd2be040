package web

import (
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/study"
	"corpulan/web/draw"

	"github.com/gin-gonic/gin"
)

// againstBody is a text of ours against the field: an own page, or a pasted draft.
type againstBody struct {
	*analysis
	Pages  []ownChoice
	Chosen int64 // result of the own page; 0 for a draft
	Draft  string
	Gap    *evidence.Gap
	counts map[evidence.Stand]int
	Most   float64 // scale of the range marks
}

// MarkOf draws the field's range with ours on it.
func (b againstBody) MarkOf(t evidence.Used) template.HTML {
	return draw.RangeMark(t.Range, b.Most, draw.Pointer{Name: "ours", Value: float64(t.Count)})
}

// Count is how many terms stand so.
func (b againstBody) Count(stand string) int { return b.counts[evidence.Stand(stand)] }

type ownChoice struct {
	ID   int64
	Host string
}

// longestDraft bounds a pasted draft, in bytes: some 30,000 words.
const longestDraft = 200_000

// against compares an own page, or a draft that is pasted, with the field. The draft
// is looked at and not kept.
func (s *Server) against(c *gin.Context) {
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	body := againstBody{analysis: an, Draft: c.PostForm("draft"), counts: map[evidence.Stand]int{}}
	var doc *corpus.Doc
	for _, r := range an.Results {
		if !r.Own || r.ReadingID == nil || an.Docs[*r.ReadingID] == nil {
			continue
		}
		body.Pages = append(body.Pages, ownChoice{r.ID, r.Host})
		if body.Draft == "" && (c.Query("page") == fmt.Sprint(r.ID) || doc == nil && c.Query("page") == "") {
			body.Chosen, doc = r.ID, an.Docs[*r.ReadingID]
		}
	}
	if len(body.Draft) > longestDraft {
		s.say(c, http.StatusRequestEntityTooLarge, "This draft is too long to be compared: at most some 30,000 words.")
		return
	}
	if strings.TrimSpace(body.Draft) != "" {
		if doc, err = study.ReadDraft(body.Draft, an.Study.Language); err != nil {
			s.say(c, http.StatusUnprocessableEntity, "There is no text in this draft.")
			return
		}
	}
	if doc != nil {
		gap := an.Evidence.GapOf(doc, an.Pages)
		body.Gap = &gap
		for _, t := range gap.Terms {
			body.counts[t.Says]++
			body.Most = max(body.Most, t.Range.Upper, float64(t.Count))
		}
	}
	s.views.page(c, http.StatusOK, "against", s.inStudy(c, "against", body))
}
