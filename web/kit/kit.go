// Package kit is what every place of the interface works with: Gin's routes by who may come there,
// guards, roles, templates in each language, and what the shell knows of a place. It names none.
//
//   - kit.go      the kit, its routers, and what every request goes through
//   - place.go    what a place tells of itself; who may use its routes, and how large a body may be
//   - options.go  what the interface is made of
//   - guards.go, watch.go  headers, names, bodies; what is watched
//   - asked.go    who asks, of which study and publication; roles.go, links.go how that is found out
//   - maynot.go   what is taken off a page that who asks may not do
//   - views.go, functions.go, static.go  templates, what they call, and the files that never change
//   - answer.go   errors and notices, on a page or beside it
//   - redraw.go, undo.go  what is drawn anew after a change, and what takes it back
//   - analysis.go a study as it now is; table.go, uploads.go, request.go  tables out, files and forms in
package kit

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"corpulan/analysis"
	"corpulan/cache"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

// Kit is what every place of the interface works with: the store and the workers, who asks, and
// how pages are made. Who asks, and in which publication, stands in the request, and nothing of it
// here.
type Kit struct {
	Options
	Demander *analysis.Demander
	views    *views
	writes   *cache.Cache[int64, *rate.Limiter] // of links
	Routers
	places  []Place
	engine  *gin.Engine
	handler http.Handler
}

// Routers are where places hang their routes, by who may come there.
type Routers struct {
	Public gin.IRouter // nobody need be signed in
	Link   gin.IRouter // who has a link to a brief, and its password: /w/:token
	Member gin.IRouter // who is signed in, in a publication
	Study  gin.IRouter // the same, in one of its studies: /studies/:study
	Shared gin.IRouter // where a link's password is asked for
}

// New makes the kit; places then hang their routes and are added, and Handler serves them.
func New(o Options) (*Kit, error) {
	if err := o.validate(); err != nil {
		return nil, err
	}
	if o.Log == nil {
		o.Log = o.Store.Log()
	}
	var err error
	if o.Analyst == nil {
		if o.Analyst, err = analysis.NewAnalyst(nil, o.Queue.Evidence, analysis.Whole); err != nil {
			return nil, err
		}
	}
	s := &Kit{Options: o}
	if s.writes, err = cache.New(cache.Options[int64, *rate.Limiter]{MaximumSize: maxBusyLinks}); err != nil {
		return nil, err
	}
	if s.Demander, err = analysis.NewDemander(o.Closing); err != nil {
		return nil, err
	}
	return s, nil
}

// Serve gives every place its routes; the kit answers requests then.
func (s *Kit) Serve(places ...func(*Kit) error) error {
	hosts := s.Hosts
	if len(hosts) == 0 {
		hosts = []string{"localhost", "127.0.0.1", "::1"}
	}
	gin.SetMode(gin.ReleaseMode)
	r := gin.New()
	if err := r.SetTrustedProxies(s.Proxies); err != nil {
		return fmt.Errorf("web: Options.Proxies: %w", err)
	}
	r.Use(s.observed, s.recovered, headers, onlyNamed(hosts), s.bounded, actor)
	s.engine = r
	s.route(r)
	for _, add := range places {
		if err := add(s); err != nil {
			return err
		}
	}
	var err error
	if s.views, err = s.loadViews(); err != nil {
		return err
	}
	// Refuses writes that another site's page sends (Sec-Fetch-Site, Origin).
	s.handler = answerHead(http.NewCrossOriginProtection().Handler(r))
	return nil
}

// ServeHTTP answers a request.
func (s *Kit) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// AllRoutes are those of every place, for tests that walk them.
func (s *Kit) AllRoutes() gin.RoutesInfo { return s.engine.Routes() }

// route hangs up what belongs to no place, and the routers of those that do.
func (s *Kit) route(r *gin.Engine) {
	r.GET("/static/*path", s.static)
	r.GET("/licences", s.licences)
	r.GET("/healthz", s.live)
	r.GET("/readyz", s.ready)
	s.Public = r
	w := r.Group("/w/:token", s.withLink)
	w.POST("/password", s.givePassword)
	s.Shared, s.Link = w, w.Group("", s.withPass)
	member := r.Group("", s.signedIn)
	s.Member = member
	st := member.Group("/studies/:study", s.withStudy)
	s.Study = st
	st.GET("", func(c *gin.Context) { c.Redirect(http.StatusSeeOther, c.Request.URL.Path+"/gather") })
	st.POST("/archive", s.shelve(study.Commands.Archive))
	st.POST("/delete", s.shelve(study.Commands.Delete))
	st.POST("/bring-back", s.shelve(study.Commands.BringBack))
	st.POST("/undo", s.undo)
	st.POST("/redo", s.undo)
	st.POST("/here", s.here)
	r.HandleMethodNotAllowed = true
	r.NoRoute(s.nothingHere(store.ErrNotFound)...)
	r.NoMethod(s.nothingHere(ErrMethod)...)
}

// ErrMethod says that an address is not there for a method.
var ErrMethod = errors.New("this address does not take this method")

// nothingHere answers what is no address of ours: as its place does, else who is signed in is told so.
func (s *Kit) nothingHere(err error) []gin.HandlerFunc {
	return []gin.HandlerFunc{func(c *gin.Context) {
		for _, p := range s.places {
			if p.Missing != nil && strings.HasPrefix(c.Request.URL.Path, p.Under+"/") {
				p.Missing(c, err)
				c.Abort()
				return
			}
		}
	}, s.signedIn, func(c *gin.Context) { s.Fail(c, store.ErrNotFound) }}
}

// withStudy loads the study named in the address for the handlers behind it.
func (s *Kit) withStudy(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("study"), 10, 64)
	if err != nil {
		s.Fail(c, store.ErrNotFound)
		c.Abort()
		return
	}
	st, err := s.Scope(c).Study(c.Request.Context(), id)
	if err != nil {
		s.Fail(c, err)
		c.Abort()
		return
	}
	c.Set(StudyKey, st)
}

// Shutdown limits how long open requests may take once the program stops.
const Shutdown = 5 * time.Second
