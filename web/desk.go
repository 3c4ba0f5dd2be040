package web

import (
	"database/sql"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/lexicon"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// longestKeyword is what the desk takes, in characters; the database agrees.
const longestKeyword = 200

// newStudy is the line that begins a study, as it was filled in.
type newStudy struct {
	Keyword, Language, Country string
	Depth                      int
	Wrong                      map[string]string // by field
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

// createStudy takes the line of the desk and asks for the gathering.
func (s *Server) createStudy(c *gin.Context) {
	n := parseStudy(c)
	if len(n.Wrong) > 0 {
		s.showDesk(c, http.StatusUnprocessableEntity, n)
		return
	}
	study := store.Study{Keyword: n.Keyword, Language: n.Language, Country: n.Country, Depth: n.Depth}
	err := s.scope().InTx(c.Request.Context(), func(tx store.Scope, sqlTx *sql.Tx) error {
		g, err := tx.CreateStudy(c.Request.Context(), &study)
		if err != nil {
			return err
		}
		return s.queue.Search(c.Request.Context(), sqlTx, g.ID)
	})
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", study.ID))
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
