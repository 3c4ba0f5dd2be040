package evidence

import (
	"bytes"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/core/themes"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// lexiconBody is the house lexicon as a study sees it.
type lexiconBody struct {
	StudyID int64
	Wide    []store.LexiconEntry // of the publication
	Own     []store.LexiconEntry // of the study
	Typed   lexiconForm
	Wrong   message.Message // what is wrong with what was typed
}

// lexiconForm is an entry as a person types it.
type lexiconForm struct {
	house.Entry
	Here bool // for this study alone
}

// lexicon shows the house lexicon.
func (s *handlers) lexicon(c *gin.Context) {
	s.showLexicon(c, http.StatusOK, lexiconForm{Entry: house.Entry{Kind: house.Ignore, Term: c.Query("term")}}, "")
}

func (s *handlers) showLexicon(c *gin.Context, status int, typed lexiconForm, wrong message.Message) {
	id := kit.StudyOf(c).ID
	entries, err := s.Scope(c).Lexicon(c.Request.Context(), id)
	if err != nil {
		s.Fail(c, err)
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
	s.Page(c, status, "lexicon", s.InStudy(c, "lexicon", body))
}

func typedEntry(c *gin.Context) lexiconForm {
	return lexiconForm{house.Entry{Kind: house.Kind(c.PostForm("kind")), Term: c.PostForm("term"), Other: c.PostForm("other")}, c.PostForm("here") != ""}
}

// teach puts an entry into the lexicon.
func (s *handlers) teach(c *gin.Context) {
	typed := typedEntry(c)
	entry, err := house.Check(typed.Entry)
	if err != nil {
		if kit.FromHTMX(c) {
			s.Say(c, http.StatusUnprocessableEntity, message.Fault(err))
			return
		}
		s.showLexicon(c, http.StatusUnprocessableEntity, typed, message.Fault(err))
		return
	}
	said := study.Taught(entry)
	if !entry.Kind.OfStudy() {
		said = message.Of("House lexicon: %v", said)
	}
	entries, err := s.Scope(c).Lexicon(c.Request.Context(), kit.StudyOf(c).ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.change(c, said, study.Instead(entries, entry, !typed.Here && !entry.Kind.OfStudy()))
}

// joinThemes moves all headings of one theme to another, given by one of its headings.
func (s *handlers) joinThemes(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	key, other := c.PostForm("key"), c.PostForm("other")
	i := slices.IndexFunc(an.Evidence.Themes, func(t themes.Theme) bool { return t.Key == key })
	if i < 0 || other == "" {
		s.Say(c, http.StatusUnprocessableEntity, "This theme is not in the field any more; reload the page and try again.")
		return
	}
	entries, err := s.Scope(c).Lexicon(c.Request.Context(), kit.StudyOf(c).ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	done, err := s.Commands(c).JoinThemes(c.Request.Context(), kit.StudyOf(c).ID, entries, an.Evidence.Themes[i], other)
	s.taught(c, done, err)
}

// forget takes an entry out of the lexicon.
func (s *handlers) forget(c *gin.Context) {
	typed := typedEntry(c)
	s.change(c, message.Of("House lexicon, taken out: %v", study.Taught(typed.Entry)), []store.LexiconEdit{{Wide: !typed.Here, Before: &typed.Entry}})
}

func (s *handlers) change(c *gin.Context, said message.Message, edits []store.LexiconEdit) {
	done, err := s.Commands(c).Teach(c.Request.Context(), kit.StudyOf(c).ID, said, edits)
	s.taught(c, done, err)
}

// taught answers a change of the lexicon.
func (s *handlers) taught(c *gin.Context, done study.Done, err error) {
	id := kit.StudyOf(c).ID
	if errors.Is(err, store.ErrStale) {
		s.Say(c, http.StatusConflict, "This entry is not in the lexicon any more; reload the page to see what is.")
		return
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	if !kit.FromHTMX(c) {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/lexicon", id))
		return
	}
	s.Refreshed(c, kit.NoticeOf(id, done))
}

// readLexicon takes entries from a CSV file, or as pasted.
func (s *handlers) readLexicon(c *gin.Context) {
	text := c.PostForm("csv")
	if file, err := c.FormFile("file"); err == nil && file.Size > 0 {
		opened, err := file.Open()
		if err != nil {
			s.Fail(c, err)
			return
		}
		defer opened.Close()
		var b bytes.Buffer
		if _, err := b.ReadFrom(opened); err != nil {
			s.Fail(c, err)
			return
		}
		text = b.String()
	}
	entries, err := house.Read(strings.NewReader(text))
	if err == nil && len(entries) == 0 {
		err = message.Errorf("there is no entry in it: each line is a kind, a term and, where one is needed, another term")
	}
	if err != nil {
		s.Say(c, http.StatusUnprocessableEntity, message.Of("The lexicon was not read: %v", message.Fault(err)))
		return
	}
	var edits []store.LexiconEdit
	for i := range entries {
		if c.PostForm("here") == "" && entries[i].Kind.OfStudy() {
			s.Say(c, http.StatusUnprocessableEntity, message.Of("The lexicon was not read: %q is about one study alone; read it for this study only.", string(entries[i].Kind)))
			return
		}
		edits = append(edits, store.LexiconEdit{Wide: c.PostForm("here") == "", After: &entries[i]})
	}
	s.change(c, message.Of("House lexicon: read %d entries", len(entries)), edits)
}

// lexiconCSV hands the publication's entries over as CSV, or those of the study.
func (s *handlers) lexiconCSV(c *gin.Context) {
	list, err := s.Scope(c).Lexicon(c.Request.Context(), kit.StudyOf(c).ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	var entries []house.Entry
	name := kit.PublicationOf(c).Name
	here := c.Query("here") != ""
	if here {
		name = kit.StudyOf(c).Keyword
	}
	for _, e := range list {
		if (e.StudyID != nil) == here {
			entries = append(entries, e.Entry())
		}
	}
	var out bytes.Buffer
	if err := house.Write(&out, entries); err != nil {
		s.Fail(c, err)
		return
	}
	kit.Attach(c, "lexicon", name, "csv")
	c.Data(http.StatusOK, "text/csv; charset=utf-8", out.Bytes())
}
