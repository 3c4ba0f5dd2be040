package evidence

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
)

// What the field uses and ours lacks, overdoes or uses as it does; and what no page of
// the field uses, not even one. The prose is our own.
func TestOursAgainstTheField(t *testing.T) {
	body := `<p>The studded tyre is loud. Check the tyre pressure with a gauge. A mudguard keeps the shoes dry.</p>`
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", body+`<p>A bell cover is odd. The bell cover is red.</p>`),
		corpustest.Page(t, 2, "b.example", body+`<p>Ride slowly over there.</p>`),
		corpustest.Page(t, 3, "c.example", body),
	}
	e := compute(Input{Keyword: "winter tyres", Language: "en", Pages: pages})
	many := "A mudguard here, a mudguard there, one more mudguard. Mudguard after mudguard, and a mudguard again, then a last mudguard."
	ours := corpustest.Page(t, 1, "ours.example", `<p>The studded tyre is good. A studded tyre is best. `+many+` My pedal brush is a pedal brush. The bell cover is a bell cover.</p>`).Doc
	says := map[string]Stand{}
	gap := e.GapOf(ours, pages)
	for _, u := range gap.Terms {
		says[u.Text] = u.Says
		assert.GreaterOrEqual(t, u.Range.Lower, 1.0)
	}
	assert.Equal(t, Lacking, says["tyre pressure"])
	assert.Equal(t, Usual, says["studded tyre"])
	assert.Equal(t, Often, says["mudguard"])
	var own []string
	for _, o := range gap.Own {
		own = append(own, o.Text)
	}
	assert.Contains(t, own, "pedal brush")
	assert.NotContains(t, own, "bell cover", "one page of the field has it")
	assert.Equal(t, Lacking, gap.Terms[0].Says, "what is lacking comes first")
}

// Which themes, names and questions of the field a text of ours has, however it says them.
func TestWhatOursCovers(t *testing.T) {
	page := func(rank int, host, more string) corpus.RankedPage {
		return corpustest.Page(t, rank, host, `<h1>Winter tyres</h1><h2>Tyre pressure</h2><p>Lower the tyre pressure when it freezes, and pump the tyres by a gauge `+more+`.</p><h2>How long do studs last?</h2><p>Carbide studs last for four winters of daily riding on tarmac in Oxmere, steel ones for one `+more+`.</p><h2>Lights</h2><p>Two rear lamps let drivers see you at dusk in Oxmere `+more+`.</p>`)
	}
	pages := []corpus.RankedPage{page(1, "a.example", "as we do"), page(2, "b.example", "if you like"), page(3, "c.example", "and more")}
	e := compute(Input{Keyword: "winter tyres", Language: "en", Pages: pages})
	ours := corpustest.Page(t, 1, "ours.example", `<h1>Ours</h1><h2>Before you go</h2><p>Pump your tyres by a gauge: a lower tyre pressure grips when it freezes in Oxmere.</p>`).Doc
	gap := e.GapOf(ours, pages)
	has := map[string]bool{}
	for _, list := range [][]Covered{gap.Themes, gap.Entities, gap.Questions} {
		for _, c := range list {
			has[c.Text] = c.Has
		}
	}
	assert.True(t, has["Tyre pressure"], "under another heading")
	assert.True(t, has["Oxmere"])
	assert.Contains(t, has, "Lights")
	assert.False(t, has["Lights"])
	assert.Contains(t, has, "How long do studs last?")
	assert.False(t, has["How long do studs last?"])
}
