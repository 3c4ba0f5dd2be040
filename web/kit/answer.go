package kit

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// Failure is what the error page says: what happened, what is safe, what to do.
type Failure struct {
	Status     int
	What, Safe message.Message
	Do         message.Message
	Link, Text string
}

// Fail answers with an error page, or a message where htmx asked.
func (s *Kit) Fail(c *gin.Context, err error) {
	f := Failure{Status: http.StatusInternalServerError, What: "Something went wrong on our side.",
		Safe: "All that was saved before is safe.", Do: "Try again; if it happens again, the server's log says why.", Link: "/", Text: "Back to the desk"}
	switch {
	case HasGone(c, err):
		c.Abort()
		return
	case errors.As(err, new(*http.MaxBytesError)):
		f = Failure{Status: http.StatusRequestEntityTooLarge, What: "This is more than can be sent here at once.", Safe: "Nothing was changed.",
			Do: "Go back and send less.", Link: "/", Text: "Back to the desk"}
	case errors.Is(err, store.ErrNotFound):
		f = Failure{Status: http.StatusNotFound, What: "There is nothing at this address.", Safe: "It may have been removed, or the link is incomplete.",
			Do: "Look for it on the desk.", Link: "/", Text: "Back to the desk"}
	default:
		s.Log.Error("a request failed", "method", c.Request.Method, "path", LoggedPath(c), "error", err)
		if status, what := s.Trouble(c, err); what != "" {
			f.Status, f.What, f.Do = status, what, "Keep this page open and try again in a moment."
		}
	}
	if FromHTMX(c) {
		c.Header("HX-Retarget", "#notices")
		c.Header("HX-Reswap", "innerHTML")
		s.Fragment(c, f.Status, "notice", Notice{Text: message.Joined(" ", f.What, f.Safe, f.Do), Bad: true})
		return
	}
	s.Page(c, f.Status, "error", PageData{Title: "Error", Place: "", Body: f})
}

// Trouble is how an error is answered that comes from the machines behind the program: a disk without
// room, a database that is away. What is said is empty for others.
func (s *Kit) Trouble(c *gin.Context, err error) (status int, what message.Message) {
	switch s.Store.TroubleOf(c.Request.Context(), err) {
	case store.DiskFull:
		return http.StatusInsufficientStorage, "The server's disk is full, so that nothing can be saved; whoever runs it has to make room."
	case store.Away:
		c.Header("Retry-After", "5")
		return http.StatusServiceUnavailable, "The database does not answer."
	}
	return http.StatusInternalServerError, ""
}

// HasGone tells that whoever asked does not wait any more: what then goes wrong is no fault. A
// transaction that is broken off so may say that its connection is bad.
func HasGone(c *gin.Context, err error) bool {
	return errors.Is(err, context.Canceled) || c.Request.Context().Err() != nil
}

// LoggedPath is the path of a request as a log may have it: without the token of a link.
func LoggedPath(c *gin.Context) string {
	if c.Param("token") != "" || c.Param("ticket") != "" {
		return c.FullPath()
	}
	return c.Request.URL.Path
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
