package brief

import (
	"slices"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"
	"corpulan/core/listed"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lists are two pages that list things, and a guide.
func lists(t testing.TB) *evidence.Evidence {
	t.Helper()
	page := func(rank int, host, html string) corpus.RankedPage {
		return corpustest.PageIn(t, "en", rank, host, html)
	}
	return compute(evidence.Input{Keyword: "best bike lamps", Language: "en", Pages: []corpus.RankedPage{
		page(1, "a.example", `<h1>The best bike lamps</h1><p>We rode with all of them for a month, through drizzle and through fog.</p><h2>1. Halvark Beacon 600 – best overall</h2><p>Price: £48 | Weight: 112 g</p><p>The beam is excellent. Sadly the strap tears.</p><h2>2. Vossby Arc – best value</h2><p>Price: £35 | Weight: 98 g</p><h2>3. Skarn Pebble – best spare</h2><p>Price: £12 | Weight: 19 g</p><h2>4. Cobbrig Duo – cheapest</h2><p>Price: £10</p>`),
		page(2, "b.example", `<h1>Bike lamps compared</h1><p>Measured on a bench in a cellar, on three evenings of October.</p><table><tr><th>Model</th><th>Weight</th><th>Price</th></tr><tr><td>Halvark Beacon 600</td><td>115 g</td><td>£50</td></tr><tr><td>Vossby Arc</td><td>98 g</td><td>£35</td></tr><tr><td>Skarn Pebble</td><td></td><td>£12</td></tr></table>`),
		page(3, "c.example", `<h1>Lamps</h1><p>What I ride with through the dark half of the year, and what I have thrown away.</p>`)}})
}

func picksOf(b Brief) (list []string) {
	for _, p := range b.Picks {
		list = append(list, p.Name)
	}
	return list
}

// A brief for a list goes through the things that several pages name, each with its verdict and what the field says of it, compares
// them in a table, has their prices checked, and counts them in its title.
func TestTheThingsOfAList(t *testing.T) {
	e := lists(t)
	b := Compose(e, Choices{}, Setting{})
	assert.Equal(t, "list", b.Front.Kind)
	assert.Equal(t, []string{"Halvark Beacon 600", "Vossby Arc", "Skarn Pebble"}, picksOf(b))
	p := b.Picks[0]
	assert.Equal(t, "best overall", p.Verdict)
	assert.Equal(t, "£48–£50", p.Price)
	assert.Equal(t, []Quote{{"The beam is excellent.", 1}}, p.Praise)
	assert.Equal(t, []Quote{{"Sadly the strap tears.", 1}}, p.Criticism)
	assert.Equal(t, []PickValue{{"price", "£48–£50", []int{1, 2}, true}, {"weight", "112–115 g", []int{1, 2}, true}}, p.Values)
	assert.Equal(t, []string{"Price", "Weight"}, []string{b.Criteria[0].Name, b.Criteria[1].Name})
	assert.Equal(t, "2 Our picks", headings(b)[0])
	var titles []string
	for _, x := range b.Titles {
		titles = append(titles, x.Text)
	}
	assert.Contains(t, titles, "Best bike lamps: our 3 picks")
	i := slices.IndexFunc(b.Facts, func(f Fact) bool { return f.Key == PickPrefix+p.Key })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, "Halvark Beacon 600: £48 (rank 1), £50 (rank 2)", b.Facts[i].Text)
	assert.NotContains(t, picksOf(Compose(e, Choices{Typed: map[string]string{FieldKind: "guide"}}, Setting{})), "Vossby Arc", "a guide goes through nothing")
	for _, x := range Compose(field(t, "a.example", "b.example"), Choices{}, Setting{}).Titles {
		assert.False(t, strings.ContainsAny(x.Text, "0123456789") && x.Pattern.String() == "has a number", "a title counts things that are listed, nothing else: %s", x.Text)
	}
}

// A person drops a thing, adds one, gives a verdict and an order; each is one step, and comes back.
func TestThingsByHand(t *testing.T) {
	e := lists(t)
	var c Choices
	do := func(edits ...Edit) {
		t.Helper()
		for _, x := range edits {
			require.NoError(t, c.Apply(x))
		}
	}
	arc := e.Listed[slices.IndexFunc(e.Listed, func(x listed.Thing) bool { return x.Name == "Vossby Arc" })].Key
	do(c.DecideOn(e, Mark{Kind: ThingKind, Key: "cobbrigduo", Text: "Cobbrig Duo", State: Adopted}, Mark{Kind: ThingKind, Key: OwnPrefix + "own lamp", Text: "Own Lamp", State: Adopted})...)
	verdict := "the one we sell"
	do(c.WriteOn(e, PickPrefix+arc, &verdict)...)
	do(c.MovePick(Compose(e, c, Setting{}), arc, -1)...)
	b := Compose(e, c, Setting{})
	assert.Equal(t, []string{"Vossby Arc", "Halvark Beacon 600", "Skarn Pebble", "Cobbrig Duo", "Own Lamp"}, picksOf(b))
	assert.Equal(t, "the one we sell", b.Picks[0].Verdict)
	assert.True(t, b.Picks[0].Edited)
	assert.False(t, b.Picks[4].Gone, "a person's own")
	up := c.MovePick(b, arc, -1)
	assert.Empty(t, up, "it is the first")
	dropped := c.DecideOn(e, Mark{Kind: ThingKind, Key: arc, Text: "Vossby Arc", State: Dropped})
	do(dropped...)
	assert.NotContains(t, picksOf(Compose(e, c, Setting{})), "Vossby Arc")
	do(dropped[0].Reversed())
	assert.Equal(t, "Vossby Arc", Compose(e, c, Setting{}).Picks[0].Name, "with its place and its verdict")
	// A brief that stands keeps them when pages are set aside.
	do(c.Stand(e, Compose(e, c, Setting{}), 1)...)
	assert.Equal(t, picksOf(b), picksOf(Compose(e, c, Setting{})))
}
