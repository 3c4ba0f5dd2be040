package brief

import (
	"errors"
	"slices"
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

	Made []string `json:"made,omitempty"` // what the finding was made of; see identity.go
}

// Decide is the edit that records a decision about a finding; an empty state
// takes the decision back. made is what the finding is made of (see Made), which
// counts where nothing is decided about it yet.
func (c Choices) Decide(m Mark, made []string) Edit {
	e := Edit{Kind: m.Kind, Key: m.Key, Text: m.Text, Made: c.madeOf(m.Kind, m.Key, made)}
	e.Before = c.at(e)
	if m.State != "" {
		s := string(m.State)
		e.After = &s
	}
	return e
}

// Write is the edit that puts a text into a field; nil gives the field back to
// the proposal. made is as with Decide, for a field about a finding.
func (c Choices) Write(field string, text *string, made []string) Edit {
	e := Edit{Key: field, After: text}
	if k, key := about(field); k != "" {
		e.Made = c.madeOf(k, key, made)
	}
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
	defer c.tie(e)
	if e.Kind != "" {
		if e.After == nil {
			c.Clear(e.Kind, e.Key)
		} else {
			c.Set(Mark{e.Kind, e.Key, e.Text, State(*e.After)})
		}
		return nil
	}
	c.put(e.Key, e.After)
	return nil
}

func (c Choices) madeOf(k Kind, key string, today []string) []string {
	if made := c.Made[place(k, key)]; made != nil {
		return made
	}
	return today
}

// tie remembers what the finding of an edit was made of, as long as something is
// kept about it.
func (c *Choices) tie(e Edit) {
	kind, key := e.Kind, e.Key
	if kind == "" {
		kind, key = about(e.Key)
	}
	if kind == "" {
		return
	}
	at := place(kind, key)
	switch {
	case !slices.Contains(c.kept(kind), key):
		delete(c.Made, at)
	case len(e.Made) > 0 && c.Made[at] == nil: // the first decision says what it is about
		if c.Made == nil {
			c.Made = map[string][]string{}
		}
		c.Made[at] = e.Made
	}
	if len(c.Made) == 0 {
		c.Made = nil
	}
}

// at is what stands at the place an edit is about.
func (c Choices) at(e Edit) *string {
	if e.Kind != "" {
		if s := string(c.State(e.Kind, e.Key)); s != "" {
			return &s
		}
		return nil
	}
	return c.TypedIn(e.Key)
}

func same(a, b *string) bool { return a == nil && b == nil || a != nil && b != nil && *a == *b }
