package main

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/entities"

	"github.com/stretchr/testify/assert"
)

// A name counts in any way it is written, with any of the types a reader allows; what two
// pages call by a name and no reader listed counts against us, a concept does not.
func TestScoreEntities(t *testing.T) {
	found := []entities.Entity{
		{Name: "AT&T", Variants: []string{"AT&T"}, Type: entities.OrganisationType, Pages: 2},
		{Name: "Unix", Variants: []string{"Unix", "UNIX"}, Type: entities.PlaceType, Pages: 3},
		{Name: "Job", Variants: []string{"Job"}, Type: entities.ProductType, Pages: 2},
		{Name: "Once", Variants: []string{"Once"}, Type: entities.ProductType, Pages: 1},
		{Name: "chain", Variants: []string{"chain"}, Type: entities.ConceptType, Pages: 5},
		{Name: "Ours", Variants: []string{"Ours"}, Type: entities.ProductType, Pages: 2, Flag: "the name of a site"},
	}
	said := "<p>AT&amp;T made Unix, and Linux came after it. Solaris may be missing.</p>"
	c := corpus.NewField([]corpus.RankedPage{corpustest.Page(t, 1, "a.example", said), corpustest.Page(t, 2, "b.example", said), corpustest.Page(t, 3, "c.example", "<p>Plan 9 stands here alone.</p>")}, "en", "unix")
	s := scoreEntities(found, map[string]*aName{"at&t": {types: []string{"organisation"}}, "unix": {types: []string{"product", "concept"}}, "linux": {types: []string{"product"}},
		"solaris": {types: []string{"product"}, optional: true}, "plan 9": {types: []string{"product"}}}, c)
	assert.InDelta(t, 2./3, s.precision, 1e-9)
	assert.InDelta(t, 2./3, s.recall, 1e-9)
	assert.InDelta(t, 2./3, s.f, 1e-9)
	assert.InDelta(t, .5, s.typed, 1e-9)
	assert.Equal(t, []string{"linux"}, s.missing)
	assert.Equal(t, []string{"Unix is no place", "Job [product]"}, s.wrong)
}

func TestRatio(t *testing.T) {
	assert.Equal(t, "–", ratio(0, 0))
	assert.Equal(t, "0.25 of 4", ratio(1, 4))
}
