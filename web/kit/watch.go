package kit

import (
	"errors"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
)

// observed tells those who watch how long each answer took, and the log at its finest level.
func (s *Kit) observed(c *gin.Context) {
	began := time.Now()
	c.Next()
	route, took := c.FullPath(), time.Since(began)
	if route == "" {
		route = "none"
	}
	if s.Observe != nil && !strings.HasSuffix(route, "/events") {
		s.Observe(route, c.Request.Method, c.Writer.Status(), took)
	}
	s.Log.Debug("request", "method", c.Request.Method, "path", LoggedPath(c), "status", c.Writer.Status(), "took", took)
}

// recovered turns a panic into an answer and a line in the log.
func (s *Kit) recovered(c *gin.Context) {
	defer func() {
		if p := recover(); p != nil {
			if p == http.ErrAbortHandler {
				panic(p) // the server's own way of breaking off an answer
			}
			s.Log.Error("a handler panicked", "path", LoggedPath(c), "panic", p, "stack", string(debug.Stack()))
			s.Fail(c, errors.New("panic"))
		}
	}()
	c.Next()
}

// live tells that the process answers: what does not is started anew.
func (s *Kit) live(c *gin.Context) { c.String(http.StatusOK, "ok\n") }

// ready tells that requests are served: the database answers, and the process is not stopping.
func (s *Kit) ready(c *gin.Context) {
	if s.Closing.Err() != nil {
		c.String(http.StatusServiceUnavailable, "stopping\n")
		return
	}
	if err := s.Store.Ready(c.Request.Context()); err != nil {
		c.String(http.StatusServiceUnavailable, "the database does not answer\n")
		return
	}
	c.String(http.StatusOK, "ok\n")
}
