package brief

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What a page says in units that the market does not use stands in its own beside: the fixed
// points of water, and lengths by hand from the inch of 2.54 cm.
func TestUnitsOfTheMarket(t *testing.T) {
	for _, x := range []struct {
		country, language, text string
		want                    []string
	}{
		{"gb", "en", "Below 32°F the roads freeze.", []string{"0 °C"}},
		{"US", "en", "It freezes at 0 °C.", []string{"32 °F"}}, // as files may write it
		{"gb", "en", "Water boils at 212 degrees Fahrenheit.", []string{"100 °C"}},
		{"gb", "en", "Keep it between 30 and 40 °F, never at −4 °F.", []string{"4 °C", "−20 °C"}},
		{"gb", "en", "From 50-59 °F it germinates.", []string{"10–15 °C"}},
		{"gb", "en", "At 32°F (0 °C) it freezes.", nil},
		{"gb", "en", "A 10-mile ride on 2 inch tyres.", nil},
		{"ie", "en", "A 10-mile ride on 2 inch tyres.", []string{"5.1 cm", "16 km"}},
		{"ie", "en", "It loses 3 gallons a day, costs 20 pounds and says “Model 32”.", nil},
		{"ie", "en", "It weighs 22 lbs.", []string{"10 kg"}}, // 9.979: two digits
		{"de", "de", "Reifen von 2,2 inch halten 1.000 miles.", []string{"5,6 cm", "1609 km"}},
		{"us", "en", "It freezes at 0 °C, and boils at 100 °C.", []string{"32 °F", "212 °F"}},
		{"us", "en", "A tank of 1,500 litres, 25 km away.", []string{"16 miles", "396 gallons"}},
		{"us", "en", "A loaf of 1 pound at 32°F.", nil},
		{"", "en", "Below 32°F the roads freeze.", nil},
		{"gb", "en", "Model 32 Fast has 5 ft lbs.", nil},
	} {
		b := Brief{Language: x.language, Front: Front{Country: x.country}}
		assert.Equal(t, x.want, b.InUnits(x.text), "%s: %s", x.country, x.text)
	}
}
