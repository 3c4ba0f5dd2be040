// Package draft is the place of the writer's text: saved and kept in versions (save.go), measured beside
// it (beside.go, rows.go), shown in sentences of others (examples.go). Its editor is in editor/.
package draft

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/draft"
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
	head, err := d.scope.DraftHead(ctx, d.study.ID)
	if err != nil {
		s.refuse(c, err)
		return
	}
	m, err := s.Analyst.Measure(ctx, d.scope, an, n, head.Said.Data())
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

// teaches is where a word goes to the house lexicon, for whom its own page asks for as well.
const teaches = "/draft/right"

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
		Worker: asset("kit/dist/language.js"), Known: analysis.KnownWords(an), Teach: !body.ByLink && kit.VisitorOf(c).Role.May(s.MinRole(false, "/studies/:study"+teaches))}
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
	b.Each(func(x *brief.Section) {
		if !x.Folded {
			list = append(list, reading.Heading{Level: x.Level, Text: x.Heading})
		}
	})
	return draft.Outline(slices.DeleteFunc(list, func(h reading.Heading) bool { return strings.TrimSpace(h.Text) == "" }))
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
	if err := deskOf(c).commands.KeepFit(c.Request.Context(), body.An.Study.ID, body.M.Fit.Fit); err != nil && c.Request.Context().Err() == nil {
		s.Log.Warn("a draft's fit was not kept", "error", err) // the desk goes without it
	}
	c.JSON(http.StatusOK, gin.H{"score": score.String(), "panel": panel.String(), "marks": body.AllMarks(s.Tongue(c).Words)})
}
