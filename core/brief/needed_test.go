package brief

import (
	"testing"

	"corpulan/core/entities"
	"corpulan/core/message"

	"github.com/stretchr/testify/assert"
)

// A name is asked for that a third of the pages have, a place that two thirds have, a people never.
func TestNeededNames(t *testing.T) {
	for _, x := range []struct {
		kind  entities.EntityType
		flag  message.Message
		pages int
		want  bool
	}{
		{entities.ProductType, "", 3, true}, {entities.ProductType, "", 2, false}, {entities.ProductType, "the name of a site", 9, false},
		{entities.PlaceType, "", 5, false}, {entities.PlaceType, "", 6, true}, {entities.PeopleType, "", 9, false}, {entities.ConceptType, "", 9, false},
	} {
		assert.Equal(t, x.want, isNeeded(entities.Entity{Type: x.kind, Pages: x.pages, Flag: x.flag}, 9), "%v on %d of 9", x.kind, x.pages)
	}
	assert.False(t, isNeeded(entities.Entity{Type: entities.ProductType, Pages: 1}, 2), "nothing rests on one page")
}
