package field

import (
	"context"
	"net/http"
	"strconv"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/points"
	"corpulan/core/reading"
	"corpulan/store"
	"corpulan/web/draw"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// pageBody is how one page was read: what counts of it, and what was struck.
type pageBody struct {
	Study   int64
	Result  store.Result
	Reading *reading.Reading
	Section *reading.Section // the one that is shown; nil for the whole page
	Theme   string
	Lines   []pageLine
	Gist    []points.Saying // of the whole page
}

// pageLine is a line of a section, with what it was on the page.
type pageLine struct {
	Text string
	What string // paragraph, item, cell, code, quotation, definition or caption
}

var lineNames = map[byte]string{reading.LineParagraph: "paragraph", reading.LineItem: "item", reading.LineCell: "cell", reading.LineCode: "code",
	reading.LineQuote: "quotation", reading.LineDefinition: "definition", reading.LineCaption: "caption"}

// readPage shows how a page was read, or one section of it.
func (s *handlers) readPage(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	what := c.Param("result")
	if n := c.Param("section"); n != "" {
		what += "." + n
	}
	body, err := openedIn(c.Request.Context(), an, chartOf(an, readings(an)), what)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if kit.FromHTMX(c) {
		s.Fragment(c, http.StatusOK, "page-beside", body)
		return
	}
	s.Page(c, http.StatusOK, "page", s.InStudy(c, "field", body))
}

// openedIn finds what an address names: a page by the number of its result, or
// "result.section". Nothing for an empty name, ErrNotFound for a wrong one.
func openedIn(ctx context.Context, an *kit.Analysis, chart draw.Chart, what string) (*pageBody, error) {
	if what == "" {
		return nil, nil
	}
	page, section, hasSection := strings.Cut(what, ".")
	id, err := strconv.ParseInt(page, 10, 64)
	if err != nil {
		return nil, store.ErrNotFound
	}
	for _, p := range chart.Pages {
		if p.Result != id {
			continue
		}
		body := &pageBody{Study: an.Study.ID, Reading: p.Reading}
		for _, r := range an.Results {
			if r.ID == id {
				body.Result = r
			}
		}
		if hasSection {
			i, err := strconv.Atoi(section)
			if err != nil || i < 0 || i >= len(p.Reading.Sections) {
				break
			}
			body.show(i, p.ThemeName(i))
		} else if body.Result.ReadingID != nil && an.Docs[*body.Result.ReadingID] != nil {
			body.Gist = points.Gist(ctx, corpus.RankedPage{Rank: body.Result.Rank, Doc: an.Docs[*body.Result.ReadingID]}, an.Study.Language)
		}
		return body, nil
	}
	return nil, store.ErrNotFound
}

// show fills in one section, line by line.
func (b *pageBody) show(section int, theme string) {
	b.Section, b.Theme = &b.Reading.Sections[section], theme
	for kind, line := range b.Section.Blocks() {
		b.Lines = append(b.Lines, pageLine{line, lineNames[kind]})
	}
}
