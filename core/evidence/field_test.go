package evidence

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/message"
	"corpulan/core/reading"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func kindsOf(shares []Share) string {
	var s []string
	for _, x := range shares {
		s = append(s, fmt.Sprintf("%s %.2f", x.Kind, x.Share))
	}
	return strings.Join(s, ", ")
}

func fieldOf(readings ...*reading.Reading) *corpus.Field {
	f := &corpus.Field{}
	for i, r := range readings {
		f.Docs, f.Ranks = append(f.Docs, &corpus.Doc{Reading: r}), append(f.Ranks, i+1)
	}
	return f
}

func TestIntentNamesItsSignals(t *testing.T) {
	for title, want := range map[string]string{"How to ride in winter": "informational 1.00", "Best winter tyres": "commercial 0.67, informational 0.33", "Buy winter tyres": "transactional 0.67, informational 0.33"} {
		assert.Equal(t, want, kindsOf(intent(fieldOf(&reading.Reading{Title: title, Kind: reading.Article}), nil, nil, nil)), title)
	}
	shares := intent(fieldOf(&reading.Reading{Kind: reading.Home, Title: "Buy bikes"}, &reading.Reading{Kind: reading.Product, Title: "Lamp"},
		&reading.Reading{Kind: reading.Article, Title: "What is a dynamo?"}, &reading.Reading{Kind: reading.Article, Title: "What to wear"}),
		[]string{"best lights", "buy lights", "how bright", "lights"}, []string{"Is it dark?"}, nil)
	total := 0.0
	for _, s := range shares {
		total += s.Share
		assert.NotEmpty(t, s.Signals, s.Kind)
	}
	assert.InDelta(t, 1, total, 1e-9)
	assert.Equal(t, "informational", shares[0].Kind)
	assert.Equal(t, []int{3, 4}, shares[0].Sources)
	assert.Contains(t, shares[0].Signals, Signal{message.Of("the title says “%s”", "what"), []int{3, 4}})
	assert.Contains(t, shares[0].Signals, Signal{message.Of("the results page lists %d questions", 1), []int{}})
	assert.Empty(t, intent(fieldOf(), []string{"buy"}, nil, nil), "no page, no intent")
}

func TestFormsOfPages(t *testing.T) {
	heads := func(n int, text string) []reading.Heading {
		h := make([]reading.Heading, n)
		for i := range h {
			h[i].Text = text
		}
		return h
	}
	for want, r := range map[string]*reading.Reading{
		"list": {Kind: reading.List}, "comparison": {Kind: reading.Comparison}, "forum": {Kind: reading.Forum},
		"steps":                 {Kind: reading.Article, Title: "How to change a tube"},
		"questions and answers": {Kind: reading.Article, Headings: heads(5, "Is it cold?")},
		"guide":                 {Kind: reading.Article, Headings: heads(8, "Lights")},
		"article":               {Kind: reading.Article, Headings: heads(2, "Lights")},
	} {
		v := formOf(r)
		assert.Equal(t, want, v.kind)
		assert.NotEmpty(t, v.says)
	}
}

func TestPlacement(t *testing.T) {
	r, err := reading.Read(reading.Page{URL: "http://a.example/guides/winter-bike-commuting", Body: []byte(`<html lang=en><head><title>Commuting by bike in winter</title><meta name=description content="All about bikes">
		</head><body><article><h1>Winter bike commuting</h1><p>Winter bike commuting is colder than it looks, and warmer than you fear once the legs turn.</p>
		<p><img src="/a.jpg" alt="A commuter's bike in winter"> Bikes rust. A winter of bike commuting eats a chain, so wipe it down after every ride and oil it at the weekend.</p>
		<h2>Why commuting by bike in the winter pays</h2><p>It is cheap, it is quick, and nobody has ever been late for a bike that leaves when they do.</p></article></body></html>`)})
	require.NoError(t, err)
	p := PlacementOf(corpus.Prepare(r, "en"), "winter bike commuting")
	assert.Equal(t, Placement{Title: true, H1: true, Address: true, Description: false, Opening: true, Subheadings: 1, ImageTexts: 1, Uses: 3,
		Density: float64(9) / float64(r.Counts.Words)}, p)
	assert.Equal(t, Placement{}, PlacementOf(corpus.Prepare(r, "en"), "the of"), "function words alone are no keyword")
}

// Leaders against followers: the formulas are tested with the statistics; here
// that the sides, the pages asked for and the order come out right.
func TestContrast(t *testing.T) {
	// Said so many times, each in other words: the same sentence counts once.
	often := func(sentence string, n int) string {
		var b strings.Builder
		for i := range n {
			fmt.Fprintf(&b, "<p>%s on %d%s.</p>", sentence, i, "th street")
		}
		return b.String()
	}
	filler := strings.Repeat("<p>The road is long and the wind is cold, and the rain falls on both sides of the hill all day.</p>", 6)
	lead := filler + often("Carry a dynamo hub", 5)
	trail := filler + often("Wear a wool buff", 5)
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", lead), corpustest.Page(t, 2, "b.example", lead), corpustest.Page(t, 5, "c.example", trail), corpustest.Page(t, 6, "d.example", trail), corpustest.Page(t, 7, "e.example", trail+often("Buy a unicycle", 9))}
	c := compute(Input{Keyword: "winter", Language: "en", Pages: pages}).Contrast
	require.True(t, c.Enough)
	assert.Equal(t, 2, c.Leaders)
	assert.Equal(t, 3, c.Followers)
	sides := map[string]bool{}
	for i, l := range c.Leans {
		sides[l.Text] = l.G2 > 0
		assert.NotZero(t, l.P)
		if i > 0 {
			assert.False(t, c.Leans[i-1].G2 < 0 && l.G2 > 0, "the leaders' come first")
		}
	}
	assert.True(t, sides["dynamo hub"])
	assert.Contains(t, sides, "wool buff")
	assert.False(t, sides["wool buff"])
	assert.NotContains(t, sides, "unicycle", "one page's hobby-horse")
	assert.False(t, compute(Input{Keyword: "winter", Language: "en", Pages: pages[1:]}).Contrast.Enough, "one leader is not enough")

	led := compute(Input{Keyword: "winter", Language: "en", Pages: pages, Leaders: 2})
	assert.Equal(t, 2, led.Contrast.Leaders)
	assert.Equal(t, 2, led.Figure("words").Leaders.N)
	assert.Equal(t, 2, led.Contrast.First)
}

func TestFiguresOfOnePageAreThoseOfTheField(t *testing.T) {
	pages := demoField(t)
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: pages})
	for i, p := range pages {
		placed, one := Measure(p.Doc, "winter bike commuting")
		assert.Equal(t, e.Placed[i], placed)
		for _, f := range e.Figures {
			assert.Equal(t, f.Values[i], one[f.Key], f.Key)
		}
	}
	words := e.Figure("words")
	assert.Equal(t, 3, words.Leaders.N)
	assert.Equal(t, len(pages)-3, words.Followers.N)
	assert.Zero(t, e.Figure("no such figure"))
}

// A page said twice over is longer by half and as dense as before.
func TestADoubledPageChangesNoKeywordDensity(t *testing.T) {
	html := `<p>Winter bike commuting is cold. A bike in winter needs oil, and winter bike commuting needs patience on dark mornings.</p>`
	once, twice := corpustest.Page(t, 1, "a.example", html), corpustest.Page(t, 1, "a.example", html+html)
	a, b := PlacementOf(once.Doc, "winter bike commuting"), PlacementOf(twice.Doc, "winter bike commuting")
	assert.Equal(t, 2*a.Uses, b.Uses)
	assert.Equal(t, a.Density, b.Density)
}

// The order of the pages decides who leads and nothing else of a figure.
func TestOrderChangesOnlyWhoLeads(t *testing.T) {
	pages := demoField(t)
	in := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: pages})
	turned := make([]corpus.RankedPage, len(pages))
	for i, p := range pages {
		turned[len(pages)-1-i] = corpus.RankedPage{Rank: len(pages) - i, Doc: p.Doc}
	}
	back := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: turned})
	for i, f := range in.Figures {
		assert.Equal(t, f.Target, back.Figures[i].Target, f.Key)
		assert.Equal(t, f.Range, back.Figures[i].Range, f.Key)
	}
	assert.Equal(t, kindsOf(in.Forms), kindsOf(back.Forms))
}
