// Package writer is the brief as a link opens it, without an account.
package writer

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// The writer's page: a brief as its link opens it, without an account. Nothing else can be
// reached from it, and it says nothing of what else there is.

// writerBody is the writer's page.
type writerBody struct {
	Base    string
	Link    store.ShareLink
	Brief   brief.Brief
	Parts   []render.Part
	Dossier []render.Part // behind the brief, where it goes along
	Formats []render.Format
	At      string // the line a remark is being made on
	Author  string
	Done    int
	Of      int // lines to tick

	threads map[string][]parts.Thread
	ticks   map[string]bool
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
	Threads  []parts.Thread
}

// Line is what stands at the end of a line of the brief.
func (b *writerBody) Line(kind any, key, text string) writerLine {
	line := fmt.Sprint(kind) + " " + key
	return writerLine{Page: b, Line: line, ID: parts.LineID(line), Text: text, Tickable: tickable(line), Ticked: b.ticks[line], Asked: b.At == line, Threads: b.threads[line]}
}

// House is what the publication says in every brief, where the brief itself has no room for it.
func (b *writerBody) House() (list []render.Row) {
	short := b.Brief.Short()
	for _, name := range b.Brief.House {
		if short.Field(name) == "" && slices.Contains(brief.FieldsOfHead(), name) {
			list = append(list, render.Row{Label: b.Brief.In().Say(brief.FieldLabel(name)), Cells: []render.Cell{{Text: b.Brief.Field(name)}}})
		}
	}
	return list
}

// Reading is the page without ticks and remarks: those are of the brief itself.
func (b *writerBody) Reading() *writerBody {
	r := *b
	r.Link.Remarks = false
	return &r
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

// authorCookie keeps the name somebody signs remarks with.
const authorCookie = "corpulan_author"

// linkBody loads the brief of a link, with its remarks and ticks.
func (s *handlers) linkBody(c *gin.Context) (*writerBody, error) {
	l, ctx := kit.LinkOf(c), c.Request.Context()
	sc := s.Store.In(l.PublicationID)
	st, err := sc.Study(ctx, l.StudyID)
	if err != nil {
		return nil, err
	}
	an, err := s.Analyst.Analyse(ctx, sc, st)
	if err != nil {
		return nil, err
	}
	b := &writerBody{Base: "/w/" + c.Param("token"), Link: l, Formats: render.Formats()}
	if b.Brief, err = study.HandedOver(l, an); err != nil {
		return nil, err
	}
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
	b.threads = parts.Threads(remarks)
	b.Parts = render.InParts(render.Short(b.Brief))
	if l.Dossier {
		b.Dossier = render.InParts(render.Dossier(b.Brief))
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

func (s *handlers) writer(c *gin.Context) {
	if !kit.HasPass(c) {
		s.AskPassword(c, http.StatusOK, "")
		return
	}
	b, err := s.linkBody(c)
	if err != nil {
		s.Shut(c, err)
		return
	}
	if err := study.NoteOpened(c.Request.Context(), s.Store, b.Link.ID); err != nil {
		s.Log.Error("noting that a link was opened", "error", err)
	}
	s.Sheet(c, http.StatusOK, "writer", kit.SheetData{Title: "Brief: " + b.Brief.Keyword, Keep: fmt.Sprintf("link %d", b.Link.ID)}, b)
}

// writerFile hands the brief over as a file.
func (s *handlers) writerFile(c *gin.Context) {
	f, ok := render.FormatNamed(c.Param("format"))
	if !ok {
		s.Shut(c, store.ErrNotFound)
		return
	}
	b, err := s.linkBody(c)
	if err != nil {
		s.Shut(c, err)
		return
	}
	var out bytes.Buffer
	if err := f.Write(&out, b.Brief); err != nil {
		s.Shut(c, err)
		return
	}
	kit.Attach(c, "brief", b.Brief.Keyword, f.Extension)
	c.Data(http.StatusOK, f.MediaType, out.Bytes())
}

// makeRemark keeps a remark on a line. What is wrong with it is said above the form, with all
// that was typed still in it.
func (s *handlers) makeRemark(c *gin.Context) {
	l := kit.LinkOf(c)
	b, err := s.linkBody(c)
	if err != nil {
		s.Shut(c, err)
		return
	}
	line, body := c.PostForm("line"), strings.TrimSpace(strings.ReplaceAll(c.PostForm("body"), "\r\n", "\n"))
	author := strings.Join(strings.Fields(c.PostForm("author")), " ")
	said, known := b.lines()[line]
	problem := message.Message("")
	switch {
	case !l.Remarks:
		problem = "This link is for reading only."
	case !known:
		problem = message.Of("This line is not in the brief any more. Your remark was not kept; copy it from here: %s", body)
	case body == "":
		problem = "The remark is empty."
	case utf8.RuneCountInString(body) > kit.LongestRemark || utf8.RuneCountInString(author) > kit.LongestAuthor:
		problem = message.Of("A remark has at most %d characters, a name %d. Go back to shorten it.", kit.LongestRemark, kit.LongestAuthor)
	}
	if problem != "" {
		s.Sheet(c, http.StatusUnprocessableEntity, "link-shut", kit.SheetData{Title: "Content brief"}, kit.Failure{What: problem, Link: b.Base, Text: "Back to the brief"})
		return
	}
	if author == "" {
		author = l.Name
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: authorCookie, Value: url.QueryEscape(author), Path: "/w/", MaxAge: 365 * 24 * 3600, HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: kit.Secure(c.Request)})
	err = study.For(s.Store.In(l.PublicationID), s.Queue, fmt.Sprintf("link %d", l.ID)).Remark(c.Request.Context(), &store.Remark{StudyID: l.StudyID, LinkID: &l.ID, Line: line, SaidOf: kit.Shorten(said, 200), Author: author, Body: body})
	switch {
	case errors.Is(err, store.ErrTooMany):
		s.Sheet(c, http.StatusUnprocessableEntity, "link-shut", kit.SheetData{Title: "Content brief"}, kit.Failure{What: message.Of("A brief holds at most %d remarks. Yours was not kept; copy it from here: %s", store.MaxRemarks, body), Link: b.Base, Text: "Back to the brief"})
	case err != nil && !kit.HasGone(c, err):
		s.Log.Error("a remark could not be kept", "error", err)
		status, what := s.Trouble(c, err)
		s.Sheet(c, status, "link-shut", kit.SheetData{Title: "Content brief"}, kit.Failure{Status: status, What: message.Of("%v Your remark was not kept; copy it from here: %s", cmp.Or(what, "Something went wrong on our side."), body), Link: b.Base, Text: "Back to the brief"})
	case err != nil:
		c.Abort()
	default:
		c.Redirect(http.StatusSeeOther, b.Base+"#"+parts.LineID(line))
	}
}

// tick says that a line is dealt with, or not any more.
func (s *handlers) tick(c *gin.Context) {
	l := kit.LinkOf(c)
	b, err := s.linkBody(c)
	if err != nil {
		s.Shut(c, err)
		return
	}
	line, done := c.PostForm("line"), c.PostForm("done") != ""
	if _, known := b.lines()[line]; !known || !l.Remarks {
		c.Status(http.StatusUnprocessableEntity)
		return
	}
	if err := study.For(s.Store.In(l.PublicationID), s.Queue, fmt.Sprintf("link %d", l.ID)).Tick(c.Request.Context(), l.StudyID, line, done); err != nil {
		s.Shut(c, err)
		return
	}
	if !kit.FromHTMX(c) {
		c.Redirect(http.StatusSeeOther, b.Base+"#"+parts.LineID(line))
		return
	}
	if b, err = s.linkBody(c); err != nil {
		s.Shut(c, err)
		return
	}
	s.Fragment(c, http.StatusOK, "writer-progress", b)
}
