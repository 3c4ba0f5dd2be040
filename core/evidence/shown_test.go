package evidence_test

import (
	"fmt"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A matter is shown in the form in which two pages show it: a table by its columns before a list; what one page shows is no custom.
func TestHowPagesShowAMatter(t *testing.T) {
	var pages []corpus.RankedPage
	for i := range 3 {
		table := `<table><tr><th>Tyre</th><th>Pressure</th></tr><tr><td>narrow</td><td>80 psi</td></tr><tr><td>wide</td><td>50 psi</td></tr></table>`
		list := `<ul><li>merino base layer</li><li>windproof jacket</li><li>overshoes for rain</li></ul>`
		if i == 2 {
			table, list = "", ""
		}
		photo := ""
		if i == 0 {
			photo = `<figure><img src="a.jpg"><figcaption>Lamp on a bar at night</figcaption></figure>`
		}
		pages = append(pages, corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>Winter riding</h1>
			<h2>Tyre pressure</h2><p>Lower the tyre pressure by %d psi when it freezes, and check the tyre pressure every week of winter.</p>%s
			<h2>What to wear</h2><p>Wear layers that breathe on a winter ride, and add one against the wind, number %d.</p>%s
			<h2>Bike lights</h2><p>Bike lights are on from four in the afternoon; charge the bike lights on every %d day.</p>%s`, 10+i, table, i, list, i+2, photo)))
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(t, err)
	by := map[string]evidence.Shown{}
	for _, x := range e.Shown {
		for _, m := range e.Themes {
			if m.Key == x.Theme {
				by[m.Label] = x
			}
		}
	}
	require.Len(t, by, 2)
	assert.Equal(t, evidence.Shown{Theme: by["Tyre pressure"].Theme, Form: "table", Sources: []int{1, 2}, Heads: []string{"Tyre", "Pressure"}}, by["Tyre pressure"])
	assert.Equal(t, "list", by["What to wear"].Form)
}
