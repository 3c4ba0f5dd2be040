package themes

import (
	"slices"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
)

func TestThemes(t *testing.T) {
	cold := `<p>Wear wool gloves and a windproof jacket. The jacket vents; the gloves are thin. Under the jacket a wool layer, on the hands gloves.</p>`
	pages := []corpus.Page{
		corpustest.Page(t, 1, "a.example", `<h1>Guide</h1><h2>Dressing for the cold</h2>`+cold+`<h2>Tyre pressure</h2><p>Lower it by ten psi. Pressure falls in frost.</p><h2>Conclusion</h2><p>Ride on and on.</p>`),
		corpustest.Page(t, 2, "b.example", `<h1>Tips</h1><h2>What to wear</h2>`+cold+`<h2>Check your tyre pressure</h2><p>Every week, with a gauge. Pressure is free.</p><h2>Conclusion</h2><p>That was all of it.</p>`),
	}
	found, notes := Find(t.Context(), corpus.NewField(pages, "en", "winter riding"), nil)
	assert.Empty(t, notes)
	together := map[string][]string{}
	for _, th := range found {
		for _, m := range th.Members {
			together[th.Label] = append(together[th.Label], m.Text)
		}
	}
	assert.ElementsMatch(t, []string{"Tyre pressure", "Check your tyre pressure"}, together["Tyre pressure"])
	met := false
	for _, members := range together {
		met = met || slices.Contains(members, "Dressing for the cold") && slices.Contains(members, "What to wear")
	}
	assert.True(t, met, "headings that share no word meet by their sections: %v", together)
	for _, th := range found {
		assert.False(t, th.Label == "Conclusion" && th.Recommended())
	}
}

func TestNamesHaveNoNumbers(t *testing.T) {
	for heading, want := range map[string]string{
		"3. Lights": "Lights", "Step 4: Dress in layers": "Dress in layers", "Schritt 2) Kette ölen": "Kette ölen", "2 lights are better": "2 lights are better",
		"Route 66": "Route 66", "Version 2.1": "Version 2.1", "10:": "10:", "Mudguards": "Mudguards",
		"13.3.3. Page-Level Locks": "Page-Level Locks", "5.0 Writing to a file": "Writing to a file", "Step 7 to 9: put away": "Put away", "Chapter 2. Locks": "Locks", "A. Notes": "Notes",
		"B) Öl": "Öl", "(4) Chains": "Chains", "iv. Salt": "Salt", "2.1.2.": "2.1.2.", "Étape 3 : huiler": "Huiler", "I am cold": "I am cold", "A bike in winter": "A bike in winter",
	} {
		assert.Equal(t, want, trimNumbering(heading), heading)
	}
}
