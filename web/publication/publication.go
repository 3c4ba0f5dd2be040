// Package publication is what it says in all its briefs, its own pages, and how it is set up (setup.go,
// programs.go).
package publication

import (
	"errors"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/search"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// publicationBody is the Publication place: what it says for all its briefs, its own pages,
// its templates.
type publicationBody struct {
	store.Publication
	Says    store.Settings
	Fields  []parts.FieldView
	Pages   []store.OwnPage
	Counts  store.OwnCounts
	Filter  string
	From    int
	Said    message.Message
	Problem message.Message
	Columns []string // of a list whose addresses could not be told
}

// Next is where the next page of the list begins; 0 where there is none.
func (b publicationBody) Next() int {
	if len(b.Pages) < ownPerPage {
		return 0
	}
	return b.From + ownPerPage
}

// Waits tells that something is still being read.
func (b publicationBody) Waits() bool {
	return b.Counts.Waiting > 0 || b.Says.Sitemap != nil && !b.Says.Sitemap.Done
}

// ownPerPage is how many own pages are listed at once.
const ownPerPage = 100

// defaultFields are the fields of a brief that a publication can fill for all of them.
func defaultFields() []string {
	return []string{brief.FieldAudience, brief.FieldVoice, brief.FieldPointOfView, brief.FieldCallToAction, brief.FieldAvoid, brief.FieldReadingGrade}
}

func (s *handlers) publicationPlace(c *gin.Context) {
	s.publicationPage(c, http.StatusOK, publicationBody{})
}

func (s *handlers) publicationPage(c *gin.Context, status int, body publicationBody) {
	ctx, sc := c.Request.Context(), s.Scope(c)
	var err error
	if body.Publication, err = sc.Publication(ctx); err != nil {
		s.Fail(c, err)
		return
	}
	body.Says = body.Settings.Data()
	site := parts.FieldView{Name: study.AddressField, Label: "Site", Hint: "https://…", Line: true, Value: body.Address, Typed: true}
	body.Fields = []parts.FieldView{site}
	for _, name := range defaultFields() {
		f, _ := parts.FieldNamed(name)
		f.Value, f.Typed, f.Proposal = body.Says.Fields[name], true, false
		body.Fields = append(body.Fields, f)
	}
	body.Filter = strings.TrimSpace(c.Query("filter"))
	if n, err := strconv.Atoi(c.Query("from")); err == nil && n > 0 {
		body.From = n
	}
	if body.Pages, body.Counts, err = sc.OwnPages(ctx, body.Filter, body.From, ownPerPage); err != nil {
		s.Fail(c, err)
		return
	}
	if kit.FromHTMX(c) && c.Request.Method == http.MethodGet {
		s.Fragment(c, status, "own-pages", body)
		return
	}
	s.Page(c, status, "publication", kit.PageData{Title: body.Name, Place: "publication", Publication: body.Name, Body: body})
}

// typeDefault saves what a publication says in a field of all its briefs.
func (s *handlers) typeDefault(c *gin.Context) {
	name, value, was := c.PostForm("field"), strings.ReplaceAll(c.PostForm("value"), "\r\n", "\n"), strings.ReplaceAll(c.PostForm("was"), "\r\n", "\n")
	refuse := func(what message.Message) {
		s.Fragment(c, http.StatusUnprocessableEntity, "field-answer", parts.FieldAnswer{Problem: what})
	}
	switch {
	case name != study.AddressField && !slices.Contains(defaultFields(), name):
		refuse("This field is not known; reload the page. What you typed is still here.")
		return
	case utf8.RuneCountInString(value) > kit.LongestField:
		refuse(message.Of("At most %d characters fit here. It is not saved.", kit.LongestField))
		return
	case name == study.AddressField && strings.TrimSpace(value) != "" && !isSite(strings.TrimSpace(value)):
		refuse("An address begins with https:// or http://. It is not saved.")
		return
	}
	err := s.Commands(c).SetDefault(c.Request.Context(), name, was, value)
	var conflict *study.Conflict
	switch {
	case errors.As(err, &conflict):
		parts.Conflict(s.Kit, c, name, value, conflict)
	case err != nil:
		s.Fail(c, err)
	case !kit.FromHTMX(c):
		kit.Back(c, "/publication")
	default:
		s.Fragment(c, http.StatusOK, "field-answer", parts.FieldAnswer{Saved: true})
	}
}

func isSite(address string) bool {
	u, err := url.Parse(address)
	return err == nil && (u.Scheme == "http" || u.Scheme == "https") && u.Host != ""
}

// readSitemap asks for the list of a site's own pages.
func (s *handlers) readSitemap(c *gin.Context) {
	address := strings.TrimSpace(c.PostForm("address"))
	if !isSite(address) {
		s.publicationPage(c, http.StatusUnprocessableEntity, publicationBody{Problem: "Give the address of the site, or of its sitemap; it begins with https:// or http://."})
		return
	}
	if err := s.Commands(c).ReadSitemap(c.Request.Context(), kit.PublicationOf(c).ID, address); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/publication")
}

// addOwnPages takes own pages from a list.
func (s *handlers) addOwnPages(c *gin.Context) {
	refuse := func(what message.Message) {
		s.publicationPage(c, http.StatusUnprocessableEntity, publicationBody{Problem: what})
	}
	file, err := c.FormFile("file")
	if err != nil {
		refuse("Choose a CSV, TSV or XLSX file with a column of addresses.")
		return
	}
	in, err := file.Open()
	if err != nil {
		s.Fail(c, err)
		return
	}
	defer in.Close()
	rows, err := s.Reader.Table(c.Request.Context(), file.Filename, in, search.MaxRanks)
	var list []search.Item
	if err == nil {
		list, err = search.ParseRanks(rows, c.PostForm("column"))
	}
	var which *search.WhichColumn
	switch {
	case errors.As(err, &which):
		s.publicationPage(c, http.StatusUnprocessableEntity, publicationBody{Problem: "Which column has the addresses? Choose it, and the file once more.", Columns: which.Columns})
		return
	case err != nil:
		refuse(message.Fault(err))
		return
	}
	pages := make([]store.OwnPage, len(list))
	for i, p := range list {
		pages[i] = store.OwnPage{URL: p.URL, Title: p.Title}
	}
	fresh, left, err := s.Commands(c).AddOwnPages(c.Request.Context(), kit.PublicationOf(c).ID, pages)
	if err != nil {
		s.Fail(c, err)
		return
	}
	said := message.Of("%d of %d pages are new.", fresh, len(list))
	if left > 0 {
		said = message.Joined(" ", said, message.Of("At most %d are kept; %d were left out.", store.MaxOwn, left))
	}
	s.publicationPage(c, http.StatusOK, publicationBody{Said: said})
}

// readOwnAgain asks for own pages that failed.
func (s *handlers) readOwnAgain(c *gin.Context) {
	if _, err := s.Commands(c).ReadOwnAgain(c.Request.Context(), kit.PublicationOf(c).ID); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/publication")
}

// removeOwn forgets an own page, or all of them.
func (s *handlers) removeOwn(c *gin.Context) {
	id, err := strconv.ParseInt(c.PostForm("page"), 10, 64)
	if err != nil || id < 0 {
		s.Fail(c, store.ErrNotFound)
		return
	}
	if err := s.Commands(c).RemoveOwn(c.Request.Context(), id); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/publication")
}

// forgetTemplate takes a template of the publication away, or brings it back.
func (s *handlers) forgetTemplate(c *gin.Context) {
	move := s.Commands(c).ForgetTemplate
	if c.PostForm("back") != "" {
		move = s.Commands(c).BringTemplateBack
	}
	if err := move(c.Request.Context(), c.PostForm("template")); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/publication")
}

// saveTemplate keeps a brief as a template of the publication.
func (s *handlers) saveTemplate(c *gin.Context) {
	name := strings.Join(strings.Fields(c.PostForm("name")), " ")
	if name == "" || utf8.RuneCountInString(name) > kit.LongestAuthor {
		s.Say(c, http.StatusUnprocessableEntity, message.Of("A template has a name of at most %d characters.", kit.LongestAuthor))
		return
	}
	err := s.Commands(c).SaveTemplate(c.Request.Context(), kit.StudyOf(c).ID, name)
	if errors.Is(err, store.ErrTooMany) {
		s.Say(c, http.StatusUnprocessableEntity, message.Of("A publication keeps at most %d templates; take one away first.", study.MaxTemplates))
		return
	}
	s.Done(c, study.Done{Said: message.Of("Saved as the template “%s”: its texts, its parts and your own sections", name)}, err)
}
