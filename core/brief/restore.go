package brief

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"slices"

	"corpulan/core/evidence"
)

// Restore is the edits that make a brief what it was: the choices as they were, and where today's
// evidence makes another document of them than was kept, standing on that document. gathering is
// what that was made of; no document has the choices followed by the evidence of today.
func (c Choices) Restore(e *evidence.Evidence, then Choices, document *Brief, gathering int64, s Setting) []Edit {
	want := then.Clone()
	if document != nil && !Compose(e, then, s).same(*document) {
		if want.Stands != nil {
			gathering = want.Stands.Gathering
		}
		want = want.standing(e, *document, gathering)
	}
	return c.To(want)
}

// standing is the choices with a document that they stand on.
func (c Choices) standing(e *evidence.Evidence, document Brief, gathering int64) Choices {
	c.Stands = nil
	free := c.Clone()
	for _, x := range free.Stand(e, document, gathering) {
		if free.Apply(x) != nil { // never: they are made on these choices
			return c
		}
	}
	return free
}

// same tells whether two documents say the same, whatever pages stand behind them.
func (b Brief) same(o Brief) bool { return slices.Equal(b.says(), o.says()) }

// says is all that a document says: its fields, its outline and its lists.
func (b Brief) says() (list []string) {
	for _, name := range FieldNames() {
		list = append(list, name+" "+b.Field(name))
	}
	list = append(list, fmt.Sprint(b.Words.Lower, b.Words.Target, b.Words.Upper))
	for _, m := range b.Taken() {
		list = append(list, m.Text)
	}
	for _, t := range b.Terms {
		list = append(list, fmt.Sprint(t.Term, t.Tier, t.Lower, t.Upper))
	}
	b.Each(func(s *Section) {
		list = append(list, fmt.Sprint(s.Level, s.Heading, s.Words, s.Note, s.Questions, s.Terms))
	})
	for _, x := range b.Facts {
		list = append(list, x.Text)
	}
	for _, x := range b.Cuttings {
		list = append(list, x.Text)
	}
	return list
}

// largestKept bounds a document that is read back, in bytes. Our own.
const largestKept = 64 << 20

// Encode is the document as it is kept, packed JSON.
func (b Brief) Encode() ([]byte, error) {
	var out bytes.Buffer
	z := gzip.NewWriter(&out)
	if err := json.NewEncoder(z).Encode(b); err != nil {
		return nil, fmt.Errorf("keeping the document: %w", err)
	}
	if err := z.Close(); err != nil {
		return nil, fmt.Errorf("keeping the document: %w", err)
	}
	return out.Bytes(), nil
}

// Decode is the document that Encode was called on. One of another schema is an error.
func Decode(body []byte) (Brief, error) {
	var b Brief
	z, err := gzip.NewReader(bytes.NewReader(body))
	if err != nil {
		return b, fmt.Errorf("reading a kept document: %w", err)
	}
	if err := json.NewDecoder(io.LimitReader(z, largestKept)).Decode(&b); err != nil {
		return b, fmt.Errorf("reading a kept document: %w", err)
	}
	if b.Schema != Schema {
		return b, fmt.Errorf("reading a kept document: its schema is %q", b.Schema)
	}
	return b, nil
}

// To is the edits that bring the choices to what they were, or are elsewhere: marks, then
// texts, each place once.
func (c Choices) To(then Choices) []Edit {
	var edits []Edit
	mark := func(m Mark, state State) {
		m.State = state
		edits = append(edits, c.Decide(m, then.Made[place(m.Kind, m.Key)]))
	}
	for _, m := range then.Marks {
		mark(m, m.State)
	}
	for _, m := range c.Marks {
		if then.State(m.Kind, m.Key) == "" {
			mark(m, "")
		}
	}
	write := func(field string) {
		var made []string
		if k, key := about(field); k != "" {
			made = then.Made[place(k, key)]
		}
		edits = append(edits, c.Write(field, then.TypedIn(field), made))
	}
	var names []string
	for _, x := range []Choices{c, then} {
		for _, k := range append(Kinds(), "") {
			names = append(names, x.typedAt(k)...)
		}
	}
	slices.Sort(names)
	for _, name := range slices.Compact(names) {
		write(name)
	}
	return busy(edits)
}
