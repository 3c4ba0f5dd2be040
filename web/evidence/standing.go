package evidence

import (
	"context"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"
)

// standingBody is keywords against the pages of a study.
type standingBody struct {
	*kit.Analysis
	Pages    []standingPage
	Rows     []demand.Row
	List     *store.KeywordList
	Swapped  bool // pages are the rows
	Also     string
	Openings int
	Chosen   map[string]bool // keywords that the brief has as secondary ones
	Searched int             // searches a month of all keywords together
}

// standingPage is a page that keywords are set against.
type standingPage struct {
	Rank  int // 0 for one of ours
	Host  string
	URL   string
	Title string
	Mean  float64 // over all keywords
}

// Name is how a page is called at the head of a column.
func (p standingPage) Name() message.Message {
	if p.Rank == 0 {
		return message.Of("ours: %s", kit.PathPart(p.URL))
	}
	return message.Of("%d %s", p.Rank, p.Host)
}

// standingCell is one score with what it is made of.
type standingCell struct {
	demand.Standing
	StudyID int64
	Keyword string
	Page    standingPage
}

// Says explains a score in one line.
func (c standingCell) Says() message.Message {
	parts := []message.Message{}
	for _, x := range c.Parts() {
		parts = append(parts, message.Of("%v %.0f", x.Where, 100*x.Score))
	}
	says := message.Of("%s, %v: %.0f of 100; of 100 each: %v", c.Keyword, c.Page.Name(), 100*c.Score, message.Joined(", ", parts...))
	if c.Section != "" {
		says = message.Of("%v; answered under “%s”", says, c.Section)
	}
	return says
}

// Shade is the score in tenths, for the tint of a cell.
func (c standingCell) Shade() int { return min(9, int(10*c.Score)) }

// Cells are the scores of one row, as the table has them.
func (b standingBody) Cells(row demand.Row) []standingCell {
	cells := make([]standingCell, len(row.Pages))
	for i, s := range row.Pages {
		cells[i] = standingCell{s, b.Study.ID, row.Keyword.Text, b.Pages[i]}
	}
	return cells
}

// Column are the scores of one page, where pages are the rows.
func (b standingBody) Column(i int) []standingCell {
	cells := make([]standingCell, len(b.Rows))
	for n, r := range b.Rows {
		cells[n] = standingCell{r.Pages[i], b.Study.ID, r.Keyword.Text, b.Pages[i]}
	}
	return cells
}

// With is the address of the same, swapped or with other keywords.
func (b standingBody) With(swapped bool) string {
	v := "?"
	if swapped {
		v += "swap=1&"
	}
	return v + "also=" + url.QueryEscape(b.Also)
}

func (s *handlers) standing(c *gin.Context) {
	body, err := s.standingBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, http.StatusOK, "standing", s.InStudy(c, "standing", body))
}

func (s *handlers) standingBody(c *gin.Context) (standingBody, error) {
	ctx, sc, q := c.Request.Context(), s.Scope(c), kit.PageQuery(c)
	an, err := s.Analyse(c)
	if err != nil {
		return standingBody{}, err
	}
	body := standingBody{Analysis: an, Swapped: q.Get("swap") == "1", Also: kit.Shorten(q.Get("also"), kit.LongestField), Chosen: map[string]bool{}}
	words, list, err := s.Demander.KeywordsFor(ctx, sc, an.Analysis, analysis.Lines(body.Also))
	if err != nil {
		return body, err
	}
	body.List = list
	pages, docs, err := s.standingPages(ctx, sc, an)
	if err != nil {
		return body, err
	}
	body.Pages = pages
	body.Rows = demand.StandingOf(words, docs, an.Study.Language)
	for _, r := range body.Rows {
		if r.Opening {
			body.Openings++
		}
		body.Searched += int(r.Keyword.Volume.Value)
		for i, x := range r.Pages {
			body.Pages[i].Mean += x.Score / float64(len(body.Rows))
		}
	}
	for _, k := range analysis.Lines(an.Brief.Field(brief.FieldSecondary)) {
		body.Chosen[demand.Same(k)] = true
	}
	return body, nil
}

// standingPages are the pages that keywords are set against, ours last, as heads of columns and as
// they are counted.
func (s *handlers) standingPages(ctx context.Context, sc store.Scope, an *kit.Analysis) (pages []standingPage, docs []*corpus.Doc, err error) {
	field, ours, err := s.Analyst.PagesFor(ctx, sc, an.Analysis)
	for _, p := range field {
		docs = append(docs, p.Doc)
		pages = append(pages, standingPage{Rank: p.Rank, Host: p.Doc.Host, URL: p.Doc.Reading.URL, Title: p.Doc.Reading.Title})
	}
	for _, d := range ours {
		docs = append(docs, d)
		pages = append(pages, standingPage{Host: d.Host, URL: d.Reading.URL, Title: d.Reading.Title})
	}
	return pages, docs, err
}

// Has tells whether the brief has a keyword as a secondary one.
func (b standingBody) Has(k demand.Keyword) bool { return b.Chosen[demand.Same(k.Text)] }

// adoptKeyword puts a keyword among the secondary ones of the brief, or takes it out.
func (s *handlers) adoptKeyword(c *gin.Context) {
	ctx, st := c.Request.Context(), kit.StudyOf(c)
	word := demand.Tidy(c.PostForm("keyword"))
	if word == "" || len([]rune(word)) > demand.LongestKeyword {
		s.Say(c, http.StatusUnprocessableEntity, "This is no keyword.")
		return
	}
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	now := an.Choices.TypedIn(brief.FieldSecondary)
	lines := []string{}
	if now != nil {
		lines = analysis.Lines(*now)
	}
	said := message.Of("Adopted as a secondary keyword: %s", word)
	if i := slices.IndexFunc(lines, func(l string) bool { return demand.Same(l) == demand.Same(word) }); i >= 0 {
		said, lines = message.Of("Taken out of the secondary keywords: %s", word), slices.Delete(lines, i, i+1)
	} else {
		lines = append(lines, word)
	}
	text := strings.Join(lines, "\n")
	done, _, err := s.Commands(c).Write(ctx, st.ID, study.Typing{Field: brief.FieldSecondary, Label: "Secondary keywords", Was: now, Text: &text, Said: said})
	s.Done(c, done, err)
}

// searchedBody is what people search against what the field says.
type searchedBody struct {
	*kit.Analysis
	analysis.Searched
	Show   int
	Filter string
	Unmet  int
	Volume int // searches a month of what is unmet
	Total  int
}

// maxQueries is how many queries are listed at once.
const maxQueries = 200

func (s *handlers) searched(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	found, err := s.Demander.SearchedFor(c.Request.Context(), s.Scope(c), an.Analysis)
	if err != nil {
		s.Fail(c, err)
		return
	}
	body := searchedBody{Analysis: an, Searched: found, Filter: c.Query("show")}
	for _, q := range found.Queries {
		if q.Unmet {
			body.Unmet++
			body.Volume += int(q.Keyword.Volume.Value)
		}
	}
	body.Queries = slices.DeleteFunc(slices.Clone(found.Queries), func(q demand.Searched) bool {
		return body.Filter == "unmet" && !q.Unmet || body.Filter == "questions" && !q.Asks
	})
	body.Total = len(body.Queries)
	body.Queries = body.Queries[:min(len(body.Queries), maxQueries)]
	s.Page(c, http.StatusOK, "searched", s.InStudy(c, "searched", body))
}

// standingChanged draws the place anew after something was done.
func (s *handlers) standingChanged(c *gin.Context, n kit.Notice) {
	body, err := s.standingBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Redrawn(c, "#standing", "standing-changed", kit.Changed[standingBody]{Body: body, Notice: n})
}
