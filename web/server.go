// Package web serves the interface: Gin routes, HTML templates, and the static
// files that ship with the program. Handlers parse, call and render; rules live
// in core, what people do in study, and SQL in store.
//
//   - server.go, guards.go  routes, and what every request goes through
//   - views.go, functions.go  templates, and what they call; draw/ draws
//   - analysis.go    a study as it now is
//   - deskmany.go    several studies at once; the week, search, notices
//   - desk.go, gather.go, field.go, evidence.go, brief.go  the places
//   - stream.go      the ranked list as it fills
//   - handin.go, captures.go  pages brought in and taken along
//   - findings.go, columns.go, choose.go, sources.go, pages.go  rows of findings and their
//     columns, decisions, the sentences behind a figure, how a page was read
//   - lexicon.go, against.go  the house lexicon; a text of ours against the field
//   - coverage.go, beside.go  who treats what; what pages say of a theme, side by side
//   - fields.go, outline.go, parts.go  the brief edited in place
//   - share.go, writer.go  links to a brief; what they open
//   - draft.go, draftsave.go   the place of the writer's text; saving, versions, files
//   - draftbeside.go, draftrows.go, draftexamples.go  what stands beside the text
//   - movement.go  what moved between two gatherings, and what that asks of the brief;
//     positions.go  where the own site stood
//   - network.go  terms that stand together; two.go  two studies side by side
//   - drawer.go, cuttings.go  evidence beside the brief; passages kept from it
//   - revisions.go   what a brief was, compared and restored
//   - demand.go, keywordcolumns.go  keyword lists, and which column is which
//   - groups.go, groupfilter.go, grouphand.go  groups of a list: shown, filtered, changed by hand
//   - slates.go      the pages planned
//   - standing.go    keywords against the pages of a study; searched against found
//   - setup.go, programs.go  how a publication is set up; its services, tokens and webhooks
//   - publication.go what a publication says for all its briefs; its own pages
//   - api.go         the interface for programs; openapi.json describes it
//   - account.go, factor.go, openid.go, people.go  signing in, the second factor, an issuer, the
//     members of a publication
//   - roles.go       who asks, and what they may do
//   - maynot.go      what somebody may not do is not on their pages
//   - history.go     who did what in a study
//   - undo.go        steps back and forth
package web

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"runtime/debug"
	"strconv"
	"strings"
	"time"

	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
	"github.com/maypok86/otter/v2"
	"golang.org/x/sync/semaphore"
	"golang.org/x/time/rate"
)

// Server is the web interface. Who asks, and in which publication, stands in the
// request, and nothing of it here.
type Server struct {
	store    *store.Store
	queue    *queue.Queue
	visitor  func(*http.Request) (*study.Visitor, error)
	signInAs int64
	sealer   *study.Sealer
	openID   *openID // nil for none
	hashing  *semaphore.Weighted
	analyst  *study.Analyst
	demander *study.Demander
	again    func(keyword string)
	samples  []Sample
	extras   []Sample
	boards   *otter.Cache[boardKey, *board]
	limits   *otter.Cache[int64, *rate.Limiter] // of tokens
	views    *views
	log      *slog.Logger
	demo     bool
	observe  func(route, method string, status int, took time.Duration)
	// closing ends the event streams, which would else hold up a shutdown.
	closing context.Context
}

// Options are what a server needs.
type Options struct {
	Store *store.Store
	Queue *queue.Queue
	// Visitor tells who asks, without any sign-in; nil for sessions.
	Visitor func(*http.Request) (*study.Visitor, error)
	// SignInAs is the number of the person as whom everybody is signed in at once: the demo's
	// visitor. 0 for nobody.
	SignInAs int64
	// Sealer keeps what must not be read in the database; nil for nothing of the kind.
	Sealer *study.Sealer
	// OpenID is an issuer by which people may sign in; nil for none.
	OpenID  *OpenID
	Proxies []string // whose word on where a request comes from is taken; networks in CIDR notation

	Log     *slog.Logger                                               // the store's where none is given
	Closing context.Context                                            // done when the program is about to stop
	Hosts   []string                                                   // names this server answers for; none means localhost
	Demo    bool                                                       // the search engine is the stand-in
	Again   func(keyword string)                                       // called before a study is gathered again; nil for nothing
	Extras  []Sample                                                   // texts to try reading beside a field
	Samples []Sample                                                   // lists of keywords to try the program with
	Observe func(route, method string, status int, took time.Duration) // called with each answer but event streams; nil for none
	Analyst *study.Analyst                                             // shared with workers of the same process; nil for one of its own
}

// validate names every field that a server cannot do without.
func (o Options) validate() error {
	var wrong []error
	for _, f := range []struct {
		name    string
		missing bool
	}{{"Store", o.Store == nil}, {"Queue", o.Queue == nil}, {"Closing", o.Closing == nil}} {
		if f.missing {
			wrong = append(wrong, fmt.Errorf("web: Options.%s is missing", f.name))
		}
	}
	return errors.Join(wrong...)
}

// Handler builds the interface.
func Handler(o Options) (http.Handler, error) {
	if err := o.validate(); err != nil {
		return nil, err
	}
	if o.Log == nil {
		o.Log = o.Store.Log()
	}
	v, err := loadViews()
	if err != nil {
		return nil, err
	}
	a := o.Analyst
	if a == nil {
		if a, err = study.NewAnalyst(nil, o.Queue.Evidence, study.Whole); err != nil {
			return nil, err
		}
	}
	d, err := study.NewDemander(o.Closing)
	if err != nil {
		return nil, err
	}
	boards, err := newBoards()
	if err != nil {
		return nil, err
	}
	limits, err := otter.New(&otter.Options[int64, *rate.Limiter]{MaximumSize: mostLimits})
	if err != nil {
		return nil, err
	}
	s := &Server{boards: boards, limits: limits, store: o.Store, queue: o.Queue, visitor: o.Visitor, signInAs: o.SignInAs, sealer: o.Sealer, hashing: semaphore.NewWeighted(mostHashing), analyst: a, demander: d, samples: o.Samples, extras: o.Extras, again: o.Again, views: v, log: o.Log, observe: o.Observe, demo: o.Demo, closing: o.Closing}
	if o.OpenID != nil {
		if o.Sealer == nil {
			return nil, fmt.Errorf("web: Options.OpenID needs a Sealer: %w", study.ErrNoSecret)
		}
		s.openID = &openID{OpenID: *o.OpenID}
	}
	hosts := o.Hosts
	if len(hosts) == 0 {
		hosts = []string{"localhost", "127.0.0.1", "::1"}
	}
	gin.SetMode(gin.ReleaseMode)
	r := gin.New()
	if err := r.SetTrustedProxies(o.Proxies); err != nil {
		return nil, fmt.Errorf("web: Options.Proxies: %w", err)
	}
	r.Use(s.observed, s.recovered, headers, onlyNamed(hosts), bounded, actor)
	r.GET("/static/*path", s.static)
	r.GET("/healthz", s.live)
	r.GET("/readyz", s.ready)
	s.linkRoutes(r)
	s.accountRoutes(r)
	s.apiRoutes(r)
	r.Use(s.signedIn)
	s.memberRoutes(r)
	s.routes(r)
	// Refuses writes that another site's page sends (Sec-Fetch-Site, Origin).
	return answerHead(http.NewCrossOriginProtection().Handler(r)), nil
}

func (s *Server) routes(r *gin.Engine) {
	r.GET("/", s.desk)
	r.POST("/studies", s.createStudy)
	r.POST("/desk/many", s.deskMany)
	r.POST("/account/notices", s.seeNotices)
	r.GET("/week", s.week)
	r.GET("/movement", s.positions)
	r.GET("/search", s.search)

	r.GET("/publication", s.publicationPlace)
	r.POST("/publication/fields", s.typeDefault)
	r.POST("/publication/sitemap", s.readSitemap)
	r.POST("/publication/pages", s.addOwnPages)
	r.POST("/publication/again", s.readOwnAgain)
	r.POST("/publication/pages/remove", s.removeOwn)
	r.POST("/publication/templates/forget", s.forgetTemplate)

	s.setupRoutes(r)
	s.demandRoutes(r)

	st := r.Group("/studies/:study", s.withStudy)
	st.GET("", func(c *gin.Context) { c.Redirect(http.StatusSeeOther, c.Request.URL.Path+"/gather") })
	st.POST("/archive", s.shelve(study.Commands.Archive))
	st.POST("/delete", s.shelve(study.Commands.Delete))
	st.POST("/bring-back", s.shelve(study.Commands.BringBack))
	st.POST("/undo", s.undo)
	st.POST("/redo", s.undo)
	st.GET("/gather", s.gather)
	st.GET("/list", s.list)
	st.GET("/counted", s.counted)
	st.GET("/events", s.events)
	st.POST("/gather", s.gatherAgain)
	st.GET("/movement", s.movement)
	st.GET("/movement/line", s.movementLine)
	st.GET("/movement/page", s.pageMovement)
	st.POST("/gather/again", s.gatherBy)
	st.POST("/brief/settle", s.settle)
	st.POST("/brief/follow", s.followEvidence)
	st.POST("/gather/stop", s.stopGathering)
	st.POST("/gather/resume", s.resumeGathering)
	st.POST("/results/:result/kept", s.setKept)
	st.POST("/kept", s.setManyKept)
	st.POST("/proposals", s.acceptProposals)
	st.POST("/results/:result/retry", s.retry)
	st.POST("/results/:result/not-competitor", s.notCompetitor)
	st.POST("/gather/deeper", s.deeper)
	st.POST("/results/:result/hand-in", s.handIn)
	st.POST("/hand-in", s.handIn)
	st.POST("/pages", s.addPages)
	st.POST("/extras", s.addExtras)
	st.GET("/captures.warc.gz", s.captures)
	st.GET("/receive", s.receive)
	st.GET("/field", s.field)
	st.GET("/network", s.networkPlace)
	st.GET("/beside", s.two)
	st.GET("/pages/:result", s.readPage)
	st.GET("/pages/:result/sections/:section", s.readPage)
	st.GET("/evidence", s.evidence)
	st.GET("/evidence/as/:table", s.downloadTable)
	st.GET("/sources", s.sources)
	st.POST("/choices", s.choose)
	st.POST("/choices/many", s.chooseMany)
	st.POST("/own", s.addOwn)
	st.POST("/outline", s.editOutline)
	st.GET("/outline/edit", s.sectionForms)
	st.POST("/parts", s.editParts)
	st.GET("/drawer", s.drawer)
	st.POST("/cuttings", s.cut)
	st.POST("/cuttings/:cutting", s.editCutting)
	st.POST("/template", s.useTemplate)
	st.POST("/template/save", s.saveTemplate)
	st.GET("/against", s.against)
	st.GET("/standing", s.standing)
	st.POST("/standing", s.adoptKeyword)
	st.GET("/searched", s.searched)
	st.POST("/leaders", s.lead)
	st.GET("/lexicon", s.lexicon)
	st.POST("/lexicon", s.teach)
	st.POST("/lexicon/forget", s.forget)
	st.POST("/themes/join", s.joinThemes)
	st.GET("/brief/faq.json", s.faqData)
	st.POST("/lexicon/read", s.readLexicon)
	st.GET("/lexicon.csv", s.lexiconCSV)
	st.GET("/brief", s.brief)
	st.POST("/brief/fields", s.typeField)
	st.GET("/brief/as/:format", s.download)
	st.GET("/brief/revisions", s.revisions)
	st.GET("/history", s.history)
	st.GET("/share", s.share)
	st.POST("/share", s.makeLink)
	st.POST("/share/:link/revoke", s.revokeLink)
	st.POST("/remarks/:remark", s.answerRemark)
	st.POST("/brief/restore", s.restore)
	s.draftRoutes(st.Group("/draft", s.ourDesk))
	r.NoRoute(func(c *gin.Context) { s.fail(c, store.ErrNotFound) })
}

// observed tells those who watch how long each answer took, and the log at its finest level.
func (s *Server) observed(c *gin.Context) {
	began := time.Now()
	c.Next()
	route, took := c.FullPath(), time.Since(began)
	if route == "" {
		route = "none"
	}
	if s.observe != nil && !strings.HasSuffix(route, "/events") {
		s.observe(route, c.Request.Method, c.Writer.Status(), took)
	}
	s.log.Debug("request", "method", c.Request.Method, "path", loggedPath(c), "status", c.Writer.Status(), "took", took)
}

// recovered turns a panic into an answer and a line in the log.
func (s *Server) recovered(c *gin.Context) {
	defer func() {
		if p := recover(); p != nil {
			if p == http.ErrAbortHandler {
				panic(p) // the server's own way of breaking off an answer
			}
			s.log.Error("a handler panicked", "path", loggedPath(c), "panic", p, "stack", string(debug.Stack()))
			s.fail(c, errors.New("panic"))
		}
	}()
	c.Next()
}

// live tells that the process answers: what does not is started anew.
func (s *Server) live(c *gin.Context) { c.String(http.StatusOK, "ok\n") }

// ready tells that requests are served: the database answers, and the process is not stopping.
func (s *Server) ready(c *gin.Context) {
	if s.closing.Err() != nil {
		c.String(http.StatusServiceUnavailable, "stopping\n")
		return
	}
	if err := s.store.Ready(c.Request.Context()); err != nil {
		c.String(http.StatusServiceUnavailable, "the database does not answer\n")
		return
	}
	c.String(http.StatusOK, "ok\n")
}

// publicationKey is where the publication of a request stands in its context.
const publicationKey = "publication"

func publicationOf(c *gin.Context) store.Publication {
	return c.MustGet(publicationKey).(store.Publication)
}

// scope is the store as who asks sees it.
func (s *Server) scope(c *gin.Context) store.Scope {
	var person int64
	if v, ok := c.Get(visitorKey); ok {
		person = v.(*study.Visitor).Person.ID
	}
	return s.store.In(publicationOf(c).ID).By(person)
}

// commands are what the person who asks can do.
func (s *Server) commands(c *gin.Context) study.Commands {
	return study.For(s.scope(c), s.queue, c.GetString(actorKey)).Named(nameOf(c))
}

const studyKey = "study"

// withStudy loads the study named in the address for the handlers behind it.
func (s *Server) withStudy(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("study"), 10, 64)
	if err != nil {
		s.fail(c, store.ErrNotFound)
		c.Abort()
		return
	}
	st, err := s.scope(c).Study(c.Request.Context(), id)
	if err != nil {
		s.fail(c, err)
		c.Abort()
		return
	}
	c.Set(studyKey, st)
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
	case hasGone(c, err):
		c.Abort()
		return
	case errors.As(err, new(*http.MaxBytesError)):
		f = failure{Status: http.StatusRequestEntityTooLarge, What: "This is more than can be sent here at once.", Safe: "Nothing was changed.",
			Do: "Go back and send less.", Link: "/", Text: "Back to the desk"}
	case errors.Is(err, store.ErrNotFound):
		f = failure{Status: http.StatusNotFound, What: "There is nothing at this address.", Safe: "It may have been removed, or the link is incomplete.",
			Do: "Look for it on the desk.", Link: "/", Text: "Back to the desk"}
	default:
		s.log.Error("a request failed", "method", c.Request.Method, "path", loggedPath(c), "error", err)
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

// hasGone tells that whoever asked does not wait any more: what then goes wrong is no fault. A
// transaction that is broken off so may say that its connection is bad.
func hasGone(c *gin.Context, err error) bool {
	return errors.Is(err, context.Canceled) || c.Request.Context().Err() != nil
}

// loggedPath is the path of a request as a log may have it: without the token of a link.
func loggedPath(c *gin.Context) string {
	if c.Param("token") != "" || c.Param("ticket") != "" {
		return c.FullPath()
	}
	return c.Request.URL.Path
}

func fromHTMX(c *gin.Context) bool { return c.GetHeader("HX-Request") == "true" }

// notice is a line that tells a person what was done, with the way back.
type notice struct {
	Text string
	Bad  bool
	Undo string // where to post to take it back; empty where that cannot be
	Word string // what the button says
}

// noticeOf says what a command did.
func noticeOf(id int64, d study.Done) notice {
	n := notice{Text: d.Said, Word: "Undo (u)"}
	switch {
	case d.Redo:
		n.Text, n.Undo, n.Word = "Taken back: "+d.Said, fmt.Sprintf("/studies/%d/redo", id), "Do it again (U)"
	case d.Change != 0:
		n.Undo = fmt.Sprintf("/studies/%d/undo", id)
	}
	return n
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

// mostHashing is how many passwords are looked at at once. Our own: 150 MiB.
const mostHashing = 8

// Shutdown limits how long open requests may take once the program stops.
const Shutdown = 5 * time.Second
