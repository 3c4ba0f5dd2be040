package kit

import (
	"context"
	"errors"
	"net/http"

	"corpulan/core/message"

	"corpulan/store"

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
		if s.Store.Ready(c.Request.Context()) != nil {
			f.Status = http.StatusServiceUnavailable
			f.What = "The database does not answer."
			f.Do = "Keep this page open and try again in a moment."
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
