package brief

import (
	"errors"
	"slices"
	"strings"
)

// ErrStale says that what an edit was made on does not stand any more.
var ErrStale = errors.New("this has been changed meanwhile")

// Edit is one change at one place of the choices: what stood there and what
// shall stand there, each nil for nothing (no decision, no text of one's own).
// It can be turned round, which is what undoing is.
type Edit struct {
	Kind   Kind    `json:"kind,omitempty"` // of the finding it is about; empty for a text
	Key    string  `json:"key"`            // of the finding, or the name of the field
	Text   string  `json:"text,omitempty"` // the finding in words
	Before *string `json:"before"`
	After  *string `json:"after"`
}

// NotePrefix marks the name of a field that is the note of an outline section:
// the key of the section follows.
const NotePrefix = "note:"

// Decide is the edit that records a decision about a finding; an empty state
// takes the decision back.
func (c Choices) Decide(m Mark) Edit {
	e := Edit{Kind: m.Kind, Key: m.Key, Text: m.Text}
	e.Before = c.at(e)
	if m.State != "" {
		s := string(m.State)
		e.After = &s
	}
	return e
}

// Write is the edit that puts a text into a field; nil gives the field back to
// the proposal.
func (c Choices) Write(field string, text *string) Edit {
	e := Edit{Key: field, After: text}
	e.Before = c.at(e)
	return e
}

// Reversed is the edit that takes this one back.
func (e Edit) Reversed() Edit {
	e.Before, e.After = e.After, e.Before
	return e
}

// Idle tells that the edit changes nothing.
func (e Edit) Idle() bool { return same(e.Before, e.After) }

// Apply makes an edit. It fails with ErrStale, and changes nothing, if what
// stands at the place is not what the edit was made on.
func (c *Choices) Apply(e Edit) error {
	if !same(c.at(e), e.Before) {
		return ErrStale
	}
	if e.Kind != "" {
		if e.After == nil {
			c.Clear(e.Kind, e.Key)
		} else {
			c.Set(Mark{e.Kind, e.Key, e.Text, State(*e.After)})
		}
		return nil
	}
	if theme, ok := strings.CutPrefix(e.Key, NotePrefix); ok {
		if e.After == nil {
			delete(c.Notes, theme)
		} else {
			c.Note(theme, *e.After)
		}
		return nil
	}
	if e.After == nil {
		delete(c.Typed, e.Key)
	} else {
		c.Type(e.Key, *e.After)
	}
	return nil
}

// at is what stands at the place an edit is about.
func (c Choices) at(e Edit) *string {
	if e.Kind != "" {
		if s := string(c.State(e.Kind, e.Key)); s != "" {
			return &s
		}
		return nil
	}
	texts, name := c.Typed, e.Key
	if theme, ok := strings.CutPrefix(e.Key, NotePrefix); ok {
		texts, name = c.Notes, theme
	}
	if s, ok := texts[name]; ok {
		return &s
	}
	return nil
}

// TypedIn is what a person typed into a field, nil where the proposal stands.
func (c Choices) TypedIn(field string) *string { return c.at(Edit{Key: field}) }

// KnownField tells whether a name is that of something that can be typed.
func KnownField(name string) bool {
	theme, isNote := strings.CutPrefix(name, NotePrefix)
	return isNote && theme != "" || slices.Contains(FieldNames(), name)
}

func same(a, b *string) bool { return a == nil && b == nil || a != nil && b != nil && *a == *b }
