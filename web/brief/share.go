package brief

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// shareBody is the links to a brief, and the remarks that came by them.
type shareBody struct {
	Study   store.Study
	Links   []store.ShareLink
	Made    string // the address of the link just made, which cannot be shown again
	Problem message.Message
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

func (s *handlers) share(c *gin.Context) { s.sharePage(c, http.StatusOK, shareBody{Days: "30"}) }

func (s *handlers) sharePage(c *gin.Context, status int, body shareBody) {
	var err error
	body.Study, body.Now = kit.StudyOf(c), time.Now()
	if body.Links, err = s.Scope(c).Links(c.Request.Context(), body.Study.ID); err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, status, "share", s.InStudy(c, "share", body))
}

// makeLink makes a link to the brief, and shows its address this once.
func (s *handlers) makeLink(c *gin.Context) {
	body := shareBody{Name: strings.Join(strings.Fields(c.PostForm("name")), " "), Days: strings.TrimSpace(c.PostForm("days"))}
	password := c.PostForm("password")
	days, err := strconv.Atoi(body.Days)
	switch {
	case body.Name == "" || utf8.RuneCountInString(body.Name) > kit.LongestAuthor:
		body.Problem = message.Of("Say whom the link is for, in at most %d characters.", kit.LongestAuthor)
	case body.Days != "" && (err != nil || days < 1 || days > longestDays):
		body.Problem = message.Of("A link lasts 1 to %d days; leave it empty for one that does not expire.", longestDays)
	case password != "" && (utf8.RuneCountInString(password) < shortestPassword || len(password) > longestPassword):
		body.Problem = message.Of("A password has at least %d characters.", shortestPassword)
	}
	if body.Problem != "" {
		s.sharePage(c, http.StatusUnprocessableEntity, body)
		return
	}
	token, err := s.Commands(c).Share(c.Request.Context(), kit.StudyOf(c).ID, study.Sharing{Name: body.Name, Remarks: c.PostForm("remarks") != "", Drafts: c.PostForm("drafts") != "", Password: password, Lasts: time.Duration(days) * 24 * time.Hour})
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Header("Cache-Control", "no-store")
	s.sharePage(c, http.StatusOK, shareBody{Days: "30", Made: kit.Origin(c.Request) + "/w/" + token})
}

// revokeLink shuts a link.
func (s *handlers) revokeLink(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("link"), 10, 64)
	if err == nil {
		err = s.Commands(c).Revoke(c.Request.Context(), kit.StudyOf(c).ID, id)
	} else {
		err = store.ErrNotFound
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/share", kit.StudyOf(c).ID))
}

// answerRemark answers a remark, or settles it.
func (s *handlers) answerRemark(c *gin.Context) {
	st, ctx := kit.StudyOf(c), c.Request.Context()
	id, err := strconv.ParseInt(c.Param("remark"), 10, 64)
	if err != nil {
		s.Fail(c, store.ErrNotFound)
		return
	}
	body := strings.TrimSpace(strings.ReplaceAll(c.PostForm("body"), "\r\n", "\n"))
	if utf8.RuneCountInString(body) > kit.LongestRemark {
		s.Say(c, http.StatusUnprocessableEntity, message.Of("An answer has at most %d characters.", kit.LongestRemark))
		return
	}
	if body != "" {
		err = s.Commands(c).Answer(ctx, st.ID, id, kit.AuthorOf(c), body)
	}
	if settle := c.PostForm("settle"); err == nil && settle != "" {
		err = s.Commands(c).SettleRemark(ctx, st.ID, id, settle == "yes")
	}
	switch {
	case errors.Is(err, store.ErrTooMany):
		s.Say(c, http.StatusUnprocessableEntity, message.Of("A brief holds at most %d remarks.", store.MaxRemarks))
	case err != nil:
		s.Fail(c, err)
	case !kit.FromHTMX(c):
		kit.Back(c, fmt.Sprintf("/studies/%d/brief", st.ID))
	default:
		s.Refreshed(c, kit.Notice{Text: "Answered."})
	}
}
