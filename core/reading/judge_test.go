package reading

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"corpulan/core/markup"
)

// article is running text that both readings keep.
var article = strings.Repeat("<p>Salt eats a chain within weeks, so wipe it, oil it, and wipe it again, however late it is and however cold the shed.</p>", 6)

func TestTheJudgeDropsWhatFollowsTheArticle(t *testing.T) {
	r := read(t, `<title>Chains in winter</title><body><div class="page"><div class="text"><h1>Chains in winter</h1>`+article+`</div>
		<div class="x1"><div><h3>Mara</h3><p>Nice one, I did the same last year and the year before it too.</p></div><div><h3>Jon</h3><p>Mine broke on the way home, right outside the station it was.</p></div></div></div>`)
	assert.Equal(t, []string{"1 Chains in winter"}, headings(r))
	assert.NotContains(t, r.Text(), "Mine broke")
	assert.Contains(t, struck(r), `"Mara","reason":"a second reading of the page leaves its block out"`)
}

func TestTheJudgeKeepsHeadingsBeforeAndAmong(t *testing.T) {
	r := read(t, `<title>Chains in winter</title><body><div class="page"><div><h1>Chains in winter</h1></div><div class="text"><h2>Salt</h2>`+article+
		`<div><h2>Oil</h2></div>`+article+`</div></div>`)
	assert.Equal(t, []string{"1 Chains in winter", "2 Salt", "2 Oil"}, headings(r))
}

func TestAPaywallsBoxThatHoldsTheArticleIsTheArticle(t *testing.T) {
	comments := strings.Repeat("<p>I never oiled mine in twelve years of riding through the worst of it, and look, it still turns.</p>", 40)
	r := read(t, `<title>Chains in winter</title><body><main><h1>Chains in winter</h1><div class="paywall-container">`+article+article+article+`</div><div class="comments">`+comments+`</div></main>`)
	assert.Contains(t, r.Text(), "Salt eats a chain")
	assert.NotContains(t, r.Text(), "twelve years")
}

func TestAWordInAClassIsNoMenuWithoutALink(t *testing.T) {
	r := read(t, `<main><h1>Gears</h1>`+paragraph+`<p>The ratio is <x-math class="CtxtMenu">44 over 11</x-math>, which is four.</p></main>`)
	assert.Contains(t, r.Text(), "44 over 11")
}

func TestAFurnitureHeadingTakesItsBoxAndNoMore(t *testing.T) {
	for name, page := range map[string]string{
		"in a box of its own at the top": `<main><h1>Chains</h1><div><div><h2>Share this story</h2></div><p>By mail</p></div>` + paragraph + `</main>`,
		"alone above everything":         `<main><h2>Share this story</h2>` + paragraph + `</main>`,
		"between two sections":           `<main><h1>Chains</h1>` + paragraph + `<h2>Related posts</h2><p>By mail</p><h2>Oil</h2>` + paragraph + `</main>`,
	} {
		t.Run(name, func(t *testing.T) {
			r := read(t, page)
			assert.Contains(t, r.Text(), "The chain is wiped")
			assert.NotContains(t, r.Text(), "By mail")
			assert.Len(t, r.Struck, 1)
		})
	}
}

func TestLinesTheSitePutThere(t *testing.T) {
	for _, line := range []string{"Photo: Ada Holm", "Foto: dpa", "Published on 3 March 2026", "4. Juni 2019", "2026-03-03 14:05", "19:49", "5 min read", "Read more", "Zurück zur Übersicht",
		"Tags: winter, chain", "71 Kommentare", "All rights reserved.", "© 2026 Northlane", "Share this article", "Advertisement", "(Bild: Hersteller)", "2 responses",
		"Lire aussi : Les freins en hiver", "Related: Ten lamps for the dark"} {
		assert.NotEmpty(t, furnitureLineReason(line, LineParagraph), line)
	}
	for _, line := range []string{"Read the label before you buy.", "Share the road.", "Photos help when you claim.", "May is late for studs.", "Back wheels wear first.", "14 spokes are enough.",
		"Save weight where it turns.", "Print it and pin it up in the shed.", "Comments on price are below.", "March is the cruellest month for chains.", "Pictures by the fire warm the room."} {
		assert.Empty(t, furnitureLineReason(line, LineParagraph), line)
	}
	assert.Empty(t, furnitureLineReason("19:49", LineCell), "a timetable's cell")
	assert.NotEmpty(t, furnitureLineReason("+10", LineItem), "a mere count")
	assert.NotEmpty(t, furnitureLineReason("Mara Holm/Frost Press", LineCaption))
	assert.Empty(t, furnitureLineReason("The bar after a week of salt / snow", LineCaption))
	assert.True(t, isFurnitureHeading("Gallery: Lamps in the dark | 14 Photos"))
}

// The second reading now and then stops in mid-article; sections built like the
// ones it keeps are the article's all the same.
func TestSectionsAfterTheSecondReadingStops(t *testing.T) {
	section := func(heading string) string {
		return `<div class="sect"><h2>` + heading + `</h2>` + article + `</div>`
	}
	root, err := parse([]byte(`<body><div class="page">` + section("Chains") + section("Tyres") + section("Lamps") +
		`<div class="box"><h2>Elsewhere</h2>` + article + `</div><div class="sect"><h2>More</h2><p><a href="/a">One</a> <a href="/b">Another</a></p></div></div>`))
	require.NoError(t, err)
	d := newDocument(root, "http://site.example/guide")
	c, top := findContent(d)
	second := opinion{}
	for n := range d.body.Descendants() {
		heading := markup.First(n, "h2")
		if n.Parent != top || n.Data != "div" || heading == nil {
			continue
		}
		if h := markup.Text(heading); h == "Chains" || h == "Tyres" { // and there it stops
			second[n] = c.weights[n].text
			for in := range n.Descendants() {
				if in.Type == html.ElementNode {
					second[in] = c.weights[in].text
				}
			}
			second[top] += second[n]
			second[d.body] = second[top]
		}
	}
	settle(c, top, second)
	var cut []string
	for n, group := range c.cut {
		if group == secondReading {
			cut = append(cut, strings.Fields(markup.Text(n))[0])
		}
	}
	assert.ElementsMatch(t, []string{"Elsewhere", "More"}, cut)
}

func TestASentenceOfTheFirstReadingAloneStaysAndALabelGoes(t *testing.T) {
	for said, stays := range map[string]bool{"Four things wear a chain:": true, "None of it is dear.": true, "Is it worth it?": true, "Full Screen": false} {
		box, err := parse([]byte(`<div><p>` + said + `</p></div>`))
		require.NoError(t, err)
		d := newDocument(box, "")
		c, top := findContent(d)
		p := markup.First(box, "p")
		j := &judge{content: c, second: opinion{}, top: top, total: 100, passed: 50} // among what the second keeps
		j.alone(p, c.weights[p])
		assert.Equal(t, stays, c.cut[p] == "", said)
	}
}
