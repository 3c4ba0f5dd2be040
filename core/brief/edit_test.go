package brief

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func words(s string) *string { return &s }

func TestEdits(t *testing.T) {
	var c Choices
	drop := c.Decide(Mark{TermKind, "tyre", "tyres", Dropped}, nil)
	require.NoError(t, c.Apply(drop))
	assert.Equal(t, Dropped, c.State(TermKind, "tyre"))
	assert.ErrorIs(t, c.Apply(drop), ErrStale, "it was made on an undecided term")
	require.NoError(t, c.Apply(drop.Reversed()))
	assert.Empty(t, c.Marks)

	write := c.Write(FieldGoal, words("Sell tyres"), nil)
	require.NoError(t, c.Apply(write))
	assert.Equal(t, "Sell tyres", *c.TypedIn(FieldGoal))
	require.NoError(t, c.Apply(c.Write(FieldGoal, nil, nil)))
	assert.Nil(t, c.TypedIn(FieldGoal), "the proposal stands again")
	assert.ErrorIs(t, c.Apply(write.Reversed()), ErrStale, "somebody has changed it since")

	note := c.Write(NotePrefix+"tyre pressur", words("Name the gauge"), nil)
	require.NoError(t, c.Apply(note))
	assert.Equal(t, "Name the gauge", c.noteOn("tyre pressur"))
	assert.True(t, c.Write(NotePrefix+"tyre pressur", words("Name the gauge"), nil).Idle())
	for name, known := range map[string]bool{FieldGoal: true, FieldPointOfView: true, "note:x": true, "note:": false, "colour": false, "": false} {
		assert.Equal(t, known, KnownField(name), name)
	}
}

// Whatever is done can be undone, step by step, back to where it began.
func TestUndoLeadsBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var c Choices
		var done []Edit
		state := func() map[string]string {
			all := map[string]string{}
			for _, m := range c.Marks {
				all["mark "+string(m.Kind)+m.Key] = string(m.State)
			}
			for k, v := range typed(c) {
				all["typed "+k] = v
			}
			return all
		}
		states := []map[string]string{state()}
		for range rapid.IntRange(1, 30).Draw(t, "steps") {
			var e Edit
			switch rapid.IntRange(0, 2).Draw(t, "what") {
			case 0:
				e = c.Decide(Mark{rapid.SampledFrom(Kinds()).Draw(t, "kind"), rapid.SampledFrom([]string{"a", "b"}).Draw(t, "key"), "text", rapid.SampledFrom([]State{Adopted, Dropped, ""}).Draw(t, "state")}, []string{"made"})
			case 1:
				e = c.Write(rapid.SampledFrom(FieldNames()).Draw(t, "field"), words(rapid.String().Draw(t, "text")), nil)
			default:
				e = c.Write(rapid.SampledFrom([]string{"note:a", "goal"}).Draw(t, "field"), nil, []string{"made"})
			}
			if err := c.Apply(e); err != nil {
				t.Fatal(err)
			}
			done, states = append(done, e), append(states, state())
		}
		for i := len(done) - 1; i >= 0; i-- {
			if err := c.Apply(done[i].Reversed()); err != nil {
				t.Fatal(err)
			}
			if !assert.ObjectsAreEqual(states[i], state()) {
				t.Fatalf("after undoing %d: %v, not %v", i, state(), states[i])
			}
		}
	})
}

// A state that was kept comes back whole, by edits that can be turned round themselves.
func TestAStateComesBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) Choices {
			var c Choices
			for i := range rapid.IntRange(0, 6).Draw(t, name) {
				key := rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "key")
				value := rapid.SampledFrom([]string{"", "x", "y"}).Draw(t, "value")
				var e Edit
				switch i % 3 {
				case 0:
					e = c.Decide(Mark{ThemeKind, key, key, rapid.SampledFrom([]State{Adopted, Dropped, ""}).Draw(t, "state")}, []string{key, "stem"})
				case 1:
					e = c.Write(FieldGoal, &value, nil)
				case 2:
					e = c.Write(NotePrefix+key, &value, []string{key})
				}
				if err := c.Apply(e); err != nil {
					t.Fatal(err)
				}
			}
			return c
		}
		state := func(c Choices) map[string]string {
			all := map[string]string{}
			for _, m := range c.Marks {
				all["mark "+m.Key] = string(m.State)
			}
			for k, v := range typed(c) {
				all["typed "+k] = v
			}
			for k, v := range c.Made {
				all["made "+k] = strings.Join(v, ",")
			}
			return all
		}
		now, then := draw("now"), draw("then")
		was, want := state(now), state(then)
		edits := now.To(then)
		for _, e := range edits {
			if err := now.Apply(e); err != nil {
				t.Fatal(err)
			}
		}
		got := state(now)
		for k := range want {
			if strings.HasPrefix(k, "made ") { // what it was first decided on stays
				delete(want, k)
			}
		}
		maps.DeleteFunc(got, func(k, _ string) bool { return strings.HasPrefix(k, "made ") })
		if !maps.Equal(want, got) {
			t.Fatalf("%v instead of %v", got, want)
		}
		if more := now.To(then); len(more) > 0 {
			t.Fatalf("not there yet: %v", more)
		}
		for _, e := range slices.Backward(edits) {
			if err := now.Apply(e.Reversed()); err != nil {
				t.Fatal(err)
			}
		}
		back := state(now)
		for _, m := range []map[string]string{was, back} {
			maps.DeleteFunc(m, func(k, _ string) bool { return strings.HasPrefix(k, "made ") })
		}
		if !maps.Equal(was, back) {
			t.Fatalf("back to %v instead of %v", back, was)
		}
	})
}

// typed is all that is typed, by the names of the places.
func typed(c Choices) map[string]string {
	all := map[string]string{}
	for _, k := range append(Kinds(), "") {
		for _, name := range c.typedAt(k) {
			all[name] = *c.TypedIn(name)
		}
	}
	return all
}
