package web

import (
	"bytes"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"strings"
	"unicode"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/vocabulary"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// briefBody is the Brief place.
type briefBody struct {
	*analysis
	Formats []render.Format
}

func (s *Server) brief(c *gin.Context) {
	body, err := s.briefBody(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.page(c, http.StatusOK, "brief", s.inStudy(c, "brief", body))
}

func (s *Server) briefBody(c *gin.Context) (briefBody, error) {
	an, err := s.analyse(c)
	return briefBody{analysis: an, Formats: render.Formats()}, err
}

// briefPart is a part of the document with its heading.
type briefPart struct {
	render.Block
	Body []render.Block
}

// Parts is the document, the same blocks as in every format, by its parts; the
// first has what stands before them.
func (an *analysis) Parts() []briefPart {
	parts := []briefPart{{}}
	for _, b := range render.Document(an.Brief) {
		if b.Form == render.PartForm {
			parts = append(parts, briefPart{Block: b})
			continue
		}
		last := &parts[len(parts)-1]
		last.Body = append(last.Body, b)
	}
	return parts
}

// tier is the terms of one tier, a column of the brief.
type tier struct {
	Name  string
	About string
	Rows  []render.Row
}

// tiersOf sets the rows of terms in columns.
func tiersOf(rows []render.Row) []tier {
	tiers := []tier{{"Staples", "on 60 % of the pages and more", nil}, {"Frequent", "on 30 % and more", nil}, {"Occasional", "on two pages and more", nil}, {"Your own", "added by hand", nil}}
	for _, r := range rows {
		at := 2
		switch vocabulary.Tier(r.Group) {
		case vocabulary.Staple:
			at = 0
		case vocabulary.Frequent:
			at = 1
		case brief.OwnTier:
			at = 3
		}
		tiers[at].Rows = append(tiers[at].Rows, r)
	}
	return tiers
}

// PageLink is where the captured text of a rank's page can be read.
func (an *analysis) PageLink(rank int) string {
	for _, r := range an.Results {
		if r.Rank == rank {
			return fmt.Sprintf("/studies/%d/pages/%d", an.Study.ID, r.ID)
		}
	}
	return fmt.Sprintf("/studies/%d/field", an.Study.ID)
}

// fieldView is a field of the brief as a page shows it.
type fieldView struct {
	Study    int64
	Name     string
	Label    string // empty for a note, which has Aria instead
	Aria     string
	Hint     string
	Value    string
	Typed    bool // a person typed it; else it is the proposal
	Proposal bool // there is one to go back to
	Most     int  // characters it should have; 0 for any number
	Line     bool // of one line; Enter makes none
}

// fields are what can be typed, but for the notes of the outline.
var fields = map[string]fieldView{
	brief.FieldTitleTag:        {Label: "Title tag", Proposal: true, Most: 60, Line: true},
	brief.FieldMetaDescription: {Label: "Meta description", Proposal: true, Most: 160, Line: true},
	brief.FieldH1:              {Label: "H1", Proposal: true, Line: true},
	brief.FieldGoal:            {Label: "Goal", Hint: "What the page is to achieve, and for whom it stands"},
	brief.FieldAudience:        {Label: "Audience", Hint: "Who reads it, and what they know already"},
	brief.FieldVoice:           {Label: "Voice", Hint: "How it sounds"},
	brief.FieldPointOfView:     {Label: "Point of view", Hint: "Who speaks to whom, and what only we can say"},
	brief.FieldAvoid:           {Label: "Not to say", Hint: "Claims, words and subjects to leave out"},
	brief.FieldNotes:           {Label: "Notes", Hint: "Anything else the writer should know"},
}

// Field is a field of the brief as it now is.
func (an *analysis) Field(name string) fieldView {
	ch := an.Choices
	f, known := fields[name]
	if !known {
		f = fieldView{Aria: "Note on this section", Hint: "Note: what to cover, which page does it well"}
	}
	if strings.HasPrefix(name, brief.PointPrefix) {
		f = fieldView{Aria: "The point in your words", Hint: "The point in your words"}
	}
	f.Study, f.Name, f.Typed = an.Study.ID, name, ch.TypedIn(name) != nil
	switch name {
	case brief.FieldTitleTag:
		f.Value = an.Brief.TitleTag
	case brief.FieldMetaDescription:
		f.Value = an.Brief.MetaDescription
	case brief.FieldH1:
		f.Value = an.Brief.H1
	default:
		if t := ch.TypedIn(name); t != nil {
			f.Value = *t
		}
	}
	return f
}

// HeadingTyped tells whether a person has worded the heading of an outline section.
func (an *analysis) HeadingTyped(key string) bool {
	return an.Choices.TypedIn(brief.HeadingPrefix+key) != nil
}

// NoteField is the note of an outline section.
func (an *analysis) NoteField(key, heading string) fieldView {
	f := an.Field(brief.NotePrefix + key)
	f.Aria = "Note on " + heading
	return f
}

// Over tells that a text is longer than it should be.
func (f fieldView) Over() bool { return f.Most > 0 && len([]rune(f.Value)) > f.Most }

// longestField is what a field of the brief holds, in characters.
const longestField = 20_000

// fieldAnswer is what a field shows after saving.
type fieldAnswer struct {
	Saved    bool
	Problem  string
	Conflict bool
	Theirs   string // what somebody else wrote meanwhile
	Typed    bool   // theirs was typed, and is not the proposal
	Revision int
}

// typeField saves what was typed into one field, or gives it back to the
// proposal. The form says what stood in the field before; if somebody else has
// changed it meanwhile nothing is overwritten, and the person decides.
func (s *Server) typeField(c *gin.Context) {
	st := studyOf(c)
	text := func(name string) string { return strings.ReplaceAll(c.PostForm(name), "\r\n", "\n") }
	name, value, was := c.PostForm("field"), text("value"), text("was")
	pick := c.PostForm("pick") != "" // it is one press, and no field that waits for an answer
	refuse := func(status int, what string) {
		if pick {
			s.say(c, status, what)
			return
		}
		s.views.fragment(c, status, "field-answer", fieldAnswer{Problem: what})
	}
	switch {
	case !brief.KnownField(name) || len(name) > longestKey:
		refuse(http.StatusUnprocessableEntity, "This field is not known; reload the page. What you typed is still here.")
		return
	case len([]rune(value)) > longestField:
		refuse(http.StatusUnprocessableEntity, fmt.Sprintf("At most %d characters fit here; this has %d. It is not saved.", longestField, len([]rune(value))))
		return
	}
	typing := study.Typing{Field: name, Label: labelOf(name), Text: &value}
	if pick {
		typing.Said = fmt.Sprintf("Taken for %s: %s", strings.ToLower(typing.Label), shorten(value, 60))
	}
	restore := c.PostForm("restore") == "true"
	if restore {
		typing.Text = nil
	}
	if c.PostForm("typed") == "true" {
		typing.Was = &was
	} else if value == was && !restore { // the proposal stands, and nobody has typed
		s.views.fragment(c, http.StatusOK, "field-answer", fieldAnswer{})
		return
	}
	var about *evidence.Evidence // what the field is about; other fields are saved whatever becomes of the evidence
	if brief.FollowsFinding(name) {
		an, err := s.analyse(c)
		if err != nil {
			s.fail(c, err)
			return
		}
		about = an.Evidence
	}
	done, revision, err := s.commands(c).Write(c.Request.Context(), st.ID, about, typing)
	var conflict *study.Conflict
	switch {
	case errors.As(err, &conflict) && pick:
		s.say(c, http.StatusConflict, "Somebody else has changed this meanwhile; nothing was saved. Reload the page to see it.")
	case errors.As(err, &conflict):
		s.conflict(c, name, conflict)
	case err != nil:
		s.fail(c, err)
	case !fromHTMX(c):
		back(c, fmt.Sprintf("/studies/%d/brief", st.ID))
	case restore, pick:
		s.refreshed(c, noticeOf(st.ID, done))
	default:
		s.views.fragment(c, http.StatusOK, "field-answer", fieldAnswer{Saved: true, Revision: revision})
	}
}

// conflict shows what somebody else wrote, beside what stays in the field.
func (s *Server) conflict(c *gin.Context, name string, conflict *study.Conflict) {
	a := fieldAnswer{Conflict: true, Problem: "Somebody else has changed this meanwhile."}
	if conflict.Theirs != nil {
		a.Theirs, a.Typed = *conflict.Theirs, true
	} else if an, err := s.analyse(c); err == nil {
		a.Theirs = an.Field(name).Value
	}
	s.views.fragment(c, http.StatusConflict, "field-answer", a)
}

func labelOf(name string) string {
	switch {
	case strings.HasPrefix(name, brief.PointPrefix):
		return "a point"
	case strings.HasPrefix(name, brief.HeadingPrefix):
		return "a heading of the outline"
	}
	if f, ok := fields[name]; ok {
		return f.Label
	}
	return "a note of the outline"
}

// download hands the brief over as a file.
func (s *Server) download(c *gin.Context) {
	f, ok := render.FormatNamed(c.Param("format"))
	if !ok {
		s.fail(c, store.ErrNotFound)
		return
	}
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	var out bytes.Buffer
	if err := f.Write(&out, an.Brief); err != nil {
		s.fail(c, err)
		return
	}
	attach(c, "brief", an.Study.Keyword, f.Extension)
	c.Data(http.StatusOK, f.MediaType, out.Bytes())
}

// faqData hands the questions of the brief over as FAQPage data (schema.org), with a place
// for each answer that the writer has yet to give: the answers of the field are others'.
func (s *Server) faqData(c *gin.Context) {
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	var out bytes.Buffer
	if err := render.FAQ(&out, an.Brief); err != nil {
		s.fail(c, err)
		return
	}
	attach(c, "faq", an.Study.Keyword, "json")
	c.Data(http.StatusOK, "application/ld+json", out.Bytes())
}

// attach names the file that an answer is to be saved as (RFC 6266): the kind, the
// keyword, and its ending.
func attach(c *gin.Context, kind, keyword, ending string) {
	name := kind + "-" + fileName(keyword) + "." + ending
	c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
}

// longestFileName is what a keyword may take of a file's name, in characters.
const longestFileName = 60

// fileName makes a keyword fit for a file's name in any system: its words, joined
// by hyphens.
func fileName(keyword string) string {
	words := strings.FieldsFunc(strings.ToLower(keyword), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.IsMark(r) })
	if len(words) == 0 {
		return "study"
	}
	return strings.TrimRight(shorten(strings.Join(words, "-"), longestFileName), "-")
}
