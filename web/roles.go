package web

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// leastRole is what somebody must be at least to use a route. Who may only look may still see
// to their own account.
func leastRole(method, route string) store.Role {
	switch {
	case strings.HasPrefix(route, "/people"), strings.HasPrefix(route, "/publication/set-up"):
		return store.Owner
	case method == http.MethodGet || method == http.MethodHead:
		return store.Reader
	case route == "/sign-out", strings.HasPrefix(route, "/account"), strings.HasPrefix(route, "/publications"):
		return store.Reader
	}
	if rest, ok := strings.CutPrefix(route, "/studies/:study/"); ok {
		first, _, _ := strings.Cut(rest, "/")
		if slices.Contains([]string{"choices", "own", "outline", "parts", "cuttings", "brief", "draft", "share", "remarks", "standing", "undo", "redo"}, first) {
			return store.Editor
		}
	}
	return store.Strategist
}

// signedIn finds who asks, and in which publication; whoever is nobody is asked to sign in.
func (s *Server) signedIn(c *gin.Context) {
	v, err := s.who(c)
	switch {
	case errors.Is(err, store.ErrNotFound):
		s.askToSignIn(c)
		return
	case errors.Is(err, study.ErrNowhere):
		c.Set(visitorKey, v)
		if route := c.FullPath(); strings.HasPrefix(route, "/account") || route == "/sign-out" || route == "/publications" || route == "/publications/:publication/bring-back" {
			return
		}
		if c.Request.Method == http.MethodGet && !fromHTMX(c) {
			c.Redirect(http.StatusSeeOther, "/account")
		} else {
			s.plain(c, http.StatusForbidden, "You are a member of no publication any more.")
		}
		c.Abort()
		return
	case err != nil:
		s.fail(c, err)
		c.Abort()
		return
	}
	if err := s.whereStudyIs(c, v); err != nil {
		s.fail(c, err)
		c.Abort()
		return
	}
	c.Set(visitorKey, v)
	c.Set(publicationKey, v.Publication)
	// What one person may see no cache between keeps, and a browser asks for again once
	// somebody has signed out; going back still finds what was typed.
	c.Header("Cache-Control", "private, no-cache")
	if !v.Role.May(leastRole(c.Request.Method, c.FullPath())) {
		s.plain(c, http.StatusForbidden, fmt.Sprintf("As %s of %s you cannot do this; an owner of the publication can change that.", article(v.Role), v.Publication.Name))
		c.Abort()
	}
}

// whereStudyIs takes whoever comes to a study of another of their publications there: a link to
// it need not say which that is.
func (s *Server) whereStudyIs(c *gin.Context, v *study.Visitor) error {
	id, err := strconv.ParseInt(c.Param("study"), 10, 64)
	if err != nil || len(v.Others) < 2 {
		return nil
	}
	var mine []int64
	for _, m := range v.Others {
		mine = append(mine, m.ID)
	}
	at, err := s.store.Across(mine).PublicationOfStudy(c.Request.Context(), id)
	if errors.Is(err, store.ErrNotFound) || at == v.Publication.ID {
		return nil // withStudy says so
	}
	if err != nil {
		return err
	}
	i := slices.IndexFunc(v.Others, func(m store.Membership) bool { return m.ID == at })
	v.Publication, v.Role = v.Others[i].Publication, v.Others[i].Role
	if c.Request.Method == http.MethodGet && !fromHTMX(c) && v.Session.ID != 0 {
		return s.store.Enter(c.Request.Context(), v.Session.ID, at)
	}
	return nil
}

func article(r store.Role) string {
	if r == store.Owner || r == store.Editor {
		return "an " + string(r)
	}
	return "a " + string(r)
}

func (s *Server) who(c *gin.Context) (*study.Visitor, error) {
	ctx := c.Request.Context()
	if s.visitor != nil {
		return s.visitor(c.Request)
	}
	token, _ := c.Cookie(sessionCookie) // none is an empty one
	v, err := study.Who(ctx, s.store, token, time.Now())
	if s.signInAs == 0 || !errors.Is(err, store.ErrNotFound) {
		return v, err
	}
	if token, err = study.SignInAs(ctx, s.store, s.signInAs, c.Request.UserAgent()); err != nil {
		return nil, err
	}
	keepSession(c, token)
	return study.Who(ctx, s.store, token, time.Now())
}

// keepSession gives the browser its session.
func keepSession(c *gin.Context, token string) {
	age := 30 * 24 * 3600
	if token == "" {
		age = -1
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: sessionCookie, Value: token, Path: "/", MaxAge: age, HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: secure(c.Request)})
}

// askToSignIn sends a browser to the sign-in page, and back from there to where it was.
func (s *Server) askToSignIn(c *gin.Context) {
	defer c.Abort()
	to := "/sign-in"
	switch {
	case fromHTMX(c):
		if u, err := url.Parse(c.GetHeader("HX-Current-URL")); err == nil && u.Path != "" {
			to += "?" + url.Values{"to": {u.RequestURI()}}.Encode()
		}
		c.Header("HX-Redirect", to)
		c.Status(http.StatusUnauthorized)
	case c.Request.Method == http.MethodGet:
		if c.Request.URL.Path != "/" {
			to += "?" + url.Values{"to": {c.Request.URL.RequestURI()}}.Encode()
		}
		c.Redirect(http.StatusSeeOther, to)
	default: // what was typed is still in the browser
		s.plain(c, http.StatusUnauthorized, "You are not signed in any more. Sign in in another tab, then go back here and send it once more: what you typed is still there.")
	}
}

// plain says something on a page of its own, or as a notice.
func (s *Server) plain(c *gin.Context, status int, text string) {
	if fromHTMX(c) {
		c.Header("HX-Retarget", "#notices")
		c.Header("HX-Reswap", "innerHTML")
		s.views.fragment(c, status, "notice", notice{Text: text, Bad: status >= 400})
		return
	}
	s.views.page(c, status, "error", pageData{Title: "Not now", Body: failure{Status: status, What: text, Safe: "Nothing was changed.", Link: "/", Text: "To the desk"}})
}

// visitorOf is who asks.
func visitorOf(c *gin.Context) *study.Visitor { return c.MustGet(visitorKey).(*study.Visitor) }
