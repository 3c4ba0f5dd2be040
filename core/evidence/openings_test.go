package evidence

import (
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is asked and not answered, searched and not met, said by one page alone, and
// disputed.
func TestOpenings(t *testing.T) {
	own := strings.Repeat("Ride where the council clears the lanes first, by the river and the school, and leave the hill to others. ", 4)
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h1>Winter riding</h1><h2>Studded tyres</h2><p>Studded tyres lose their grip below −5 °C on wet ice. Fit them in October and ride gently.</p><h2>Which lanes are cleared</h2><p>`+own+`</p>`),
		corpustest.Page(t, 2, "b.example", `<h1>Winter riding</h1><h2>Tyres with studs</h2><p>Studded tyres lose their grip below 12 °C on wet ice. Fit the studded tyres before the frost.</p>`),
		corpustest.Page(t, 3, "c.example", `<h1>Winter riding</h1><h2>Lights</h2><p>Lights let drivers see you at dusk, and a second rear lamp helps when one fails.</p>`),
	}
	e, err := Compute(t.Context(), Input{Keyword: "winter riding", Language: "en", Pages: pages, Asked: []string{"How do I stop my glasses fogging?"}, Related: []string{"winter riding gloves", "winter riding lights", "winter riding"}})
	require.NoError(t, err)
	of := map[OpeningKind][]Opening{}
	for _, o := range e.Openings {
		of[o.Kind] = append(of[o.Kind], o)
		assert.NotEmpty(t, o.Why, o.Text)
	}
	require.Len(t, of[AskedUnmet], 1)
	assert.Equal(t, "How do I stop my glasses fogging?", of[AskedUnmet][0].Text)
	require.Len(t, of[SearchedUnmet], 1, "lights are met, and the keyword itself asks nothing more")
	assert.Equal(t, "winter riding gloves", of[SearchedUnmet][0].Text)
	require.Len(t, of[OnePage], 1, "%v", of[OnePage])
	assert.Equal(t, "Which lanes are cleared", of[OnePage][0].Text)
	require.Len(t, of[Disputed], 1)
	assert.Contains(t, of[Disputed][0].Why.String(), "“−5 °C” (rank 1)")
}

// A question to which one page says yes and another no is disputed; who begins with neither takes no side.
func TestDisputedQuestions(t *testing.T) {
	page := func(rank int, host, heading, answer string) corpus.RankedPage {
		return corpustest.Page(t, rank, host, "<h1>Compost at home</h1><h2>"+heading+"</h2><p>"+answer+"</p>")
	}
	e, err := Compute(t.Context(), Input{Keyword: "compost", Language: "en", Pages: []corpus.RankedPage{
		page(1, "a.example", "Can citrus peel go into the compost?", "Yes, in small amounts, cut up well and mixed with dry leaves from the garden."),
		page(2, "b.example", "Can citrus peel go in the compost?", "No. It is sour, it is sprayed, and the worms of the heap stay away from it."),
		page(3, "c.example", "Can citrus peel go in?", "That depends on how much of it there is, and on how warm the heap becomes."),
		page(4, "d.example", "Can bread go into the compost?", "No, it draws rats, which then nest in the warm heap over the winter."),
	}})
	require.NoError(t, err)
	var disputed []Opening
	for _, o := range e.Openings {
		if o.Kind == Disputed {
			disputed = append(disputed, o)
		}
	}
	require.Len(t, disputed, 1)
	assert.Equal(t, "rank 1 says yes, rank 2 no", disputed[0].Why.String())
	assert.Equal(t, []int{1, 2}, disputed[0].Ranks)
	found, _ := e.Finding(QuestionKind, disputed[0].Key)
	assert.Contains(t, found.About().String(), "rank 1 says yes, rank 2 no")
}

// Sentences with a figure become facts, with the kind of the figure and the page's date;
// tables and code give none.
func TestFacts(t *testing.T) {
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", `<h1>Winter riding</h1><p>A pair of winter tyres costs £60 in most shops of the town. Some 40 % of riders fall once in a winter here. Below −5 °C the battery loses a quarter of it. We ride at 18 km/h on the flat road to work. Nobody counts what cannot be counted in the snow.</p><pre>set price to $1 for each of the winter rides</pre>`)}
	e, err := Compute(t.Context(), Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(t, err)
	kinds := map[FigureKind]string{}
	for _, f := range e.Facts {
		kinds[f.Kind] = strings.Join(f.Figures, " ")
		assert.Equal(t, 1, f.Rank)
	}
	assert.Equal(t, map[FigureKind]string{PriceFact: "£60", ShareFact: "40 %", TemperatureFact: "−5 °C", MeasureFact: "18 km/h"}, kinds)
}

// The same figure of the same thing is one fact on however many pages, with all of them; another thing
// that costs as much is another, and what an extra source alone says counts nowhere.
func TestAFactOfTwoPages(t *testing.T) {
	page := func(rank int, host, text string) corpus.RankedPage {
		return corpustest.Page(t, rank, host, "<h1>Winter riding</h1><p>"+text+" Nobody counts what cannot be counted in the snow.</p>")
	}
	e, err := Compute(t.Context(), Input{Keyword: "winter riding", Language: "en", Pages: []corpus.RankedPage{
		page(1, "a.example", "A pair of studded winter tyres costs £60 in most shops."), page(2, "b.example", "Expect to pay £60 for a pair of studded tyres."),
		page(3, "c.example", "A pair of lined winter gloves sells at £60 or more.")},
		Beside: []corpus.RankedPage{page(9, "d.example", "A service of the whole bicycle costs £45 at our workshop."), page(10, "e.example", "For £60 a pair you get studded tyres that last.")}})
	require.NoError(t, err)
	ranks := map[string][]int{}
	for _, x := range e.Facts {
		ranks[x.Text] = x.Ranks()
		assert.Equal(t, x.Rank == 9, x.Beside, x.Text)
	}
	assert.Equal(t, map[string][]int{"A pair of studded winter tyres costs £60 in most shops.": {1, 2, 10}, "A pair of lined winter gloves sells at £60 or more.": {3},
		"A service of the whole bicycle costs £45 at our workshop.": {9}}, ranks)
	for _, f := range e.Findings(FactKind) {
		if f.Of.(*Fact).Beside {
			assert.Zero(t, f.Pages)
		}
		assert.Len(t, e.Passages(FactKind, f, nil), len(f.Of.(*Fact).Says))
	}
}

// A site that pages of two others link to, by whichever address, with the sentences.
func TestCitedSites(t *testing.T) {
	link := func(path string) string {
		return `<h1>Ice</h1><p>As the <a href="https://www.stats.gov/` + path + `">table of falls</a> shows, most riders fall on wet leaves and not on ice at all.</p>`
	}
	e, err := Compute(t.Context(), Input{Keyword: "ice", Language: "en", Pages: []corpus.RankedPage{corpustest.Page(t, 1, "a.example", link("2025")), corpustest.Page(t, 2, "b.example", link("2026"))}})
	require.NoError(t, err)
	assert.Empty(t, e.Citations, "two addresses")
	require.Len(t, e.Cited, 1)
	assert.Equal(t, "authority", e.Cited[0].Kind)
	assert.Equal(t, []int{1, 2}, e.Cited[0].Sources)
	require.Len(t, e.Cited[0].Sentences, 2)
	assert.Contains(t, e.Cited[0].Sentences[0].Text, "table of falls")
}

// Widths are Arial's: 278 thousandths for a space, 556 for a digit, 944 for a W (Arial's
// metrics as the PDF reference lists those of Helvetica, which it shares; from memory).
func TestPixels(t *testing.T) {
	assert.Equal(t, 6, Pixels(" "))
	assert.Equal(t, 11, Pixels("0"))
	assert.Equal(t, 19, Pixels("W"))
	assert.Equal(t, Pixels("n"), Pixels("\U0001F6B2"), "what the list lacks is as wide as an n")
}

func TestTitleTraits(t *testing.T) {
	titled := func(rank int, host, title string) corpus.RankedPage {
		p := corpustest.Page(t, rank, host, `<h1>x</h1><p>Some words of winter riding stand here, enough of them to be read as a page of text.</p>`)
		p.Doc.Reading.Title = title
		return p
	}
	e, err := Compute(t.Context(), Input{Keyword: "winter riding", Language: "en", Pages: []corpus.RankedPage{
		titled(1, "a.example", "Winter riding: the complete guide (2026)"), titled(2, "b.example", "7 tips for riding in winter | B"), titled(3, "c.example", "How do I ride on ice?")}})
	require.NoError(t, err)
	with := map[string][]int{}
	for _, x := range e.Titles.Traits {
		with[x.Trait] = x.Sources
	}
	assert.Equal(t, map[string][]int{"first": {1}, "keyword": {2}, "guide": {1}, "year": {1}, "number": {2}, "question": {3}, "brackets": {1}, "colon": {1}, "site": {2}}, with)
	assert.Equal(t, 2026, e.Titles.Year)
}
