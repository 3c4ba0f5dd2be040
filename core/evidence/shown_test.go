package evidence_test

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/brief"
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

// What three pages tell in long paragraphs, and none in a list, a table or a picture, is an opening to show it.
func TestWallsOfText(t *testing.T) {
	field := func(list string) *evidence.Evidence {
		var pages []corpus.RankedPage
		for i := range 3 {
			long := strings.Repeat(fmt.Sprintf("The tyre pressure of winter tyres falls with the cold, and a rider who checks the tyre pressure %d times a month slips less. ", i+2), 5)
			pages = append(pages, corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>Winter riding</h1><h2>Tyre pressure</h2><p>%s</p>%s
				<h2>Bike lights</h2><p>Bike lights are on from four in the afternoon; charge the bike lights on every %d day.</p>`, long, list, i+2)))
		}
		e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
		require.NoError(t, err)
		return e
	}
	walls := func(e *evidence.Evidence) (of []string) {
		for _, x := range e.Openings {
			if x.Kind == evidence.InWalls {
				of = append(of, x.Text)
			}
		}
		return of
	}
	e := field("")
	assert.Equal(t, []string{"Tyre pressure"}, walls(e), "lights are told in a line")
	b := brief.Compose(e, brief.Choices{}, brief.Setting{})
	require.NotNil(t, b.Outline[0].Show)
	assert.Equal(t, evidence.Wall, b.Outline[0].Show.Form)
	assert.Empty(t, walls(field(`<ul><li>narrow: 80 psi</li><li>wide: 50 psi</li><li>studded: 40 psi</li></ul>`)))
}
