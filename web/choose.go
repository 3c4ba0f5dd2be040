package web

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/brief"
	"corpulan/core/language"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// longestKey bounds what a form says of a finding, in bytes.
const longestKey = 2000

// choose adopts or drops a finding, or takes a decision back.
func (s *Server) choose(c *gin.Context) {
	st := studyOf(c)
	ctx := c.Request.Context()
	m := brief.Mark{Kind: brief.Kind(c.PostForm("kind")), Key: c.PostForm("key"), Text: c.PostForm("text"), State: brief.State(c.PostForm("state"))}
	if !slices.Contains(brief.Kinds(), m.Kind) || m.Key == "" || len(m.Key) > longestKey || len(m.Text) > longestKey || m.State != "" && m.State != brief.Adopted && m.State != brief.Dropped {
		s.say(c, http.StatusUnprocessableEntity, "This finding could not be recognised; reload the page and try again.")
		return
	}
	an, err := s.findings(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	if c.PostForm("view") == "brief" && m.Kind == brief.ThemeKind && m.State == brief.Dropped {
		done, err := s.commands(c).DropSection(ctx, st.ID, an.Evidence, m.Key, m.Text)
		s.done(c, done, err)
		return
	}
	done, err := s.commands(c).Choose(ctx, st.ID, an.Evidence, m)
	if err != nil {
		s.fail(c, err)
		return
	}
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/studies/%d/evidence", st.ID))
		return
	}
	if c.PostForm("view") == "brief" {
		s.refreshed(c, noticeOf(st.ID, done))
		return
	}
	s.afterChoice(c, m, done)
}

// mostPicked bounds how many findings one press decides about.
const mostPicked = 1000

// chooseMany adopts or drops all findings that are picked, in one step.
func (s *Server) chooseMany(c *gin.Context) {
	st := studyOf(c)
	kind, state := brief.Kind(c.PostForm("kind")), brief.State(c.PostForm("state"))
	picked := c.PostFormArray("pick")
	switch {
	case !slices.Contains(brief.Kinds(), kind) || state != brief.Adopted && state != brief.Dropped:
		s.say(c, http.StatusUnprocessableEntity, "These findings could not be recognised; reload the page and try again.")
		return
	case len(picked) == 0:
		s.say(c, http.StatusUnprocessableEntity, "Nothing is picked: tick rows, or press x on them.")
		return
	case len(picked) > mostPicked:
		s.say(c, http.StatusUnprocessableEntity, fmt.Sprintf("At most %d findings can be decided about at once.", mostPicked))
		return
	}
	an, err := s.findings(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	texts := map[string]string{}
	for _, r := range findings(an, kind) {
		texts[r.Key] = r.Text
	}
	var marks []brief.Mark
	for _, key := range picked {
		if text, ok := texts[key]; ok { // what is gone meanwhile is left
			marks = append(marks, brief.Mark{Kind: kind, Key: key, Text: text, State: state})
		}
	}
	done, err := s.commands(c).ChooseMany(c.Request.Context(), st.ID, an.Evidence, marks)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.refreshed(c, noticeOf(st.ID, done))
}

// longestOwn bounds what a person adds of their own, in characters.
const longestOwn = 120

// ownNames are what can be added, in words.
var ownNames = map[brief.Kind]string{brief.TermKind: "A term", brief.QuestionKind: "A question", brief.LinkKind: "An address"}

// addOwn puts a term, a question or a link of the person's own into the brief.
func (s *Server) addOwn(c *gin.Context) {
	st := studyOf(c)
	kind, text := brief.Kind(c.PostForm("kind")), strings.Join(strings.Fields(c.PostForm("text")), " ")
	an, err := s.findings(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	name, known := ownNames[kind]
	u, notURL := url.Parse(text)
	switch {
	case !known:
		s.say(c, http.StatusUnprocessableEntity, "Only terms, questions and links can be added; reload the page and try again.")
		return
	case kind == brief.LinkKind && (notURL != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "" || len(text) > longestKey):
		s.say(c, http.StatusUnprocessableEntity, "A link is a whole address that begins with https:// or http://.")
		return
	case kind != brief.LinkKind && !sayable(text, an.Evidence.Language):
		s.say(c, http.StatusUnprocessableEntity, fmt.Sprintf("%s has letters, and at most %d characters.", name, longestOwn))
		return
	}
	done, err := s.commands(c).AddOwn(c.Request.Context(), st.ID, an.Evidence, kind, text)
	s.done(c, done, err)
}

// sayable tells a text that can be a term, a question or a heading.
func sayable(text, lang string) bool {
	return text != "" && utf8.RuneCountInString(text) <= longestOwn && language.For(lang).PhraseKey(text) != ""
}

// done answers a command in the Brief: with the document as it then is, and what was done.
func (s *Server) done(c *gin.Context, done study.Done, err error) {
	st := studyOf(c)
	switch {
	case errors.Is(err, brief.ErrNoSection):
		s.say(c, http.StatusUnprocessableEntity, "This section is not in the outline any more; reload the page and try again.")
	case errors.Is(err, brief.ErrOwnPart):
		s.say(c, http.StatusUnprocessableEntity, "A section cannot stand below itself; nothing was moved.")
	case err != nil:
		s.fail(c, err)
	case !fromHTMX(c):
		back(c, fmt.Sprintf("/studies/%d/brief", st.ID))
	default:
		s.refreshed(c, noticeOf(st.ID, done))
	}
}

// choiceBody is what changes on a page of evidence after a choice.
type choiceBody struct {
	*analysis
	Row    findingRow
	Notice notice
}

func (s *Server) afterChoice(c *gin.Context, m brief.Mark, done study.Done) {
	an, err := s.findings(c)
	if err == nil {
		err = s.withFigures(c, an)
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	body := choiceBody{analysis: an, Notice: noticeOf(an.Study.ID, done)}
	for _, r := range findings(an, m.Kind) {
		if r.Key == m.Key {
			body.Row = r
			body.Row.Swap = true
		}
	}
	s.views.fragment(c, http.StatusOK, "choice-made", body)
}
