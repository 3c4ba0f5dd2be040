package evidence

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/study"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// choose adopts or drops a finding, or takes a decision back.
func (s *handlers) choose(c *gin.Context) {
	st := kit.StudyOf(c)
	ctx := c.Request.Context()
	m := brief.Mark{Kind: brief.Kind(c.PostForm("kind")), Key: c.PostForm("key"), Text: c.PostForm("text"), State: brief.State(c.PostForm("state"))}
	if !slices.Contains(brief.Kinds(), m.Kind) || m.Key == "" || len(m.Key) > kit.LongestKey || len(m.Text) > kit.LongestKey || m.State != "" && m.State != brief.Adopted && m.State != brief.Dropped {
		s.Say(c, http.StatusUnprocessableEntity, "This finding could not be recognised; reload the page and try again.")
		return
	}
	if c.PostForm("view") == "brief" && m.Kind == brief.ThemeKind && m.State == brief.Dropped {
		done, err := s.Commands(c).DropSection(ctx, st.ID, m.Key, m.Text)
		s.Done(c, done, err)
		return
	}
	done, err := s.Commands(c).Choose(ctx, st.ID, m)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if !kit.FromHTMX(c) {
		kit.Back(c, fmt.Sprintf("/studies/%d/evidence", st.ID))
		return
	}
	if c.PostForm("view") == "brief" {
		s.Refreshed(c, kit.NoticeOf(st.ID, done))
		return
	}
	s.afterChoice(c, m, done)
}

// maxPicked bounds how many findings one press decides about.
const maxPicked = 1000

// chooseMany adopts or drops all findings that are picked, in one step.
func (s *handlers) chooseMany(c *gin.Context) {
	st := kit.StudyOf(c)
	kind, state := brief.Kind(c.PostForm("kind")), brief.State(c.PostForm("state"))
	picked := c.PostFormArray("pick")
	switch {
	case !slices.Contains(brief.Kinds(), kind) || state != brief.Adopted && state != brief.Dropped:
		s.Say(c, http.StatusUnprocessableEntity, "These findings could not be recognised; reload the page and try again.")
		return
	case len(picked) == 0:
		s.Say(c, http.StatusUnprocessableEntity, "Nothing is picked: tick rows, or press x on them.")
		return
	case len(picked) > maxPicked:
		s.Say(c, http.StatusUnprocessableEntity, message.Of("At most %d findings can be decided about at once.", maxPicked))
		return
	}
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	texts := map[string]string{}
	for _, r := range parts.Findings(an, kind) {
		texts[r.Key] = r.Text
	}
	var marks []brief.Mark
	for _, key := range picked {
		if text, ok := texts[key]; ok { // what is gone meanwhile is left
			marks = append(marks, brief.Mark{Kind: kind, Key: key, Text: text, State: state})
		}
	}
	done, err := s.Commands(c).ChooseMany(c.Request.Context(), st.ID, marks)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Refreshed(c, kit.NoticeOf(st.ID, done))
}

// ownNames are what can be added, in words.
var ownNames = map[brief.Kind]string{brief.TermKind: "A term", brief.QuestionKind: "A question", brief.LinkKind: "An address", brief.ThingKind: "A name"}

// addOwn puts a term, a question, a link or a listed thing of the person's own into the brief.
func (s *handlers) addOwn(c *gin.Context) {
	st := kit.StudyOf(c)
	kind, text := brief.Kind(c.PostForm("kind")), strings.Join(strings.Fields(c.PostForm("text")), " ")
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	name, known := ownNames[kind]
	u, notURL := url.Parse(text)
	switch {
	case !known:
		s.Say(c, http.StatusUnprocessableEntity, "Only terms, questions, links and listed things can be added; reload the page and try again.")
		return
	case kind == brief.LinkKind && (notURL != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "" || len(text) > kit.LongestKey):
		s.Say(c, http.StatusUnprocessableEntity, "A link is a whole address that begins with https:// or http://.")
		return
	case kind != brief.LinkKind && !kit.Sayable(text, an.Evidence.Language):
		s.Say(c, http.StatusUnprocessableEntity, message.Of("%s has letters, and at most %d characters.", name, kit.LongestOwn))
		return
	}
	done, err := s.Commands(c).AddOwn(c.Request.Context(), st.ID, kind, text)
	s.Done(c, done, err)
}

// choiceBody is what changes on a page of evidence after a choice.
type choiceBody struct {
	*kit.Analysis
	Row    parts.FindingRow
	Notice kit.Notice
}

func (s *handlers) afterChoice(c *gin.Context, m brief.Mark, done study.Done) {
	an, err := s.Findings(c)
	if err == nil {
		err = s.WithFigures(c, an)
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	body := choiceBody{Analysis: an, Notice: kit.NoticeOf(an.Study.ID, done)}
	for _, r := range parts.Findings(an, m.Kind) {
		if r.Key == m.Key {
			body.Row = r
			body.Row.Swap = true
		}
	}
	s.Fragment(c, http.StatusOK, "choice-made", body)
}
