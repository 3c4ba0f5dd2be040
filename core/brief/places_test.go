package brief

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// drawText is a text as one may stand at a place.
func drawText(t *rapid.T, name string) string {
	key := rapid.SampledFrom([]string{"a", "b", "c d"})
	s, _ := spotOf(name)
	switch {
	case name == FieldOutline:
		return Lines{{TopLevel, key.Draw(t, "first"), false}, {TopLevel + 1, "z", true}}.String()
	case name == FieldParts:
		return partsText([]PartLine{{"terms", rapid.Bool().Draw(t, "hidden")}, {"own:1", false}})
	case name == FieldCuttings, name == FieldPicks:
		return "1\n2"
	case name == FieldBasis, s != nil && (s.name == CuttingPrefix || s.name == StoodPrefix || s.name == FactPrefix):
		var v any = Cutting{ID: "1", Text: rapid.String().Draw(t, "text")}
		if s.name == StoodPrefix {
			v = Stood{Heading: rapid.String().Draw(t, "text"), Words: 100, Terms: []string{"x"}}
		}
		if s != nil && s.name == FactPrefix {
			v = FactFrom{URL: rapid.String().Draw(t, "text"), Figures: []string{"£40"}}
		}
		if name == FieldBasis {
			v = Basis{Gathering: 3, Fields: map[string]string{"h1": rapid.String().Draw(t, "text"), "goal": "x"}, Headings: map[string]string{}}
		}
		b, err := json.Marshal(v)
		require.NoError(t, err)
		return string(b)
	}
	return rapid.String().Draw(t, "text")
}

// Whatever is typed wherever reads back as it was, survives being kept, and is undone step by step
// until nothing is left.
func TestEveryPlaceReadsBack(t *testing.T) {
	var names []string
	for _, s := range spots {
		if s.name[len(s.name)-1] == ':' {
			names = append(names, s.name+"a", s.name+"b:c d")
		} else {
			names = append(names, s.name)
		}
	}
	names = append(names, FieldGoal, FieldOwner)
	rapid.Check(t, func(t *rapid.T) {
		var c Choices
		var done []Edit
		want := map[string]string{}
		for range rapid.IntRange(1, 25).Draw(t, "steps") {
			name := rapid.SampledFrom(names).Draw(t, "place")
			var text *string
			if rapid.Bool().Draw(t, "write") {
				s := drawText(t, name)
				text = &s
			}
			e := c.Write(name, text, nil)
			require.NoError(t, c.Apply(e))
			done = append(done, e)
			if delete(want, name); text != nil {
				want[name] = *text
			}
			assert.Equal(t, want, typed(c))
		}
		b, err := json.Marshal(c)
		require.NoError(t, err)
		var again Choices
		require.NoError(t, json.Unmarshal(b, &again))
		assert.Equal(t, want, typed(again))
		assert.Equal(t, want, typed(c.Clone()))
		for i := len(done) - 1; i >= 0; i-- {
			require.NoError(t, c.Apply(done[i].Reversed()))
		}
		assert.Empty(t, typed(c))
		empty, err := json.Marshal(Choices{Typed: c.Typed})
		require.NoError(t, err)
		b, err = json.Marshal(c)
		require.NoError(t, err)
		assert.JSONEq(t, string(empty), string(b), "nothing empty stays behind")
	})
	for _, name := range names {
		s, _ := spotOf(name)
		assert.Equal(t, s == nil || !slices.Contains(unseen, s.name), KnownField(name), name)
	}
	for _, name := range []string{"note:", "at:", "at:theme:x", "cutting:", "outlines", fmt.Sprint(PartPrefix)} {
		assert.False(t, KnownField(name), name)
	}
}
