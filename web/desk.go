package web

import (
	"errors"
	"fmt"
	"mime/multipart"
	"net/http"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/address"
	"corpulan/core/language"
	"corpulan/gather"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// longestKeyword is what the desk takes, in characters; the database agrees.
const longestKeyword = 200

// newStudy is the line that begins a study, as it was filled in.
type newStudy struct {
	Keyword   string            `form:"keyword"`
	Language  string            `form:"language,default=en"`
	Country   string            `form:"country,default=gb"`
	Depth     int               `form:"depth,default=20"`
	Addresses string            `form:"addresses"` // pasted
	Column    string            `form:"column"`    // that holds the addresses of a file of ranks
	Anyway    bool              `form:"anyway"`    // begin another all the same
	Columns   []string          `form:"-"`         // to choose from
	Wrong     map[string]string `form:"-"`         // by field
	Like      *store.Study      `form:"-"`         // the study of the same keyword and market that exists

	own *gather.Results // the results a person brought; nil to ask the engine
}

// mostLines is how many studies the desk lists at once.
const mostLines = 100

type deskBody struct {
	Lines  []store.Line
	New    newStudy
	Query  store.LedgerQuery
	Counts map[store.Shelf]int
	More   int // studies beyond those listed
	Shelf  string
	Demo   bool // the engine is the stand-in
}

func freshStudy() newStudy { return newStudy{Language: "en", Country: "gb", Depth: 20} }

func (s *Server) desk(c *gin.Context) { s.showDesk(c, http.StatusOK, freshStudy()) }

func (s *Server) showDesk(c *gin.Context, status int, n newStudy) {
	body, err := s.deskBody(c, n)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.page(c, status, "desk", pageData{Title: "Desk", Place: "desk", Publication: publicationOf(c).Name, Body: body})
}

func (s *Server) deskBody(c *gin.Context, n newStudy) (deskBody, error) {
	query := pageQuery(c)
	q := store.LedgerQuery{Shelf: store.Shelf(query.Get("shelf")), Filter: strings.TrimSpace(query.Get("filter")), Most: mostLines}
	if q.Shelf != store.Archived && q.Shelf != store.Deleted {
		q.Shelf = store.OnDesk
	}
	if from, err := strconv.Atoi(query.Get("from")); err == nil && from > 0 {
		q.From = from
	}
	lines, counts, err := s.scope(c).Ledger(c.Request.Context(), q)
	return deskBody{Lines: lines, New: n, Query: q, Counts: counts, More: max(counts[q.Shelf]-q.From-len(lines), 0), Shelf: string(q.Shelf), Demo: s.demo}, err
}

// Next is where the studies beyond those listed stand.
func (b deskBody) Next() int { return b.Query.From + len(b.Lines) }

// Count is how many studies lie on a shelf.
func (b deskBody) Count(shelf string) int { return b.Counts[store.Shelf(shelf)] }

// createStudy takes the line of the desk. Where a study of the same keyword and
// market exists it is offered first.
func (s *Server) createStudy(c *gin.Context) {
	ctx := c.Request.Context()
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil && !errors.Is(err, http.ErrNotMultipart) {
		s.fail(c, err)
		return
	}
	if c.Request.MultipartForm != nil {
		defer func() { _ = c.Request.MultipartForm.RemoveAll() }()
	}
	n := parseStudy(c)
	n.bring(c)
	if len(n.Wrong) == 0 && !n.Anyway {
		like, err := s.scope(c).Like(ctx, n.Keyword, n.Language, n.Country)
		if err == nil {
			n.Like = &like
			s.showDesk(c, http.StatusConflict, n)
			return
		}
		if !errors.Is(err, store.ErrNotFound) {
			s.fail(c, err)
			return
		}
	}
	if len(n.Wrong) > 0 {
		s.showDesk(c, http.StatusUnprocessableEntity, n)
		return
	}
	study := store.Study{Keyword: n.Keyword, Language: n.Language, Country: n.Country, Depth: n.Depth}
	if err := s.commands(c).Begin(ctx, &study, n.own); err != nil {
		s.fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", study.ID))
}

// bring reads the results that a person brought: pasted addresses, a file of
// ranks, or a saved results page.
func (n *newStudy) bring(c *gin.Context) {
	n.Addresses = strings.TrimSpace(n.Addresses)
	if n.Addresses != "" {
		addresses, problems := address.ParseList(n.Addresses)
		if len(problems) > 0 {
			n.Wrong["addresses"] = strings.Join(problems, "; ") + "."
			return
		}
		n.own = &gather.Results{}
		for i, a := range addresses {
			n.own.Items = append(n.own.Items, gather.Item{Rank: i + 1, URL: a})
		}
	}
	file, err := c.FormFile("results")
	if err != nil || file.Size == 0 {
		n.bound("addresses")
		return
	}
	if n.own != nil {
		n.Wrong["addresses"] = "Paste addresses or choose a file, not both."
		return
	}
	n.own, err = readResults(file, n.Column)
	var which *gather.WhichColumn
	switch {
	case errors.As(err, &which):
		n.Columns = which.Columns
		n.Wrong["results"] = "It is not sure which column of " + file.Filename + " holds the addresses. Choose the column, and the file once more."
	case err != nil:
		n.Wrong["results"] = file.Filename + ": " + err.Error() + "."
	}
	n.bound("results")
}

// bound refuses more results than a gathering holds.
func (n *newStudy) bound(field string) {
	if n.own != nil && len(n.own.Items) > store.MostResults {
		n.Wrong[field] = fmt.Sprintf("A gathering holds at most %d pages; these are %d. Bring the first ranks.", store.MostResults, len(n.own.Items))
	}
}

// readResults reads a file of ranks or a saved results page, told apart by the
// file's name and its first bytes.
func readResults(file *multipart.FileHeader, column string) (*gather.Results, error) {
	f, err := file.Open()
	if err != nil {
		return nil, err
	}
	defer f.Close()
	switch ext := strings.ToLower(path.Ext(file.Filename)); ext {
	case ".html", ".htm", ".mhtml", ".mht":
		pages, err := gather.Pages(file.Filename, f, gather.NewBudget(largestUnpacked))
		if err != nil {
			return nil, err
		}
		return gather.ParseResultsPage(pages[0].Body)
	}
	items, err := gather.ParseRanks(file.Filename, f, column)
	if err != nil {
		return nil, err
	}
	return &gather.Results{Items: items}, nil
}

func parseStudy(c *gin.Context) newStudy {
	var n newStudy
	err := c.ShouldBind(&n)
	n.Keyword, n.Country, n.Wrong = strings.Join(strings.Fields(n.Keyword), " "), strings.ToLower(n.Country), map[string]string{}
	if err != nil { // of what is no text, only the depth is never sent by our own page
		n.Depth = 0
	}
	switch length := utf8.RuneCountInString(n.Keyword); {
	case length == 0:
		n.Wrong["keyword"] = "Type the keyword this study is about."
	case length > longestKeyword:
		n.Wrong["keyword"] = fmt.Sprintf("A keyword has at most %d characters; this has %d.", longestKeyword, length)
	case !utf8.ValidString(n.Keyword) || strings.ContainsRune(n.Keyword, 0):
		n.Wrong["keyword"] = "This keyword holds characters that cannot be searched for."
	}
	if !slices.Contains(language.Codes(), n.Language) {
		n.Wrong["language"] = "This language is not read yet."
	}
	if len(n.Country) != 2 || strings.Trim(n.Country, "abcdefghijklmnopqrstuvwxyz") != "" {
		n.Wrong["country"] = "Give the country as two letters, for example gb."
	}
	if n.Depth < 1 || n.Depth > 100 {
		n.Wrong["depth"] = "Between 1 and 100 results can be gathered."
	}
	return n
}
