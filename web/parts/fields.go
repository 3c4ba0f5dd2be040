package parts

import (
	"fmt"
	"net/http"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/render"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// FieldView is a field of the brief as a page shows it.
type FieldView struct {
	Study    int64
	Name     string
	Label    message.Message // empty where it stands alone, under a heading of its own: Aria says it then
	Alone    bool
	Aria     message.Message
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
	Why      message.Message     // what a proposal comes from
	Pixels   int                 // how wide it is shown among results; 0 where that is of no account
	Size     int                 // in which size of type, pixels
}

// Action is where the field is saved: with the brief, or with the publication.
func (f FieldView) Action() string {
	if f.Study == 0 {
		return "/publication/fields"
	}
	return fmt.Sprintf("/studies/%d/brief/fields", f.Study)
}

// Call is what an option is called.
func (f FieldView) Call(option string) string {
	if f.Called == nil {
		return option
	}
	return f.Called(option)
}

// Over tells that a text is longer than it should be.
func (f FieldView) Over() bool { return f.Most > 0 && len([]rune(f.Value)) > f.Most }

// looks are how the fields are, but for those of the outline; what they are called the brief knows.
var looks = map[string]FieldView{
	brief.FieldStatus:          {Options: brief.Stages()},
	brief.FieldOwner:           {Person: true, Hint: "Who answers for it"},
	brief.FieldWriter:          {Person: true, Hint: "Who writes"},
	brief.FieldDue:             {Date: true},
	brief.FieldTitleTag:        {Proposal: true, Most: 60, Line: true},
	brief.FieldMetaDescription: {Proposal: true, Most: 160, Line: true},
	brief.FieldH1:              {Proposal: true, Line: true},
	brief.FieldAddress:         {Proposal: true, Line: true, Hint: "Where the page is to stand"},
	brief.FieldLength:          {Line: true, Hint: "Words, such as 900 to 1,300"},
	brief.FieldGoal:            {Proposal: true, Hint: "What the page is to achieve, and for whom it stands"},
	brief.FieldSearchIntent:    {Proposal: true, Hint: "What the searcher wants"},
	brief.FieldSecondary:       {Hint: "Other queries that the page is to answer, one a line"},
	brief.FieldAudience:        {Proposal: true, Hint: "Who reads it, and what they know already"},
	brief.FieldVoice:           {Proposal: true, Hint: "How it sounds"},
	brief.FieldPointOfView:     {Proposal: true, Hint: "Who speaks to whom, and what only we can say"},
	brief.FieldCallToAction:    {Proposal: true, Hint: "What a reader is to do next"},
	brief.FieldAvoid:           {Proposal: true, Hint: "Claims, words and subjects to leave out"},
	brief.FieldReadingGrade:    {Proposal: true, Hint: "How hard it may be to read: a grade first, such as 8"},
	brief.FieldShortAnswer:     {Alone: true, Proposal: true, Hint: "What a results page may show as the answer, and in which form"},
	brief.FieldMedia:           {Alone: true, Proposal: true, Hint: "What is to be shown"},
	brief.FieldSummary:         {Alone: true, Proposal: true, Hint: "What sums the page up"},
	brief.FieldStructuredData:  {Alone: true, Proposal: true, Hint: "Types of schema.org to add"},
	brief.FieldNotes:           {Alone: true, Hint: "Anything else the writer should know"},
}

// FieldNamed is a field that nobody has filled; false for one of the outline.
func FieldNamed(name string) (FieldView, bool) {
	f, label := looks[name], brief.FieldLabel(name)
	if f.Name = name; f.Alone {
		f.Aria = label
	} else {
		f.Label = label
	}
	return f, label != ""
}

// FieldAnswer is what a field shows after saving.
type FieldAnswer struct {
	Saved    bool
	Problem  message.Message
	Conflict bool
	Theirs   []render.Piece // what somebody else wrote meanwhile, marked where it is unlike ours
	Typed    bool           // theirs was typed, and is not the proposal
	Revision int
}

// Conflict shows what somebody else wrote, beside what stays in the field.
func Conflict(s *kit.Kit, c *gin.Context, name, mine string, conflict *study.Conflict) {
	a := FieldAnswer{Conflict: true, Problem: "Somebody else has changed this meanwhile."}
	theirs := ""
	if conflict.Theirs != nil {
		theirs, a.Typed = *conflict.Theirs, true
	} else if an, err := s.Findings(c); err == nil {
		theirs = FieldOf(an, name).Value
	}
	_, a.Theirs = render.Words(mine, theirs)
	s.Fragment(c, http.StatusConflict, "field-answer", a)
}

// FieldOf is a field of the brief as it now is.
func FieldOf(an *kit.Analysis, name string) FieldView {
	ch := an.Choices
	f, known := FieldNamed(name)
	if !known {
		f = FieldView{Aria: "Note on this section", Hint: "Note: what to cover, which page does it well"}
	}
	switch {
	case strings.HasPrefix(name, brief.PointPrefix):
		f = FieldView{Aria: "The point in your words", Hint: "The point in your words"}
	case strings.HasPrefix(name, brief.PickPrefix):
		f = FieldView{Aria: "The verdict in your words", Hint: "The verdict: for whom, or for what"}
	case strings.HasPrefix(name, brief.PartPrefix):
		f = FieldView{Aria: "Text of this part", Hint: "Text of this part"}
	case strings.HasPrefix(name, brief.CuttingNotePrefix):
		f = FieldView{Aria: "Note on this cutting", Hint: "Note: what it is for"}
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
	} else if key, ok := strings.CutPrefix(name, brief.PickPrefix); ok {
		f.Value = an.Brief.Verdict(an.Evidence, key)
	} else {
		f.Value = an.Brief.Field(name)
	}
	return f
}
