package web

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/render"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

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
	Date     bool
	Options  []string            // to choose from
	Called   func(string) string // what an option is called; nil for itself
	Person   bool                // it names somebody
	Why      string              // what a proposal comes from
	Pixels   int                 // how wide it is shown among results; 0 where that is of no account
	Size     int                 // in which size of type, pixels
}

// Action is where the field is saved: with the brief, or with the publication.
func (f fieldView) Action() string {
	if f.Study == 0 {
		return "/publication/fields"
	}
	return fmt.Sprintf("/studies/%d/brief/fields", f.Study)
}

// fields are what can be typed, but for those of the outline.
var fields = map[string]fieldView{
	brief.FieldStatus:          {Label: "Status", Options: brief.Stages()},
	brief.FieldOwner:           {Label: "Owner", Person: true, Hint: "Who answers for it"},
	brief.FieldWriter:          {Label: "Writer", Person: true, Hint: "Who writes"},
	brief.FieldDue:             {Label: "Due", Date: true},
	brief.FieldTitleTag:        {Label: "Title tag", Proposal: true, Most: 60, Line: true},
	brief.FieldMetaDescription: {Label: "Meta description", Proposal: true, Most: 160, Line: true},
	brief.FieldH1:              {Label: "H1", Proposal: true, Line: true},
	brief.FieldAddress:         {Label: "Address", Proposal: true, Line: true, Hint: "Where the page is to stand"},
	brief.FieldLength:          {Label: "Length", Line: true, Hint: "Words, such as 900 to 1,300"},
	brief.FieldGoal:            {Label: "Goal", Proposal: true, Hint: "What the page is to achieve, and for whom it stands"},
	brief.FieldSearchIntent:    {Label: "Search intent", Proposal: true, Hint: "What the searcher wants"},
	brief.FieldSecondary:       {Label: "Secondary keywords", Hint: "Other queries that the page is to answer, one a line"},
	brief.FieldAudience:        {Label: "Audience", Proposal: true, Hint: "Who reads it, and what they know already"},
	brief.FieldVoice:           {Label: "Voice", Proposal: true, Hint: "How it sounds"},
	brief.FieldPointOfView:     {Label: "Point of view", Proposal: true, Hint: "Who speaks to whom, and what only we can say"},
	brief.FieldCallToAction:    {Label: "Call to action", Proposal: true, Hint: "What a reader is to do next"},
	brief.FieldAvoid:           {Label: "Not to say", Proposal: true, Hint: "Claims, words and subjects to leave out"},
	brief.FieldReadingGrade:    {Label: "Reading level", Proposal: true, Hint: "How hard it may be to read: a grade first, such as 8"},
	brief.FieldShortAnswer:     {Aria: "Short answer", Proposal: true, Hint: "What a results page may show as the answer, and in which form"},
	brief.FieldMedia:           {Aria: "Images, tables, media", Proposal: true, Hint: "What is to be shown"},
	brief.FieldSummary:         {Aria: "Summary", Proposal: true, Hint: "What sums the page up"},
	brief.FieldStructuredData:  {Aria: "Structured data", Proposal: true, Hint: "Types of schema.org to add"},
	brief.FieldNotes:           {Aria: "Notes", Hint: "Anything else the writer should know"},
}

// Call is what an option is called.
func (f fieldView) Call(option string) string {
	if f.Called == nil {
		return option
	}
	return f.Called(option)
}

// Field is a field of the brief as it now is.
func (an *analysis) Field(name string) fieldView {
	ch := an.Choices
	f, known := fields[name]
	if !known {
		f = fieldView{Aria: "Note on this section", Hint: "Note: what to cover, which page does it well"}
	}
	switch {
	case strings.HasPrefix(name, brief.PointPrefix):
		f = fieldView{Aria: "The point in your words", Hint: "The point in your words"}
	case strings.HasPrefix(name, brief.PartPrefix):
		f = fieldView{Aria: "Text of this part", Hint: "Text of this part"}
	case strings.HasPrefix(name, brief.CuttingNotePrefix):
		f = fieldView{Aria: "Note on this cutting", Hint: "Note: what it is for"}
	}
	f.Study, f.Name, f.Typed = an.Study.ID, name, ch.TypedIn(name) != nil
	f.Why = an.Brief.Why[name]
	switch name {
	case brief.FieldStatus:
		f.Called = an.StageName
	case brief.FieldTitleTag:
		f.Pixels, f.Size = brief.TitleWidth(an.Brief.TitleTag), 20
	case brief.FieldMetaDescription:
		f.Pixels, f.Size = brief.DescriptionWidth(an.Brief.MetaDescription), 14
	}
	if t := ch.TypedIn(name); t != nil {
		f.Value = *t
	} else {
		f.Value = an.Brief.Field(name)
	}
	return f
}

// CuttingNote is the note on a cutting.
func (an *analysis) CuttingNote(id string) fieldView {
	return an.Field(brief.CuttingNotePrefix + id)
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
	Theirs   []render.Piece // what somebody else wrote meanwhile, marked where it is unlike ours
	Typed    bool           // theirs was typed, and is not the proposal
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
	case !brief.KnownField(name) || len(name) > longestKey || !typedHere(name):
		refuse(http.StatusUnprocessableEntity, "This field is not known; reload the page. What you typed is still here.")
		return
	case len([]rune(value)) > longestField:
		refuse(http.StatusUnprocessableEntity, fmt.Sprintf("At most %d characters fit here; this has %d. It is not saved.", longestField, len([]rune(value))))
		return
	}
	if what := wrongIn(name, value); what != "" {
		refuse(http.StatusUnprocessableEntity, what)
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
		an, err := s.findings(c)
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
		s.conflict(c, name, value, conflict)
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

// typedHere tells the fields that are saved as one types; the others are commands.
func typedHere(name string) bool {
	if slices.Contains([]string{brief.FieldOutline, brief.FieldParts, brief.FieldKind, brief.FieldCuttings}, name) {
		return false
	}
	for _, prefix := range []string{brief.HeadingPrefix, brief.WordsPrefix, brief.PartTitlePrefix, brief.CuttingPrefix, brief.CuttingAtPrefix, brief.AtPrefix} {
		if strings.HasPrefix(name, prefix) {
			return false
		}
	}
	return true
}

// wrongIn says what is wrong with a text for a field; empty where nothing is.
func wrongIn(name, value string) string {
	_, _, isLength := brief.LengthIn(value)
	_, err := time.Parse(time.DateOnly, value)
	switch {
	case value == "":
	case name == brief.FieldLength && !isLength:
		return "A length is one or two numbers of words, such as 900 to 1,300. What you typed is still here, and not saved."
	case name == brief.FieldDue && err != nil:
		return "This is no date such as 2026-12-24. It is not saved."
	case name == brief.FieldStatus && !slices.Contains(brief.Stages(), value):
		return "This is not one of the stages of a brief. It is not saved."
	}
	return ""
}

// conflict shows what somebody else wrote, beside what stays in the field.
func (s *Server) conflict(c *gin.Context, name, mine string, conflict *study.Conflict) {
	a := fieldAnswer{Conflict: true, Problem: "Somebody else has changed this meanwhile."}
	theirs := ""
	if conflict.Theirs != nil {
		theirs, a.Typed = *conflict.Theirs, true
	} else if an, err := s.findings(c); err == nil {
		theirs = an.Field(name).Value
	}
	_, a.Theirs = render.Words(mine, theirs)
	s.views.fragment(c, http.StatusConflict, "field-answer", a)
}

func labelOf(name string) string {
	switch {
	case strings.HasPrefix(name, brief.PointPrefix):
		return "a point"
	case strings.HasPrefix(name, brief.PartPrefix):
		return "a part of your own"
	case strings.HasPrefix(name, brief.CuttingNotePrefix):
		return "a note on a cutting"
	}
	if f, ok := fields[name]; ok {
		return cmp.Or(f.Label, f.Aria)
	}
	return "a note of the outline"
}
