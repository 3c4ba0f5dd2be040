package change_test

import (
	"fmt"
	"math"
	"testing"

	"corpulan/core/change"
	"corpulan/core/evidence"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Two studies with three results in common are one page by the rule; what tells them apart is
// measured as Rayson & Garside (2000) do.
func TestOnePageOrTwo(t *testing.T) {
	of := func(own, heading string, from int) change.Gathering {
		g := field(t, 12, func(i int) []string {
			return []string{fmt.Sprintf("Studs: Page %d tests each stud by hand. %s", i, studs), fmt.Sprintf("%s: Page %d says much of %s. More %s, please.", heading, i, own, own)}
		})
		for i := range g.Results {
			g.Results[i].URL = fmt.Sprintf("https://h%d.example/tyres", from+i)
		}
		return g
	}
	side := func(g change.Gathering) change.Side {
		return change.Side{Evidence: evidenceOf(t, g), Results: g.Results}
	}
	summer, ice := of("summer grip", "Grip in summer", 0), of("black ice", "Riding black ice", 7)
	p := change.Two(side(summer), side(ice))
	assert.Equal(t, 3, p.Shared, "of the first ten")
	assert.True(t, p.One)
	assert.Len(t, p.Pages, 5, "of all")
	require.NotEmpty(t, p.First)
	require.NotEmpty(t, p.Second)
	for _, x := range p.First {
		assert.Greater(t, x.First, x.Second)
		assert.Positive(t, x.LogRatio)
		if x.Text == "black ice" {
			t.Error("it is the other's")
		}
	}
	labels := func(list []string, more ...string) []string { return append(list, more...) }
	var shared, one, two []string
	for _, x := range p.Themes {
		shared = labels(shared, x.First.Label)
	}
	for _, x := range p.OnlyOne {
		one = labels(one, x.Label)
	}
	for _, x := range p.OnlyTwo {
		two = labels(two, x.Label)
	}
	assert.Equal(t, []string{"Studs"}, shared)
	assert.Equal(t, []string{"Grip in summer"}, one)
	assert.Equal(t, []string{"Riding black ice"}, two)
	back := change.Two(side(ice), side(summer))
	assert.Equal(t, p.Shared, back.Shared)
	assert.InDelta(t, p.First[0].G2, back.Second[0].G2, 1e-9)
	assert.InDelta(t, math.Abs(p.First[0].LogRatio), math.Abs(back.Second[0].LogRatio), 1e-9)
	special := change.Special(evidenceOf(t, summer), []*evidence.Evidence{evidenceOf(t, ice)})
	var texts []string
	for _, x := range special {
		texts = append(texts, x.Text)
		assert.Positive(t, x.LogRatio)
	}
	assert.Contains(t, texts, "summer grip")
	assert.NotContains(t, texts, "studs", "all have it")
	assert.Empty(t, change.Special(evidenceOf(t, summer), nil), "there is nothing to compare with")
	apart := change.Two(side(of("summer grip", "Grip in summer", 0)), side(of("black ice", "Riding black ice", 50)))
	assert.False(t, apart.One)
	assert.Empty(t, apart.Pages)
}
