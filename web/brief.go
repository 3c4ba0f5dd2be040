package web

import (
	"bytes"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"unicode"

	"corpulan/core/brief"
	"corpulan/render"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// briefBody is the Brief place.
type briefBody struct {
	*analysis
	Formats []render.Format
}

func (s *Server) brief(c *gin.Context) {
	an, err := s.analyst.analyse(c.Request.Context(), s.scope(), studyOf(c))
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.page(c, http.StatusOK, "brief", s.inStudy(c, "brief", briefBody{analysis: an, Formats: render.Formats()}))
}

// longestField is what a field of the brief holds, in characters.
const longestField = 20_000

// notePrefix marks a field that is a note to an outline section.
const notePrefix = "note:"

// fieldAnswer is what a field shows after saving.
type fieldAnswer struct {
	Saved    bool
	Problem  string
	Theirs   string // what somebody else wrote meanwhile
	Revision int
}

// typeField saves what was typed into one field. The form says what stood in
// the field before; if somebody else has changed it meanwhile, nothing is
// overwritten and both texts are shown.
func (s *Server) typeField(c *gin.Context) {
	study := studyOf(c)
	name, value, was := c.PostForm("field"), strings.ReplaceAll(c.PostForm("value"), "\r\n", "\n"), strings.ReplaceAll(c.PostForm("was"), "\r\n", "\n")
	theme, isNote := strings.CutPrefix(name, notePrefix)
	switch {
	case !isNote && !slices.Contains(brief.FieldNames(), name), isNote && theme == "":
		s.views.fragment(c, http.StatusUnprocessableEntity, "field-answer", fieldAnswer{Problem: "This field is not known; reload the page. What you typed is still here."})
		return
	case len([]rune(value)) > longestField:
		s.views.fragment(c, http.StatusUnprocessableEntity, "field-answer", fieldAnswer{Problem: fmt.Sprintf("At most %d characters fit here; this has %d. It is not saved.", longestField, len([]rune(value)))})
		return
	}
	an, err := s.analyst.analyse(c.Request.Context(), s.scope(), study)
	if err != nil {
		s.fail(c, err)
		return
	}
	now := fieldOf(an.Brief, name, an.Saved.Choices.Data())
	if now != was && now != value {
		s.views.fragment(c, http.StatusConflict, "field-answer", fieldAnswer{Theirs: now,
			Problem: "Somebody else has changed this meanwhile. Yours is still in the field; save it again to put it in place of theirs:"})
		return
	}
	saved, err := s.scope().ChangeBrief(c.Request.Context(), study.ID, an.Saved.Revision, func(ch *brief.Choices) {
		if isNote {
			ch.Note(theme, value)
		} else {
			ch.Type(name, value)
		}
	})
	if errors.Is(err, store.ErrConflict) {
		s.views.fragment(c, http.StatusConflict, "field-answer", fieldAnswer{Problem: "The brief was changed at the same moment; save again."})
		return
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/studies/%d/brief", study.ID))
		return
	}
	s.views.fragment(c, http.StatusOK, "field-answer", fieldAnswer{Saved: true, Revision: saved.Revision})
}

// fieldOf is what a field of the brief shows now.
func fieldOf(b brief.Brief, name string, ch brief.Choices) string {
	switch name {
	case brief.FieldTitleTag:
		return b.TitleTag
	case brief.FieldMetaDescription:
		return b.MetaDescription
	case brief.FieldH1:
		return b.H1
	}
	if theme, ok := strings.CutPrefix(name, notePrefix); ok {
		return ch.Notes[theme]
	}
	return ch.Typed[name]
}

// download hands the brief over as a file.
func (s *Server) download(c *gin.Context) {
	f, ok := render.FormatNamed(c.Param("format"))
	if !ok {
		s.fail(c, store.ErrNotFound)
		return
	}
	an, err := s.analyst.analyse(c.Request.Context(), s.scope(), studyOf(c))
	if err != nil {
		s.fail(c, err)
		return
	}
	var out bytes.Buffer
	if err := f.Write(&out, an.Brief); err != nil {
		s.fail(c, err)
		return
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="brief-%s.%s"`, slug(an.Study.Keyword), f.Extension))
	c.Data(http.StatusOK, f.MediaType, out.Bytes())
}

// slug makes a keyword fit for a file's name.
func slug(s string) string {
	var b strings.Builder
	dash := false
	for _, r := range strings.ToLower(s) {
		if r < 128 && (unicode.IsLetter(r) || unicode.IsDigit(r)) {
			if dash && b.Len() > 0 {
				b.WriteByte('-')
			}
			b.WriteRune(r)
			dash = false
		} else {
			dash = true
		}
	}
	if b.Len() == 0 {
		return "study"
	}
	return shorten(b.String(), 80)
}
