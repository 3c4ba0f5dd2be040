// Package demand is keyword lists: brought (columns.go), grouped (groups.go, filter.go), changed by hand
// (hand.go).
package demand

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"path"
	"slices"
	"strings"

	"corpulan/analysis"
	"corpulan/core/demand"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// demandBody is the Demand place: the lists of keywords and the slates of the publication.
type demandBody struct {
	Lists   []store.Listed
	Deleted []store.Listed
	Slates  []parts.SlateLine
	Gone    []store.Slate // that were deleted
	New     newList
	Samples []kit.Sample
}

// newList is the form that begins a list, or adds to one.
type newList struct {
	Name     string          `form:"name"`
	Language string          `form:"language,default=en"`
	Country  string          `form:"country,default=gb"`
	Pasted   string          `form:"pasted"`
	Seeds    string          `form:"seeds"`
	Depth    int             `form:"depth,default=2"`
	Most     int             `form:"most,default=100"`
	Letters  bool            `form:"letters"`
	Sample   string          `form:"sample"` // the name of a list that ships with the program
	Wrong    message.Message `form:"-"`
}

// largestPaste is how much may be pasted.
const largestPaste = 4 << 20

func (s *handlers) demandPlace(c *gin.Context) {
	s.showDemand(c, http.StatusOK, newList{Language: "en", Country: "gb", Depth: 2, Most: 100})
}

func (s *handlers) showDemand(c *gin.Context, status int, n newList) {
	ctx, sc := c.Request.Context(), s.Scope(c)
	body := demandBody{New: n, Samples: s.Samples}
	var err error
	if body.Lists, err = sc.Lists(ctx, false); err == nil {
		body.Deleted, err = sc.Lists(ctx, true)
	}
	if err == nil {
		body.Slates, err = s.SlateLines(c)
	}
	if err == nil {
		body.Gone, err = sc.Slates(ctx, true)
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, status, "demand", kit.PageData{Title: "Demand", Place: "demand", Publication: kit.PublicationOf(c).Name, Body: body})
}

// createList begins a list from a file, from what was pasted, from seeds, or from what ships
// with the demo.
func (s *handlers) createList(c *gin.Context) {
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil && !errors.Is(err, http.ErrNotMultipart) {
		s.Fail(c, err)
		return
	}
	if c.Request.MultipartForm != nil {
		defer func() { _ = c.Request.MultipartForm.RemoveAll() }()
	}
	var n newList
	_ = c.ShouldBind(&n) // figures that are none stay at nought, and are bounded below
	n.Name, n.Country = strings.Join(strings.Fields(n.Name), " "), strings.ToLower(n.Country)
	refuse := func(what message.Message) {
		n.Wrong = what
		s.showDemand(c, http.StatusUnprocessableEntity, n)
	}
	if len([]rune(n.Name)) > kit.LongestName {
		refuse(message.Of("A name has at most %d characters.", kit.LongestName))
		return
	}
	if !slices.Contains(language.Codes(), n.Language) || len(n.Country) != 2 || strings.Trim(n.Country, "abcdefghijklmnopqrstuvwxyz") != "" {
		refuse("Give the market as a language that is read and a country of two letters, for example gb.")
		return
	}
	table, wrong := s.tableIn(c, n)
	seeds := analysis.Lines(n.Seeds)
	switch {
	case wrong != "":
		refuse(wrong)
		return
	case table == nil && len(seeds) == 0:
		refuse("Choose a file, paste keywords, or type a seed.")
		return
	case len(seeds) > study.MaxSeeds:
		refuse(message.Of("At most %d seeds at once; these are %d.", study.MaxSeeds, len(seeds)))
		return
	}
	if n.Name == "" {
		if n.Name = s.Tongue(c).Put("Around %s", strings.Join(seeds[:min(len(seeds), 2)], ", ")); table != nil {
			n.Name = strings.TrimSuffix(table.Name, path.Ext(table.Name))
		}
		n.Name = kit.Shorten(n.Name, kit.LongestName)
	}
	ctx, do := c.Request.Context(), s.Commands(c)
	l, err := do.NewList(ctx, n.Name, n.Language, n.Country)
	switch {
	case errors.Is(err, store.ErrTooMany):
		refuse(message.Of("A publication keeps at most %d lists; delete one first.", store.MaxLists))
		return
	case err != nil:
		s.Fail(c, err)
		return
	}
	c.Set(parts.ListKey, l)
	if table == nil {
		if err := do.FromSeeds(ctx, l.ID, seeds, n.Depth, n.Most, n.Letters); err != nil {
			s.Fail(c, err)
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", l.ID))
		return
	}
	s.takeTable(c, *table)
}

// takeTable puts a table to a list, and goes on to where its columns are asked for if need be.
func (s *handlers) takeTable(c *gin.Context, table study.Table) {
	l := parts.ListOf(c)
	_, asks, err := s.Commands(c).TakeTable(c.Request.Context(), l.ID, table)
	switch {
	case errors.Is(err, study.ErrBusy):
		s.SayList(c, http.StatusConflict, message.Fault(err))
	case err != nil:
		s.Fail(c, err)
	case asks:
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d/columns", l.ID))
	default:
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", l.ID))
	}
}

// tableIn is the table that a form brings: a file, what was pasted, or one of the demo's; nil
// for none. What is wrong with it is said.
func (s *handlers) tableIn(c *gin.Context, n newList) (*study.Table, message.Message) {
	for _, sample := range s.Samples {
		if n.Sample != "" && n.Sample == sample.Name {
			return s.tableOf(c, sample.Name, bytes.NewReader(sample.Data))
		}
	}
	file, err := c.FormFile("file")
	if err == nil && file.Size > 0 {
		f, err := file.Open()
		if err != nil {
			return nil, "The file cannot be read; choose it once more."
		}
		defer f.Close()
		return s.tableOf(c, file.Filename, f)
	}
	if pasted := strings.TrimSpace(n.Pasted); pasted != "" {
		if len(pasted) > largestPaste {
			return nil, "This is more than can be pasted here; save it as a file."
		}
		return s.tableOf(c, "pasted.csv", strings.NewReader(pasted))
	}
	return nil, ""
}

func (s *handlers) tableOf(c *gin.Context, name string, in io.Reader) (*study.Table, message.Message) {
	rows, err := s.Reader.Table(c.Request.Context(), name, in, demand.MaxKeywords+100)
	if err != nil {
		return nil, message.Of("%s: %v.", name, message.OfError(err))
	}
	return &study.Table{Name: name, Rows: rows}, ""
}

// addKeywords puts a file or what was pasted to a list.
func (s *handlers) addKeywords(c *gin.Context) {
	var n newList
	_ = c.ShouldBind(&n)
	table, wrong := s.tableIn(c, n)
	switch {
	case wrong != "":
		s.SayList(c, http.StatusUnprocessableEntity, wrong)
	case table == nil:
		s.SayList(c, http.StatusUnprocessableEntity, "Choose a file, or paste keywords.")
	default:
		s.takeTable(c, *table)
	}
}

// asked answers a request for work in the background.
func (s *handlers) asked(c *gin.Context, err error) {
	switch {
	case errors.Is(err, study.ErrBusy):
		s.SayList(c, http.StatusConflict, message.Fault(err))
	case err != nil:
		s.Fail(c, err)
	default:
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", parts.ListOf(c).ID))
	}
}

func (s *handlers) askSeeds(c *gin.Context) {
	seeds := analysis.Lines(c.PostForm("seeds"))
	if len(seeds) == 0 || len(seeds) > study.MaxSeeds {
		s.SayList(c, http.StatusUnprocessableEntity, message.Of("Type between one and %d seeds, one a line.", study.MaxSeeds))
		return
	}
	s.asked(c, s.Commands(c).FromSeeds(c.Request.Context(), parts.ListOf(c).ID, seeds, kit.NumberIn(c, "depth", 2), kit.NumberIn(c, "most", 100), c.PostForm("letters") != ""))
}

func (s *handlers) askResults(c *gin.Context) {
	s.asked(c, s.Commands(c).AskResults(c.Request.Context(), parts.ListOf(c).ID, kit.NumberIn(c, "most", 100)))
}

func (s *handlers) askFigures(c *gin.Context) {
	s.asked(c, s.Commands(c).AskFigures(c.Request.Context(), parts.ListOf(c).ID))
}

func (s *handlers) stopWork(c *gin.Context) {
	s.asked(c, s.Commands(c).StopWork(c.Request.Context(), parts.ListOf(c).ID))
}

// listWork is how far the work on a list has come; the page asks for it as long as it runs.
func (s *handlers) listWork(c *gin.Context) {
	l := parts.ListOf(c)
	w := l.Work.Data()
	if !w.Running { // the groups are asked for anew; what is being typed beside them stays
		c.Header("HX-Trigger", "list-done")
	}
	s.Fragment(c, http.StatusOK, "list-work", l)
}

func (s *handlers) renameList(c *gin.Context) {
	name := strings.Join(strings.Fields(c.PostForm("name")), " ")
	if name == "" || len([]rune(name)) > kit.LongestName {
		s.SayList(c, http.StatusUnprocessableEntity, message.Of("A name has between 1 and %d characters.", kit.LongestName))
		return
	}
	if _, err := s.Commands(c).RenameList(c.Request.Context(), parts.ListOf(c).ID, name); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", parts.ListOf(c).ID))
}

// deleteList deletes a list, or brings it back.
func (s *handlers) deleteList(c *gin.Context) {
	if err := s.Commands(c).DeleteList(c.Request.Context(), parts.ListOf(c).ID, strings.HasSuffix(c.Request.URL.Path, "/bring-back")); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/demand")
}

// setCurve keeps the publication's curve of clicks; an empty text takes it back to the usual.
func (s *handlers) setCurve(c *gin.Context) {
	typed := strings.TrimSpace(c.PostForm("curve"))
	var curve demand.Curve
	for _, f := range strings.FieldsFunc(typed, func(r rune) bool { return r == ' ' || r == ';' || r == '\n' || r == '\r' || r == '\t' }) {
		x := demand.ParseFigure(strings.TrimSuffix(f, ","))
		if !x.Known {
			s.SayList(c, http.StatusUnprocessableEntity, message.Of("“%s” is no share of clicks. Give percentages from the first position on, for example: 28 15 10 7.", kit.Shorten(f, 20)))
			return
		}
		curve = append(curve, x.Value/100)
	}
	if typed != "" {
		if wrong := curve.Sound(); wrong != "" {
			s.SayList(c, http.StatusUnprocessableEntity, wrong)
			return
		}
	}
	if err := s.Commands(c).SetCurve(c.Request.Context(), curve); err != nil {
		s.Fail(c, err)
		return
	}
	kit.Back(c, "/demand")
}
