package render

import (
	"bytes"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/evidence"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The things of a list stand in their section, and in the table that compares them, in every format that is text.
func TestPicksInEveryFormat(t *testing.T) {
	b := brief.Brief{Keyword: "best lamps", Language: "en", H1: "Best lamps", Parts: brief.UsualParts(), Outline: []brief.Section{{Key: evidence.PicksKey, Level: 2, Heading: "Our picks", Words: 200}},
		Criteria: []brief.Criterion{{Key: "price", Name: "Price"}, {Key: "weight", Name: "Weight", Unit: "g"}},
		Picks: []brief.Pick{{Key: "a", Name: "Halvark Beacon 600", Verdict: "best overall", Price: "£48–£50", Sources: []int{1, 3}, Pages: 2, Praise: []brief.Quote{{Text: "Flat beam.", Rank: 1}}, Criticism: []brief.Quote{{Text: "Weak strap", Rank: 3}},
			Values: []brief.PickValue{{Criterion: "price", Text: "£48–£50", Sources: []int{1, 3}, Differs: true}, {Criterion: "weight", Text: "112 g", Sources: []int{1}}}},
			{Key: "b", Name: "Vossby <Arc>", Sources: []int{}, Values: []brief.PickValue{{Criterion: "price"}, {Criterion: "weight"}}}}}
	for name, want := range map[string][]string{
		"md":     {"- List: 1. Halvark Beacon 600: best overall; £48–£50; praised “Flat beam” (1); criticised “Weak strap” (3)", "| Halvark Beacon 600 | best overall | £48–£50 ≠ | 112 g | 1, 3 |", "2. Vossby"},
		"html":   {"Halvark Beacon 600", "best overall", "Vossby &lt;Arc&gt;", "112 g"},
		"prompt": {"Halvark Beacon 600; best overall; Price: £48–£50 ≠; Weight: 112 g"},
		"opml":   {"Halvark Beacon 600: best overall", "Vossby &lt;Arc&gt;"},
		"json":   {`"name": "Halvark Beacon 600"`},
	} {
		var out bytes.Buffer
		f, ok := FormatNamed(name)
		require.True(t, ok, name)
		require.NoError(t, f.Write(&out, b.WithDossier(true)), name)
		for _, w := range want {
			assert.Contains(t, strings.ReplaceAll(out.String(), `"name":"`, `"name": "`), w, name)
		}
	}
	b.Picks = nil
	var out bytes.Buffer
	f, _ := FormatNamed("md")
	require.NoError(t, f.Write(&out, b))
	assert.NotContains(t, out.String(), "Comparison", "where nothing is listed nothing is compared")
}
