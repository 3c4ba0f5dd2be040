package fit_test

import (
	"slices"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/fit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A draft lists what is said on each thing, by its full name or without its maker's, and compares them in a table.
func TestThingsOfADraft(t *testing.T) {
	b := &brief.Brief{Language: "en", Keyword: "best lamps", Picks: []brief.Pick{{Key: "a", Name: "Halvark Beacon 600"}, {Key: "b", Name: "Vossby Arc"}, {Key: "c", Name: "Skarn Pebble"}}, Criteria: []brief.Criterion{{Key: "price"}}}
	things := func(draft string) fit.Part {
		f := fit.Of(b, draftOf(t, draft).Read("", "en"), nil)
		i := slices.IndexFunc(f.Parts, func(p fit.Part) bool { return p.Name == fit.Things })
		require.GreaterOrEqual(t, i, 0)
		return f.Parts[i]
	}
	long := "It lights both verges of the lane and stops short of the eyes of those who come towards you, which few lamps at its price do."
	none := things("<h1>Lamps</h1><p>Buy one that is bright.</p>")
	assert.Zero(t, none.Score)
	require.Len(t, none.Missing, 4)
	assert.Equal(t, "no table", none.Missing[slices.IndexFunc(none.Missing, func(x fit.Item) bool { return x.Key == "comparison" })].Says.String())
	some := things("<h1>Lamps</h1><h2>Beacon 600: the one to have</h2><p>" + long + "</p><p>The Vossby Arc is small.</p>")
	assert.Len(t, some.Met, 1)
	assert.Greater(t, some.Score, none.Score)
	all := things("<h1>Lamps</h1><h2>Halvark Beacon 600</h2><p>" + long + "</p><h2>Vossby Arc</h2><p>For little money the Arc has a beam as clean as that of lamps which cost twice as much and weigh a lot more.</p><h2>Skarn Pebble</h2><p>A coin cell in a loop of rubber that will not light a road but lives in a pocket and has saved us twice.</p><table><tr><th>Lamp</th><th>Price</th></tr><tr><td>Halvark Beacon 600</td><td>£48</td></tr><tr><td>Vossby Arc</td><td>£35</td></tr><tr><td>Skarn Pebble</td><td>£12</td></tr></table>")
	assert.Equal(t, 1.0, all.Score)
	assert.False(t, slices.ContainsFunc(fit.Of(&brief.Brief{Language: "en"}, draftOf(t, "<p>x</p>").Read("", "en"), nil).Parts, func(p fit.Part) bool { return p.Name == fit.Things }), "asked of no other brief")
}
