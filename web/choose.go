package web

import (
	"fmt"
	"net/http"
	"slices"

	"corpulan/core/brief"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// longestKey bounds what a form says of a finding, in bytes.
const longestKey = 2000

// choose adopts or drops a finding, or takes a decision back.
func (s *Server) choose(c *gin.Context) {
	st := studyOf(c)
	ctx := c.Request.Context()
	m := brief.Mark{Kind: brief.Kind(c.PostForm("kind")), Key: c.PostForm("key"), Text: c.PostForm("text"), State: brief.State(c.PostForm("state"))}
	if !slices.Contains(brief.Kinds(), m.Kind) || m.Key == "" || len(m.Key) > longestKey || len(m.Text) > longestKey || m.State != "" && m.State != brief.Adopted && m.State != brief.Dropped {
		s.say(c, http.StatusUnprocessableEntity, "This finding could not be recognised; reload the page and try again.")
		return
	}
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	done, err := s.commands(c).Choose(ctx, st.ID, an.Evidence, m)
	if err != nil {
		s.fail(c, err)
		return
	}
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/studies/%d/evidence", st.ID))
		return
	}
	if c.PostForm("view") == "brief" {
		s.refreshed(c, noticeOf(st.ID, done))
		return
	}
	s.afterChoice(c, m, done)
}

// choiceBody is what changes on a page of evidence after a choice.
type choiceBody struct {
	*analysis
	Row    findingRow
	Notice notice
}

func (s *Server) afterChoice(c *gin.Context, m brief.Mark, done study.Done) {
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	body := choiceBody{analysis: an, Notice: noticeOf(an.Study.ID, done)}
	for _, r := range findings(an, m.Kind) {
		if r.Key == m.Key {
			body.Row = r
			body.Row.Swap = true
		}
	}
	s.views.fragment(c, http.StatusOK, "choice-made", body)
}
