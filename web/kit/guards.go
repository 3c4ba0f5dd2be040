package kit

import (
	"crypto/rand"
	_ "embed"
	"errors"
	"io"
	"net"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
)

// What every request passes before a handler sees it.

// headers sets what every answer carries. No page of ours runs inline scripts
// or styles, and nothing may be loaded from elsewhere.
func headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	if Secure(c.Request) { // RFC 6797: over plain HTTP it means nothing
		h.Set("Strict-Transport-Security", "max-age=31536000")
	}
	c.Next()
}

// onlyNamed refuses requests for a host that is not ours: a page elsewhere could
// give its own name this machine's address, and would then count as of our
// origin (DNS rebinding). Whether the program lives may be asked by any name.
func onlyNamed(hosts []string) gin.HandlerFunc {
	ours := map[string]bool{}
	for _, h := range hosts {
		ours[strings.ToLower(h)] = true
	}
	return func(c *gin.Context) {
		if !ours[hostname(c.Request.Host)] && c.Request.URL.Path != "/healthz" && c.Request.URL.Path != "/readyz" {
			c.String(http.StatusMisdirectedRequest, "This server does not answer for %q; see --hosts.\n", hostname(c.Request.Host))
			c.Abort()
		}
	}
}

// hostname is a Host header's without its port, small.
func hostname(host string) string {
	if h, _, err := net.SplitHostPort(host); err == nil {
		host = h
	}
	return strings.ToLower(strings.Trim(host, "[]"))
}

// Bounds on the bodies of requests.
const (
	largestForm   = 1 << 20
	LargestText   = 20 << 20  // a draft's steps and the draft, or its file
	LargestHandIn = 128 << 20 // some sixty saved pages
	slowestBody   = 15 * time.Second
	longestBody   = 10 * time.Minute
)

// bounded limits every body in size, and in time: one that drips is cut off
// when nothing has come for a while, or all of it takes too long.
func (s *Kit) bounded(c *gin.Context) {
	if c.Request.Body == nil || c.Request.Body == http.NoBody {
		return
	}
	limit := s.largestBody(c.FullPath())
	if c.Request.ContentLength > limit {
		c.Header("Connection", "close")
		c.String(http.StatusRequestEntityTooLarge, "At most %d MB can be sent here.\n", limit>>20)
		c.Abort()
		return
	}
	control := http.NewResponseController(c.Writer)
	c.Request.Body = &patient{http.MaxBytesReader(c.Writer, c.Request.Body, limit), control, time.Now().Add(longestBody), 0, time.Now()}
	c.Next()
	_ = control.SetReadDeadline(time.Time{}) // an event stream waits long
}

// patient reads a body while it comes at a fair speed.
type patient struct {
	io.ReadCloser
	control *http.ResponseController
	end     time.Time
	bytes   int64
	since   time.Time
}

// minRate is how many bytes a second a body must come with, once it has had
// time to begin.
const minRate = 512

var errDrips = errors.New("the request came too slowly")

func (p *patient) Read(b []byte) (int, error) {
	now := time.Now()
	if elapsed := now.Sub(p.since); now.After(p.end) || elapsed > slowestBody && float64(p.bytes) < minRate*elapsed.Seconds() {
		return 0, errDrips
	}
	_ = p.control.SetReadDeadline(now.Add(slowestBody)) // a test's recorder has none
	n, err := p.ReadCloser.Read(b)
	p.bytes += int64(n)
	return n, err
}

// actorCookie names the browser, so that people undo what they did themselves.
// It opens nothing.
const actorCookie = "corpulan_browser"

func actor(c *gin.Context) {
	name, err := c.Cookie(actorCookie)
	if err != nil || len(name) < 16 || len(name) > 64 {
		name = rand.Text()
		http.SetCookie(c.Writer, &http.Cookie{Name: actorCookie, Value: name, Path: "/", MaxAge: 365 * 24 * 3600, HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: Secure(c.Request)})
	}
	c.Set(ActorKey, name)
}

const ActorKey = "actor"

// Secure tells whether the browser speaks HTTPS with us, or with the proxy
// before us.
func Secure(r *http.Request) bool {
	return r.TLS != nil || strings.EqualFold(r.Header.Get("X-Forwarded-Proto"), "https")
}

// Origin is our own address as the browser sees it.
func Origin(r *http.Request) string {
	if Secure(r) {
		return "https://" + r.Host
	}
	return "http://" + r.Host
}

// answerHead lets every page that can be had be asked for its head: net/http
// leaves the body out. An event stream would never end.
func answerHead(h http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodHead {
			h.ServeHTTP(w, r)
			return
		}
		if strings.HasSuffix(r.URL.Path, "/events") {
			w.Header().Set("Content-Type", "text/event-stream")
			return
		}
		get := r.Clone(r.Context())
		get.Method = http.MethodGet
		h.ServeHTTP(w, get)
	})
}

const ApiBase = "/api/v1"
