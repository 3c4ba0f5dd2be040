package web

import (
	"database/sql"
	"errors"
	"fmt"
	"mime/multipart"
	"net/http"
	"path"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/lexicon"
	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// longestKeyword is what the desk takes, in characters; the database agrees.
const longestKeyword = 200

// newStudy is the line that begins a study, as it was filled in.
type newStudy struct {
	Keyword, Language, Country string
	Depth                      int
	Addresses                  string            // pasted
	Column                     string            // that holds the addresses of a file of ranks
	Columns                    []string          // to choose from
	Wrong                      map[string]string // by field

	own *gather.Results // the results a person brought; nil to ask the engine
}

type deskBody struct {
	Lines []store.Line
	New   newStudy
}

func freshStudy() newStudy { return newStudy{Language: "en", Country: "gb", Depth: 20} }

func (s *Server) desk(c *gin.Context) { s.showDesk(c, http.StatusOK, freshStudy()) }

func (s *Server) showDesk(c *gin.Context, status int, n newStudy) {
	lines, err := s.scope().Ledger(c.Request.Context())
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.page(c, status, "desk", pageData{Title: "Desk", Place: "desk", Publication: s.publication.Name, Body: deskBody{lines, n}})
}

// createStudy takes the line of the desk, and asks for the gathering: of what
// the search engine gives, or of the results that were brought.
func (s *Server) createStudy(c *gin.Context) {
	ctx := c.Request.Context()
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, largestHandIn)
	n := parseStudy(c)
	n.bring(c)
	if len(n.Wrong) > 0 {
		s.showDesk(c, http.StatusUnprocessableEntity, n)
		return
	}
	study := store.Study{Keyword: n.Keyword, Language: n.Language, Country: n.Country, Depth: n.Depth}
	err := s.scope().InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		g, err := tx.CreateStudy(ctx, &study)
		if err != nil {
			return err
		}
		if n.own == nil {
			return s.queue.Search(ctx, sqlTx, g.ID)
		}
		hosts, err := tx.Found(ctx, *g, jobs.ResultsOf(*g, n.own), n.own.Asked, n.own.Related)
		if err != nil {
			return err
		}
		return s.queue.Fetch(ctx, sqlTx, g.ID, hosts...)
	})
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", study.ID))
}

// bring reads the results that a person brought: pasted addresses, a file of
// ranks, or a saved results page.
func (n *newStudy) bring(c *gin.Context) {
	n.Addresses, n.Column = strings.TrimSpace(c.PostForm("addresses")), c.PostForm("column")
	if n.Addresses != "" {
		addresses, problems := gather.ParseAddresses(n.Addresses)
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
		n.Wrong["results"] = "No column of " + file.Filename + " could be recognised as the addresses. Choose the column, and the file once more."
	case err != nil:
		n.Wrong["results"] = file.Filename + ": " + err.Error() + "."
	}
	if n.own != nil && len(n.own.Items) > store.MostResults {
		n.own.Items = n.own.Items[:store.MostResults]
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
		pages, err := gather.Pages(file.Filename, f)
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
	n := newStudy{Keyword: strings.Join(strings.Fields(c.PostForm("keyword")), " "), Language: c.DefaultPostForm("language", "en"),
		Country: strings.ToLower(c.DefaultPostForm("country", "gb")), Wrong: map[string]string{}}
	n.Depth, _ = strconv.Atoi(c.DefaultPostForm("depth", "20"))
	switch length := utf8.RuneCountInString(n.Keyword); {
	case length == 0:
		n.Wrong["keyword"] = "Type the keyword this study is about."
	case length > longestKeyword:
		n.Wrong["keyword"] = fmt.Sprintf("A keyword has at most %d characters; this has %d.", longestKeyword, length)
	case !utf8.ValidString(n.Keyword) || strings.ContainsRune(n.Keyword, 0):
		n.Wrong["keyword"] = "This keyword holds characters that cannot be searched for."
	}
	known := false
	for _, l := range lexicon.Languages() {
		known = known || l == n.Language
	}
	if !known {
		n.Wrong["language"] = "This language is not read yet."
	}
	if len(n.Country) != 2 {
		n.Wrong["country"] = "Give the country as two letters, for example gb."
	}
	if n.Depth < 1 || n.Depth > 100 {
		n.Wrong["depth"] = "Between 1 and 100 results can be gathered."
	}
	return n
}
