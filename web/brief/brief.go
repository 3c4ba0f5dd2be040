// Package brief is the document edited in place: its fields, outline, parts, cuttings and drawer, its
// revisions, history and links.
package brief

import (
	"bytes"
	"cmp"
	"embed"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"

	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/render"
	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/web/parts"
	"corpulan/words"

	"github.com/gin-gonic/gin"
)

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ *kit.Kit }

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{k}
	editor := func(route string) kit.Need { return kit.Need{Route: "/studies/:study" + route, Role: store.Editor} }
	s.Add(kit.Place{Name: "brief", Title: "Brief", Files: files,
		Step:    &kit.Step{Title: "Brief", Path: "/brief", Key: "b"},
		Styles:  []kit.Asset{{File: "brief/brief.css"}},
		Scripts: []kit.Asset{{File: "kit/dist/sortable.min.js", In: []string{"brief"}}, {File: "brief/outline.js", In: []string{"brief"}, Needs: "editor"}, {File: "brief/brief.js"}, {File: "brief/brief.js", In: []string{kit.SheetPage}}, {File: "brief/cut.js"}},
		Keys:    []kit.Key{{Keys: "Alt ← → ↑ ↓", Does: "in the outline: a section higher, deeper, up, down"}, {Keys: "c", Does: "keep what is selected in a captured text as a cutting"}},
		Redraws: map[string]kit.Redraw{"brief": s.briefChanged},
		Funcs: func(*words.Words) template.FuncMap {
			return template.FuncMap{"editpath": editPath}
		},
		Needs: []kit.Need{editor("/brief"), editor("/outline"), editor("/parts"), editor("/cuttings"), editor("/share"), editor("/remarks")},
	})
	st := s.Study
	st.GET("/brief", s.brief)
	st.POST("/brief/fields", s.typeField)
	st.GET("/brief/as/:format", s.download)
	st.GET("/brief/faq.json", s.faqData)
	st.GET("/brief/revisions", s.revisions)
	st.POST("/brief/restore", s.restore)
	st.POST("/outline", s.editOutline)
	st.GET("/outline/edit", s.sectionForms)
	st.POST("/parts", s.editParts)
	st.GET("/drawer", s.drawer)
	st.POST("/cuttings", s.cut)
	st.POST("/cuttings/:cutting", s.editCutting)
	st.POST("/template", s.useTemplate)
	st.GET("/history", s.history)
	st.GET("/share", s.share)
	st.POST("/share", s.makeLink)
	st.POST("/share/:link/revoke", s.revokeLink)
	st.POST("/remarks/:remark", s.answerRemark)
	return nil
}

// document is a study as its brief shows it.
type document struct{ *kit.Analysis }

// Field is a field of the brief as it now is.
func (an document) Field(name string) parts.FieldView { return parts.FieldOf(an.Analysis, name) }

// OpeningGroups are the openings of the study, by their kinds.
func (an document) OpeningGroups(filter string) []parts.OpeningGroup {
	return parts.OpeningGroups(an.Analysis, filter)
}

// briefBody is the Brief place.
type briefBody struct {
	document
	Formats []render.Format
	Remarks []parts.Thread    // that came by links, the open ones first
	Hands   []string          // who may own or write it
	Basis   *brief.Basis      // what it stands on; nil while it follows
	Stale   []change.Proposal // what newer evidence asks of it
}

func (s *handlers) brief(c *gin.Context) {
	body, err := s.briefBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, http.StatusOK, "brief", s.InStudy(c, "brief", body))
}

func (s *handlers) briefBody(c *gin.Context) (briefBody, error) {
	an, err := s.Findings(c)
	if err != nil {
		return briefBody{}, err
	}
	b := briefBody{document: document{an}, Formats: render.Formats()}
	list, err := s.Scope(c).Remarks(c.Request.Context(), an.Study.ID)
	if err != nil {
		return b, err
	}
	for _, r := range list { // in the order they were made
		for _, t := range parts.Threads(list)[r.Line] {
			if t.ID == r.ID {
				b.Remarks = append(b.Remarks, t)
			}
		}
	}
	slices.SortStableFunc(b.Remarks, func(x, y parts.Thread) int {
		return cmp.Compare(settled(x), settled(y))
	})
	if b.Basis = an.Saved.Choices.Data().Stands; b.Basis != nil {
		if b.Stale, err = s.Analyst.Proposals(c.Request.Context(), s.Scope(c), an.Analysis); err != nil {
			return b, err
		}
	}
	b.Hands, err = s.Store.Across([]int64{an.Study.PublicationID}).Hands(c.Request.Context())
	return b, err
}

func settled(t parts.Thread) int {
	if t.SettledAt != nil {
		return 1
	}
	return 0
}

// briefPart is a part of the document with its heading.
type briefPart struct {
	render.Block
	Body []render.Block
	Part brief.Part
}

// Parts is the document, the same blocks as in every format, by its parts; the
// first has what stands before them.
func (an document) Parts() []briefPart {
	parts := []briefPart{{}}
	for _, b := range render.Document(an.Brief.Saying(an.In)) {
		if b.Form == render.PartForm {
			i := slices.IndexFunc(an.Brief.Parts, func(p brief.Part) bool { return p.Name == b.Name })
			parts = append(parts, briefPart{Block: b, Part: an.Brief.Parts[i]})
			continue
		}
		last := &parts[len(parts)-1]
		last.Body = append(last.Body, b)
	}
	return parts
}

// Hidden are the parts that are not shown.
func (an document) Hidden() []brief.Part {
	return slices.DeleteFunc(slices.Clone(an.Brief.Parts), func(p brief.Part) bool { return !p.Hidden })
}

// KindKey is the key of the brief's template.
func (an document) KindKey() string {
	if t := an.Choices.TypedIn(brief.FieldKind); t != nil {
		return *t
	}
	return ""
}

// Templates are those of the program, and of the publication.
func (an document) Templates() []brief.Template {
	return slices.Concat(brief.Templates(), an.Setting.Templates)
}

// PageLink is where the captured text of a rank's page can be read.
func (an document) PageLink(rank int) string {
	for _, r := range an.Results {
		if r.Rank == rank {
			return fmt.Sprintf("/studies/%d/pages/%d", an.Study.ID, r.ID)
		}
	}
	return fmt.Sprintf("/studies/%d/field", an.Study.ID)
}

// download hands the brief over as a file.
func (s *handlers) download(c *gin.Context) {
	f, ok := render.FormatNamed(c.Param("format"))
	if !ok {
		s.Fail(c, store.ErrNotFound)
		return
	}
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	var out bytes.Buffer
	if err := f.Write(&out, an.Brief); err != nil {
		s.Fail(c, err)
		return
	}
	kit.Attach(c, "brief", an.Study.Keyword, f.Extension)
	c.Data(http.StatusOK, f.MediaType, out.Bytes())
}

// faqData hands the questions of the brief over as FAQPage data (schema.org), with a place
// for each answer that the writer has yet to give: the answers of the field are others'.
func (s *handlers) faqData(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	var out bytes.Buffer
	if err := render.FAQ(&out, an.Brief); err != nil {
		s.Fail(c, err)
		return
	}
	kit.Attach(c, "faq", an.Study.Keyword, "json")
	c.Data(http.StatusOK, "application/ld+json", out.Bytes())
}

// briefChanged draws the place anew after something was done.
func (s *handlers) briefChanged(c *gin.Context, n kit.Notice) {
	body, err := s.briefBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Redrawn(c, "#document", "brief-changed", kit.Changed[briefBody]{Body: body, Notice: n})
}

// editPath is where the forms are had that edit a section.
func editPath(study int64, key string) string {
	return fmt.Sprintf("/studies/%d/outline/edit?%s", study, url.Values{"key": {key}}.Encode())
}
