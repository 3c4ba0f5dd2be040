package brief

import (
	"maps"
	"slices"
)

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
	fields := map[string]bool{}
	for _, x := range []Choices{c, then} {
		for name := range x.Typed {
			fields[name] = true
		}
		for key := range x.Notes {
			fields[NotePrefix+key] = true
		}
	}
	for _, name := range slices.Sorted(maps.Keys(fields)) {
		write(name)
	}
	return busy(edits)
}
