package web

import (
	"bytes"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"corpulan/core/house"
	"corpulan/core/themes"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// lexiconBody is the house lexicon as a study sees it.
type lexiconBody struct {
	StudyID int64
	Wide    []store.LexiconEntry // of the publication
	Own     []store.LexiconEntry // of the study
	Typed   lexiconForm
	Wrong   string // what is wrong with what was typed
}

// lexiconForm is an entry as a person types it.
type lexiconForm struct {
	house.Entry
	Here bool // for this study alone
}

// lexicon shows the house lexicon.
func (s *Server) lexicon(c *gin.Context) {
	s.showLexicon(c, http.StatusOK, lexiconForm{Entry: house.Entry{Kind: house.Ignore, Term: c.Query("term")}}, "")
}

func (s *Server) showLexicon(c *gin.Context, status int, typed lexiconForm, wrong string) {
	id := studyOf(c).ID
	entries, err := s.scope(c).Lexicon(c.Request.Context(), id)
	if err != nil {
		s.fail(c, err)
		return
	}
	body := lexiconBody{StudyID: id, Typed: typed, Wrong: wrong}
	for _, e := range entries {
		if e.StudyID == nil {
			body.Wide = append(body.Wide, e)
		} else {
			body.Own = append(body.Own, e)
		}
	}
	s.views.page(c, status, "lexicon", s.inStudy(c, "lexicon", body))
}

func typedEntry(c *gin.Context) lexiconForm {
	return lexiconForm{house.Entry{Kind: house.Kind(c.PostForm("kind")), Term: c.PostForm("term"), Other: c.PostForm("other")}, c.PostForm("here") != ""}
}

// teach puts an entry into the lexicon.
func (s *Server) teach(c *gin.Context) {
	typed := typedEntry(c)
	entry, err := house.Check(typed.Entry)
	if err != nil {
		if fromHTMX(c) {
			s.say(c, http.StatusUnprocessableEntity, capitalised(err.Error())+".")
			return
		}
		s.showLexicon(c, http.StatusUnprocessableEntity, typed, capitalised(err.Error())+".")
		return
	}
	said := study.Taught(entry)
	if !entry.Kind.OfStudy() {
		said = "House lexicon: " + said
	}
	entries, err := s.scope(c).Lexicon(c.Request.Context(), studyOf(c).ID)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.change(c, said, study.Instead(entries, entry, !typed.Here && !entry.Kind.OfStudy()))
}

// joinThemes moves all headings of one theme to another, given by one of its headings.
func (s *Server) joinThemes(c *gin.Context) {
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	key, other := c.PostForm("key"), c.PostForm("other")
	i := slices.IndexFunc(an.Evidence.Themes, func(t themes.Theme) bool { return t.Key == key })
	if i < 0 || other == "" {
		s.say(c, http.StatusUnprocessableEntity, "This theme is not in the field any more; reload the page and try again.")
		return
	}
	entries, err := s.scope(c).Lexicon(c.Request.Context(), studyOf(c).ID)
	if err != nil {
		s.fail(c, err)
		return
	}
	done, err := s.commands(c).JoinThemes(c.Request.Context(), studyOf(c).ID, entries, an.Evidence.Themes[i], other)
	s.taught(c, done, err)
}

// forget takes an entry out of the lexicon.
func (s *Server) forget(c *gin.Context) {
	typed := typedEntry(c)
	s.change(c, "House lexicon, taken out: "+study.Taught(typed.Entry), []store.LexiconEdit{{Wide: !typed.Here, Before: &typed.Entry}})
}

func (s *Server) change(c *gin.Context, said string, edits []store.LexiconEdit) {
	done, err := s.commands(c).Teach(c.Request.Context(), studyOf(c).ID, said, edits)
	s.taught(c, done, err)
}

// taught answers a change of the lexicon.
func (s *Server) taught(c *gin.Context, done study.Done, err error) {
	id := studyOf(c).ID
	if errors.Is(err, store.ErrStale) {
		s.say(c, http.StatusConflict, "This entry is not in the lexicon any more; reload the page to see what is.")
		return
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	if !fromHTMX(c) {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/lexicon", id))
		return
	}
	s.refreshed(c, noticeOf(id, done))
}

// readLexicon takes entries from a CSV file, or as pasted.
func (s *Server) readLexicon(c *gin.Context) {
	text := c.PostForm("csv")
	if file, err := c.FormFile("file"); err == nil && file.Size > 0 {
		opened, err := file.Open()
		if err != nil {
			s.fail(c, err)
			return
		}
		defer opened.Close()
		var b bytes.Buffer
		if _, err := b.ReadFrom(opened); err != nil {
			s.fail(c, err)
			return
		}
		text = b.String()
	}
	entries, err := house.Read(strings.NewReader(text))
	if err == nil && len(entries) == 0 {
		err = fmt.Errorf("there is no entry in it: each line is a kind, a term and, where one is needed, another term")
	}
	if err != nil {
		s.say(c, http.StatusUnprocessableEntity, "The lexicon was not read: "+err.Error()+".")
		return
	}
	var edits []store.LexiconEdit
	for i := range entries {
		if c.PostForm("here") == "" && entries[i].Kind.OfStudy() {
			s.say(c, http.StatusUnprocessableEntity, fmt.Sprintf("The lexicon was not read: %q is about one study alone; read it for this study only.", entries[i].Kind))
			return
		}
		edits = append(edits, store.LexiconEdit{Wide: c.PostForm("here") == "", After: &entries[i]})
	}
	s.change(c, fmt.Sprintf("House lexicon: read %d entries", len(entries)), edits)
}

// lexiconCSV hands the publication's entries over as CSV, or those of the study.
func (s *Server) lexiconCSV(c *gin.Context) {
	list, err := s.scope(c).Lexicon(c.Request.Context(), studyOf(c).ID)
	if err != nil {
		s.fail(c, err)
		return
	}
	var entries []house.Entry
	name := publicationOf(c).Name
	here := c.Query("here") != ""
	if here {
		name = studyOf(c).Keyword
	}
	for _, e := range list {
		if (e.StudyID != nil) == here {
			entries = append(entries, e.Entry())
		}
	}
	var out bytes.Buffer
	if err := house.Write(&out, entries); err != nil {
		s.fail(c, err)
		return
	}
	attach(c, "lexicon", name, "csv")
	c.Data(http.StatusOK, "text/csv; charset=utf-8", out.Bytes())
}

func capitalised(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
