package points

import (
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/language"
	"corpulan/core/stats"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func field(t *testing.T, bodies ...string) *corpus.Field {
	t.Helper()
	var pages []corpus.RankedPage
	for i, b := range bodies {
		pages = append(pages, corpustest.Page(t, i+1, string(rune('a'+i))+".example", "<h2>Tyre pressure</h2>"+b))
	}
	return corpus.NewField(pages, "en", "tyre pressure")
}

// A point is what two pages say, in the words of one of them; what a page says alone,
// asks or lists is none. The prose is our own.
func TestPoints(t *testing.T) {
	f := field(t,
		`<p>Lower the tyre pressure by ten psi when the road is icy. The valve of our shop is blue and red today. How low can the tyre pressure go?</p>`,
		`<p>When the road is icy, lower the pressure of the tyre by ten psi. A wide tyre gives a larger contact patch on snow.</p>`,
		`<p>On snow a wide tyre gives you a larger contact patch. Tyre pressure, rims, tubes:</p>`)
	list := Find(t.Context(), f)
	require.Len(t, list, 2)
	for _, p := range list {
		assert.Len(t, p.Ranks, 2)
		assert.Len(t, p.Says, 2)
		assert.Equal(t, p.Text, p.Says[0].Text)
		assert.Empty(t, p.Disputed)
		assert.Contains(t, f.Docs[p.Rank-1].Reading.Text(), p.Text, "the words are the page's")
	}
	assert.Empty(t, Find(t.Context(), field(t)))
}

// Pages that would say the same but for a figure are no witnesses of each other: they dispute it. What they
// round alike they do not.
func TestDisputedFigures(t *testing.T) {
	f := field(t,
		`<p>Studded tyres lose their grip below −5 °C on wet ice. Lower the pressure by 10 to 15 psi in winter snow. A slow leak loses about 15 litres a day into the rim.</p>`,
		`<p>Studded tyres lose their grip below 12 °C on wet ice. Lower the pressure by 12 psi in winter snow. A slow leak loses 30 litres a day into the rim, or 5,500 litres a year.</p>`,
		`<p>A slow leak loses 16 litres a day into the rim, they say in the shop.</p>`)
	disputes := map[string][]string{}
	for _, p := range Find(t.Context(), f) {
		for _, d := range p.Disputed {
			for _, v := range d.Values {
				disputes[d.Unit] = append(disputes[d.Unit], v.Text)
			}
			require.NotEmpty(t, p.Against)
			for _, a := range p.Against {
				assert.NotContains(t, p.Ranks, a.Rank, "who says otherwise does not stand behind it")
			}
		}
	}
	assert.ElementsMatch(t, []string{"−5 °C", "12 °C"}, disputes["°C"])
	assert.Empty(t, disputes["psi"], "12 lies within 10 to 15")
	require.NotEmpty(t, disputes["litr"])
	assert.Contains(t, disputes["litr"], "30 litres")
	assert.NotContains(t, disputes["litr"], "5,500 litres", "a year is no day")
}

func TestFigures(t *testing.T) {
	for text, want := range map[string][]corpus.Figure{
		"en: Drop it by 10 to 15 psi today.":           {{Unit: "psi", Text: "10 to 15 psi", From: 10, To: 15}},
		"en: It costs £40 or 20 % more.":               {{Unit: "£", Text: "£40", From: 40, To: 40}, {Unit: "%", Text: "20 %", From: 20, To: 20}},
		"en: Below −5 °C it loses a quarter.":          {{Unit: "°C", Text: "−5 °C", From: -5, To: -5}},
		"en: The year 2026 has seven tests in it.":     nil,
		"en: Some 1,200 lumens are too bright here.":   {{Unit: "lumen", Text: "1,200 lumens", From: 1200, To: 1200}},
		"en: Some 1,200 candles are too bright here.":  nil,
		"en: It loses 15 litres a day, here and now.":  {{Unit: "litr", Per: "day", Text: "15 litres", From: 15, To: 15}},
		"es: Pierde unos 15 litros al día, y no más.":  {{Unit: "litr", Per: "dia", Text: "15 litros", From: 15, To: 15}},
		"de: Sie verliert 15 Liter pro Tag und mehr.":  {{Unit: "lit", Per: "tag", Text: "15 Liter", From: 15, To: 15}},
		"en: Ride 12 km or 30 minutes.":                {{Unit: "km", Text: "12 km", From: 12, To: 12}},
		"en: Ask for £1,200 and a 3/4 mm washer here.": {{Unit: "£", Text: "£1,200", From: 1200, To: 1200}, {Unit: "mm", Text: "3/4 mm", From: 0.75, To: 0.75}},
		"nl: Een band kost hier € 60 of minder.":       {{Unit: "€", Text: "€ 60", From: 60, To: 60}},
		"de: Das kostet 1.200 € und wiegt 2,5 kg.":     {{Unit: "€", Text: "1.200 €", From: 1200, To: 1200}, {Unit: "kg", Text: "2,5 kg", From: 2.5, To: 2.5}},
	} {
		lang, text, _ := strings.Cut(text, ": ")
		p := corpustest.PageIn(t, lang, 1, "a.example", "<html lang="+lang+"><p>"+text+"</p>")
		got := p.Doc.Sentences[0].Figures(language.For(lang))
		for i := range got {
			got[i].Token, got[i].Money = 0, false
		}
		assert.Equal(t, want, got, text)
	}
}

// LexRank sums to one, gives like sentences like ranks, and puts the sentence that is
// like all others first (Erkan & Radev 2004).
func TestLexRank(t *testing.T) {
	vector := func(words string) stats.Vector {
		var list []stats.Weighted
		for w := range strings.FieldsSeq(words) {
			list = append(list, stats.Weighted{Stem: w, Weight: 1})
		}
		return stats.NewVector(list)
	}
	ranks := lexRank([]stats.Vector{vector("a b"), vector("b c"), vector("a b c"), vector("x y"), vector("b c")})
	assert.InDelta(t, 1, stats.Sum(ranks), 1e-9)
	assert.InDelta(t, ranks[1], ranks[4], 1e-9)
	for i := range ranks {
		assert.GreaterOrEqual(t, ranks[2], ranks[i])
	}
	assert.InDelta(t, .2, ranks[3], 1e-9, "what is like nothing keeps its own")
	alone := lexRank([]stats.Vector{vector("a"), vector("b")})
	assert.InDelta(t, .5, alone[0], 1e-9)
}
