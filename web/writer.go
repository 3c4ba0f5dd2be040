package web

import (
	"bytes"
	"errors"
	"fmt"
	"hash/fnv"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/core/brief"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// The writer's page: a brief as its link opens it, without an account. Nothing else can be
// reached from it, and it says nothing of what else there is.

// linkRoutes are what can be done by a link. They know no publication but the link's.
func (s *Server) linkRoutes(r gin.IRouter) {
	w := r.Group("/w/:token", s.withLink)
	w.GET("", s.writer)
	w.POST("/password", s.givePassword)
	in := w.Group("", s.withPass)
	in.GET("/as/:format", s.writerFile)
	in.POST("/remarks", s.makeRemark)
	in.POST("/ticks", s.tick)
	s.draftRoutes(in.Group("/draft", s.linkDesk))
}

const linkKey = "link"

// withLink opens the link of an address. What is behind it is nobody else's to keep or to
// index; other sites are told of no address of ours in any case (Referrer-Policy).
func (s *Server) withLink(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Cache-Control", "no-store")
	h.Set("X-Robots-Tag", "noindex, nofollow")
	l, err := study.OpenLink(c.Request.Context(), s.store, c.Param("token"))
	if err != nil {
		s.shut(c, err)
		c.Abort()
		return
	}
	c.Set(linkKey, l)
}

func linkOf(c *gin.Context) store.ShareLink { return c.MustGet(linkKey).(store.ShareLink) }

// shut answers where a link does not open: the same whether there never was one, or it was
// revoked or has expired.
func (s *Server) shut(c *gin.Context, err error) {
	status, what, does := http.StatusNotFound, "This link opens nothing.", "It may be incomplete, or it was shut. Ask whoever sent it to you for a new one."
	if !errors.Is(err, store.ErrNotFound) {
		s.log.Error("a link could not be opened", "error", err)
		status, what, does = http.StatusServiceUnavailable, "The brief cannot be shown just now.", "Try again in a moment."
	}
	s.views.sheet(c, status, "writer-shut", failure{Status: status, What: what, Do: does})
}

// passCookie is the name of the cookie that says the password of a link was given.
func passCookie(l store.ShareLink) string { return fmt.Sprintf("corpulan_link_%d", l.ID) }

func hasPass(c *gin.Context) bool {
	l := linkOf(c)
	if l.Password == "" {
		return true
	}
	pass, err := c.Cookie(passCookie(l))
	return err == nil && study.HasPass(l, c.Param("token"), pass)
}

func (s *Server) withPass(c *gin.Context) {
	if !hasPass(c) {
		s.askPassword(c, http.StatusForbidden, "")
		c.Abort()
	}
}

// passwordBody asks for a link's password.
type passwordBody struct{ Base, Problem string }

func (s *Server) askPassword(c *gin.Context, status int, problem string) {
	s.views.sheet(c, status, "writer-password", passwordBody{"/w/" + c.Param("token"), problem})
}

func (s *Server) givePassword(c *gin.Context) {
	l, token := linkOf(c), c.Param("token")
	err := study.CheckPassword(c.Request.Context(), s.store, l, c.PostForm("password"), time.Now())
	switch {
	case errors.Is(err, study.ErrWrongPassword):
		s.askPassword(c, http.StatusForbidden, "This is not the password.")
	case errors.Is(err, study.ErrTooSoon):
		s.askPassword(c, http.StatusTooManyRequests, "There were too many wrong passwords. Wait half a minute, then try again.")
	case err != nil:
		s.shut(c, err)
	default:
		http.SetCookie(c.Writer, &http.Cookie{Name: passCookie(l), Value: study.Pass(l, token), Path: "/w/" + token, MaxAge: 30 * 24 * 3600, HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: secure(c.Request)})
		c.Redirect(http.StatusSeeOther, "/w/"+token)
	}
}

// thread is a remark with its answers.
type thread struct {
	store.Remark
	Answers []store.Remark
}

// threads are the remarks of a brief, by line.
func threads(list []store.Remark) map[string][]thread {
	by := map[string][]thread{}
	for _, r := range list {
		if r.Answers == nil {
			by[r.Line] = append(by[r.Line], thread{Remark: r})
		}
	}
	for _, r := range list {
		if r.Answers == nil {
			continue
		}
		for _, of := range by {
			for i := range of {
				if of[i].ID == *r.Answers {
					of[i].Answers = append(of[i].Answers, r)
				}
			}
		}
	}
	return by
}

// writerBody is the writer's page.
type writerBody struct {
	Base    string
	Link    store.ShareLink
	Brief   brief.Brief
	Parts   []writerPart
	Formats []render.Format
	At      string // the line a remark is being made on
	Author  string
	Done    int
	Of      int // lines to tick

	threads map[string][]thread
	ticks   map[string]bool
}

// writerPart is a part of the document with its heading.
type writerPart struct {
	render.Block
	Body []render.Block
}

// writerLine is a line of the brief that can be ticked and remarked on.
type writerLine struct {
	Page     *writerBody
	Line     string
	ID       string
	Text     string
	Tickable bool
	Ticked   bool
	Asked    bool
	Threads  []thread
}

// Line is what stands at the end of a line of the brief.
func (b *writerBody) Line(kind any, key, text string) writerLine {
	line := fmt.Sprint(kind) + " " + key
	return writerLine{Page: b, Line: line, ID: lineID(line), Text: text, Tickable: tickable(line), Ticked: b.ticks[line], Asked: b.At == line, Threads: b.threads[line]}
}

// Source is the page of a rank.
func (b *writerBody) Source(rank int) *brief.Source {
	for i := range b.Brief.Sources {
		if b.Brief.Sources[i].Rank == rank {
			return &b.Brief.Sources[i]
		}
	}
	return nil
}

// tickable tells the lines that a writer works off: not what a page is for, but what it is to
// hold.
func tickable(line string) bool {
	kind, key, _ := strings.Cut(line, " ")
	if kind == "field" {
		return slices.Contains([]string{brief.FieldShortAnswer, brief.FieldMedia, brief.FieldSummary, brief.FieldStructuredData, brief.FieldTitleTag, brief.FieldMetaDescription}, key)
	}
	return slices.Contains([]string{"theme", "question", "term", "fact", "link"}, kind)
}

// lineID names a line within a page.
func lineID(line string) string {
	h := fnv.New64a()
	_, _ = h.Write([]byte(line)) // never fails
	return fmt.Sprintf("l%x", h.Sum64())
}

// authorCookie keeps the name somebody signs remarks with.
const authorCookie = "corpulan_author"

// linkBody loads the brief of a link, with its remarks and ticks.
func (s *Server) linkBody(c *gin.Context) (*writerBody, error) {
	l, ctx := linkOf(c), c.Request.Context()
	sc := s.store.In(l.PublicationID)
	st, err := sc.Study(ctx, l.StudyID)
	if err != nil {
		return nil, err
	}
	an, err := s.analyst.Analyse(ctx, sc, st)
	if err != nil {
		return nil, err
	}
	b := &writerBody{Base: "/w/" + c.Param("token"), Link: l, Brief: an.Brief, Formats: render.Formats()}
	if l.Remarks {
		b.At = c.Query("remark")
		b.Author, _ = c.Cookie(authorCookie)
	}
	remarks, err := sc.Remarks(ctx, st.ID)
	if err != nil {
		return nil, err
	}
	if b.ticks, err = sc.Ticks(ctx, st.ID); err != nil {
		return nil, err
	}
	b.threads = threads(remarks)
	b.Parts = []writerPart{{}}
	for _, k := range render.Filled(an.Brief) {
		if k.Form == render.PartForm {
			b.Parts = append(b.Parts, writerPart{Block: k})
			continue
		}
		last := &b.Parts[len(b.Parts)-1]
		last.Body = append(last.Body, k)
	}
	for line := range b.lines() {
		if tickable(line) {
			b.Of++
			if b.ticks[line] {
				b.Done++
			}
		}
	}
	return b, nil
}

// lines are all lines of the page, with what they say.
func (b *writerBody) lines() map[string]string {
	lines := map[string]string{}
	for _, p := range b.Parts {
		for _, k := range p.Body {
			switch {
			case k.Form == render.SectionForm:
				lines["theme "+k.Key] = k.Text
			case k.Form == render.TypedForm:
				lines["field "+k.Field] = k.Text
			}
			for _, r := range k.Rows {
				if r.Kind != "" {
					lines[fmt.Sprint(r.Kind)+" "+r.Key] = r.First().Text
				} else if r.Field != "" {
					lines["field "+r.Field] = r.First().Text
				}
			}
		}
	}
	return lines
}

func (s *Server) writer(c *gin.Context) {
	if !hasPass(c) {
		s.askPassword(c, http.StatusOK, "")
		return
	}
	b, err := s.linkBody(c)
	if err != nil {
		s.shut(c, err)
		return
	}
	if err := s.store.NoteOpened(c.Request.Context(), b.Link.ID); err != nil {
		s.log.Error("noting that a link was opened", "error", err)
	}
	s.views.sheet(c, http.StatusOK, "writer", b)
}

// writerFile hands the brief over as a file.
func (s *Server) writerFile(c *gin.Context) {
	f, ok := render.FormatNamed(c.Param("format"))
	if !ok {
		s.shut(c, store.ErrNotFound)
		return
	}
	b, err := s.linkBody(c)
	if err != nil {
		s.shut(c, err)
		return
	}
	var out bytes.Buffer
	if err := f.Write(&out, b.Brief); err != nil {
		s.shut(c, err)
		return
	}
	attach(c, "brief", b.Brief.Keyword, f.Extension)
	c.Data(http.StatusOK, f.MediaType, out.Bytes())
}

// Bounds of a remark, in characters.
const (
	longestRemark = 4000
	longestAuthor = 60
)

// makeRemark keeps a remark on a line. What is wrong with it is said above the form, with all
// that was typed still in it.
func (s *Server) makeRemark(c *gin.Context) {
	l := linkOf(c)
	b, err := s.linkBody(c)
	if err != nil {
		s.shut(c, err)
		return
	}
	line, body := c.PostForm("line"), strings.TrimSpace(strings.ReplaceAll(c.PostForm("body"), "\r\n", "\n"))
	author := strings.Join(strings.Fields(c.PostForm("author")), " ")
	said, known := b.lines()[line]
	problem := ""
	switch {
	case !l.Remarks:
		problem = "This link is for reading only."
	case !known:
		problem = "This line is not in the brief any more. Your remark was not kept; copy it from here: " + body
	case body == "":
		problem = "The remark is empty."
	case utf8.RuneCountInString(body) > longestRemark || utf8.RuneCountInString(author) > longestAuthor:
		problem = fmt.Sprintf("A remark has at most %d characters, a name %d. Go back to shorten it.", longestRemark, longestAuthor)
	}
	if problem != "" {
		s.views.sheet(c, http.StatusUnprocessableEntity, "writer-shut", failure{What: problem, Link: b.Base, Text: "Back to the brief"})
		return
	}
	if author == "" {
		author = l.Name
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: authorCookie, Value: url.QueryEscape(author), Path: "/w/", MaxAge: 365 * 24 * 3600, HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: secure(c.Request)})
	err = study.For(s.store.In(l.PublicationID), s.queue, fmt.Sprintf("link %d", l.ID)).Remark(c.Request.Context(), &store.Remark{StudyID: l.StudyID, LinkID: &l.ID, Line: line, SaidOf: shorten(said, 200), Author: author, Body: body})
	switch {
	case errors.Is(err, store.ErrTooMany):
		s.views.sheet(c, http.StatusUnprocessableEntity, "writer-shut", failure{What: fmt.Sprintf("A brief holds at most %d remarks. Yours was not kept; copy it from here: %s", store.MostRemarks, body), Link: b.Base, Text: "Back to the brief"})
	case err != nil:
		s.shut(c, err)
	default:
		c.Redirect(http.StatusSeeOther, b.Base+"#"+lineID(line))
	}
}

// tick says that a line is dealt with, or not any more.
func (s *Server) tick(c *gin.Context) {
	l := linkOf(c)
	b, err := s.linkBody(c)
	if err != nil {
		s.shut(c, err)
		return
	}
	line, done := c.PostForm("line"), c.PostForm("done") != ""
	if _, known := b.lines()[line]; !known || !l.Remarks {
		c.Status(http.StatusUnprocessableEntity)
		return
	}
	if err := s.store.In(l.PublicationID).Tick(c.Request.Context(), l.StudyID, line, done); err != nil {
		s.shut(c, err)
		return
	}
	if !fromHTMX(c) {
		c.Redirect(http.StatusSeeOther, b.Base+"#"+lineID(line))
		return
	}
	if b, err = s.linkBody(c); err != nil {
		s.shut(c, err)
		return
	}
	s.views.fragment(c, http.StatusOK, "writer-progress", b)
}
