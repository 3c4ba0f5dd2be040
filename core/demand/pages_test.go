package demand

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/language"
	"corpulan/core/message"
)

func TestTheCurve(t *testing.T) {
	c := DefaultCurve()
	assert.Empty(t, c.Sound())
	assert.InDelta(t, .28, c.At(1), 1e-12)
	assert.InDelta(t, .10, c.At(3), 1e-12)
	assert.InDelta(t, .125, c.At(2.5), 1e-12, "half-way between .15 and .10")
	assert.InDelta(t, .28, c.At(0.2), 1e-12)
	assert.Zero(t, c.At(21))
	assert.InDelta(t, .003, c.At(20), 1e-12)
	assert.Zero(t, Curve{}.At(1))
	for want, bad := range map[string]Curve{"at least": {.1}, "at most a hundred": make(Curve, 101), "from 0": {.3, 2, .1}, "no larger": {.1, .2, .1}} {
		assert.Contains(t, bad.Sound().String(), want)
	}
	rapid.Check(t, func(r *rapid.T) {
		a, b := rapid.Float64Range(0, 30).Draw(r, "a"), rapid.Float64Range(0, 30).Draw(r, "b")
		if a <= b && c.At(a) < c.At(b) {
			r.Fatalf("at %v %v, at %v %v", a, c.At(a), b, c.At(b))
		}
	})
}

// Where we stand for a group, worked by hand, and which pages rival each other.
func TestOwn(t *testing.T) {
	place := func(page string, at, clicks, seen float64) Place {
		return Place{"https://shop.example/" + page, Of(at), Of(clicks), Of(seen)}
	}
	g := Group{Key: "gloves", Name: "gloves", Keywords: []Keyword{
		{Text: "winter gloves", Volume: Of(1000), Places: []Place{place("gloves", 4, 40, 800), place("mitts", 9, 5, 800)}},
		{Text: "bike gloves", Volume: Of(500), Places: []Place{place("gloves", 2, 30, 400), place("mitts", 12, 1, 400), place("hats", 60, 0, 5)}},
		{Text: "bar mitts", Volume: Of(100)},
	}}
	o := OwnOf(g, nil, nil)
	assert.Equal(t, "https://shop.example/gloves", o.Page)
	assert.InDelta(t, (1001*4+501*2)/1502.0, o.Position.Value, 1e-9)
	assert.Equal(t, Of(76), o.Clicks)
	assert.Equal(t, Of(145), o.Now, "1000·.07 + 500·.15")
	assert.Equal(t, Of(160), o.AtThree, "1600·.10")
	assert.Equal(t, Of(40), o.Gain, "1000·(.10 − .07) + 100·.10; nothing is lost where it stands second")
	require.Len(t, o.Rivals, 1, "whoever stands at 60 is none")
	assert.Equal(t, "https://shop.example/mitts", o.Rivals[0].Page)
	assert.Equal(t, []string{"winter gloves", "bike gloves"}, o.Shared)
	assert.Contains(t, o.Advice.String(), "both stand for 2 of 3 queries")
	assert.Contains(t, OwnOf(g, nil, func(a, b string) float64 { return 0.42 }).Advice.String(), "42 %")
	g.Keywords = g.Keywords[2:]
	o = OwnOf(g, nil, nil)
	assert.Empty(t, o.Page)
	assert.Equal(t, Of(10), o.Gain)
	assert.Empty(t, o.Advice)

	list := WithResults([]Keyword{{Text: "a b"}, {Text: "c"}}, Results{"a b": {"https://x.example/", "https://www.shop.example/a"}}, "https://shop.example")
	assert.Equal(t, []Place{{Address: "https://www.shop.example/a", Position: Of(2)}}, list[0].Places)
	assert.Empty(t, list[1].Places)
}

// One query that led to two of our pages keeps both.
func TestQueriesOfSeveralPages(t *testing.T) {
	rows := [][]string{{"Top queries", "Page", "Clicks", "Impressions", "Position"}, {"bar mitts", "https://s.example/a", "5", "100", "7.5"}, {"bar mitts", "https://s.example/b", "9", "300", "4.2"}, {"bar mitts", "https://s.example/a", "6", "120", "7.0"}}
	list, _, err := Read(rows, Recognise(rows))
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, []Place{{"https://s.example/a", Of(7), Of(6), Of(120)}, {"https://s.example/b", Of(4.2), Of(9), Of(300)}}, list[0].Places)
	assert.Equal(t, Of(4.2), list[0].Position)
	merged, fresh := Merge(list, []Keyword{{Text: "Bar-mitts", Volume: Of(590)}, {Text: "pogies"}})
	assert.Equal(t, 1, fresh)
	assert.Equal(t, Of(590), merged[0].Volume)
	assert.False(t, list[0].Volume.Known, "the first list is as it was")
}

func docs(t testing.TB, bodies ...string) (list []*corpus.Doc, pages []corpus.RankedPage) {
	for i, b := range bodies {
		p := corpustest.PageIn(t, "en", i+1, fmt.Sprintf("s%d.example", i+1), b)
		list, pages = append(list, p.Doc), append(pages, p)
	}
	return list, pages
}

func TestStanding(t *testing.T) {
	sum := 0.0
	for _, p := range (Standing{}).Parts() {
		sum += p.Weight
	}
	assert.InDelta(t, 1, sum, 1e-12)
	say := func(s string) string {
		return "<p>" + strings.Repeat(s+" and so on it goes for a while. ", 12) + "</p>"
	}
	list, pages := docs(t,
		"<h1>Bar mitts</h1>"+say("Bar mitts are warm")+"<h2>Bar mitts and safety</h2>"+say("Bar mitts leave the levers free"),
		"<h1>Winter riding</h1>"+say("Riding in winter is calm")+"<h2>Hands</h2>"+say("Bar mitts are one way to keep hands warm"),
		"<h1>Chains</h1>"+say("Chains want oil"))
	words := []Keyword{{Text: "bar mitts", Volume: Of(500)}, {Text: "frozen chain", Volume: Of(900)}, {Text: "purple elephants", Volume: Of(10)}}
	rows := StandingOf(words, list, "en")
	first := rows[0].Pages
	assert.Greater(t, first[0].Score, 0.7)
	assert.Greater(t, first[0].Score, first[1].Score)
	assert.Zero(t, first[2].Score)
	assert.InDelta(t, 1, first[0].H1, 1e-12)
	assert.InDelta(t, 1, first[0].Answered, 1e-12)
	assert.Equal(t, "Hands", first[1].Section)
	assert.Zero(t, first[1].H1)
	assert.InDelta(t, 0.25, rows[1].Pages[2].H1, 1e-12, "half of its words count a quarter")
	assert.True(t, rows[1].Opening, "asked more than most, and nobody placed well")
	assert.False(t, rows[0].Opening)
	assert.False(t, rows[2].Opening, "hardly asked")
	for _, r := range rows {
		for _, s := range r.Pages {
			assert.True(t, s.Score >= 0 && s.Score <= 1)
		}
	}
	places, of := StandpointsOf("bar mitts", list[0], "en", first[0])
	assert.Equal(t, 2, of)
	where := map[message.Message][]string{}
	for _, p := range places {
		where[p.Where] = append(where[p.Where], p.Text)
		assert.Less(t, p.Section, len(list[0].Reading.Sections))
	}
	assert.Equal(t, []string{"Bar mitts"}, where["H1"])
	assert.Equal(t, []string{"Bar mitts and safety"}, where["headings"])
	assert.Len(t, where["body"], 24, "a sentence each time")
	assert.Equal(t, []string{first[0].Section}, where["answered"])
	places, _ = StandpointsOf("bar mitts", list[2], "en", first[2])
	assert.Empty(t, places, "nothing of it stands there")
	places, of = StandpointsOf("the", list[0], "en", Standing{})
	assert.Empty(t, places)
	assert.Zero(t, of)
	assert.Empty(t, StandingOf(words, nil, "en")[0].Pages)
	assert.Zero(t, StandingOf([]Keyword{{Text: "the"}}, list, "en")[0].Best, "a word that says nothing stands nowhere")

	met := map[string][]int{"bar mitts": {1, 2}}
	found := SearchedIn(append(words, Keyword{Text: "winter levers", Volume: Of(40)}, Keyword{Text: "the"}), language.For("en"), len(pages), func(query string) (_, part []int) { return met[query], nil })
	var texts []string
	for _, x := range found {
		texts = append(texts, x.Keyword.Text)
	}
	assert.Equal(t, []string{"frozen chain", "winter levers", "purple elephants", "bar mitts"}, texts, "the unmet first, by volume")
	assert.True(t, found[0].Unmet)
	assert.False(t, found[3].Unmet)
	assert.Equal(t, []int{1, 2}, found[3].Met)
	assert.Equal(t, []string{"lever"}, NotSearched([]string{"lever", "chains", "mitts", "the"}, words, "en"))
}

func TestNear(t *testing.T) {
	var list []Keyword
	for i := range 20 {
		list = append(list, Keyword{Text: fmt.Sprintf("bike part%d", i)})
	}
	list = append(list, Keyword{Text: "bike lights"}, Keyword{Text: "commuting by bike"}, Keyword{Text: "a light for commuting"})
	var near []string
	for _, k := range Near(list, "bike lights for commuting", "en") {
		near = append(near, k.Text)
	}
	assert.Equal(t, []string{"bike lights", "commuting by bike", "a light for commuting"}, near, "not what has “bike” alone")
	assert.Empty(t, Near(nil, "x", "en"))
}

func slateGroup(key, intent string, volume, hard float64, others ...string) Group {
	g := Group{Key: key, Name: key, Intent: intent, Volume: Of(volume), Difficulty: Of(hard), Keywords: []Keyword{{Text: key, Volume: Of(volume)}}, Questions: []string{}}
	for _, o := range others {
		g.Keywords = append(g.Keywords, Keyword{Text: o, Volume: Of(volume / 2)})
		if strings.HasPrefix(o, "how ") {
			g.Questions = append(g.Questions, o)
		}
	}
	return g
}

// A slate has the widest group for its pillar, throws out what wants a page that is there, and
// orders the rest by what they gain for what they cost.
func TestSlate(t *testing.T) {
	groups := []Group{
		slateGroup("winter bike lights", informational, 5000, 80), slateGroup("winter bike", informational, 2000, 40), slateGroup("winter bike gloves", informational, 3000, 20, "bar mitts", "how to keep hands warm"),
		slateGroup("winter bike chain", informational, 800, 10), slateGroup("chains of winter bikes", informational, 700, 10), slateGroup("buy winter bike", transactional, 600, 50), slateGroup("mittens", informational, 90, 10),
	}
	results := Results{"winter bike gloves": {"http://a.example/1", "http://a.example/2", "http://a.example/3", "http://a.example/4"}, "mittens": {"http://a.example/4", "http://a.example/3", "http://a.example/2", "http://b.example/"}}
	o := Options{Language: "en", Results: results}
	p := SlateOf(groups, o, "", func(g Group) Own {
		if g.Key == "winter bike lights" {
			return Own{Page: "https://shop.example/lights", Gain: Of(0)}
		}
		return Own{}
	})
	var names []string
	for _, x := range p.Pages {
		names = append(names, x.Keyword)
	}
	assert.Equal(t, []string{"winter bike", "winter bike gloves", "winter bike chain", "buy winter bike", "winter bike lights"}, names)
	assert.True(t, p.Pages[0].Pillar)
	assert.Equal(t, "pillar", p.Pages[0].Kind)
	assert.Contains(t, p.Pages[0].Why.Message().String(), "all of them in 4 of 4")
	assert.Equal(t, "how-to", p.Pages[1].Kind)
	assert.Equal(t, "product", p.Pages[3].Kind)
	assert.Equal(t, "https://shop.example/lights", p.Pages[4].Own)
	assert.Equal(t, []string{"chains of winter bikes", "mittens"}, []string{p.Redundant[0].Keyword, p.Redundant[1].Keyword})
	assert.Contains(t, p.Redundant[0].Reason.Message().String(), "say the same in other words")
	assert.Contains(t, p.Redundant[1].Reason.Message().String(), "3.0 are the same on average")
	assert.Len(t, p.Notes, 1, "four supporting articles are few")
	assert.Equal(t, "winter bike chain", SlateOf(groups, o, "winter bike chain", nil).Pages[0].Keyword)
	assert.Empty(t, SlateOf(nil, o, "", nil).Pages)

	links := LinksOf(p.Pages, "en")
	to := map[string]int{}
	anchors := map[string]map[string]bool{}
	for _, l := range links {
		assert.NotEqual(t, l.From, l.To)
		to[l.From+">"+l.To]++
		if anchors[l.To] == nil {
			anchors[l.To] = map[string]bool{}
		}
		anchors[l.To][l.Anchor] = true
	}
	for _, x := range p.Pages[1:] {
		assert.Equal(t, 1, to[x.Key+">winter bike"])
		assert.Equal(t, 1, to["winter bike>"+x.Key])
	}
	for pair, n := range to {
		assert.Equal(t, 1, n, pair)
	}
}

// Siblings that share a theme are linked, under anchors that differ.
func TestLinks(t *testing.T) {
	pages := []Planned{{Key: "w", Keyword: "winter riding", Pillar: true}, {Key: "a", Keyword: "studded tyres", Secondary: []string{"tyres for ice", "spiked tyres"}}, {Key: "b", Keyword: "tyre pressure"}, {Key: "c", Keyword: "warm gloves"}, {Key: "d", Keyword: "tyre repair"}}
	between, anchors := map[string]string{}, map[string]bool{}
	for _, l := range LinksOf(pages, "en") {
		between[l.From+l.To] = l.Why.Message().String()
		if l.To == "a" {
			assert.False(t, anchors[l.Anchor], l.Anchor)
			anchors[l.Anchor] = true
		}
	}
	assert.Equal(t, "they share a theme: tyres", between["ab"])
	assert.Contains(t, between, "ba")
	assert.NotContains(t, between, "ca")
	assert.Len(t, anchors, 3)
}
