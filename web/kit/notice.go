package kit

import (
	"errors"
	"fmt"
	"net/http"
	"strings"

	"corpulan/core/message"

	"corpulan/core/brief"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// Notice is a line that tells a person what was done, with the way back.
type Notice struct {
	Text message.Message
	Bad  bool
	Undo string // where to post to take it back; empty where that cannot be
	Word string // what the button says
}

// NoticeOf says what a command did.
func NoticeOf(id int64, d study.Done) Notice {
	n := Notice{Text: d.Said, Word: "Undo (u)"}
	switch {
	case d.Redo:
		n.Text, n.Undo, n.Word = message.Of("Taken back: %v", d.Said), fmt.Sprintf("/studies/%d/redo", id), "Do it again (U)"
	case d.Change != 0:
		n.Undo = fmt.Sprintf("/studies/%d/undo", id)
	}
	return n
}

// Back answers a plain form post: the browser goes to where it came from.
func Back(c *gin.Context, fallback string) {
	to := fallback
	if ref := c.GetHeader("Referer"); ref != "" {
		if i := strings.Index(ref, c.Request.Host); i >= 0 {
			if path := ref[i+len(c.Request.Host):]; strings.HasPrefix(path, "/") && !strings.HasPrefix(path, "//") {
				to = path
			}
		}
	}
	c.Redirect(http.StatusSeeOther, to)
}

// Plain says something on a page of its own, or as a notice.
func (s *Kit) Plain(c *gin.Context, status int, text message.Message) {
	if FromHTMX(c) {
		c.Header("HX-Retarget", "#notices")
		c.Header("HX-Reswap", "innerHTML")
		s.Fragment(c, status, "notice", Notice{Text: text, Bad: status >= 400})
		return
	}
	s.Page(c, status, "error", PageData{Title: "Not now", Body: Failure{Status: status, What: text, Safe: "Nothing was changed.", Link: "/", Text: "To the desk"}})
}

// Say answers with a message alone, which leaves all that was typed in place.
func (s *Kit) Say(c *gin.Context, status int, text message.Message) {
	if !FromHTMX(c) { // a plain form: a page says it, and the browser's way back keeps what was typed
		s.Page(c, status, "error", s.InStudy(c, "gather", Failure{Status: status, What: text, Safe: "All that was there before is as it was.",
			Do: "Go back to mend it.", Link: fmt.Sprintf("/studies/%d/gather", StudyOf(c).ID), Text: "To the list"}))
		return
	}
	c.Header("HX-Retarget", "#notices")
	c.Header("HX-Reswap", "innerHTML")
	s.Fragment(c, status, "notice", Notice{Text: text, Bad: status >= 400})
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
