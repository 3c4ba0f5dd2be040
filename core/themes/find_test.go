package themes

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/house"
	"corpulan/core/message"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestThemes(t *testing.T) {
	cold := `<p>Wear wool gloves and a windproof jacket. The jacket vents; the gloves are thin. Under the jacket a wool layer, on the hands gloves.</p>`
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h1>Guide</h1><h2>Dressing for the cold</h2>`+cold+`<h2>Tyre pressure</h2><p>Lower it by ten psi. Pressure falls in frost.</p><h2>Conclusion</h2><p>Ride on and on.</p>`),
		corpustest.Page(t, 2, "b.example", `<h1>Tips</h1><h2>What to wear</h2>`+cold+`<h2>Check your tyre pressure</h2><p>Every week, with a gauge. Pressure is free.</p><h2>Conclusion</h2><p>That was all of it.</p>`),
	}
	found, notes := Find(t.Context(), corpus.NewField(pages, "en", "winter riding"), nil, nil)
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

// Half of a manual may not be translated yet: what another language has written is no matter of
// the field.
func TestSectionsInAnotherLanguage(t *testing.T) {
	page := `<h1>Contabilità</h1><h2>Aprire un conto</h2><p>Per aprire un conto si sceglie il tipo, e poi si scrive il nome che il conto avrà nella lista dei conti della banca.</p>
<h2>Split transactions</h2><p>A split transaction is one that has more than two accounts, and you should use it when the money that you spend is for several things at once.</p>
<h2>Carta di credito</h2><p>You should use a card only when there is enough money in the bank, since interest is what you have to pay for everything that it cannot cover.</p>`
	pages := []corpus.RankedPage{corpustest.PageIn(t, "it", 1, "a.example", page), corpustest.PageIn(t, "it", 2, "b.example", strings.NewReplacer("banca", "casa", "money", "cash").Replace(page))}
	var names []string
	found, _ := Find(t.Context(), corpus.NewField(pages, "it", "conto"), nil, nil)
	for _, th := range found {
		names = append(names, th.Label)
	}
	assert.ElementsMatch(t, []string{"Aprire un conto", "Carta di credito"}, names, "a translated heading names a matter")
}

// A page without a heading of its own for a theme may treat it in passing, and coverage
// says where.
func TestCoverageInPassing(t *testing.T) {
	tyres := `<h2>%s</h2><p>Studded tyres bite into ice with carbide studs. Lower the tyre pressure of studded tyres a little, and let the studs settle on tarmac for %s kilometres.</p><h2>%s</h2><p>Lights with a cut-off beam and two rear lamps let drivers see you at dusk; charge the lamps each %s.</p>`
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", "<h1>A</h1>"+fmt.Sprintf(tyres, "Studded tyres", "forty", "Lights", "night")),
		corpustest.Page(t, 2, "b.example", "<h1>B</h1>"+fmt.Sprintf(tyres, "Tyres with studs", "fifty", "Lights at dusk", "evening")),
		corpustest.Page(t, 3, "c.example", `<h1>C</h1><h2>Lights</h2><p>Lights with a cut-off beam let drivers see you at dusk. Two rear lamps are better than one, and the lamps want charging each night of the winter, since the cold halves what a lamp holds.</p><p>Then studded tyres with carbide studs go on, at a lower tyre pressure, so that the studs settle on tarmac before the ice comes.</p><p>Charge the lamps again at work, and carry a spare lamp for the way home at dusk.</p>`),
	}
	found, _ := Find(t.Context(), corpus.NewField(pages, "en", "winter riding"), nil, nil)
	i := slices.IndexFunc(found, func(th Theme) bool { return strings.Contains(th.Label, "yres") && th.Pages == 2 })
	require.GreaterOrEqual(t, i, 0)
	c := found[i].Coverage
	require.Len(t, c, 3)
	assert.Equal(t, []How{InSection, InSection, InPassing}, []How{c[0].How, c[1].How, c[2].How})
	assert.Contains(t, c[2].Text, "carbide")
	lights := slices.IndexFunc(found, func(th Theme) bool { return strings.Contains(th.Label, "Lights") })
	require.GreaterOrEqual(t, lights, 0)
	assert.Len(t, found[lights].Coverage, 3)
}

// A person moves headings and names themes, and what is not there any more is passed over.
func TestByHand(t *testing.T) {
	page := func(rank int, heading string) corpus.RankedPage {
		return corpustest.Page(t, rank, fmt.Sprintf("s%d.example", rank), "<h1>A</h1><h2>"+heading+"</h2><p>Lower the tyre pressure when it freezes, and check it each week.</p><h2>Dress warmly "+strings.Repeat("x", rank)+"</h2><p>Wool and windproof layers keep the cold out on the ride.</p>")
	}
	pages := []corpus.RankedPage{page(1, "Tyre pressure"), page(2, "Pressure of tyres"), page(3, "Pump it up")}
	f := corpus.NewField(pages, "en", "winter riding")
	groupOf := func(entries ...house.Entry) (together map[string]int, labels []string) {
		found, _ := Find(t.Context(), f, house.New(entries, f.Language), nil)
		together = map[string]int{}
		for i, th := range found {
			labels = append(labels, th.Label)
			for _, m := range th.Members {
				together[m.Text] = i
			}
		}
		return together, labels
	}
	g, _ := groupOf()
	require.Equal(t, g["Tyre pressure"], g["Pressure of tyres"])
	g, _ = groupOf(house.Entry{Kind: house.Gather, Term: "Pressure of tyres"})
	assert.NotEqual(t, g["Tyre pressure"], g["Pressure of tyres"], "it stands alone")
	g, _ = groupOf(house.Entry{Kind: house.Gather, Term: "Tyre pressure", Other: "Dress warmly x"}, house.Entry{Kind: house.Gather, Term: "Tyre pressure", Other: "no such heading"})
	assert.Equal(t, g["Dress warmly x"], g["Tyre pressure"])
	_, labels := groupOf(house.Entry{Kind: house.Name, Term: "Pressure of tyres", Other: "How hard to pump"})
	assert.Contains(t, labels, "How hard to pump")
}

// A heading that only holds others speaks for the theme it is most like, so that its parts stand below that.
func TestPartsStandBelowTheirWhole(t *testing.T) {
	layers := "<p>Three thin layers of clothing beat one thick coat: a merino base layer against the skin, a fleece, and a windproof jacket to wear over them.</p>"
	hands := "<p>Hands get cold first, so wear windproof gloves down to freezing, and lobster gloves or bar mitts over warm hands below it.</p>"
	lights := "<h2>Lights</h2><p>A front light of 400 lumens shows the road, and two rear lights show you to the drivers behind, even with one battery flat.</p>"
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", "<h1>Winter</h1><h2>What to wear</h2>"+layers+"<h3>Hands</h3>"+hands+lights),
		corpustest.Page(t, 2, "b.example", "<h1>Winter</h1><h2>What to wear in the cold</h2><h3>Layers of clothing</h3>"+layers+"<h3>Warm hands</h3>"+hands+lights),
		corpustest.Page(t, 3, "c.example", "<h1>Winter</h1><h2>What you wear</h2>"+layers+lights),
	}
	list, _ := Find(t.Context(), corpus.NewField(pages, "en", "winter"), nil, nil)
	byKey := map[string]Theme{}
	for _, x := range list {
		byKey[x.Key] = x
	}
	below := 0
	for _, x := range list {
		if x.Pages == 2 {
			below++
			assert.Contains(t, byKey[x.Parent].Label, "wear", "%s stands below %q", x.Label, byKey[x.Parent].Label)
		}
	}
	assert.Equal(t, 1, below, "hands")
}

// Where no page has headings, that is said.
func TestAFieldWithoutHeadings(t *testing.T) {
	page := func(rank int, body string) corpus.RankedPage {
		return corpustest.Page(t, rank, string(rune('a'+rank))+".example", "<h1>Winter</h1><p>Wash the bike each week of the winter, the chain first, and dry it with an old towel.</p>"+body)
	}
	_, notes := Find(t.Context(), corpus.NewField([]corpus.RankedPage{page(1, ""), page(2, "<p>So it lasts.</p>")}, "en", "winter"), nil, nil)
	assert.Contains(t, notes, message.Of("Of %d pages hardly one has headings of its own: terms, points and questions are compared, and an outline is to be made by hand.", 2))
	const own = "<h2>Lights</h2><p>Two lights behind and one in front are what the dark asks for, from October on.</p>"
	_, notes = Find(t.Context(), corpus.NewField([]corpus.RankedPage{page(1, own), page(2, strings.Replace(own, "Lights", "Lamps", 1))}, "en", "winter"), nil, nil)
	assert.Empty(t, notes)
}

// A page in another language lends its headings to no theme of the field, and that is said.
func TestAPageInAnotherLanguage(t *testing.T) {
	german := strings.Repeat("<p>Im Winter frisst das Salz die Kette, und wer sie nach jeder Fahrt abwischt und einmal in der Woche ölt, hat länger etwas von ihr.</p>", 3)
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", "<h1>Winter bike</h1><h2>Chain care</h2><p>In winter the salt eats the chain, so wipe it after each ride, and oil it once a week.</p>"),
		corpustest.PageIn(t, "en", 2, "b.example", "<h1>Das Winterrad</h1><h2>Die Kette pflegen</h2>"+german+"<h2>Licht für dunkle Tage</h2>"+german),
		corpustest.PageIn(t, "en", 3, "c.example", "<h1>Rad im Winter</h1><h2>Kette pflegen</h2>"+german),
	}
	list, notes := Find(t.Context(), corpus.NewField(pages, "en", "winter bike"), nil, nil)
	for _, x := range list {
		assert.NotContains(t, x.Label, "Kette")
	}
	assert.Contains(t, notes, message.Of("%d of %d pages are in another language; what is in it is not compared.", 2, 3))
}
