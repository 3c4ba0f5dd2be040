package web

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// shareBody is the links to a brief, and the remarks that came by them.
type shareBody struct {
	Study   store.Study
	Links   []store.ShareLink
	Made    string // the address of the link just made, which cannot be shown again
	Problem string
	Name    string // as typed
	Days    string
	Now     time.Time
}

// State says in a word whether a link opens.
func (b shareBody) State(l store.ShareLink) string {
	switch {
	case l.RevokedAt != nil:
		return "revoked"
	case l.ExpiresAt != nil && l.ExpiresAt.Before(b.Now):
		return "expired"
	}
	return "open"
}

// Bounds of links.
const (
	longestDays      = 3650
	shortestPassword = 8
	longestPassword  = 200
)

func (s *Server) share(c *gin.Context) { s.sharePage(c, http.StatusOK, shareBody{Days: "30"}) }

func (s *Server) sharePage(c *gin.Context, status int, body shareBody) {
	var err error
	body.Study, body.Now = studyOf(c), time.Now()
	if body.Links, err = s.scope(c).Links(c.Request.Context(), body.Study.ID); err != nil {
		s.fail(c, err)
		return
	}
	s.views.page(c, status, "share", s.inStudy(c, "share", body))
}

// makeLink makes a link to the brief, and shows its address this once.
func (s *Server) makeLink(c *gin.Context) {
	body := shareBody{Name: strings.Join(strings.Fields(c.PostForm("name")), " "), Days: strings.TrimSpace(c.PostForm("days"))}
	password := c.PostForm("password")
	days, err := strconv.Atoi(body.Days)
	switch {
	case body.Name == "" || utf8.RuneCountInString(body.Name) > longestAuthor:
		body.Problem = fmt.Sprintf("Say whom the link is for, in at most %d characters.", longestAuthor)
	case body.Days != "" && (err != nil || days < 1 || days > longestDays):
		body.Problem = fmt.Sprintf("A link lasts 1 to %d days; leave it empty for one that does not expire.", longestDays)
	case password != "" && (utf8.RuneCountInString(password) < shortestPassword || len(password) > longestPassword):
		body.Problem = fmt.Sprintf("A password has at least %d characters.", shortestPassword)
	}
	if body.Problem != "" {
		s.sharePage(c, http.StatusUnprocessableEntity, body)
		return
	}
	token, err := s.commands(c).Share(c.Request.Context(), studyOf(c).ID, study.Sharing{Name: body.Name, Remarks: c.PostForm("remarks") != "", Drafts: c.PostForm("drafts") != "", Password: password, Lasts: time.Duration(days) * 24 * time.Hour})
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Header("Cache-Control", "no-store")
	s.sharePage(c, http.StatusOK, shareBody{Days: "30", Made: origin(c.Request) + "/w/" + token})
}

// revokeLink shuts a link.
func (s *Server) revokeLink(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("link"), 10, 64)
	if err == nil {
		err = s.commands(c).Revoke(c.Request.Context(), studyOf(c).ID, id)
	} else {
		err = store.ErrNotFound
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/share", studyOf(c).ID))
}

// answerRemark answers a remark, or settles it.
func (s *Server) answerRemark(c *gin.Context) {
	st, sc, ctx := studyOf(c), s.scope(c), c.Request.Context()
	id, err := strconv.ParseInt(c.Param("remark"), 10, 64)
	if err != nil {
		s.fail(c, store.ErrNotFound)
		return
	}
	body := strings.TrimSpace(strings.ReplaceAll(c.PostForm("body"), "\r\n", "\n"))
	if utf8.RuneCountInString(body) > longestRemark {
		s.say(c, http.StatusUnprocessableEntity, fmt.Sprintf("An answer has at most %d characters.", longestRemark))
		return
	}
	if body != "" {
		err = s.commands(c).Answer(ctx, st.ID, id, authorOf(c), body)
	}
	if settle := c.PostForm("settle"); err == nil && settle != "" {
		err = sc.Settle(ctx, st.ID, id, settle == "yes")
	}
	switch {
	case errors.Is(err, store.ErrTooMany):
		s.say(c, http.StatusUnprocessableEntity, fmt.Sprintf("A brief holds at most %d remarks.", store.MostRemarks))
	case err != nil:
		s.fail(c, err)
	case !fromHTMX(c):
		back(c, fmt.Sprintf("/studies/%d/brief", st.ID))
	default:
		s.refreshed(c, notice{Text: "Answered."})
	}
}
