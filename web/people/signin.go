package people

import (
	"errors"
	"net/http"
	"net/url"
	"strings"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// signInBody is the page on which somebody signs in.
type signInBody struct {
	Email, To string
	Wrong     message.Message
	Anybody   bool   // there are accounts
	Issuer    string // by which one may sign in; empty for none
}

func (s *handlers) signInPage(c *gin.Context) {
	s.showSignIn(c, http.StatusOK, signInBody{To: ourPath(c.Query("to"))})
}

func (s *handlers) showSignIn(c *gin.Context, status int, b signInBody) {
	var err error
	if b.Anybody, err = s.Store.AnyPeople(c.Request.Context()); err != nil {
		s.Fail(c, err)
		return
	}
	if s.openID != nil {
		b.Issuer = s.openID.Name
	}
	s.Page(c, status, "sign-in", kit.PageData{Title: "Sign in", Place: "sign-in", Body: b})
}

// ourPath is a path of ours to go on to; the desk for everything else.
func ourPath(to string) string {
	u, err := url.Parse(to)
	if err != nil || u.IsAbs() || u.Host != "" || !strings.HasPrefix(u.Path, "/") || strings.HasPrefix(to, "//") || strings.Contains(to, `\`) {
		return "/"
	}
	return u.RequestURI()
}

func (s *handlers) signIn(c *gin.Context) {
	b := signInBody{Email: strings.TrimSpace(c.PostForm("email")), To: ourPath(c.PostForm("to"))}
	password := c.PostForm("password")
	var token, pending string
	err := account.ErrSignIn
	if len(password) <= 4*account.LongestPassword && len(b.Email) < 300 {
		// A few at a time: each takes 19 MiB and some milliseconds of a core.
		if err := s.hashing.Acquire(c.Request.Context(), 1); err != nil {
			s.Fail(c, err)
			return
		}
		defer s.hashing.Release(1)
		token, pending, err = account.SignIn(c.Request.Context(), s.Store, s.Sealer, b.Email, password, askerOf(c), time.Now())
	}
	switch {
	case errors.Is(err, account.ErrSignIn):
		s.refused(c, "password")
		b.Wrong = "This address and this password do not belong together."
		s.showSignIn(c, http.StatusUnprocessableEntity, b)
	case errors.Is(err, account.ErrTooSoon):
		s.refused(c, "too soon")
		b.Wrong = "Too many wrong passwords from here. Wait half a minute."
		s.showSignIn(c, http.StatusTooManyRequests, b)
	case err != nil:
		s.Fail(c, err)
	case pending != "":
		s.askCode(c, http.StatusOK, codeBody{Pending: pending, To: b.To})
	default:
		s.letIn(c, token, b.To)
	}
}

// askerOf is where somebody comes from who signs in.
func askerOf(c *gin.Context) account.Asker {
	return account.Asker{From: c.ClientIP(), Agent: c.Request.UserAgent(), Had: kit.SessionIn(c), Known: kit.KnownIn(c)}
}

// letIn gives the browser its session, remembers that it has been let in, and goes on.
func (s *handlers) letIn(c *gin.Context, token, to string) {
	kit.KeepSession(c, token)
	s.remember(c, token)
	c.Redirect(http.StatusSeeOther, to)
}

// remember leaves with a browser that it was let in by the password that its person has now.
func (s *handlers) remember(c *gin.Context, token string) {
	if v, err := account.Who(c.Request.Context(), s.Store, token, time.Now()); v != nil && (err == nil || errors.Is(err, account.ErrNowhere)) {
		kit.KeepKnown(c, account.KnownBy(v.Person))
	}
}

// refused is a line in the log for a sign-in that was refused; whose account was meant stands in none.
func (s *handlers) refused(c *gin.Context, why string) {
	s.Log.Warn("a sign-in was refused", "why", why, "from", c.ClientIP())
}

// codeBody is the page that asks for a code of the second factor.
type codeBody struct {
	Pending, To string
	Wrong       message.Message
}

func (s *handlers) askCode(c *gin.Context, status int, b codeBody) {
	s.Page(c, status, "sign-in-code", kit.PageData{Title: "Sign in", Place: "sign-in", Body: b})
}

func (s *handlers) signOut(c *gin.Context) {
	token := kit.SessionIn(c)
	if err := account.SignOut(c.Request.Context(), s.Store, token); err != nil {
		s.Fail(c, err)
		return
	}
	kit.KeepSession(c, "")
	c.Redirect(http.StatusSeeOther, "/sign-in")
}
