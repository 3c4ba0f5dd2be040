package evidence

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"corpulan/core/listed"
	"corpulan/web/parts"
)

// Prices are to scale and sorted in the currency that most of the field is in; a larger figure of another is no higher price.
func TestPricesInSeveralCurrencies(t *testing.T) {
	row := func(name string, prices ...listed.Price) parts.FindingRow {
		r := parts.FindingRow{Thing: &listed.Thing{Prices: prices}}
		r.Text = name
		return r
	}
	pounds := func(n float64) listed.Price { return listed.Price{Amount: n, Currency: "GBP"} }
	rows := []parts.FindingRow{
		row("none"), row("crowns", listed.Price{Amount: 5, Currency: "SEK"}),
		row("dear", pounds(80), listed.Price{Amount: 900, Currency: "SEK"}), row("cheap", pounds(20), pounds(24)),
	}
	assert.Equal(t, "GBP", mainCurrency(rows))
	assert.Equal(t, []float64{80}, amounts(rows[2].Thing, "GBP"))
	sortRows(rows, "price", false)
	var names []string
	for _, r := range rows {
		names = append(names, r.Text)
	}
	assert.Equal(t, []string{"cheap", "dear", "none", "crowns"}, names)
}
