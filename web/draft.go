package web

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/draft"
	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// The place where a draft is written: the same for those of the publication and for those who
// come by a link that allows it.

// desk is whose hands a draft is in.
type desk struct {
	Base     string // address of the place
	Author   string // as versions name them
	ByLink   bool
	scope    store.Scope
	commands study.Commands
	study    store.Study
}

const deskKey = "desk"

func deskOf(c *gin.Context) desk { return c.MustGet(deskKey).(desk) }

// ourDesk is that of the publication.
func (s *Server) ourDesk(c *gin.Context) {
	st := studyOf(c)
	c.Set(deskKey, desk{Base: fmt.Sprintf("/studies/%d/draft", st.ID), Author: authorOf(c), scope: s.scope(c), commands: s.commands(c), study: st})
}

// authorOf names who asks, for what they write: the publication where nobody is signed in by name.
func authorOf(c *gin.Context) string {
	if name := visitorOf(c).Person.Name; name != "" {
		return name
	}
	return publicationOf(c).Name
}

// nameOf is how others see who asks: by name, or a program by what its token is called.
func nameOf(c *gin.Context) string {
	if t, ok := c.Get(tokenKey); ok {
		return t.(store.Token).Name
	}
	return authorOf(c)
}

// linkDesk is that of somebody with a link; one that does not allow writing leads nowhere.
func (s *Server) linkDesk(c *gin.Context) {
	l := linkOf(c)
	sc := s.store.In(l.PublicationID)
	st, err := sc.Study(c.Request.Context(), l.StudyID)
	if !l.Drafts {
		err = store.ErrNotFound
	}
	if err != nil {
		s.shut(c, err)
		c.Abort()
		return
	}
	c.Set(deskKey, desk{Base: "/w/" + c.Param("token") + "/draft", Author: l.Name, ByLink: true, scope: sc, commands: study.For(sc, s.queue, fmt.Sprintf("link %d", l.ID)), study: st})
}

func (s *Server) draftRoutes(r gin.IRouter) {
	r.GET("", s.draft)
	r.GET("/state", s.draftState)
	r.POST("/steps", s.saveDraft)
	r.POST("/fit", s.draftFit)
	r.POST("/versions", s.keepVersion)
	r.GET("/versions/:version", s.draftVersion)
	r.GET("/compare", s.compareDrafts)
	r.POST("/import", s.importDraft)
	r.GET("/own", s.takeOwn)
	r.GET("/sentences", s.draftSentences)
	r.POST("/right", s.spelledRight)
	r.GET("/as/:format", s.draftAs)
}

// draftAs hands the text over as a file.
func (s *Server) draftAs(c *gin.Context) {
	d, ctx := deskOf(c), c.Request.Context()
	f, ok := render.DraftFormatNamed(c.Param("format"))
	if !ok {
		s.refuse(c, store.ErrNotFound)
		return
	}
	an, err := s.analyst.Analyse(ctx, d.scope, d.study)
	var n *draft.Node
	if err == nil {
		_, n, err = s.versionOf(c, c.DefaultQuery("version", "now"))
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	m, err := s.analyst.Measure(ctx, d.scope, an, n)
	if err != nil {
		s.refuse(c, err)
		return
	}
	var out bytes.Buffer
	if err := f.Write(&out, render.Text{Node: n, Language: an.Study.Language, Answers: m.Answers()}); err != nil {
		s.refuse(c, err)
		return
	}
	attach(c, "draft", an.Brief.Keyword, f.Extension)
	c.Data(http.StatusOK, f.MediaType, out.Bytes())
}

// draftBoot is what the editor begins with.
type draftBoot struct {
	Base       string            `json:"base"`
	Version    int               `json:"version"`
	Doc        *draft.Node       `json:"doc"`
	Language   string            `json:"language"`
	Outline    *draft.Node       `json:"outline"`
	Beside     string            `json:"beside"`
	Show       string            `json:"show"`
	Worker     string            `json:"worker"`
	Dictionary map[string]string `json:"dictionary"` // nil where there is none for the language
	Known      []string          `json:"known"`
	Teach      bool              `json:"teach"` // words that are right go to the house lexicon
}

// draft is the place. Without JavaScript it shows the text and what is said of it.
func (s *Server) draft(c *gin.Context) {
	body, err := s.draftBody(c, nil)
	if err != nil {
		if deskOf(c).ByLink {
			s.shut(c, err)
		} else {
			s.fail(c, err)
		}
		return
	}
	an := body.An
	asset := func(name string) string { return "/static/" + name + "?v=" + s.views.version }
	body.Boot = draftBoot{Base: body.Base, Version: body.Saved.Version, Doc: body.Node, Language: an.Study.Language, Outline: outlineOf(an.Brief), Beside: body.Tab, Show: body.Show,
		Worker: asset("dist/language.js"), Known: study.KnownWords(an), Teach: !body.ByLink}
	if name := dictionaryOf(an.Study); name != "" {
		body.Boot.Dictionary = map[string]string{"aff": asset("dist/dictionaries/" + name + ".aff.gz"), "dic": asset("dist/dictionaries/" + name + ".dic.gz")}
	}
	if body.ByLink {
		s.views.draftSheet(c, body)
		return
	}
	body.ReadOnly = !visitorOf(c).Role.May(store.Editor)
	s.views.page(c, http.StatusOK, "draft", s.inStudy(c, "draft", body))
}

// draftSheet is the place without the program around it.
func (v *views) draftSheet(c *gin.Context, body *draftBody) {
	var b bytes.Buffer
	if err := v.of(c).write(&b, "draft-page", body); err != nil {
		panic(fmt.Errorf("the draft's page: %w", err))
	}
	c.Data(http.StatusOK, "text/html; charset=utf-8", b.Bytes())
}

// outlineOf is the outline of a brief as headings to write under.
func outlineOf(b brief.Brief) *draft.Node {
	list := []reading.Heading{{Level: 1, Text: b.H1}}
	b.Each(func(x *brief.Section) { list = append(list, reading.Heading{Level: x.Level, Text: x.Heading}) })
	return draft.Outline(slices.DeleteFunc(list, func(h reading.Heading) bool { return strings.TrimSpace(h.Text) == "" }))
}

// dictionaryOf names the dictionary of a study's market; empty where none ships.
func dictionaryOf(st store.Study) string {
	switch st.Language {
	case "en":
		if st.Country == "us" {
			return "en"
		}
		return "en-gb"
	case "pt":
		if st.Country == "pt" {
			return "pt-pt"
		}
		return "pt"
	}
	if slices.Contains(language.Codes(), st.Language) {
		return st.Language
	}
	return ""
}

// draftFit measures the text that the editor has, saved or not, and draws what stands beside it.
func (s *Server) draftFit(c *gin.Context) {
	b, err := io.ReadAll(c.Request.Body)
	var n *draft.Node
	if err == nil {
		if n, err = draft.Parse(b); err != nil {
			err = fmt.Errorf("%w: %w", study.ErrDraft, err)
		}
	}
	var body *draftBody
	if err == nil {
		body, err = s.draftBody(c, n)
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	var score, panel bytes.Buffer
	if err := errors.Join(s.views.of(c).write(&score, "draft-score", body), s.views.of(c).write(&panel, "draft-panel", body)); err != nil {
		panic(fmt.Errorf("beside the draft: %w", err))
	}
	c.JSON(http.StatusOK, gin.H{"score": score.String(), "panel": panel.String(), "marks": body.AllMarks()})
}
