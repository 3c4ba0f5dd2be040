package brief

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/core/message"
	"corpulan/render"
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
	Name    string // as typed, or who writes
	For     string // as typed into the form for somebody else
	Other   bool   // the form for somebody else was sent
	Due     string
	Days    string
	Now     time.Time

	Words    int           // that the page is to have
	Revision int           // of the brief as it now is
	Changed  map[int64]int // lines of the brief that have changed since a link's was handed over, by its number
	Formats  []render.Format
	Dossier  bool   // goes along unless somebody says otherwise
	Mail     string // to whom it is handed over
}

// Behind tells how many lines have changed since a link's state was handed over.
func (b shareBody) Behind(l store.ShareLink) int {
	return b.Changed[l.ID]
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
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	body.Words, body.Revision, body.Formats = an.Brief.Words.Target, an.Saved.Revision, render.Formats()
	body.Name, body.Due = cmp.Or(body.Name, an.Brief.Front.Writer), cmp.Or(body.Due, an.Brief.Front.Due)
	if body.Made != "" {
		due := body.Due
		if body.For != "" { // who reads along has no day
			due = ""
		}
		body.Mail = render.Mail(an.Brief, cmp.Or(body.For, body.Name), due, body.Made)
	}
	body.Dossier, body.Changed = an.Brief.Dossier, map[int64]int{}
	if body.Links, err = s.Scope(c).Links(c.Request.Context(), body.Study.ID); err != nil {
		s.Fail(c, err)
		return
	}
	for _, l := range body.Links {
		if l.Document == nil || body.State(l) != "open" {
			continue
		}
		then, err := study.HandedOver(l, an.Analysis)
		if err != nil {
			s.Fail(c, err)
			return
		}
		body.Changed[l.ID] = len(render.Compare(then, an.Brief))
	}
	s.Page(c, status, "share", s.InStudy(c, "share", body))
}

// makeLink makes a link to the brief, and shows its address this once.
func (s *handlers) makeLink(c *gin.Context) { s.make(c, true, s.Commands(c).Share) }

// handOver hands the brief over as it now is: to whom, by when, and by a link.
func (s *handlers) handOver(c *gin.Context) { s.make(c, false, s.Commands(c).HandOver) }

// handAgain has a link show the brief as it now is.
func (s *handlers) handAgain(c *gin.Context) { s.toLink(c, s.Commands(c).HandAgain) }

// handBack has a link show again what it showed before.
func (s *handlers) handBack(c *gin.Context) { s.toLink(c, s.Commands(c).HandBack) }

// toLink does something to the link of the address, by study and number, and shows the links.
func (s *handlers) toLink(c *gin.Context, do func(ctx context.Context, study, link int64) error) {
	id, err := strconv.ParseInt(c.Param("link"), 10, 64)
	if err == nil {
		err = do(c.Request.Context(), kit.StudyOf(c).ID, id)
	} else {
		err = store.ErrNotFound
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/share", kit.StudyOf(c).ID))
}

func (s *handlers) make(c *gin.Context, other bool, by func(context.Context, int64, study.Sharing) (string, error)) {
	body := shareBody{Due: strings.TrimSpace(c.PostForm("due")), Name: strings.Join(strings.Fields(c.PostForm("name")), " "), Days: strings.TrimSpace(c.PostForm("days"))}
	password := c.PostForm("password")
	days, err := strconv.Atoi(body.Days)
	switch {
	case body.Name == "" || utf8.RuneCountInString(body.Name) > kit.LongestAuthor:
		body.Problem = message.Of("Say whom the link is for, in at most %d characters.", kit.LongestAuthor)
	case body.Days != "" && (err != nil || days < 1 || days > longestDays):
		body.Problem = message.Of("A link lasts 1 to %d days; leave it empty for one that does not expire.", longestDays)
	case password != "" && (utf8.RuneCountInString(password) < shortestPassword || len(password) > longestPassword):
		body.Problem = message.Of("A password has at least %d characters.", shortestPassword)
	case body.Due != "" && !isDay(body.Due):
		body.Problem = "A day is written 2026-12-24."
	}
	to := body.Name
	if body.Other = other; other {
		body.Name, body.For = "", to
	}
	if body.Problem != "" {
		s.sharePage(c, http.StatusUnprocessableEntity, body)
		return
	}
	token, err := by(c.Request.Context(), kit.StudyOf(c).ID, study.Sharing{Name: to, Due: body.Due, Dossier: c.PostForm("dossier") != "", Remarks: c.PostForm("remarks") != "", Drafts: c.PostForm("drafts") != "", Password: password, Lasts: time.Duration(days) * 24 * time.Hour})
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Header("Cache-Control", "no-store")
	s.sharePage(c, http.StatusOK, shareBody{Days: "30", Name: body.Name, For: body.For, Due: body.Due, Made: kit.Origin(c.Request) + "/w/" + token})
}

func isDay(s string) bool {
	_, err := time.Parse(time.DateOnly, s)
	return err == nil
}

// revokeLink shuts a link.
func (s *handlers) revokeLink(c *gin.Context) { s.toLink(c, s.Commands(c).Revoke) }

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
