package kit

import (
	_ "embed"
	"errors"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// isLook tells the methods that change nothing.
func isLook(method string) bool { return method == http.MethodGet || method == http.MethodHead }

// signedIn finds who asks, and in which publication; whoever is nobody is asked to sign in.
func (s *Kit) signedIn(c *gin.Context) {
	v, err := s.Who(c)
	switch {
	case errors.Is(err, store.ErrNotFound):
		s.askToSignIn(c)
		return
	case errors.Is(err, account.ErrNowhere):
		c.Set(visitorKey, v)
		if route := c.FullPath(); strings.HasPrefix(route, "/account") || route == "/sign-out" || route == "/publications" || route == "/publications/:publication/bring-back" {
			return
		}
		if c.Request.Method == http.MethodGet && !FromHTMX(c) {
			c.Redirect(http.StatusSeeOther, "/account")
		} else {
			s.Plain(c, http.StatusForbidden, "You are a member of no publication any more.")
		}
		c.Abort()
		return
	case err != nil:
		s.Fail(c, err)
		c.Abort()
		return
	}
	if err := s.whereStudyIs(c, v); err != nil {
		s.Fail(c, err)
		c.Abort()
		return
	}
	c.Set(visitorKey, v)
	c.Set(PublicationKey, v.Publication)
	// What one person may see no cache keeps, not the browser's either: who sits down at it next, when
	// somebody has signed out, does not find it by going back.
	c.Header("Cache-Control", "no-store")
	if !v.Role.May(s.MinRole(isLook(c.Request.Method), c.FullPath())) {
		s.Plain(c, http.StatusForbidden, message.Of("As %s of %s you cannot do this; an owner of the publication can change that.", article(v.Role), v.Publication.Name))
		c.Abort()
	}
}

// whereStudyIs takes whoever comes to a study of another of their publications there: a link to
// it need not say which that is.
func (s *Kit) whereStudyIs(c *gin.Context, v *account.Visitor) error {
	id, err := strconv.ParseInt(c.Param("study"), 10, 64)
	if err != nil || len(v.Others) < 2 {
		return nil
	}
	var mine []int64
	for _, m := range v.Others {
		mine = append(mine, m.ID)
	}
	at, err := s.Store.Across(mine).PublicationOfStudy(c.Request.Context(), id)
	if errors.Is(err, store.ErrNotFound) || at == v.Publication.ID {
		return nil // withStudy says so
	}
	if err != nil {
		return err
	}
	i := slices.IndexFunc(v.Others, func(m store.Membership) bool { return m.ID == at })
	v.Publication, v.Role = v.Others[i].Publication, v.Others[i].Role
	if c.Request.Method == http.MethodGet && !FromHTMX(c) && v.Session.ID != 0 {
		return account.Enter(c.Request.Context(), s.Store, v.Session.ID, at)
	}
	return nil
}

func article(r store.Role) string {
	if r == store.Owner || r == store.Editor {
		return "an " + string(r)
	}
	return "a " + string(r)
}

// Who is who asks, of a page that everybody may see; store.ErrNotFound for nobody.
func (s *Kit) Who(c *gin.Context) (*account.Visitor, error) {
	ctx := c.Request.Context()
	if s.Visitor != nil {
		return s.Visitor(c.Request)
	}
	token := SessionIn(c)
	v, err := account.Who(ctx, s.Store, token, time.Now())
	if s.SignInAs == 0 || !errors.Is(err, store.ErrNotFound) {
		return v, err
	}
	if token, err = account.SignInAs(ctx, s.Store, s.SignInAs, c.Request.UserAgent()); err != nil {
		return nil, err
	}
	KeepSession(c, token)
	return account.Who(ctx, s.Store, token, time.Now())
}

// SessionIn is the token of the session that a browser has; empty for none.
func SessionIn(c *gin.Context) string { return cookieIn(c, SessionCookie) }

// KnownIn is what a browser keeps since somebody's password has let it in; empty for nothing.
func KnownIn(c *gin.Context) string { return cookieIn(c, knownCookie) }

func cookieIn(c *gin.Context, name string) string {
	text, _ := c.Cookie(hostCookie(c.Request, name)) // none is an empty one
	return text
}

// hostCookie is what a cookie is called: over TLS with the prefix by which browsers take it from this
// host alone, for all of it (RFC 6265bis, section 4.1.3.2).
func hostCookie(r *http.Request, name string) string {
	if Secure(r) {
		return "__Host-" + name
	}
	return name
}

// KeepSession gives the browser its session; an empty one takes it away.
func KeepSession(c *gin.Context, token string) { keep(c, SessionCookie, token, 30*24*3600) }

// KeepKnown has the browser remember that somebody's password has let it in.
func KeepKnown(c *gin.Context, known string) {
	if known != "" {
		keep(c, knownCookie, known, 365*24*3600)
	}
}

func keep(c *gin.Context, name, text string, seconds int) {
	if text == "" {
		seconds = -1
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: hostCookie(c.Request, name), Value: text, Path: "/", MaxAge: seconds, HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: Secure(c.Request)})
}

// askToSignIn sends a browser to the sign-in page, and back from there to where it was.
func (s *Kit) askToSignIn(c *gin.Context) {
	defer c.Abort()
	to := "/sign-in"
	switch {
	case FromHTMX(c):
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
		s.Plain(c, http.StatusUnauthorized, "You are not signed in any more. Sign in in another tab, then go back here and send it once more: what you typed is still there.")
	}
}

const (
	visitorKey = "visitor"
)

// ownNeeds are those of the kit itself.
var ownNeeds = []Need{{Route: "/studies/:study/undo", Role: store.Editor}, {Route: "/studies/:study/redo", Role: store.Editor}, {Route: "/studies/:study/here", Role: store.Reader}}
