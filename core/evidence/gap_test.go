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
	pages := []corpus.Page{
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
