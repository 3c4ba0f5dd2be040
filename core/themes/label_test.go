package themes

import (
	"fmt"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
)

// labelsOf are the names of the themes of two and more pages whose sections say the same under different headings.
func labelsOf(t *testing.T, lang, keyword, text string, headings ...string) []string {
	var pages []corpus.RankedPage
	for i, h := range headings {
		pages = append(pages, corpustest.PageIn(t, lang, i+1, fmt.Sprintf("s%d.example", i), "<h1>A</h1><h2>"+h+"</h2><p>"+text+fmt.Sprintf(" So say %d of them.</p>", i+1)))
	}
	found, _ := Find(t.Context(), corpus.NewField(pages, lang, keyword), nil, nil)
	var names []string
	for _, th := range found {
		if th.Pages > 1 {
			names = append(names, th.Label)
		}
	}
	return names
}

func TestNamesArePlain(t *testing.T) {
	pump := "Pump the tyre up with a gauge until the pressure is right, and check the pressure of each tyre again after a night."
	cost := "A set costs £40 to £60, the fitting £15 more. A cheap one is £20."
	for _, c := range []struct {
		why, lang, keyword, text string
		headings                 []string
		want                     string
	}{
		{"no joke and no shout", "en", "winter riding", pump, []string{"Tyre pressure", "Pump it up, baby!!", "My tyre pressure in January"}, "Tyre pressure"},
		{"no picture", "en", "winter riding", pump, []string{"🚲 Tyre pressure", "🚲 Tyre pressure", "🚲 Tyre pressure"}, "Tyre pressure"},
		{"no step", "en", "winter riding", pump, []string{"Step 3: Check the pressure", "Step 2: Check the pressure"}, "Check the pressure"},
		{"what says more of the two sides of a colon", "en", "winter riding", pump, []string{"Tyre pressure: the whole truth", "Tyre pressure: a word"}, "Tyre pressure"},
		{"not the number before one", "en", "winter riding", pump, []string{"Mistake one: wrong pressure", "Mistake four: wrong pressure"}, "Wrong pressure"},
		{"a general matter by its name", "en", "studded tyres", cost, []string{"The bill", "What will it cost?", "Prices"}, "Cost"},
		{"in its language", "de", "Reifen", "Ein Satz kostet 40 € bis 60 €, das Aufziehen 15 € mehr.", []string{"Die Rechnung", "Was kostet das?"}, "Kosten"},
	} {
		assert.Equal(t, []string{c.want}, labelsOf(t, c.lang, c.keyword, c.text, c.headings...), c.why)
	}
}

// Two themes that would have one name are told apart, and each key is there once.
func TestKeysAreTakenOnce(t *testing.T) {
	var pages []corpus.RankedPage
	for i := range 3 {
		pages = append(pages, corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>A</h1>
<h2>What you will need</h2><p>%d: a gauge, a floor pump, tyre levers and a rag to wipe the rim before the tyre goes on again.</p>
<h2>What is this?</h2><p>Lanolin wool gloves keep hands warm below freezing where thin leather gloves would let the wind through, say %[1]d.</p>`, i)))
	}
	found, _ := Find(t.Context(), corpus.NewField(pages, "en", "winter riding"), nil, nil)
	keys := map[string]bool{}
	for _, th := range found {
		assert.NotEmpty(t, th.Key)
		assert.False(t, keys[th.Key], th.Key)
		keys[th.Key] = true
	}
	assert.Len(t, keys, 2, "headings without a word of their own count as well")
}
