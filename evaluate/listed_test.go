package main

import (
	"slices"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/listed"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The fields of lists reach what was aimed at: things .90 and .85, joined over pages .85, prices and figures .90, verdicts .80.
func TestListedThings(t *testing.T) {
	t.Chdir("..")
	fields := 0
	require.NoError(t, eachField("evaluate/fields", "listed.tsv", func(f field, dir string, c *corpus.Field) error {
		fields++
		want, err := readListed(dir)
		require.NoError(t, err)
		s := scoreListed(listed.Find(c, nil).Things, want)
		assert.GreaterOrEqual(t, s.things.precision(), .90, f.name)
		assert.GreaterOrEqual(t, s.things.recall(), .85, f.name)
		assert.GreaterOrEqual(t, s.joined.f1(), .85, f.name)
		assert.GreaterOrEqual(t, s.prices.f1(), .90, f.name)
		assert.GreaterOrEqual(t, s.values.f1(), .90, f.name)
		assert.GreaterOrEqual(t, s.verdicts.f1(), .80, f.name)
		return nil
	}))
	assert.Equal(t, 3, fields)
}

// What is wrong is counted as such: a thing too many, two joined that are two, a price of another.
func TestScoringOfLists(t *testing.T) {
	want := []told{{thing: "a", rank: 1, name: "Arc", position: 1, verdict: "best value", prices: []string{"35 GBP"}, values: []string{"98 g"}}, {thing: "a", rank: 2, name: "Vossby Arc", position: 1, noPrice: true}, {thing: "b", rank: 2, name: "Duo", position: 2, verdict: "-"}}
	at := func(rank, position int, name string) listed.Place {
		return listed.Place{Rank: rank, Position: position, Name: name, By: listed.ByHeading}
	}
	one, two, three := at(1, 1, "Arc"), at(2, 1, "Vossby Arc"), at(2, 2, "Duo")
	one.Verdict, one.Prices, one.Attributes = "Best value", []listed.Price{{Amount: 35, Currency: "GBP"}}, []listed.Attribute{{Value: "0.098", Unit: "kg"}}
	right := scoreListed([]listed.Thing{{Name: "Arc", Places: []listed.Place{one, two}}, {Name: "Duo", Places: []listed.Place{three}}}, want)
	assert.Empty(t, right.wrong)
	for _, x := range []score{right.things, right.joined, right.prices, right.values, right.verdicts, right.positions} {
		assert.Equal(t, 1.0, x.f1())
	}
	one.Verdict, one.Prices[0].Amount, three.Verdict = "cheap", 36, "nice"
	wrong := scoreListed([]listed.Thing{{Name: "Arc", Places: []listed.Place{one, three}}, {Name: "Trail", Places: []listed.Place{at(1, 2, "Trail")}}}, want)
	assert.Less(t, wrong.things.precision(), 1.0)
	assert.Less(t, wrong.things.recall(), 1.0)
	assert.Zero(t, wrong.joined.both)
	assert.Zero(t, wrong.prices.both)
	assert.Zero(t, wrong.verdicts.both)
	assert.True(t, slices.ContainsFunc(wrong.wrong, func(s string) bool { return s == "place not found: 2 Vossby Arc" }))
}
