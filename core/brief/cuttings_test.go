package brief

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A cutting is kept once, with its source; it is noted on, ordered, put under a section, and
// follows that section when its theme is called otherwise; all of it is undone.
func TestCuttings(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	var c Choices
	var done []Edit
	apply := func(edits ...Edit) {
		t.Helper()
		for _, x := range edits {
			require.NoError(t, c.Apply(x))
			done = append(done, x)
		}
	}
	ids := []string{}
	for _, text := range []string{"Wool is warm.", "Studs bite.", "Wool  is\nwarm."} {
		x := Cutting{Kind: "passage", Text: text, URL: "http://a.example/p", Title: "A", Rank: 1, Date: "2026-11-25", Note: "not mine to set"}
		x.ID = CuttingID(x.URL, x.Text)
		edits, err := c.Cut(x)
		require.NoError(t, err)
		apply(edits...)
		ids = append(ids, x.ID)
	}
	assert.Equal(t, ids[0], ids[2], "the same words of the same page are one cutting")
	b := Compose(e, c, Setting{})
	require.Len(t, b.Cuttings, 2)
	assert.Equal(t, "Wool is warm.", b.Cuttings[0].Text)
	assert.Empty(t, b.Cuttings[0].Note)
	apply(c.MoveCutting(ids[1], true)...)
	note, at := "Good for the opening", b.Outline[0].Key
	apply(c.Arrange(e, b.Outline, LinesOf(b.Outline))...)
	apply(c.Write(CuttingNotePrefix+ids[0], &note, nil), c.Write(CuttingAtPrefix+ids[0], &at, nil))
	b = Compose(e, c, Setting{})
	assert.Equal(t, "Studs bite.", b.Cuttings[0].Text)
	require.Len(t, b.Outline[0].Cuttings, 1)
	assert.Equal(t, note, b.Outline[0].Cuttings[0].Note)
	assert.Equal(t, b.Outline[0].Heading, b.Cuttings[1].Section)
	assert.Empty(t, c.MoveCutting(ids[1], false), "the other one stands under a section")
	gone := "no such section"
	apply(c.Write(CuttingAtPrefix+ids[0], &gone, nil))
	assert.Empty(t, Compose(e, c, Setting{}).Cuttings[1].Section)
	apply(c.RemoveCutting(ids[0])...)
	assert.Len(t, Compose(e, c, Setting{}).Cuttings, 1)
	for i := len(done) - 1; i >= 0; i-- {
		require.NoError(t, c.Apply(done[i].Reversed()))
	}
	assert.Empty(t, typed(c))
	var broken Choices
	broken.Type(CuttingPrefix+"x", "{")
	broken.Type(FieldCuttings, "x\ny")
	assert.Empty(t, Compose(e, broken, Setting{}).Cuttings)
}
