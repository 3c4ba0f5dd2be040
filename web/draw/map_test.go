package draw

import (
	"encoding/xml"
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"

	"corpulan/core/demand"
	"corpulan/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

type drawnMap struct {
	Links []struct {
		Href    string `xml:"href,attr"`
		Circles []struct {
			CX, CY, R float64
			Class     string `xml:"class,attr"`
		} `xml:"circle"`
	} `xml:"a"`
	Names []struct {
		X    float64 `xml:"x,attr"`
		Y    float64 `xml:"y,attr"`
		Text string  `xml:",chardata"`
	} `xml:"g>text"`
}

func mapOf(t require.TestingT, groups []demand.Group) (m drawnMap) {
	svg := string(GroupMap(words.English(), groups, func(g demand.Group) (string, string) { return "/" + g.Key, "/" + g.Key }))
	svg = strings.NewReplacer(" cx=", " CX=", " cy=", " CY=", " r=", " R=").Replace(svg)
	require.NoError(t, xml.Unmarshal([]byte(strings.ReplaceAll(svg, "hx-", "hx")), &m))
	return m
}

func groupAt(name string, volume, hard, potential float64) demand.Group {
	return demand.Group{Key: name, Name: name, Volume: demand.Of(volume), Difficulty: demand.Of(hard), Potential: demand.Of(potential)}
}

// The map is to scale: ten times the volume is the same way up everywhere, twice the difficulty
// twice as far, four times the potential twice the radius.
func TestTheMapIsToScale(t *testing.T) {
	m := mapOf(t, []demand.Group{groupAt("a", 10, 20, 400), groupAt("b", 100, 40, 100), groupAt("c", 1000, 80, 25), {Key: "unknown", Volume: demand.Of(5)}})
	require.Len(t, m.Links, 3, "of what is not known nothing is drawn")
	type circle struct{ x, y, r float64 }
	var c [3]circle
	for i, l := range m.Links {
		c[i] = circle{l.Circles[0].CX, l.Circles[0].CY, l.Circles[0].R}
	}
	assert.InDelta(t, c[0].y-c[1].y, c[1].y-c[2].y, 0.2)
	assert.InDelta(t, 2*(c[1].x-c[0].x), c[2].x-c[1].x, 0.2)
	assert.InDelta(t, 2*c[1].r, c[0].r, 0.2)
	assert.Empty(t, GroupMap(words.English(), nil, nil))
}

// No two names meet, and none is drawn over another group's circle.
func TestNamesDoNotCollide(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		var groups []demand.Group
		for i := range rapid.IntRange(1, 60).Draw(r, "n") {
			groups = append(groups, groupAt(fmt.Sprintf("group number %d <&\"", i), rapid.Float64Range(1, 1e6).Draw(r, "v"), rapid.Float64Range(0, 100).Draw(r, "d"), rapid.Float64Range(0, 1e5).Draw(r, "p")))
		}
		m := mapOf(r, groups)
		var boxes []box
		for _, n := range m.Names {
			boxes = append(boxes, box{n.X, n.Y - 11, 6.1 * float64(len([]rune(n.Text))), 14})
		}
		for i, a := range boxes {
			for _, b := range boxes[:i] {
				if a.x+1 < b.x+b.w && b.x+1 < a.x+a.w && a.y+1 < b.y+b.h && b.y+1 < a.y+a.h {
					r.Fatalf("two names meet: %v and %v", a, b)
				}
			}
		}
	})
}

func TestMonthsAndNetwork(t *testing.T) {
	assert.Empty(t, Months(words.English(), nil))
	svg := string(Months(words.English(), []float64{0, 50, 100}))
	assert.Contains(t, svg, "M5 16v-8h4v8z")
	assert.Contains(t, svg, "M10 16v-16h4v16z")
	pages := []demand.Planned{{Key: "p", Pillar: true}, {Key: "a"}, {Key: "b"}, {Key: "c"}}
	links := []demand.Link{{From: "a", To: "p"}, {From: "p", To: "a"}, {From: "a", To: "b"}, {From: "b", To: "gone"}}
	svg = string(Network(words.English(), pages, []string{"P", "A<", "B", "C"}, links, func(k string) string { return "#" + k }))
	assert.Equal(t, 1, strings.Count(svg, `class="spoke"`), "both ways are one line")
	assert.Equal(t, 1, strings.Count(svg, `class="sibling"`))
	assert.Equal(t, 4, strings.Count(svg, "<a href="))
	assert.Contains(t, svg, "A&lt;")
	var parsed struct {
		Links []struct {
			Circles []struct {
				CX string `xml:"cx,attr"`
				CY string `xml:"cy,attr"`
			} `xml:"circle"`
		} `xml:"a"`
	}
	require.NoError(t, xml.Unmarshal([]byte(svg), &parsed))
	number := func(s string) float64 { f, _ := strconv.ParseFloat(s, 64); return f }
	var far []float64
	for _, l := range parsed.Links[1:] {
		far = append(far, math.Hypot((number(l.Circles[0].CX)-500)/290, (number(l.Circles[0].CY)-280)/215))
	}
	for _, f := range far {
		assert.InDelta(t, 1, f, 0.01, "all articles stand on one ring")
	}
	assert.Empty(t, Network(words.English(), nil, nil, nil, nil))
}
