// Package draft is the place of the writer's text: saved and kept in versions (save.go), measured beside
// it (beside.go, rows.go), shown in sentences of others (examples.go). Its editor is in editor/.
package draft

import (
	"bytes"
	"embed"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/draft"
	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/formats/manuscript"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

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
func (s *handlers) ourDesk(c *gin.Context) {
	st := kit.StudyOf(c)
	c.Set(deskKey, desk{Base: fmt.Sprintf("/studies/%d/draft", st.ID), Author: kit.AuthorOf(c), scope: s.Scope(c), commands: s.Commands(c), study: st})
}

// linkDesk is that of somebody with a link; one that does not allow writing leads nowhere.
func (s *handlers) linkDesk(c *gin.Context) {
	l := kit.LinkOf(c)
	sc := s.Store.In(l.PublicationID)
	st, err := sc.Study(c.Request.Context(), l.StudyID)
	if !l.Drafts {
		err = store.ErrNotFound
	}
	if err != nil {
		s.Shut(c, err)
		c.Abort()
		return
	}
	c.Set(deskKey, desk{Base: "/w/" + c.Param("token") + "/draft", Author: l.Name, ByLink: true, scope: sc, commands: study.For(sc, s.Queue, fmt.Sprintf("link %d", l.ID)).With(s.Analyst), study: st})
}

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ *kit.Kit }

// Routes hangs the place up twice: for those of the publication, and for who has a link.
func Routes(k *kit.Kit) error {
	s := &handlers{k}
	place := []string{"draft", "draft-versions"}
	s.Add(kit.Place{Name: "draft", Title: "Draft", Files: files,
		Step:    &kit.Step{Title: "Draft", Path: "/draft", Key: "w", Holds: place},
		Styles:  []kit.Asset{{File: "draft/draft.css", In: append(place, kit.SheetPage)}},
		Scripts: []kit.Asset{{File: "kit/dist/draft.js", In: place[:1], Needs: "editor"}},
		Keys:    []kit.Key{{Keys: "Ctrl Alt o", Does: "put in the outline of the brief"}, {Keys: "Ctrl Alt 0 … 4", Does: "a paragraph, a heading of level 1 to 4"}, {Keys: "Ctrl b i k", Does: "bold, italic, link"}, {Keys: "Ctrl Shift 7 8 9", Does: "numbers, points, quotation"}, {Keys: "Ctrl s", Does: "keep a version"}},
		Needs:   []kit.Need{{Route: "/studies/:study/draft", Role: store.Editor}},
		Takes:   takes(),
	})
	s.hang(s.Study.Group("/draft", s.ourDesk))
	s.hang(s.Link.Group("/draft", s.linkDesk))
	return nil
}

// takes are the sizes of what is sent to the place, wherever it hangs.
func takes() map[string]int64 {
	all := map[string]int64{}
	for _, at := range []string{"/studies/:study/draft", "/w/:token/draft"} {
		for _, route := range []string{"/steps", "/fit", "/versions", "/import"} {
			all[at+route] = kit.LargestText
		}
	}
	return all
}

func (s *handlers) hang(r gin.IRouter) {
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
func (s *handlers) draftAs(c *gin.Context) {
	d, ctx := deskOf(c), c.Request.Context()
	f, ok := render.DraftFormatNamed(c.Param("format"))
	if !ok {
		s.refuse(c, store.ErrNotFound)
		return
	}
	an, err := s.Analyst.Analyse(ctx, d.scope, d.study)
	var n *draft.Node
	if err == nil {
		_, n, err = s.versionOf(c, c.DefaultQuery("version", "now"))
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	m, err := s.Analyst.Measure(ctx, d.scope, an, n)
	if err != nil {
		s.refuse(c, err)
		return
	}
	var out bytes.Buffer
	if err := f.Write(&out, manuscript.Text{Node: n, Language: an.Study.Language, Answers: m.Answers()}); err != nil {
		s.refuse(c, err)
		return
	}
	kit.Attach(c, "draft", an.Brief.Keyword, f.Extension)
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
func (s *handlers) draft(c *gin.Context) {
	body, err := s.draftBody(c, nil)
	if err != nil {
		if deskOf(c).ByLink {
			s.Shut(c, err)
		} else {
			s.Fail(c, err)
		}
		return
	}
	an := body.An
	asset := s.Asset
	body.Boot = draftBoot{Base: body.Base, Version: body.Saved.Version, Doc: body.Node, Language: an.Study.Language, Outline: outlineOf(an.Brief), Beside: body.Tab, Show: body.Show,
		Worker: asset("kit/dist/language.js"), Known: analysis.KnownWords(an), Teach: !body.ByLink}
	body.Boot.Dictionary = s.Dictionary(dictionaryOf(an.Study))
	if body.ByLink {
		s.Whole(c, http.StatusOK, "draft-page", body)
		return
	}
	body.ReadOnly = !kit.VisitorOf(c).Role.May(store.Editor)
	s.Page(c, http.StatusOK, "draft", s.InStudy(c, "draft", body))
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
func (s *handlers) draftFit(c *gin.Context) {
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
	if err := errors.Join(s.Tongue(c).Write(&score, "draft-score", body), s.Tongue(c).Write(&panel, "draft-panel", body)); err != nil {
		panic(fmt.Errorf("beside the draft: %w", err))
	}
	c.JSON(http.StatusOK, gin.H{"score": score.String(), "panel": panel.String(), "marks": body.AllMarks(s.Tongue(c).Words)})
}
