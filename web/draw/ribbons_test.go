package draw

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/store"
	"corpulan/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// drawn is a chart of so many pages, one of them of ours and one set aside.
func drawn(n int) Chart {
	c := Chart{Words: words.English(), Study: 1, Longest: 900, Usual: stats.Range{Lower: 300, Upper: 500, N: n}}
	for i := range n {
		r := &reading.Reading{Counts: reading.Counts{Words: 400}, Sections: []reading.Section{{}, {Level: 1, Depth: 1, Heading: `What "they" <say> & do`, Words: 190, Offset: 0},
			{Level: 3, Depth: 3, Heading: "Gloves", Words: 200, Offset: 200}}}
		c.Pages = append(c.Pages, Ribbon{Rank: i + 1, Host: "a-very-long-host-name.example", Reading: r, Own: i == 0, Aside: i == 1})
	}
	for i := range c.Pages {
		c.chooseBands(&c.Pages[i])
	}
	return c
}

func TestAPageOfFiftyThousandHeadingsIsStillDrawn(t *testing.T) {
	r := &reading.Reading{Counts: reading.Counts{Words: 100_000}}
	for i := range 50_000 {
		r.Sections = append(r.Sections, reading.Section{Level: 2, Depth: 1, Heading: "One", Words: 1, Offset: 2 * i})
	}
	c := Chart{Words: words.English(), Study: 1, Longest: 100_000, Pages: []Ribbon{{Rank: 1, Host: "a.example", Reading: r}}}
	c.chooseBands(&c.Pages[0])
	assert.LessOrEqual(t, float64(len(c.Pages[0].Drawn)), ribbonsHeight/minBand)
	assert.Equal(t, 50_000, len(c.Pages[0].Drawn)+c.Pages[0].Left)
	svg := string(c.Draw())
	assert.Contains(t, svg, `class="whole"`)
	assert.Less(t, len(svg), 1_000_000)
}

func TestRibbonsFitTheirWidth(t *testing.T) {
	for _, n := range []int{1, 2, 10, 15, 30, 60, 100, store.MaxResults} {
		t.Run(fmt.Sprint(n), func(t *testing.T) {
			columns := drawn(n).columns()
			require.Len(t, columns, n)
			last := columns[n-1]
			assert.LessOrEqual(t, last.x+last.width, float64(ribbonsWidth)+0.5)
			for i := 1; i < n; i++ {
				assert.Greater(t, columns[i].x, columns[i-1].x+columns[i-1].width, "no two overlap")
			}
			labelled := drawn(n).labelled(columns)
			assert.True(t, labelled[0])
			if n <= 15 {
				assert.NotContains(t, labelled, false, "all have room")
			}
		})
	}
}

func TestRibbonsAreToOneScaleAndEscaped(t *testing.T) {
	c := drawn(3)
	long := *c.Pages[2].Reading
	long.Counts.Words = 5000
	c.Pages[2].Reading, c.Pages[2].Outlier = &long, true
	svg := string(c.Draw())
	assert.NotContains(t, svg, "<say>")
	assert.Contains(t, svg, "What &#34;they&#34; &lt;say&gt; &amp; do")
	assert.Equal(t, 1, strings.Count(svg, `class="torn"`), "only what is longer than the scale")
	assert.Contains(t, svg, "goes on to 5,000 words")
	assert.Equal(t, 1, strings.Count(svg, `tabindex="0"`), "one way in for the tab key")
	// 200 of 900 words are that much of the height, wherever they stand.
	assert.InDelta(t, 200.0/900*ribbonsHeight, c.at(400)-c.at(200), 1e-9)
	assert.InDelta(t, 200.0/900*ribbonsHeight, c.at(700)-c.at(500), 1e-9)
	assert.Empty(t, Chart{}.Draw())
}

// A hundred pages of thirty sections are drawn in few shapes, every page one
// link and a way in for the keyboard.
func TestManyRibbonsStayLight(t *testing.T) {
	c := drawn(100)
	for i := range c.Pages {
		r := &reading.Reading{Counts: reading.Counts{Words: 900}, Sections: []reading.Section{{}}}
		for k := range 30 {
			r.Sections = append(r.Sections, reading.Section{Level: 2, Depth: 2, Heading: fmt.Sprintf("Section %d", k), Words: 30, Offset: 30 * k})
		}
		c.Pages[i].Reading, c.Pages[i].Drawn = r, nil
		c.chooseBands(&c.Pages[i])
	}
	svg := string(c.Draw())
	assert.Less(t, len(svg), 200_000)
	assert.Less(t, strings.Count(svg, "<"), 2500)
	assert.Equal(t, 100, strings.Count(svg, "data-beside"))
	assert.Equal(t, 1, strings.Count(svg, `tabindex="0"`))
}

func TestNamesInRibbons(t *testing.T) {
	assert.Equal(t, []string{"Do you", "need stud…"}, wrap("Do you need studded tyres or not", 60, false, 2))
	assert.Equal(t, []string{"Tyres"}, wrap("Tyres", 60, true, 3))
	assert.Empty(t, wrap("Tyres", 60, false, 0))
	assert.Equal(t, "", clip("Tyres", 4))
	assert.Equal(t, "Ty…", clip("Tyres in snow", 22))
	for _, name := range []string{"Wherewithal MMMM WWWW", "illicit lilliputian", "Über größere Straßen", "自行车自行车"} {
		for w := 5.0; w < 120; w++ {
			assert.LessOrEqual(t, textWidth(clip(name, w)), w, "never cut off in mid-letter")
		}
	}
	for longest, step := range map[int]int{90: 50, 700: 100, 1163: 200, 8503: 2000, 400000: 80000} {
		assert.Equal(t, step, roundStep(longest), longest)
	}
}
