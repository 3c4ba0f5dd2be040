// Package people is signing in and out, the account, the second factor (factor.go), an issuer
// (openid.go), and the members of a publication (people.go).
package people

import (
	"errors"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/words"

	"github.com/gin-gonic/gin"
)

// Who asks: signing in and out, the account, the members of a publication.

// joinBody is the page that a link opens which is good once.
type joinBody struct {
	Ticket      store.Ticket
	Known       *store.Person
	Publication string // to become a member of; empty for a new password
	Email, Name string
	Wrong       message.Message
	Here        string // the address of the page
	who         int64  // signed in; 0 for nobody
}

// asks is the number of who asks, 0 for nobody.
func (s *handlers) asks(c *gin.Context) (int64, error) {
	v, err := s.Who(c)
	if errors.Is(err, store.ErrNotFound) {
		return 0, nil
	}
	if err != nil && !errors.Is(err, account.ErrNowhere) { // who is a member of nothing may be invited
		return 0, err
	}
	return v.Person.ID, nil
}

// Invites tells that the link makes somebody a member who has an account: they accept it signed in.
func (b joinBody) Invites() bool { return b.Known != nil && b.Ticket.PublicationID != nil }

// Theirs tells that they are signed in.
func (b joinBody) Theirs() bool { return b.Known != nil && b.Known.ID == b.who }

func (s *handlers) joinPage(c *gin.Context) { s.showJoin(c, http.StatusOK, joinBody{}) }

func (s *handlers) showJoin(c *gin.Context, status int, b joinBody) {
	ctx := c.Request.Context()
	c.Header("Referrer-Policy", "no-referrer")
	c.Header("Cache-Control", "no-store")
	var err error
	b.Ticket, b.Known, err = account.Ticket(ctx, s.Store, c.Param("ticket"))
	if err == nil {
		b.Here = c.Request.URL.Path
		b.who, err = s.asks(c)
	}
	if err == nil && b.Ticket.PublicationID != nil {
		var p store.Publication
		p, err = s.Store.In(*b.Ticket.PublicationID).Publication(ctx)
		b.Publication = p.Name
	}
	switch {
	case errors.Is(err, store.ErrNotFound):
		s.Page(c, http.StatusNotFound, "error", kit.PageData{Title: "This link is void", Body: kit.Failure{Status: http.StatusNotFound, What: "This link is not good any more.",
			Safe: "It was used, a newer one was made, or its week is over.", Do: "Ask whoever sent it for another.", Link: "/sign-in", Text: "Sign in"}})
	case err != nil:
		s.Fail(c, err)
	default:
		s.Page(c, status, "join", kit.PageData{Title: "Welcome", Place: "sign-in", Body: b})
	}
}

func (s *handlers) join(c *gin.Context) {
	b := joinBody{Email: strings.TrimSpace(c.PostForm("email")), Name: c.PostForm("name")}
	who, err := s.asks(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	token, err := account.TakeTicket(c.Request.Context(), s.Store, c.Param("ticket"), b.Email, b.Name, c.PostForm("password"), c.Request.UserAgent(), who)
	switch {
	case errors.Is(err, account.ErrTheirOwn), errors.Is(err, account.ErrName), errors.Is(err, account.ErrPassword), errors.Is(err, account.ErrCommon), errors.Is(err, account.ErrEmail), errors.Is(err, store.ErrTaken):
		b.Wrong = message.Fault(err)
		s.showJoin(c, http.StatusUnprocessableEntity, b)
	case errors.Is(err, store.ErrLastOwner):
		b.Wrong = "You are the only owner of this publication, and stay one."
		s.showJoin(c, http.StatusUnprocessableEntity, b)
	case errors.Is(err, store.ErrNotFound):
		s.showJoin(c, http.StatusOK, b) // which says that it is void
	case err != nil:
		s.Fail(c, err)
	case token == "" && who == 0:
		c.Redirect(http.StatusSeeOther, "/sign-in")
	case token == "":
		c.Redirect(http.StatusSeeOther, "/")
	default:
		s.letIn(c, token, "/")
	}
}

// BrowserOf names a browser.
func (b accountBody) BrowserOf(agent string) string { return account.BrowserOf(agent) }

// accountBody is somebody's own account.
type accountBody struct {
	*account.Visitor
	Sessions []store.Session
	Told     []store.Notice     // of what happened to the account, the newest first
	Archived []store.Membership // of which they are an owner
	Demo     bool
	Seals    bool                 // a second factor can be kept
	Factor   bool                 // they have one
	Left     int                  // codes that are good once
	Offer    *account.FactorOffer // to be taken
	Codes    []string             // that were just made, shown once
	Said     string
	Wrong    message.Message
	Longest  int
}

// maxTold is how much of what happened to an account it lists. Our own.
const maxTold = 12

// Says is what a notice says.
func (b accountBody) Says(n store.Notice) message.Message { return account.Says(n) }

func (s *handlers) account(c *gin.Context) { s.showAccount(c, http.StatusOK, accountBody{}) }

func (s *handlers) showAccount(c *gin.Context, status int, b accountBody) {
	b.Visitor = kit.VisitorOf(c)
	var err error
	if b.Sessions, err = s.Store.Sessions(c.Request.Context(), b.Person.ID); err != nil {
		s.Fail(c, err)
		return
	}
	if b.Told, err = s.Store.AccountNotices(c.Request.Context(), b.Person.ID, maxTold); err != nil {
		s.Fail(c, err)
		return
	}
	p, err := s.Store.Person(c.Request.Context(), b.Person.ID)
	if err != nil && !errors.Is(err, store.ErrNotFound) { // tests sign nobody in
		s.Fail(c, err)
		return
	}
	b.Seals, b.Factor, b.Left = s.Sealer != nil, p.Totp != nil, len(p.Recovery)
	if b.Archived, err = s.Store.ArchivedOf(c.Request.Context(), b.Person.ID); err != nil {
		s.Fail(c, err)
		return
	}
	b.Demo, b.Longest = s.SignInAs != 0, account.LongestPassword
	s.Page(c, status, "account", s.InPublication(c, "account", "Account", b))
}

func (s *handlers) setName(c *gin.Context) {
	err := account.SetName(c.Request.Context(), s.Store, kit.VisitorOf(c).Person.ID, c.PostForm("name"))
	switch {
	case errors.Is(err, account.ErrName):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Wrong: message.Fault(err)})
	case err != nil:
		s.Fail(c, err)
	default:
		c.Redirect(http.StatusSeeOther, "/account")
	}
}

// setReading keeps the language of the interface for somebody, and whether notices are mailed.
func (s *handlers) setReading(c *gin.Context) {
	ctx, who, code := c.Request.Context(), kit.VisitorOf(c).Person.ID, c.PostForm("language")
	if code != "" && !slices.Contains(words.Codes(), code) {
		s.Fail(c, store.ErrNotFound)
		return
	}
	if err := account.SetReading(ctx, s.Store, who, code, c.PostForm("mail") != ""); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/account")
}

// Languages are those of the interface.
func (b accountBody) Languages() []string { return words.Codes() }

func (s *handlers) changePassword(c *gin.Context) {
	err := account.ChangePassword(c.Request.Context(), s.Store, kit.VisitorOf(c), c.PostForm("was"), c.PostForm("password"), time.Now())
	switch {
	case errors.Is(err, account.ErrSignIn):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Wrong: "This is not the password you have now. Nothing was changed."})
	case errors.Is(err, account.ErrPassword), errors.Is(err, account.ErrCommon), errors.Is(err, account.ErrTooSoon):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Wrong: message.Fault(err)})
	case err != nil:
		s.Fail(c, err)
	default:
		s.remember(c, kit.SessionIn(c))
		s.showAccount(c, http.StatusOK, accountBody{Said: "The password is changed. You are signed out everywhere but here."})
	}
}

func (s *handlers) signOutElsewhere(c *gin.Context) {
	if err := account.EndOtherSessions(c.Request.Context(), s.Store, kit.VisitorOf(c)); err != nil {
		s.Fail(c, err)
		return
	}
	s.showAccount(c, http.StatusOK, accountBody{Said: "You are signed out everywhere but here."})
}

func (s *handlers) endSession(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("session"), 10, 64)
	if err == nil {
		err = account.EndSession(c.Request.Context(), s.Store, kit.VisitorOf(c).Person.ID, id)
	} else {
		err = store.ErrNotFound
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/account")
}

// createPublication makes a publication of which the one who asks is the owner. Whoever owns
// none yet asks an owner.
func (s *handlers) createPublication(c *gin.Context) {
	ctx, v := c.Request.Context(), kit.VisitorOf(c)
	name := strings.Join(strings.Fields(c.PostForm("name")), " ")
	switch {
	case !slices.ContainsFunc(v.Others, func(m store.Membership) bool { return m.Role == store.Owner }):
		s.Plain(c, http.StatusForbidden, "Only owners of a publication make another.")
		return
	case name == "" || len([]rune(name)) > kit.LongestName:
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Wrong: message.Of("A publication has a name of at most %d characters.", kit.LongestName)})
		return
	}
	err := account.CreatePublication(ctx, s.Store, v, name)
	if errors.Is(err, store.ErrTaken) {
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Wrong: "Another publication is called so."})
		return
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/publication")
}

// openPublication goes over to another publication of which the one who asks is a member.
func (s *handlers) openPublication(c *gin.Context) {
	v := kit.VisitorOf(c)
	id, err := strconv.ParseInt(c.Param("publication"), 10, 64)
	if err != nil || !slices.ContainsFunc(v.Others, func(m store.Membership) bool { return m.ID == id }) {
		s.Fail(c, store.ErrNotFound)
		return
	}
	if err := account.Enter(c.Request.Context(), s.Store, v.Session.ID, id); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/")
}

// bringBackPublication takes a publication out of the archive, for one of its owners.
func (s *handlers) bringBackPublication(c *gin.Context) {
	ctx, v := c.Request.Context(), kit.VisitorOf(c)
	id, err := strconv.ParseInt(c.Param("publication"), 10, 64)
	if err != nil {
		s.Fail(c, store.ErrNotFound)
		return
	}
	if err := account.BringPublicationBack(ctx, s.Store, v, id); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/")
}

// maxHashing is how many passwords are looked at at once. Our own: 150 MiB.
const maxHashing = 8
