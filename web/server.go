// Package web serves the interface: Gin routes, HTML templates, and the static
// files that ship with the program. Handlers parse, call and render; rules live
// in core and SQL in store.
package web

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strconv"
	"strings"
	"time"

	"corpulan/jobs"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// Server is the web interface of one publication.
type Server struct {
	store       *store.Store
	queue       *jobs.Queue
	publication store.Publication
	analyst     *analyst
	views       *views
	log         *slog.Logger
	// closing ends the event streams, which would else hold up a shutdown.
	closing context.Context
}

// Options are what a server needs.
type Options struct {
	Store       *store.Store
	Queue       *jobs.Queue
	Publication store.Publication
	Log         *slog.Logger
	Closing     context.Context // done when the program is about to stop
}

// Handler builds the interface.
func Handler(o Options) (http.Handler, error) {
	v, err := loadViews()
	if err != nil {
		return nil, err
	}
	a, err := newAnalyst()
	if err != nil {
		return nil, err
	}
	s := &Server{store: o.Store, queue: o.Queue, publication: o.Publication, analyst: a, views: v, log: o.Log, closing: o.Closing}
	gin.SetMode(gin.ReleaseMode)
	r := gin.New()
	r.Use(s.recovered, headers)
	s.routes(r)
	// Refuses writes that another site's page sends (Sec-Fetch-Site, Origin).
	return http.NewCrossOriginProtection().Handler(r), nil
}

func (s *Server) routes(r *gin.Engine) {
	r.GET("/", s.desk)
	r.POST("/studies", s.createStudy)
	r.GET("/static/*path", s.static)
	r.GET("/healthz", s.health)

	st := r.Group("/studies/:study", s.withStudy)
	st.GET("", func(c *gin.Context) { c.Redirect(http.StatusSeeOther, c.Request.URL.Path+"/gather") })
	st.GET("/gather", s.gather)
	st.GET("/events", s.events)
	st.POST("/gather", s.gatherAgain)
	st.POST("/gather/stop", s.stopGathering)
	st.POST("/gather/resume", s.resumeGathering)
	st.POST("/results/:result/kept", s.setKept)
	st.POST("/kept", s.setManyKept)
	st.POST("/proposals", s.acceptProposals)
	st.POST("/results/:result/retry", s.retry)
	st.POST("/results/:result/hand-in", s.handIn)
	st.POST("/hand-in", s.handIn)
	st.POST("/pages", s.addPages)
	st.GET("/captures.warc.gz", s.captures)
	st.GET("/receive", s.receive)
	st.GET("/field", s.field)
	st.GET("/pages/:result", s.readPage)
	st.GET("/pages/:result/sections/:section", s.readPage)
	st.GET("/evidence", s.evidence)
	st.GET("/sources", s.sources)
	st.POST("/choices", s.choose)
	st.GET("/brief", s.brief)
	st.POST("/brief/fields", s.typeField)
	st.GET("/brief/as/:format", s.download)
	r.NoRoute(func(c *gin.Context) { s.fail(c, store.ErrNotFound) })
}

// headers sets what every answer carries. No page of ours runs inline scripts
// or styles, and nothing may be loaded from elsewhere.
func headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	c.Next()
}

// recovered turns a panic into an answer and a line in the log.
func (s *Server) recovered(c *gin.Context) {
	defer func() {
		if p := recover(); p != nil {
			s.log.Error("a handler panicked", "path", c.Request.URL.Path, "panic", p)
			s.fail(c, errors.New("panic"))
		}
	}()
	c.Next()
}

func (s *Server) health(c *gin.Context) {
	if err := s.store.Ready(c.Request.Context()); err != nil {
		c.String(http.StatusServiceUnavailable, "the database does not answer\n")
		return
	}
	c.String(http.StatusOK, "ok\n")
}

func (s *Server) scope() store.Scope { return s.store.In(s.publication.ID) }

const studyKey = "study"

// withStudy loads the study named in the address for the handlers behind it.
func (s *Server) withStudy(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("study"), 10, 64)
	if err != nil {
		s.fail(c, store.ErrNotFound)
		c.Abort()
		return
	}
	study, err := s.scope().Study(c.Request.Context(), id)
	if err != nil {
		s.fail(c, err)
		c.Abort()
		return
	}
	c.Set(studyKey, study)
}

func studyOf(c *gin.Context) store.Study { return c.MustGet(studyKey).(store.Study) }

// failure is what the error page says: what happened, what is safe, what to do.
type failure struct {
	Status                     int
	What, Safe, Do, Link, Text string
}

// fail answers with an error page, or a message where htmx asked.
func (s *Server) fail(c *gin.Context, err error) {
	f := failure{Status: http.StatusInternalServerError, What: "Something went wrong on our side.",
		Safe: "All that was saved before is safe.", Do: "Try again; if it happens again, the server's log says why.", Link: "/", Text: "Back to the desk"}
	switch {
	case errors.Is(err, context.Canceled):
		c.Abort()
		return
	case errors.Is(err, store.ErrNotFound):
		f = failure{Status: http.StatusNotFound, What: "There is nothing at this address.", Safe: "It may have been removed, or the link is incomplete.",
			Do: "Look for it on the desk.", Link: "/", Text: "Back to the desk"}
	default:
		s.log.Error("a request failed", "method", c.Request.Method, "path", c.Request.URL.Path, "error", err)
		if s.store.Ready(c.Request.Context()) != nil {
			f.Status = http.StatusServiceUnavailable
			f.What = "The database does not answer."
			f.Do = "Keep this page open and try again in a moment."
		}
	}
	if fromHTMX(c) {
		c.Header("HX-Retarget", "#notices")
		c.Header("HX-Reswap", "innerHTML")
		s.views.fragment(c, f.Status, "notice", notice{Text: f.What + " " + f.Safe + " " + f.Do, Bad: true})
		return
	}
	s.views.page(c, f.Status, "error", pageData{Title: "Error", Place: "", Body: f})
}

func fromHTMX(c *gin.Context) bool { return c.GetHeader("HX-Request") == "true" }

// notice is a line that tells a person what was done, with the way back.
type notice struct {
	Text string
	Bad  bool
	Undo *undo
}

type undo struct {
	Action string
	Values map[string]string
}

// back answers a plain form post: the browser goes to where it came from.
func back(c *gin.Context, fallback string) {
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

// Shutdown limits how long open requests may take once the program stops.
const Shutdown = 5 * time.Second
