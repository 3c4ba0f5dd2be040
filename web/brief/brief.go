// Package brief is the document edited in place: its fields, outline, parts, cuttings and drawer, its
// revisions, history and links.
package brief

import (
	"bytes"
	"cmp"
	"fmt"
	"net/http"
	"net/url"
	"slices"

	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/render"
	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// briefBody is the Brief place.
type briefBody struct {
	document
	Formats []render.Format
	Remarks []parts.Thread    // that came by links, the open ones first
	Hands   []string          // who may own or write it
	Basis   *brief.Basis      // what it stands on; nil while it follows
	Stale   []change.Proposal // what newer evidence asks of it
	Open    bool              // the dossier is; else it is asked for when it is opened
}

func (s *handlers) brief(c *gin.Context) {
	body, err := s.briefBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, http.StatusOK, "brief", s.InStudy(c, "brief", body))
}

// dossier is all that stands behind the brief.
func (s *handlers) dossier(c *gin.Context) {
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Fragment(c, http.StatusOK, "brief-dossier", document{an})
}

func (s *handlers) briefBody(c *gin.Context) (briefBody, error) {
	an, err := s.Findings(c)
	if err != nil {
		return briefBody{}, err
	}
	b := briefBody{document: document{an}, Formats: render.Formats(), Open: c.Query("dossier") == "yes" || c.GetHeader("X-Dossier") == "yes"}
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
	b := an.Brief
	if with := c.Query("dossier"); with != "" {
		b = b.WithDossier(with == "yes")
	}
	if err := f.Write(&out, b); err != nil {
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

// counted draws the document anew once all pages are counted that had come.
func (s *handlers) counted(c *gin.Context) {
	body, err := s.briefBody(c)
	switch {
	case err != nil:
		s.Fail(c, err)
	case body.Provisional:
		c.Status(http.StatusNoContent)
	default:
		s.Redrawn(c, "#document", "brief-document", body)
	}
}

// editPath is where the forms are had that edit a section.
func editPath(study int64, key string) string {
	return fmt.Sprintf("/studies/%d/outline/edit?%s", study, url.Values{"key": {key}}.Encode())
}
