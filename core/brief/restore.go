package brief

import (
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
