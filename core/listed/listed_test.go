package listed

import (
	"fmt"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/house"
	_ "corpulan/lists" // the word lists that lie beside the program

	"github.com/go-playground/locales"
	"github.com/go-playground/locales/currency"
	"github.com/go-playground/locales/de"
	"github.com/go-playground/locales/de_CH"
	"github.com/go-playground/locales/en"
	"github.com/go-playground/locales/es"
	"github.com/go-playground/locales/fr"
	"github.com/go-playground/locales/it"
	"github.com/go-playground/locales/nl"
	"github.com/go-playground/locales/pt"
	"github.com/go-playground/locales/sv"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
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
		"labels":   headings("Bleuvex 3.1", "It draws.", "Requirements: Traceplume Engine", "Licence: Bleuvex Public Licence", "Support: Croquia Forum", "History"),
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

// byName finds a thing by its name.
func byName(t *testing.T, list []Thing, name string) Thing {
	t.Helper()
	i := slices.IndexFunc(list, func(x Thing) bool { return x.Name == name })
	require.GreaterOrEqual(t, i, 0, "%s among %v", name, names(list))
	return list[i]
}

func names(list []Thing) (all []string) {
	for _, x := range list {
		all = append(all, x.Name)
	}
	return all
}

// values are the attributes of a thing, as "Weight=112 g".
func values(x Thing) (all []string) {
	for _, a := range x.Attributes {
		all = append(all, strings.TrimSpace(a.Name+"="+a.Value+" "+a.Unit))
	}
	return all
}

const lamps = `<h1>Best lamps</h1><p>We rode with four lamps for a month, in drizzle and in fog.</p>
<table><tr><th>Model</th><th>Best for</th><th>Price</th><th>Lumens</th><th>Run time</th><th>Weight (g)</th><th></th></tr>
<tr><td>Halvark Beacon 600</td><td>Commuters</td><td>£48.00</td><td>1,585</td><td>2 h 5 min</td><td>112</td><td>Check price</td></tr>
<tr><td>Brackmere Lyn</td><td>Town</td><td>from £24</td><td>290</td><td>–</td><td>74</td><td>Check price</td></tr>
<tr><td>Brackmere Lyn Max</td><td>Lanes</td><td>£69–£75</td><td>870</td><td>85 min</td><td>n/a</td><td>Check price</td></tr></table>`

// A table lists things in its rows or in its columns; what its cells tell goes by the heads.
func TestThingsOfATable(t *testing.T) {
	list := find(t, "en", "best lamps", lamps)
	assert.Equal(t, []string{"Halvark Beacon 600", "Brackmere Lyn", "Brackmere Lyn Max"}, names(list))
	x := byName(t, list, "Halvark Beacon 600")
	assert.Equal(t, []string{"Commuters"}, x.Verdicts)
	assert.Equal(t, Price{Amount: 48, Currency: "GBP", Rank: 1, Section: 1, Text: "£48.00"}, x.Prices[0])
	assert.Equal(t, []string{"Lumens=1585 lumens", "Run time=125 min", "Weight=112 g"}, values(x))
	assert.Equal(t, []string{"Lumens=290 lumens", "Weight=74 g"}, values(byName(t, list, "Brackmere Lyn")), "a gap is no value")
	assert.Equal(t, 75.0, byName(t, list, "Brackmere Lyn Max").Prices[0].To)

	turned := `<h1>Drei Mühlen</h1><p>Nebeneinander gestellt und ein Jahr lang jeden Morgen benutzt.</p><table><tr><td></td><th>Tarvik Solo</th><th>Tarvik Solo Pro</th></tr><tr><th>Preis</th><td>79,90 €</td><td>129 €</td></tr><tr><th>Gewicht</th><td>1.540 g</td><td>0,62 kg</td></tr><tr><th>Spülbar</th><td>✓</td><td>✗</td></tr></table>`
	mills := find(t, "de", "beste Kaffeemühle", turned)
	assert.Equal(t, []string{"Tarvik Solo", "Tarvik Solo Pro"}, names(mills))
	assert.Equal(t, []string{"Gewicht=1540 g", "Spülbar=✓"}, values(byName(t, mills, "Tarvik Solo")))
	assert.Equal(t, []string{"Gewicht=0.62 kg", "Spülbar=✗"}, values(byName(t, mills, "Tarvik Solo Pro")))
	assert.Equal(t, 79.9, byName(t, mills, "Tarvik Solo").Prices[0].Amount)
}

// A maker in one column and a model in the next are one name.
func TestMakerAndModel(t *testing.T) {
	list := find(t, "en", "best lamps", `<h1>Lamps</h1><p>Measured on a bench in a cellar, on three evenings of October.</p><table><tr><th>Brand</th><th>Model</th><th>Price</th></tr><tr><td>Halvark</td><td>Beacon 600</td><td>£48</td></tr><tr><td>Vossby</td><td>Arc</td><td>£35</td></tr><tr><td>Skarn</td><td>Skarn Pebble</td><td>£12</td></tr></table>`)
	assert.Equal(t, []string{"Halvark Beacon 600", "Vossby Arc", "Skarn Pebble"}, names(list))
}

// A page on two things, matter by matter, lists the two that its title names, and no matter.
func TestOneOrTheOther(t *testing.T) {
	list := find(t, "en", "noteloom or inkstack", `<h1>Noteloom vs. Inkstack</h1><p>Two apps for notes, in which we have lived for a month each.</p><h2>Noteloom vs. Inkstack: Ease of Use</h2><p>Both are easy.</p><h2>Noteloom vs. Inkstack: Security</h2><p>Both are safe.</p><h2>Noteloom vs. Inkstack: Fees</h2><p>One is free.</p><table><tr><td></td><td>Noteloom</td><td>Inkstack</td></tr><tr><td>Search</td><td>fast</td><td>slow</td></tr><tr><td>Offline</td><td>✓</td><td>✗</td></tr></table>`)
	assert.Equal(t, []string{"Noteloom", "Inkstack"}, names(list))
	assert.Equal(t, []string{"Search=fast", "Offline=✓"}, values(list[0]))
}

// A table that compares nothing, of measures by place, lists no things.
func TestATableOfMeasures(t *testing.T) {
	page := `<h1>Cold</h1><p>What we wear at which temperature, by the thermometer at the door.</p><table><tr><th>Outside</th><th>Gloves</th></tr><tr><td>10 to 5 °C</td><td>thin</td></tr><tr><td>5 to 0 °C</td><td>thick</td></tr><tr><td>0 to −5 °C</td><td>mittens</td></tr></table>`
	assert.Empty(t, find(t, "en", "winter gloves", page))
}

// Cards, definitions and items with a bold beginning list things as well.
func TestThingsOfBoxes(t *testing.T) {
	card := func(badge, name, said, price string) string {
		return `<div class="card"><span class="badge">` + badge + `</span><h3>` + name + `</h3><p>` + said + `</p><span>` + price + `</span><a href="https://shop.example/x">See it</a></div>`
	}
	list := find(t, "en", "best lamps",
		`<h1>Lamps</h1><p>Three lamps that our readers ride with in the dark half of the year.</p><div>`+card("Brightest", "Halvark Beacon 600", "Readers love the even beam.", "£50")+card("Best budget", "Vossby Arc", "Poor gauge.", "<del>£39</del> £32")+card("Best rear", "Tindrel Owlet", "Clips on.", "£22")+`</div>`,
		`<h1>Choosing lamps</h1><p>What we tell people at the counter when they ask for a lamp.</p><dl><dt>Vossby Arc</dt><dd>For the lanes around here. 450 lumens, 98 g, £35.</dd><dt>Tindrel Owlet</dt><dd>Clips to a bag. 38 g, £25.</dd><dt>Skarn Pebble</dt><dd>The spare. 19 g, £12.</dd></dl>`,
		`<h1>The best lamps</h1><p>Some that we like, after a winter of riding with all of them.</p><ul><li><strong>Halvark Beacon 600</strong> (£48): the all-rounder.</li><li><strong>Vossby Arc</strong> (£35): enough for lit streets.</li><li><strong>Skarn Pebble</strong> (£12): a spare.</li></ul>`,
		`<h1>What are you running?</h1><p>I carry a Pebble for the day I forget to charge. The Beacon 600 was stolen.</p>`,
	)
	arc := byName(t, list, "Vossby Arc")
	assert.Equal(t, []int{1, 2, 3}, arc.Ranks)
	assert.Equal(t, []int{2, 1, 2}, arc.Positions)
	assert.Equal(t, []string{"Best budget", "For the lanes around here"}, arc.Verdicts[:2])
	assert.Equal(t, []float64{32, 35, 35}, []float64{arc.Prices[0].Amount, arc.Prices[1].Amount, arc.Prices[2].Amount}, "what is struck through is no price")
	assert.Equal(t, []string{"Light output=450 lumens", "Weight=98 g"}, values(arc))
	assert.Equal(t, []string{PriceDiffers}, arc.Differs)
	assert.Equal(t, []string{"Poor gauge."}, arc.Criticism)
	assert.Equal(t, []string{"https://shop.example/x"}, arc.Links)
	pebble := byName(t, list, "Skarn Pebble")
	assert.Equal(t, []int{1, 2, 3, 4}, append([]int{1}, pebble.Ranks...), "named in the forum by its short name")
	assert.Equal(t, []int{4, 3, 0}, append([]int{4}, pebble.Positions[1:]...))
	assert.Equal(t, ByMention, pebble.Places[2].By)
	assert.Contains(t, byName(t, list, "Halvark Beacon 600").Places[2].Text, "was stolen")
}

// What stands below a name is read: prices, figures, what is good and bad, under headings, labels and in sentences.
func TestWhatIsSaidOfAThing(t *testing.T) {
	page := `<h1>Best lamps</h1><p>All of them were ridden for a winter and weighed on the kitchen scale.</p>
<h2>1. Halvark Beacon 600 – best overall</h2><p>Price: £48 | Output: 600 lumens | Weight: 112 g</p><p>The beam is excellent. Sadly the strap tears.</p><h3>Pros</h3><ul><li>Flat beam</li></ul><h3>Cons</h3><ul><li>Strap</li></ul>
<h2>2. Vossby Arc – best value</h2><p>For £35 the Arc is a bargain. A wheel adds more.</p><p><b>What we like:</b> light; small.</p><p><b>What we don't:</b> the gauge.</p><p>Rating: 4.5/5</p>
<h2>3. Skarn Pebble – best under £15</h2><p>You need batteries, which add more than £100 to the bill.</p><p>Rating: 9/5</p>`
	list := find(t, "en", "best lamps", page)
	x := byName(t, list, "Halvark Beacon 600")
	assert.Equal(t, 48.0, x.Prices[0].Amount)
	assert.Equal(t, []string{"Output=600 lumens", "Weight=112 g"}, values(x))
	assert.Equal(t, []string{"The beam is excellent.", "Flat beam"}, x.Praise)
	assert.Equal(t, []string{"Sadly the strap tears.", "Strap"}, x.Criticism)
	arc := byName(t, list, "Vossby Arc")
	assert.Equal(t, 35.0, arc.Prices[0].Amount, "from a sentence that names it")
	assert.Equal(t, []string{"light", "small"}, arc.Praise[1:])
	assert.Contains(t, arc.Criticism, "the gauge")
	assert.Equal(t, []Rating{{Value: 4.5, Of: 5, Rank: 1}}, arc.Ratings)
	pebble := byName(t, list, "Skarn Pebble")
	assert.Empty(t, pebble.Prices, "of something else")
	assert.Empty(t, pebble.Ratings, "nine of five is a lie")
	assert.Equal(t, []string{"best under £15"}, pebble.Verdicts)
}

// Headings that only tell a verdict have the name below them; a number needs no sign where headings go on counting.
func TestListsOfOtherShapes(t *testing.T) {
	list := find(t, "en", "best boots", `<h1>The best boots</h1><p>Four people walked nine hundred miles in twenty-six pairs of boots.</p>
<h2>Best Overall Boot</h2><h3>Merrow Ridge Mid GTX</h3><p>$189.95 at Peakshop</p><h2>Best Budget Boot</h2><h3>Tallis Trailhead</h3><p>$79.99</p><h2>Best for Wide Feet</h2><h3>Oakwyn Fell 3 Wide</h3><p>2 lbs 4 oz</p>`)
	assert.Equal(t, []string{"Merrow Ridge Mid GTX", "Tallis Trailhead", "Oakwyn Fell 3 Wide"}, names(list))
	assert.Equal(t, []string{"Best Budget Boot"}, list[1].Verdicts)
	list = find(t, "en", "hiking boots", headings("Boots our guides swear by", "Good on scree.", "#1 Merrow Ridge Mid GTX (from $180)", "#2 Oakwyn Fell 3 ($165)", "#3 Brannock Summit Pro ($320)"))
	assert.Equal(t, []string{"Merrow Ridge Mid GTX", "Oakwyn Fell 3", "Brannock Summit Pro"}, names(list))
	list = find(t, "en", "best plants for shade", headings("5 best plants for shade", "It asks for little.", "1. Hosta", "2. Japanese anemone", "3. Foxglove", "4. Lungwort"))
	assert.Equal(t, []string{"Hosta", "Japanese anemone", "Foxglove", "Lungwort"}, names(list), "plants have no names of their own")
	list = find(t, "fr", "meilleurs logiciels de dessin", headings("Les meilleurs logiciels de dessin", "On y dessine au trait.", "Le plus simple : Petit Fusain", "Le plus complet : Croquia Pro", "Pour débuter : Traceplume"))
	assert.Equal(t, []string{"Petit Fusain", "Croquia Pro", "Traceplume"}, names(list), "the verdict first, of no word that tells one")
	list = find(t, "en", "best games", headings("The coolest games", "It is played alone.", "“Rez of the Fen” ($30)", "“Thumper Road” ($20)", "“Until Dusk: Rush” ($20)"))
	assert.Equal(t, "Until Dusk: Rush", list[2].Name)
}

// A verdict is one however pages write its letters.
func TestVerdictsOnce(t *testing.T) {
	list := find(t, "en", "best lamps", headings("Lamps", "It is small.", "1. Tindrel Owlet: best rear light", "2. Vossby Arc: best value", "3. Ostrel D2: brightest"), headings("More lamps", "It is a lamp.", "Best rear light: Tindrel Owlet", "Best overall: Vossby Arc", "Best of all: Fennick Nightjar"))
	assert.Equal(t, []string{"best rear light"}, byName(t, list, "Tindrel Owlet").Verdicts)
	assert.Equal(t, []string{"best value", "Best overall"}, byName(t, list, "Vossby Arc").Verdicts)
}

// A ranking of cities lists places, by whatever it measures them; what is measured is none.
func TestARankingOfCities(t *testing.T) {
	list := find(t, "en", "best cities for cycling", `<h1>The best cities for cycling</h1><p>We counted lanes, thefts and hills in ninety cities.</p><h2>How we ranked them</h2><p>Each city has a score of a hundred.</p>
<table><tr><th>Rank</th><th>City</th><th>Country</th><th>Score</th></tr><tr><td>1</td><td>Valdoria</td><td>Norrland</td><td>88.4</td></tr><tr><td>2</td><td>Brimtal</td><td>Sarn</td><td>81.0</td></tr><tr><td>3</td><td>Port Olmeno</td><td>Sarn</td><td>79.9</td></tr></table>`,
		headings("Cities that ride", "Half of all trips are made by bike here.", "1. Valdoria, Norrland", "2. Port Olmeno, Sarn", "3. Tresvela, Sarn"))
	assert.Equal(t, []string{"Valdoria", "Port Olmeno"}, names(list)[:2])
	assert.ElementsMatch(t, []string{"Valdoria", "Port Olmeno", "Brimtal", "Tresvela"}, names(list))
}

// A name inside another is another thing where one list has both.
func TestOneNameInsideAnother(t *testing.T) {
	list := find(t, "en", "best lamps", lamps, headings("Lamps", "It is small.", "1. Lyn: best for town", "2. Lyn Max: best for lanes", "3. Ostrel D2: best of all"), headings("More lamps", "It is a lamp with a dynamo.", "1. Ostrel D2 Dynamo: best dynamo", "2. Fennick Nightjar: brightest", "3. Cobbrig Duo: cheapest"))
	assert.Equal(t, 2, byName(t, list, "Brackmere Lyn").Pages)
	assert.Equal(t, 2, byName(t, list, "Brackmere Lyn Max").Pages)
	assert.Equal(t, 2, byName(t, list, "Ostrel D2 Dynamo").Pages, "the rest says what it is")
}

// Prices in three currencies stay apart, and pages differ only within one.
func TestThreeCurrencies(t *testing.T) {
	list := find(t, "en", "best lamps", headings("Best lamps", "It is bright.", "1. Halvark Beacon 600 (£48)", "2. Vossby Arc (€39)", "3. Skarn Pebble ($15)"), headings("Best lamps", "It is bright.", "1. Halvark Beacon 600 (€59)", "2. Vossby Arc (€39)", "3. Skarn Pebble ($19)"))
	assert.Empty(t, byName(t, list, "Halvark Beacon 600").Differs)
	assert.Empty(t, byName(t, list, "Vossby Arc").Differs)
	assert.Equal(t, []string{PriceDiffers}, byName(t, list, "Skarn Pebble").Differs)
}

// A publication's lexicon says which names are one thing, which are two, how one is called and which is none.
func TestTaughtNames(t *testing.T) {
	pages := []string{headings("Best lamps", "It is bright.", "1. Halvark Beacon 600: best", "2. Vossby Arc: good", "3. Ostrel D2: ideal"), headings("Best lamps", "It is bright with a dynamo.", "1. Beacon Light 600: best", "2. Vossby Arc: good", "3. Ostrel D2 Dynamo: ideal")}
	ranked := []corpus.RankedPage{corpustest.PageIn(t, "en", 1, "a.example", pages[0]), corpustest.PageIn(t, "en", 2, "b.example", pages[1])}
	f := corpus.NewField(ranked, "en", "best lamps")
	list := Find(f, house.New([]house.Entry{{Kind: house.Merge, Term: "Beacon Light 600", Other: "Halvark Beacon 600"}, {Kind: house.Ignore, Term: "Vossby Arc"}, {Kind: house.Split, Term: "Ostrel D2", Other: "Ostrel D2 Dynamo"}, {Kind: house.Prefer, Term: "Halvark Beacon 600", Other: "Halvark Beacon 600 Mk I"}}, f.Language)).Things
	assert.ElementsMatch(t, []string{"Halvark Beacon 600 Mk I", "Ostrel D2", "Ostrel D2 Dynamo"}, names(list))
	assert.Equal(t, 2, list[0].Pages)
}

// Measures of several names are one criterion where a name says no more than its unit; uses are what verdicts name.
func TestCriteria(t *testing.T) {
	ranked := []corpus.RankedPage{corpustest.PageIn(t, "en", 1, "a.example", lamps),
		corpustest.PageIn(t, "en", 2, "b.example", `<h1>Best lamps</h1><p>We weighed all of them and looked at the beam on a wall.</p><table><tr><th>Model</th><th>Output</th><th>Best for</th></tr><tr><td>Halvark Beacon 600</td><td>600 lumens</td><td>Best for town</td></tr><tr><td>Brackmere Lyn</td><td>300 lumens</td><td>Best in town</td></tr></table>`)}
	found := Find(corpus.NewField(ranked, "en", "best lamps"), nil)
	byKey := map[string]Criterion{}
	for _, c := range found.Criteria {
		byKey[c.Name] = c
	}
	require.Contains(t, byKey, "Output")
	assert.Equal(t, []string{"Lumens", "Output"}, slices.Sorted(slices.Values(byKey["Output"].Said)))
	assert.Equal(t, []int{1, 2}, byKey["Output"].Ranks)
	assert.Equal(t, 3, byKey["Output"].Things)
	assert.Contains(t, byName(t, found.Things, "Halvark Beacon 600").Differs, byKey["Output"].Key, "1585 and 600 lumens")
	assert.Equal(t, 2, byKey["Weight"].Things)
	uses := slices.DeleteFunc(slices.Clone(found.Criteria), func(c Criterion) bool { return c.Kind != Use })
	require.Len(t, uses, 1)
	assert.Equal(t, []int{1, 2}, uses[0].Ranks)
}

// Amounts are read as the locales of Unicode's CLDR write them (go-playground/locales has its patterns and signs).
func TestAmountsOfTheCLDR(t *testing.T) {
	f := finder{Field: corpus.NewField(nil, "en", "x")}
	for _, l := range []locales.Translator{en.New(), de.New(), fr.New(), es.New(), it.New(), nl.New(), pt.New(), sv.New(), de_CH.New()} {
		for code, c := range map[string]currency.Type{"GBP": currency.GBP, "EUR": currency.EUR, "USD": currency.USD, "SEK": currency.SEK, "CHF": currency.CHF, "PLN": currency.PLN} {
			for _, amount := range []float64{9.5, 48, 1299.99, 12345} {
				written := l.FmtCurrency(amount, 2, c)
				got := f.amounts(written)
				if assert.Len(t, got, 1, "%s: %q", l.Locale(), written) {
					assert.InDelta(t, amount, got[0].Amount, 1e-9, "%s: %q", l.Locale(), written)
					assert.Equal(t, code, got[0].Currency, "%s: %q", l.Locale(), written)
				}
			}
		}
	}
}

// Quantities are read as Unicode's CLDR 48 writes them in the eight languages (testdata/units.tsv, by ICU 78).
func TestQuantitiesOfTheCLDR(t *testing.T) {
	table, err := os.ReadFile("testdata/units.tsv")
	require.NoError(t, err)
	n := 0
	for line := range strings.Lines(string(table)) {
		c := strings.Split(strings.TrimRight(line, "\n"), "\t")
		if strings.HasPrefix(line, "#") {
			continue
		}
		want, err := strconv.ParseFloat(c[3], 64)
		require.NoError(t, err)
		f := finder{Field: corpus.NewField(nil, c[0], "x")}
		v, ok := f.valueOf(c[5])
		amount, unit, isNumber := Attribute{Value: v.value, Unit: v.unit}.Base()
		if assert.True(t, ok && isNumber, "%s: %q", c[0], c[5]) {
			assert.InEpsilon(t, want, amount, 1e-9, "%s: %q is %v", c[0], c[5], v)
			assert.Equal(t, c[4], unit, "%s: %q", c[0], c[5])
		}
		n++
	}
	assert.Greater(t, n, 400)
}

// The same pages give the same things, and a page that lists nothing takes none away.
func TestThingsAreStable(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		makers := rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"Halvark", "Brackmere", "Tindrel", "Vossby", "Skarn", "Cobbrig", "Ostrel"}), 3, 7, rapid.ID).Draw(rt, "makers")
		var lines []string
		for i, m := range makers {
			lines = append(lines, fmt.Sprintf("%d. %s K%d: best for rain", i+1, m, i+10))
		}
		page := headings("Best lamps", "It is bright.", lines...)
		alone := find(t, "en", "best lamps", page)
		assert.Len(rt, alone, len(makers))
		assert.Equal(rt, alone, find(t, "en", "best lamps", page))
		assert.Equal(rt, names(alone), names(find(t, "en", "best lamps", page, `<h1>Rain</h1><p>It falls on everybody, and nobody sells a lamp here.</p>`)))
	})
}

// manyThings is a page of things on cards and in a table.
func manyThings(n int) string {
	var b strings.Builder
	b.WriteString(`<h1>Best lamps</h1><p>All that the shop has, on one page, as shops do.</p><div>`)
	for i := range n {
		fmt.Fprintf(&b, `<div class="card"><h3>Halvark K%d</h3><p>Bright, and %d lumens.</p><span>£%d</span></div>`, i+100, i, i+10)
	}
	b.WriteString(`</div><table><tr><th>Model</th><th>Weight</th><th>Price</th></tr>`)
	for i := range n {
		fmt.Fprintf(&b, `<tr><td>Halvark K%d</td><td>%d g</td><td>£%d</td></tr>`, i+100, i+50, i+10)
	}
	return b.String() + `</table>`
}

// Five hundred cards are read, in time that grows with their number.
func TestFiveHundredCards(t *testing.T) {
	list := find(t, "en", "best lamps", manyThings(500))
	assert.GreaterOrEqual(t, len(list), 300)
}

func BenchmarkFind(b *testing.B) {
	ranked := make([]corpus.RankedPage, 20)
	for i := range ranked {
		ranked[i] = corpustest.PageIn(b, "en", i+1, fmt.Sprintf("%c.example", 'a'+i), manyThings(30))
	}
	f := corpus.NewField(ranked, "en", "best lamps")
	for b.Loop() {
		Find(f, nil)
	}
}
