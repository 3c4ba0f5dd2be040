package render

import (
	"testing"

	"corpulan/core/brief"

	"github.com/stretchr/testify/assert"
)

// A point in units that the market does not use has its own beside it, in the brief that is sent; the country as a study has it.
func TestPointsInUnitsOfTheMarket(t *testing.T) {
	b := brief.Brief{Language: "en", Front: brief.Front{Country: "gb"}}
	s := brief.Section{Points: []brief.Point{{Key: "p", Text: "Below 40°F wear mitts."}, {Key: "q", Text: "At 4 °C wear mitts."}}}
	rows := points(b, s)
	assert.Equal(t, "in the market's units: 4 °C", rows[0].Cells[0].Short)
	assert.Empty(t, rows[1].Cells[0].Short)
	b.Front.Country = "us"
	rows = points(b, s)
	assert.Empty(t, rows[0].Cells[0].Short)
	assert.Equal(t, "in the market's units: 39 °F", rows[1].Cells[0].Short)
}
