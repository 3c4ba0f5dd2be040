package evidence

import (
	"slices"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lampPages are a field of lists: headings with verdicts, a table, and a guide.
func lampPages(t testing.TB) []corpus.RankedPage {
	guide := func(more string) string {
		return `<h2>How to choose a lamp</h2><h3>Brightness</h3><p>In a town that is lit 200 lumens are enough; on a lane without lamps take 600 lumens and more. ` + more + `</p><h3>Mounts</h3><p>Rubber straps fit any bar and tear in the cold; mounts that are screwed hold still on a rough road. ` + more + `</p>`
	}
	return []corpus.RankedPage{
		corpustest.PageIn(t, "en", 1, "a.example", `<h1>The best bike lamps</h1><p>We rode with three of them for a month, through drizzle and through fog.</p><h2>1. Halvark Beacon 600 – best for town</h2><p>Price: £48 | Output: 600 lumens | Weight: 112 g</p><p>The beam is excellent and flat.</p><h2>2. Vossby Arc – best value</h2><p>Price: £35 | Output: 450 lumens | Weight: 98 g</p><p>Small and clean, with a gauge that says nothing.</p><h2>3. Skarn Pebble – best spare</h2><p>Price: £12 | Output: 20 lumens | Weight: 19 g</p><p>It lives in a pocket until it is wanted.</p>`+guide("Look at yours before the clocks go back.")),
		corpustest.PageIn(t, "en", 2, "b.example", `<h1>Bike lamps compared</h1><p>Measured on a bench in a cellar, on three evenings of October.</p><table><tr><th>Model</th><th>Output</th><th>Weight</th><th>Price</th><th>Best for</th></tr><tr><td>Halvark Beacon 600</td><td>585 lumens</td><td>114 g</td><td>£50</td><td>town</td></tr><tr><td>Vossby Arc</td><td>430 lumens</td><td>99 g</td><td>£35</td><td>little money</td></tr><tr><td>Kestow K1</td><td>210 lumens</td><td>88 g</td><td>£29</td><td>nobody</td></tr></table>`+guide("Test them in the cellar on the bench.")),
		corpustest.PageIn(t, "en", 3, "c.example", `<h1>What we ride with</h1><p>My Beacon 600 has lasted three winters, and the Arc of a friend two.</p>`+guide("Ask a friend who rides home at night.")),
	}
}

// A field of lists has its list and the criteria without a section as themes; things are neither themes nor terms; intent and form
// heed it, and what one page alone lists or nobody measures is an opening.
func TestAFieldOfLists(t *testing.T) {
	e, err := Compute(t.Context(), Input{Keyword: "best bike lamps", Language: "en", Pages: lampPages(t)})
	require.NoError(t, err)
	require.True(t, e.IsOfLists())
	byKey := map[string]int{}
	for i, x := range e.Themes {
		byKey[x.Key] = i
		assert.NotContains(t, x.Label, "Halvark")
	}
	require.Contains(t, byKey, PicksKey)
	picks := e.Themes[byKey[PicksKey]]
	assert.Equal(t, []int{1, 2}, picks.Sources)
	assert.Equal(t, []int{3, 3, 0}, picks.Counts)
	assert.Len(t, picks.Members, 3, "sections that are about one thing")
	require.Contains(t, byKey, "weight", "by which two pages compare, and which none heads a section with")
	assert.Equal(t, 2, e.Themes[byKey["weight"]].Pages)
	assert.NotContains(t, byKey, "output", "Brightness is a section on it, by its unit")
	for _, x := range e.Terms {
		if x.Text == "Halvark Beacon" || x.Text == "Beacon" {
			assert.NotEmpty(t, x.Flag, x.Text)
		}
	}
	assert.Equal(t, commercial, e.Intent[0].Kind)
	assert.Equal(t, "list", e.Forms[0].Kind)
	var said []string
	for _, o := range e.Openings {
		said = append(said, string(o.Kind)+": "+o.Text)
	}
	assert.Contains(t, said, "on one page only: Kestow K1")
	assert.Contains(t, said, "told and unmeasured: Mounts")
	assert.NotContains(t, said, "told and unmeasured: Brightness")
	points := e.PointsOf(PicksKey)
	require.NotEmpty(t, points)
	assert.Equal(t, "Best for town: Halvark Beacon 600", points[0].Text)

	f, ok := e.Finding(ThingKind, e.Listed[0].Key)
	require.True(t, ok)
	assert.Equal(t, "Halvark Beacon 600", f.Text)
	assert.Equal(t, []int{3, 3, 1}, f.Counts, "the first of three, the first of three, named")
	passages := e.Passages(ThingKind, f, nil)
	assert.True(t, passages[0].Made)
	assert.True(t, slices.ContainsFunc(passages, func(p Passage) bool { return p.Place == "praised" && !p.Made }))
}

// Where one page alone lists things nothing of it changes: no theme, no opening.
func TestAListAmongOtherPages(t *testing.T) {
	pages := lampPages(t)
	e, err := Compute(t.Context(), Input{Keyword: "bike lamps", Language: "en", Pages: []corpus.RankedPage{pages[0], pages[2]}})
	require.NoError(t, err)
	assert.False(t, e.IsOfLists())
	for _, x := range e.Themes {
		assert.NotEqual(t, PicksKey, x.Key)
	}
}
