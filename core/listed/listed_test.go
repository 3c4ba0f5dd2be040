package listed

import (
	"fmt"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	_ "corpulan/lists" // the word lists that lie beside the program

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func find(t *testing.T, language, keyword string, pages ...string) []Thing {
	t.Helper()
	ranked := make([]corpus.RankedPage, len(pages))
	for i, p := range pages {
		ranked[i] = corpustest.PageIn(t, language, i+1, fmt.Sprintf("%c.example", 'a'+i), p)
	}
	return Find(corpus.NewField(ranked, language, keyword), nil).Things
}

// headings is a page of headings, each with a sentence below.
func headings(title string, said string, list ...string) string {
	page := "<h1>" + title + "</h1><p>" + said + "</p>"
	for _, h := range list {
		page += "<h2>" + h + "</h2><p>" + said + " It weighs as much as a loaf of bread and lasts for two winters.</p>"
	}
	return page
}

// Names, verdicts and prices are read off headings of several shapes, and joined over the pages by name and short name.
func TestThingsOfTwoPages(t *testing.T) {
	list := find(t, "en", "best studded tyres",
		headings("The best studded tyres", "A stud is a pin of carbide.", "1. Icegrip 160: best for commuters", "2. Northpin Traverse 240 – best on ruts", "3. Glint Courier 100 (£54)", "4. Hoarfrost Cargo: best for e-bikes", "How we tested"),
		headings("Tyres we would buy", "We rode them all winter.", "Best overall: Icegrip 160", "Best budget: Fen Studder", "Best for ruts: Traverse 240"),
	)
	byName := map[string]Thing{}
	for _, x := range list {
		byName[x.Name] = x
	}
	require.Contains(t, byName, "Icegrip 160")
	assert.Equal(t, 2, byName["Icegrip 160"].Pages)
	assert.Equal(t, "best for commuters", byName["Icegrip 160"].Places[0].Verdict)
	assert.Equal(t, "Best overall", byName["Icegrip 160"].Places[1].Verdict)
	assert.Equal(t, []int{1, 4}, []int{byName["Icegrip 160"].Places[0].Position, byName["Icegrip 160"].Places[0].Of})
	assert.Equal(t, 2, byName["Northpin Traverse 240"].Pages, "by its short name")
	assert.Equal(t, "£54", byName["Glint Courier 100"].Prices[0].Text)
	assert.NotContains(t, byName, "How we tested")
	assert.Len(t, list, 5)
}

// Steps, tips, questions and chapters are lists of no things.
func TestNoThings(t *testing.T) {
	for name, page := range map[string]string{
		"steps":    headings("How to fit a tyre", "Do it slowly.", "1. Check the clearance", "2. Take off the old tyre", "3. Mind the direction of travel", "4. Seat the bead"),
		"tips":     headings("Ten tips", "They help.", "1. Start a little chilly", "2. Layer thin, not thick", "3. Put your money on gloves", "4. Cover your ears"),
		"matters":  headings("A guide", "It is long.", "Mudguards", "Brakes", "Lights for dark mornings", "What to wear"),
		"question": headings("Questions", "They are asked.", "1. Are studded tyres legal?", "2. Are studded tyres slow?", "3. How long do they last?"),
		"code":     headings("Functions", "They are called.", "call(ServerRef, Request): best avoided", "cast(ServerRef, Request): good", "send_request(ServerRef): best"),
		"chapters": headings("Locking", "It is explained.", "1. How WAL Works", "2. Activating And Configuring WAL Mode", "3. Read-Only Databases", "4. Backwards Compatibility"),
		"parts":    headings("Essentials", "Each helps.", "1. Fit proper mudguards", "2. Choose winter tyres", "3. Light the road, not the trees", "4. Check the brakes"),
	} {
		assert.Empty(t, find(t, "en", "winter bike", page), name)
	}
}

// In other languages, with places and programs.
func TestThingsInOtherLanguages(t *testing.T) {
	de := find(t, "de", "beste Fahrradtaschen", headings("Die besten Taschen", "Eine Tasche hält den Regen ab.", "1. Quillora Nordsee 20: beste Tasche für Pendler", "2. Brimtal Zwölf – günstig und dicht", "3. Velorin Pack 30 (89 €)"))
	assert.Len(t, de, 3)
	fr := find(t, "fr", "meilleurs logiciels de dessin", headings("Les meilleurs logiciels", "Un logiciel de dessin sert à dessiner.", "1. Traceplume : idéal pour débuter", "2. Croquia Pro – le meilleur pour les ateliers", "3. Bleuvex 3 : gratuit et bon"))
	assert.Len(t, fr, 3)
	assert.Equal(t, "Traceplume", fr[0].Name)
	es := find(t, "es", "qué ver en Valdoria", headings("Qué ver en Valdoria", "La ciudad está junto al mar.", "1. Torre Almenda, ideal para niños", "2. Mercado de Tresvela", "3. Puente Olmeno (4 €)"))
	assert.Len(t, es, 3)
	for language, steps := range map[string][]string{
		"fr": {"1. Retirer le vieux pneu", "2. Nettoyer la jante", "3. Gonfler doucement", "4. Vérifier le sens"},
		"es": {"1. Limpiar la cadena", "2. Revisar los frenos", "3. Engrasar los cables", "4. Probar la luz"},
		"de": {"1. Platz aussuchen", "2. Boden lockern", "3. Rahmen aufstellen", "4. Mit Astwerk beginnen"},
		"it": {"1. Pulire la catena", "2. Gonfiare le gomme", "3. Controllare i freni"},
	} {
		assert.Empty(t, find(t, language, "x", headings("X", "Y.", steps...)), language)
	}
}
