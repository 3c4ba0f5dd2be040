package network_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/network"
	"corpulan/core/reading"
	"corpulan/core/vocabulary"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func pages(t testing.TB, bodies ...string) (list []corpus.RankedPage) {
	t.Helper()
	for i, b := range bodies {
		r, err := reading.Read(reading.Page{URL: fmt.Sprintf("https://h%d.example/", i), Body: []byte("<html lang=en><article>" + b + "</article>")})
		require.NoError(t, err)
		list = append(list, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "en")})
	}
	return list
}

func term(key, text string) vocabulary.Term {
	return vocabulary.Term{Key: key, Keys: []string{key}, Text: text, Tier: vocabulary.Staple, Pages: 2}
}

func width(n network.Node) float64 { return 7.5 * float64(len(n.Text)) }

// Counts and log-Dice by hand: “stud” and “ice” stand in three sentences together, of four and
// five. A term within a longer one is not by itself there, and what stands together on one page
// alone is no link.
func TestWhatStandsTogether(t *testing.T) {
	p := pages(t,
		"<p>Studs grip on ice. Studs are loud on ice. Tyre pressure falls in frost. A mitt warms a hand. A mitt suits a hand.</p>",
		"<p>Ice needs studs. Ice is cold. The tyre pressure falls in frost. Frost and tyre pressure. Studs wear. Ice.</p>")
	terms := []vocabulary.Term{term("stud", "studs"), term("ice", "ice"), term("tyre pressur", "tyre pressure"), term("pressur", "pressure"), term("frost", "frost"), term("mitt", "mitt"), term("hand", "hand")}
	n, err := network.Of(t.Context(), p, "en", terms, 50, network.Sentence, nil)
	require.NoError(t, err)
	said := map[string]network.Link{}
	for _, l := range n.Links {
		said[n.Nodes[l.A].Text+"–"+n.Nodes[l.B].Text] = l
	}
	require.Contains(t, said, "studs–ice")
	ice := said["studs–ice"]
	assert.Equal(t, 3, ice.Joint)
	assert.Equal(t, 2, ice.Pages)
	assert.InDelta(t, 14+math.Log2(2*3./(4+5)), ice.LogDice, 1e-9)
	assert.Contains(t, said, "tyre pressure–frost")
	assert.NotContains(t, said, "tyre pressure–pressure", "it is part of it")
	assert.NotContains(t, said, "mitt–hand", "on one page alone")
	assert.Len(t, n.Communities, 2)
	assert.Equal(t, -1, n.Nodes[5].Community)

	by, err := network.Of(t.Context(), p, "en", terms, 50, network.Section, nil)
	require.NoError(t, err)
	assert.Equal(t, 2, by.Nodes[0].Count, "sections that have it")
	without, err := network.Of(t.Context(), p, "en", terms, 50, network.Sentence, map[string]bool{"ice": true})
	require.NoError(t, err)
	assert.Len(t, without.Nodes, len(n.Nodes)-1)
}

func TestSearchedAndFound(t *testing.T) {
	p := pages(t, "<p>Studs grip on ice. Studs are loud on ice.</p>", "<p>Ice needs studs. Mitts warm. Mitts warm in ice.</p>")
	field, err := network.Of(t.Context(), p, "en", []vocabulary.Term{term("stud", "studs"), term("ice", "ice"), term("mitt", "mitts")}, 50, network.Sentence, nil)
	require.NoError(t, err)
	searched := network.OfQueries(field, []network.Query{{"studs for ice", 100}, {"studs legal", 50}, {"ice studs legal town", 10}, {"bike", 900}}, "en", "bike tyres")
	over := network.Over(field, searched)
	by := map[string]network.Node{}
	for _, n := range over.Nodes {
		by[n.Text] = n
	}
	assert.EqualValues(t, 160, by["studs"].Searched)
	assert.EqualValues(t, 110, by["ice"].Searched)
	assert.Zero(t, by["mitts"].Searched, "found and not searched")
	require.Contains(t, by, "legal", "searched and not found")
	assert.False(t, by["legal"].Field)
	assert.EqualValues(t, 60, by["legal"].Searched)
	assert.NotContains(t, by, "bike", "the keyword's own words are in all queries")
	joined := false
	for _, l := range over.Links {
		joined = joined || over.Nodes[l.A].Text == "studs" && over.Nodes[l.B].Text == "legal"
	}
	assert.True(t, joined, "%+v", over.Links)
}

// demo is the network of the demo's articles.
func demo(t testing.TB, most int) (*network.Network, []corpus.RankedPage, []vocabulary.Term) {
	t.Helper()
	files, err := filepath.Glob("../../standin/sites/*/*/*.html")
	require.NoError(t, err)
	var list []corpus.RankedPage
	for i, name := range files[:min(len(files), 20)] {
		b, err := os.ReadFile(name)
		require.NoError(t, err)
		r, err := reading.Read(reading.Page{URL: fmt.Sprintf("https://h%d.example/", i), Body: b})
		require.NoError(t, err)
		list = append(list, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "en")})
	}
	terms := vocabulary.Find(t.Context(), corpus.NewField(list, "en", "winter bike commuting"), nil)
	n, err := network.Of(t.Context(), list, "en", terms, most, network.Sentence, nil)
	require.NoError(t, err)
	return n, list, terms
}

func TestTheLayoutIsTheSameToTheByte(t *testing.T) {
	var before string
	for range 3 {
		n, _, _ := demo(t, 60)
		n.Lay(width)
		b, err := json.Marshal(n)
		require.NoError(t, err)
		if before != "" {
			assert.Equal(t, before, string(b))
		}
		before = string(b)
		assert.Greater(t, len(n.Links), 20)
		assert.Greater(t, n.Modularity, 0.3)
		collisions(t, n)
	}
}

func collisions(t require.TestingT, n *network.Network) {
	for i, a := range n.Nodes {
		assert.True(t, a.X-width(a)/2 >= 0 && a.X+width(a)/2 <= n.Width && a.Y >= 0 && a.Y <= n.Height, "%s is outside", a.Text)
		for _, b := range n.Nodes[i+1:] {
			assert.False(t, math.Abs(a.X-b.X) < (width(a)+width(b))/2 && math.Abs(a.Y-b.Y) < 20, "%s and %s collide", a.Text, b.Text)
		}
	}
}

func TestLabelsNeverCollide(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		count := rapid.IntRange(1, 60).Draw(rt, "nodes")
		n := &network.Network{}
		for i := range count {
			n.Nodes = append(n.Nodes, network.Node{Key: fmt.Sprint(i), Text: fmt.Sprintf("%0*d", rapid.IntRange(1, 24).Draw(rt, "letters"), i), Community: -1})
		}
		for range rapid.IntRange(0, 2*count).Draw(rt, "links") {
			a, b := rapid.IntRange(0, count-1).Draw(rt, "a"), rapid.IntRange(0, count-1).Draw(rt, "b")
			if a < b {
				n.Links = append(n.Links, network.Link{A: a, B: b, Joint: 2, LogDice: 9})
			}
		}
		n = network.Over(n, &network.Network{}) // finds the communities
		n.Lay(width)
		collisions(rt, n)
	})
}

// BenchmarkNetwork80 finds and lays out a network of 80 terms of 20 pages. The budget is 100 ms.
func BenchmarkNetwork80(b *testing.B) {
	_, list, terms := demo(b, 80)
	for b.Loop() {
		n, err := network.Of(b.Context(), list, "en", terms, 80, network.Sentence, nil)
		require.NoError(b, err)
		n.Lay(width)
	}
}
