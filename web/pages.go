package web

import (
	"net/http"
	"strconv"
	"strings"

	"corpulan/core/reading"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// pageBody is how one page was read: what counts of it, and what was struck.
type pageBody struct {
	Study   int64
	Result  store.Result
	Reading *reading.Reading
	Section *reading.Section // the one that is shown; nil for the whole page
	Number  int              // of the section
	Theme   string
	Lines   []pageLine
}

// pageLine is a line of a section, with what it was on the page.
type pageLine struct {
	Text string
	What string // paragraph, item, cell, code, quotation, definition or caption
}

var lineNames = map[byte]string{reading.LineParagraph: "paragraph", reading.LineItem: "item", reading.LineCell: "cell", reading.LineCode: "code",
	reading.LineQuote: "quotation", reading.LineDefinition: "definition", reading.LineCaption: "caption"}

// readPage shows how a page was read, or one section of it.
func (s *Server) readPage(c *gin.Context) {
	ctx := c.Request.Context()
	id, err := strconv.ParseInt(c.Param("result"), 10, 64)
	if err != nil {
		s.fail(c, store.ErrNotFound)
		return
	}
	an, err := s.analyst.analyse(ctx, s.scope(), studyOf(c))
	if err != nil {
		s.fail(c, err)
		return
	}
	chart := chartOf(an)
	for _, p := range chart.Pages {
		if p.Result != id {
			continue
		}
		body := pageBody{Study: an.Study.ID, Reading: p.Reading}
		for _, r := range an.Results {
			if r.ID == id {
				body.Result = r
			}
		}
		if n := c.Param("section"); n != "" {
			i, err := strconv.Atoi(n)
			if err != nil || i < 0 || i >= len(p.Reading.Sections) {
				break
			}
			body.show(i, p.ThemeName(i))
		}
		if fromHTMX(c) {
			s.views.fragment(c, http.StatusOK, "page-beside", body)
			return
		}
		s.views.page(c, http.StatusOK, "page", s.inStudy(c, "field", body))
		return
	}
	s.fail(c, store.ErrNotFound)
}

// show fills in one section, line by line.
func (b *pageBody) show(section int, theme string) {
	b.Section, b.Number, b.Theme = &b.Reading.Sections[section], section, theme
	n := 0
	for line := range strings.SplitSeq(b.Section.Text, "\n") {
		if line == "" {
			continue
		}
		what := "paragraph"
		if n < len(b.Section.Lines) {
			what = lineNames[b.Section.Lines[n]]
		}
		n++
		b.Lines = append(b.Lines, pageLine{line, what})
	}
}
