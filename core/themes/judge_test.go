package themes

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
)

func TestTraits(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h1>A</h1><h2>Prices</h2><p>It costs £40, and £15 more for the fitting.</p><h2>Gloves</h2><p>Wool gloves keep hands warm in the frost of a morning.</p>`),
		corpustest.Page(t, 2, "b.example", `<h1>B</h1><h2>The bill</h2><p>Mine came to $120 in all, of which $30 went on post.</p><h2>Warm fingers</h2><p>Gloves of wool, thick ones, and mittens over the gloves.</p>`),
	}
	of := map[string]Judge{}
	for x := range Examples(corpus.NewField(pages, "en", "winter riding")) {
		of[x.A.Text+" / "+x.B.Text] = x.Traits
		for k, v := range x.Traits {
			assert.GreaterOrEqual(t, v, 0.0, "%d", k)
		}
	}
	money, hands, other := of["Prices / The bill"], of["Gloves / Warm fingers"], of["Prices / Warm fingers"]
	assert.Equal(t, []float64{1, 1}, []float64{money[SameMatter], money[Money]})
	assert.Zero(t, money[Cosine], "they share no word")
	assert.Zero(t, hands[SameMatter])
	assert.Greater(t, hands[HeadInText], hands[HeadInBoth], "one heading stands in the other's section, not both")
	assert.InDelta(t, 1, hands[Nearest], 1e-6)
	assert.Greater(t, other[Apart], hands[Apart])
	assert.Zero(t, other[Cosine])
}

// A heading that only holds others is no member of a theme but where most of what it holds is.
func TestWhatOnlyHoldsOthers(t *testing.T) {
	tyres := `<h3>%s</h3><p>Pump the tyre up with a gauge until the pressure is right, then check the pressure of each tyre.</p>`
	lights := `<h3>%s</h3><p>Two lamps in front and a red lamp behind let drivers see you at dusk; charge each lamp at night.</p>`
	var pages []corpus.RankedPage
	for i, holder := range []string{"Questions and rules", "Preparing at home", "On pressure"} {
		body := fmt.Sprintf(tyres, "Tyre pressure") + fmt.Sprintf(lights, "Lamps")
		if holder == "On pressure" {
			body = fmt.Sprintf(tyres, "Tyre pressure in winter")
		}
		body = strings.ReplaceAll(body, "</p>", fmt.Sprintf(" So say %d of them.</p>", i+1))
		pages = append(pages, corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), "<h1>A</h1><h2>"+holder+"</h2>"+body))
	}
	found, _ := Find(t.Context(), corpus.NewField(pages, "en", "winter riding"), nil, nil)
	at := map[string]string{}
	for _, th := range found {
		for _, m := range th.Members {
			at[m.Text] = th.Key
		}
	}
	assert.Equal(t, at["Tyre pressure"], at["On pressure"], "all that it holds is of the theme")
	assert.NotEqual(t, at["Tyre pressure"], at["Questions and rules"])
	assert.NotEqual(t, at["Lamps"], at["Questions and rules"])
}
