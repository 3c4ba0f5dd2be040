package brief

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/study"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// CuttingNote is the note on a cutting.
func (an document) CuttingNote(id string) parts.FieldView {
	return an.Field(brief.CuttingNotePrefix + id)
}

// NoteField is the note of an outline section.
func (an document) NoteField(key, heading string) parts.FieldView {
	f := an.Field(brief.NotePrefix + key)
	f.Aria = message.Of("Note on %s", heading)
	return f
}

// typeField saves what was typed into one field, or gives it back to the
// proposal. The form says what stood in the field before; if somebody else has
// changed it meanwhile nothing is overwritten, and the person decides.
func (s *handlers) typeField(c *gin.Context) {
	st := kit.StudyOf(c)
	text := func(name string) string { return strings.ReplaceAll(c.PostForm(name), "\r\n", "\n") }
	name, value, was := c.PostForm("field"), text("value"), text("was")
	pick := c.PostForm("pick") != "" // it is one press, and no field that waits for an answer
	refuse := func(status int, what message.Message) {
		if pick {
			s.Say(c, status, what)
			return
		}
		s.Fragment(c, status, "field-answer", parts.FieldAnswer{Problem: what})
	}
	switch {
	case !brief.KnownField(name) || len(name) > kit.LongestKey || !typedHere(name):
		refuse(http.StatusUnprocessableEntity, "This field is not known; reload the page. What you typed is still here.")
		return
	case len([]rune(value)) > kit.LongestField:
		refuse(http.StatusUnprocessableEntity, message.Of("At most %d characters fit here; this has %d. It is not saved.", kit.LongestField, len([]rune(value))))
		return
	}
	if what := wrongIn(name, value); what != "" {
		refuse(http.StatusUnprocessableEntity, what)
		return
	}
	typing := study.Typing{Field: name, Label: labelOf(name), Text: &value}
	if pick {
		typing.Said = message.Of("Taken for %v: %s", labelOf(name), kit.Shorten(value, 60))
	}
	restore := c.PostForm("restore") == "true"
	if restore {
		typing.Text = nil
	}
	if c.PostForm("typed") == "true" {
		typing.Was = &was
	} else if value == was && !restore { // the proposal stands, and nobody has typed
		s.Fragment(c, http.StatusOK, "field-answer", parts.FieldAnswer{})
		return
	}
	done, revision, err := s.Commands(c).Write(c.Request.Context(), st.ID, typing)
	var conflict *study.Conflict
	switch {
	case errors.As(err, &conflict) && pick:
		s.Say(c, http.StatusConflict, "Somebody else has changed this meanwhile; nothing was saved. Reload the page to see it.")
	case errors.As(err, &conflict):
		parts.Conflict(s.Kit, c, name, value, conflict)
	case err != nil:
		s.Fail(c, err)
	case !kit.FromHTMX(c):
		kit.Back(c, fmt.Sprintf("/studies/%d/brief", st.ID))
	case restore, pick:
		s.Refreshed(c, kit.NoticeOf(st.ID, done))
	default:
		s.Fragment(c, http.StatusOK, "field-answer", parts.FieldAnswer{Saved: true, Revision: revision})
	}
}

// typedHere tells the fields that are saved as one types; the others are commands.
func typedHere(name string) bool {
	if slices.Contains([]string{brief.FieldOutline, brief.FieldParts, brief.FieldKind, brief.FieldCuttings, brief.FieldPicks}, name) {
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
func wrongIn(name, value string) message.Message {
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

func labelOf(name string) message.Message {
	switch {
	case strings.HasPrefix(name, brief.PointPrefix):
		return "a point"
	case strings.HasPrefix(name, brief.PickPrefix):
		return "a verdict"
	case strings.HasPrefix(name, brief.PartPrefix):
		return "a part of your own"
	case strings.HasPrefix(name, brief.CuttingNotePrefix):
		return "a note on a cutting"
	}
	return cmp.Or(brief.FieldLabel(name), "a note of the outline")
}
