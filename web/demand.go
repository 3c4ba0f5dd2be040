package web

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"path"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/demand"
	"corpulan/core/language"
	"corpulan/gather"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// demandBody is the Demand place: the lists of keywords and the slates of the publication.
type demandBody struct {
	Lists   []store.Listed
	Deleted []store.Listed
	Slates  []slateLine
	Gone    []store.Slate // that were deleted
	New     newList
	Samples []Sample
}

// Sample is a list of keywords that ships with the program, to try it with.
type Sample struct {
	Name string // of the file
	Data []byte
}

// slateLine is a slate as the overview lists it.
type slateLine struct {
	store.Slate
	Pages, Studies int
}

// newList is the form that begins a list, or adds to one.
type newList struct {
	Name     string `form:"name"`
	Language string `form:"language,default=en"`
	Country  string `form:"country,default=gb"`
	Pasted   string `form:"pasted"`
	Seeds    string `form:"seeds"`
	Depth    int    `form:"depth,default=2"`
	Most     int    `form:"most,default=100"`
	Letters  bool   `form:"letters"`
	Sample   string `form:"sample"` // the name of a list that ships with the program
	Wrong    string `form:"-"`
}

// longestName is how many characters the name of a list or slate has.
const longestName = 120

// largestPaste is how much may be pasted.
const largestPaste = 4 << 20

func (s *Server) demandRoutes(r *gin.Engine) {
	r.GET("/demand", s.demandPlace)
	r.POST("/demand", s.createList)
	r.POST("/demand/curve", s.setCurve)
	l := r.Group("/demand/:list", s.withList)
	l.GET("", s.groupsPlace)
	l.GET("/work", s.listWork)
	l.GET("/group", s.groupPane)
	l.GET("/names", s.groupNames)
	l.GET("/as/:format", s.downloadGroups)
	l.GET("/columns", s.columnsPlace)
	l.POST("/columns", s.nameColumns)
	l.POST("/add", s.addKeywords)
	l.POST("/seeds", s.askSeeds)
	l.POST("/results", s.askResults)
	l.POST("/figures", s.askFigures)
	l.POST("/stop", s.stopWork)
	l.POST("/width", s.setWidth)
	l.POST("/hand", s.editHand)
	l.POST("/rename", s.renameList)
	l.POST("/delete", s.deleteList)
	l.POST("/bring-back", s.deleteList)
	l.POST("/undo", s.turnList)
	l.POST("/redo", s.turnList)
	s.slateRoutes(r)
}

const listKey = "list"

// withList loads the list named in the address for the handlers behind it.
func (s *Server) withList(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("list"), 10, 64)
	if err != nil {
		err = store.ErrNotFound
	}
	var l store.KeywordList
	if err == nil {
		l, err = s.scope(c).List(c.Request.Context(), id)
	}
	if err != nil {
		s.fail(c, err)
		c.Abort()
		return
	}
	c.Set(listKey, l)
}

func listOf(c *gin.Context) store.KeywordList { return c.MustGet(listKey).(store.KeywordList) }

func (s *Server) demandPlace(c *gin.Context) {
	s.showDemand(c, http.StatusOK, newList{Language: "en", Country: "gb", Depth: 2, Most: 100})
}

func (s *Server) showDemand(c *gin.Context, status int, n newList) {
	ctx, sc := c.Request.Context(), s.scope(c)
	body := demandBody{New: n, Samples: s.samples}
	var err error
	if body.Lists, err = sc.Lists(ctx, false); err == nil {
		body.Deleted, err = sc.Lists(ctx, true)
	}
	if err == nil {
		body.Slates, err = s.slateLines(c)
	}
	if err == nil {
		body.Gone, err = sc.Slates(ctx, true)
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.page(c, status, "demand", pageData{Title: "Demand", Place: "demand", Publication: publicationOf(c).Name, Body: body})
}

// createList begins a list from a file, from what was pasted, from seeds, or from what ships
// with the demo.
func (s *Server) createList(c *gin.Context) {
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil && !errors.Is(err, http.ErrNotMultipart) {
		s.fail(c, err)
		return
	}
	if c.Request.MultipartForm != nil {
		defer func() { _ = c.Request.MultipartForm.RemoveAll() }()
	}
	var n newList
	_ = c.ShouldBind(&n) // figures that are none stay at nought, and are bounded below
	n.Name, n.Country = strings.Join(strings.Fields(n.Name), " "), strings.ToLower(n.Country)
	refuse := func(what string) {
		n.Wrong = what
		s.showDemand(c, http.StatusUnprocessableEntity, n)
	}
	if len([]rune(n.Name)) > longestName {
		refuse(fmt.Sprintf("A name has at most %d characters.", longestName))
		return
	}
	if !slices.Contains(language.Codes(), n.Language) || len(n.Country) != 2 || strings.Trim(n.Country, "abcdefghijklmnopqrstuvwxyz") != "" {
		refuse("Give the market as a language that is read and a country of two letters, for example gb.")
		return
	}
	table, wrong := s.tableIn(c, n)
	seeds := study.Lines(n.Seeds)
	switch {
	case wrong != "":
		refuse(wrong)
		return
	case table == nil && len(seeds) == 0:
		refuse("Choose a file, paste keywords, or type a seed.")
		return
	case len(seeds) > study.MostSeeds:
		refuse(fmt.Sprintf("At most %d seeds at once; these are %d.", study.MostSeeds, len(seeds)))
		return
	}
	if n.Name == "" {
		if n.Name = "Around " + strings.Join(seeds[:min(len(seeds), 2)], ", "); table != nil {
			n.Name = strings.TrimSuffix(table.Name, path.Ext(table.Name))
		}
		n.Name = shorten(n.Name, longestName)
	}
	ctx, do := c.Request.Context(), s.commands(c)
	l, err := do.NewList(ctx, n.Name, n.Language, n.Country)
	switch {
	case errors.Is(err, store.ErrTooMany):
		refuse(fmt.Sprintf("A publication keeps at most %d lists; delete one first.", store.MostLists))
		return
	case err != nil:
		s.fail(c, err)
		return
	}
	c.Set(listKey, l)
	if table == nil {
		if err := do.FromSeeds(ctx, l.ID, seeds, n.Depth, n.Most, n.Letters); err != nil {
			s.fail(c, err)
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", l.ID))
		return
	}
	s.takeTable(c, *table)
}

// takeTable puts a table to a list, and goes on to where its columns are asked for if need be.
func (s *Server) takeTable(c *gin.Context, table study.Table) {
	l := listOf(c)
	_, asks, err := s.commands(c).TakeTable(c.Request.Context(), l.ID, table)
	switch {
	case errors.Is(err, study.ErrBusy):
		s.sayList(c, http.StatusConflict, capitalised(err.Error())+".")
	case err != nil:
		s.fail(c, err)
	case asks:
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d/columns", l.ID))
	default:
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", l.ID))
	}
}

// tableIn is the table that a form brings: a file, what was pasted, or one of the demo's; nil
// for none. What is wrong with it is said.
func (s *Server) tableIn(c *gin.Context, n newList) (*study.Table, string) {
	for _, sample := range s.samples {
		if n.Sample != "" && n.Sample == sample.Name {
			return tableOf(sample.Name, bytes.NewReader(sample.Data))
		}
	}
	file, err := c.FormFile("file")
	if err == nil && file.Size > 0 {
		f, err := file.Open()
		if err != nil {
			return nil, "The file cannot be read; choose it once more."
		}
		defer f.Close()
		return tableOf(file.Filename, f)
	}
	if pasted := strings.TrimSpace(n.Pasted); pasted != "" {
		if len(pasted) > largestPaste {
			return nil, "This is more than can be pasted here; save it as a file."
		}
		return tableOf("pasted.csv", strings.NewReader(pasted))
	}
	return nil, ""
}

func tableOf(name string, in io.Reader) (*study.Table, string) {
	rows, err := gather.Rows(name, in, demand.MostKeywords+100)
	if err != nil {
		return nil, name + ": " + err.Error() + "."
	}
	return &study.Table{Name: name, Rows: rows}, ""
}

// addKeywords puts a file or what was pasted to a list.
func (s *Server) addKeywords(c *gin.Context) {
	var n newList
	_ = c.ShouldBind(&n)
	table, wrong := s.tableIn(c, n)
	switch {
	case wrong != "":
		s.sayList(c, http.StatusUnprocessableEntity, wrong)
	case table == nil:
		s.sayList(c, http.StatusUnprocessableEntity, "Choose a file, or paste keywords.")
	default:
		s.takeTable(c, *table)
	}
}

// inList is the layout's data for a place of a list.
func (s *Server) inList(c *gin.Context, place string, body any) pageData {
	l := listOf(c)
	return pageData{Title: l.Name(), Place: place, Publication: publicationOf(c).Name, Plan: fmt.Sprintf("/demand/%d", l.ID), Body: body}
}

// sayList says what is wrong, or was done, where the whole page need not be made anew.
func (s *Server) sayList(c *gin.Context, status int, text string) {
	if !fromHTMX(c) {
		s.views.page(c, status, "error", pageData{Title: "Demand", Place: "demand", Publication: publicationOf(c).Name, Body: failure{Status: status, What: text, Safe: "All that was there before is as it was.",
			Do: "Go back to mend it.", Link: "/demand", Text: "To the lists"}})
		return
	}
	c.Header("HX-Retarget", "#notices")
	c.Header("HX-Reswap", "innerHTML")
	s.views.fragment(c, status, "notice", notice{Text: text, Bad: status >= 400})
}

// asked answers a request for work in the background.
func (s *Server) asked(c *gin.Context, err error) {
	switch {
	case errors.Is(err, study.ErrBusy):
		s.sayList(c, http.StatusConflict, capitalised(err.Error())+".")
	case err != nil:
		s.fail(c, err)
	default:
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", listOf(c).ID))
	}
}

// numberIn is a whole number of a form; another where it is none.
func numberIn(c *gin.Context, name string, otherwise int) int {
	if n, err := strconv.Atoi(strings.TrimSpace(c.PostForm(name))); err == nil {
		return n
	}
	return otherwise
}

func (s *Server) askSeeds(c *gin.Context) {
	seeds := study.Lines(c.PostForm("seeds"))
	if len(seeds) == 0 || len(seeds) > study.MostSeeds {
		s.sayList(c, http.StatusUnprocessableEntity, fmt.Sprintf("Type between one and %d seeds, one a line.", study.MostSeeds))
		return
	}
	s.asked(c, s.commands(c).FromSeeds(c.Request.Context(), listOf(c).ID, seeds, numberIn(c, "depth", 2), numberIn(c, "most", 100), c.PostForm("letters") != ""))
}

func (s *Server) askResults(c *gin.Context) {
	s.asked(c, s.commands(c).AskResults(c.Request.Context(), listOf(c).ID, numberIn(c, "most", 100)))
}

func (s *Server) askFigures(c *gin.Context) {
	s.asked(c, s.commands(c).AskFigures(c.Request.Context(), listOf(c).ID))
}

func (s *Server) stopWork(c *gin.Context) {
	s.asked(c, s.commands(c).StopWork(c.Request.Context(), listOf(c).ID))
}

// listWork is how far the work on a list has come; the page asks for it as long as it runs.
func (s *Server) listWork(c *gin.Context) {
	l := listOf(c)
	w := l.Work.Data()
	if !w.Running { // the groups are asked for anew; what is being typed beside them stays
		c.Header("HX-Trigger", "list-done")
	}
	s.views.fragment(c, http.StatusOK, "list-work", l)
}

func (s *Server) renameList(c *gin.Context) {
	name := strings.Join(strings.Fields(c.PostForm("name")), " ")
	if name == "" || len([]rune(name)) > longestName {
		s.sayList(c, http.StatusUnprocessableEntity, fmt.Sprintf("A name has between 1 and %d characters.", longestName))
		return
	}
	if _, err := s.commands(c).RenameList(c.Request.Context(), listOf(c).ID, name); err != nil {
		s.fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", listOf(c).ID))
}

// deleteList deletes a list, or brings it back.
func (s *Server) deleteList(c *gin.Context) {
	if err := s.scope(c).DeleteList(c.Request.Context(), listOf(c).ID, strings.HasSuffix(c.Request.URL.Path, "/bring-back")); err != nil {
		s.fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/demand")
}

// setCurve keeps the publication's curve of clicks; an empty text takes it back to the usual.
func (s *Server) setCurve(c *gin.Context) {
	typed := strings.TrimSpace(c.PostForm("curve"))
	var curve demand.Curve
	for _, f := range strings.FieldsFunc(typed, func(r rune) bool { return r == ' ' || r == ';' || r == '\n' || r == '\r' || r == '\t' }) {
		x := demand.ParseFigure(strings.TrimSuffix(f, ","))
		if !x.Known {
			s.sayList(c, http.StatusUnprocessableEntity, fmt.Sprintf("“%s” is no share of clicks. Give percentages from the first position on, for example: 28 15 10 7.", shorten(f, 20)))
			return
		}
		curve = append(curve, x.Value/100)
	}
	if typed != "" {
		if wrong := curve.Sound(); wrong != "" {
			s.sayList(c, http.StatusUnprocessableEntity, wrong)
			return
		}
	}
	if err := s.commands(c).SetCurve(c.Request.Context(), curve); err != nil {
		s.fail(c, err)
		return
	}
	back(c, "/demand")
}
