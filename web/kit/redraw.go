package kit

import (
	"errors"
	"fmt"
	"net/http"

	"corpulan/core/brief"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// Changed is a part of a page with a word on what has been done.
type Changed[T any] struct {
	Body   T
	Notice Notice
}

// Refreshed answers with the place a person is in as it now is, and a word on
// what was done. Which place that is the page says itself.
func (s *Kit) Refreshed(c *gin.Context, n Notice) {
	id := StudyOf(c).ID
	if !FromHTMX(c) {
		Back(c, fmt.Sprintf("/studies/%d/gather", id))
		return
	}
	st, err := s.Scope(c).Study(c.Request.Context(), id) // it may be what was changed
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Set(StudyKey, st)
	page := c.GetHeader("X-Place")
	for _, p := range s.places {
		if draw := p.Redraws[page]; draw != nil {
			draw(c, n)
			return
		}
	}
	c.Header("HX-Refresh", "true") // a place that is drawn as a whole
	c.Status(http.StatusOK)
}

// Redrawn answers with a part of a page in the place of what stands there.
func (s *Kit) Redrawn(c *gin.Context, target, name string, data any) {
	c.Header("HX-Retarget", target)
	c.Header("HX-Reswap", "outerHTML")
	s.Fragment(c, http.StatusOK, name, data)
}

// Noted answers with a notice alone: nothing on the page changes.
func (s *Kit) Noted(c *gin.Context, n Notice) {
	c.Header("HX-Retarget", "#notices")
	c.Header("HX-Reswap", "innerHTML")
	s.Fragment(c, http.StatusOK, "notice", n)
}

// Done answers a command in the Brief: with the document as it then is, and what was done.
func (s *Kit) Done(c *gin.Context, done study.Done, err error) {
	st := StudyOf(c)
	switch {
	case errors.Is(err, brief.ErrNoSection):
		s.Say(c, http.StatusUnprocessableEntity, "This section is not in the outline any more; reload the page and try again.")
	case errors.Is(err, brief.ErrOwnPart):
		s.Say(c, http.StatusUnprocessableEntity, "A section cannot stand below itself; nothing was moved.")
	case err != nil:
		s.Fail(c, err)
	case !FromHTMX(c):
		Back(c, fmt.Sprintf("/studies/%d/brief", st.ID))
	default:
		s.Refreshed(c, NoticeOf(st.ID, done))
	}
}
