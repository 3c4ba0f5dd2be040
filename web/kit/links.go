package kit

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

// withLink opens the link of an address. What is behind it is nobody else's to keep or to
// index; other sites are told of no address of ours in any case (Referrer-Policy).
func (s *Kit) withLink(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Cache-Control", "no-store")
	h.Set("X-Robots-Tag", "noindex, nofollow")
	l, err := study.OpenLink(c.Request.Context(), s.Store, c.Param("token"))
	if err != nil {
		s.Shut(c, err)
		c.Abort()
		return
	}
	c.Set(linkKey, l)
}

// Shut answers where a link does not open: the same whether there never was one, or it was
// revoked or has expired.
func (s *Kit) Shut(c *gin.Context, err error) {
	status, what, does := http.StatusNotFound, message.Message("This link opens nothing."), message.Message("It may be incomplete, or it was shut. Ask whoever sent it to you for a new one.")
	if !errors.Is(err, store.ErrNotFound) {
		s.Log.Error("a link could not be opened", "error", err)
		status, what, does = http.StatusServiceUnavailable, "The brief cannot be shown just now.", "Try again in a moment."
		if code, trouble := s.Trouble(c, err); trouble != "" {
			status, what = code, trouble
		}
	}
	s.Sheet(c, status, "link-shut", SheetData{Title: "Content brief"}, Failure{Status: status, What: what, Do: does})
}

// passCookie is the name of the cookie that says the password of a link was given.
func passCookie(l store.ShareLink) string { return fmt.Sprintf("corpulan_link_%d", l.ID) }

func HasPass(c *gin.Context) bool {
	l := LinkOf(c)
	if l.Password == "" {
		return true
	}
	pass, err := c.Cookie(passCookie(l))
	return err == nil && study.HasPass(l, c.Param("token"), pass)
}

// How often something may be written by one link, by one process. Our own: several people who write
// in one draft send a few steps a second.
const (
	linkASecond  = 10
	linkAtOnce   = 120
	maxBusyLinks = 10_000
)

func (s *Kit) withPass(c *gin.Context) {
	if !HasPass(c) {
		s.AskPassword(c, http.StatusForbidden, "")
		c.Abort()
		return
	}
	if isLook(c.Request.Method) {
		return
	}
	limit, err := s.writes.Get(c.Request.Context(), LinkOf(c).ID, func(context.Context, int64) (*rate.Limiter, error) {
		return rate.NewLimiter(linkASecond, linkAtOnce), nil
	})
	if err != nil {
		s.Shut(c, err)
		c.Abort()
		return
	}
	if !limit.Allow() {
		c.Header("Retry-After", "1")
		s.Sheet(c, http.StatusTooManyRequests, "link-shut", SheetData{Title: "Content brief"}, Failure{Status: http.StatusTooManyRequests, What: "This link is written by too often.", Do: "What you typed is still in this browser. Wait a moment, then try again."})
		c.Abort()
	}
}

// passwordBody asks for a link's password.
type passwordBody struct {
	Base    string
	Problem message.Message
}

func (s *Kit) AskPassword(c *gin.Context, status int, problem message.Message) {
	s.Sheet(c, status, "link-password", SheetData{Title: "Content brief"}, passwordBody{"/w/" + c.Param("token"), problem})
}

func (s *Kit) givePassword(c *gin.Context) {
	l, token := LinkOf(c), c.Param("token")
	err := study.CheckPassword(c.Request.Context(), s.Store, l, c.PostForm("password"), c.ClientIP(), time.Now())
	switch {
	case errors.Is(err, study.ErrWrongPassword):
		s.AskPassword(c, http.StatusForbidden, "This is not the password.")
	case errors.Is(err, account.ErrTooSoon):
		s.AskPassword(c, http.StatusTooManyRequests, "There were too many wrong passwords. Wait half a minute, then try again.")
	case err != nil:
		s.Shut(c, err)
	default:
		http.SetCookie(c.Writer, &http.Cookie{Name: passCookie(l), Value: study.Pass(l, token), Path: "/w/" + token, MaxAge: 30 * 24 * 3600, HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: Secure(c.Request)})
		c.Redirect(http.StatusSeeOther, "/w/"+token)
	}
}
