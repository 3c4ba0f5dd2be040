package vocabulary

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const good = `<p>Studded tyres grip on ice. The studded tyres need a break-in ride. A studded tyre wears on dry tarmac.</p>
<p>Lower the tyre pressure in snow. The tyre pressure matters more than the tread.</p>`

func proposed(t *testing.T, pages ...corpus.RankedPage) map[string]bool {
	t.Helper()
	list := map[string]bool{}
	for _, term := range Find(t.Context(), corpus.NewField(pages, "en-GB", "studded tyres"), nil) {
		if term.Recommended() {
			list[term.Text] = true
		}
	}
	return list
}

// Pages that are no prose of the market's language; all of it is our own.
func TestPagesThatWouldBendAField(t *testing.T) {
	var glossary, numbers strings.Builder
	for _, w := range strings.Fields("axle bead carcass casing clincher compound drivetrain durometer flange hub lug nipple psi rim sealant sidewall spoke stud tread tube valve") {
		fmt.Fprintf(&glossary, "<dt>%s</dt><dd>What a shop calls the %s of a wheel.</dd>", w, w)
	}
	for i := range 200 {
		fmt.Fprintf(&numbers, "<li>TX-%d/K%d art. no. 88%04d, 700x%dC</li>", i, i*7, i*13, 28+i%20)
	}
	german := `<p>Die Spikereifen sind im Winter gut. Der Reifendruck ist auf dem Eis wichtig, und die Reifen halten nicht auf dem nassen Laub.</p>`
	for name, odd := range map[string]string{
		"mixed languages": german + good,
		"a glossary":      "<dl>" + glossary.String() + "</dl>" + good,
		"all capitals":    strings.ToUpper(good),
		"product numbers": "<ul>" + numbers.String() + "</ul>" + good,
		"one sentence":    strings.Repeat("<p>Buy the shiny bells at our shop today.</p>", 500) + good,
	} {
		terms := proposed(t, corpustest.Page(t, 1, "a.example", good), corpustest.Page(t, 2, "b.example", odd), corpustest.Page(t, 3, "c.example", odd))
		for _, want := range []string{"studded tyre", "tyre pressure"} {
			assert.True(t, terms[want] || terms[want+"s"], "%s: %s is lost: %v", name, want, terms)
		}
		for junk := range terms {
			for _, no := range []string{"spikereifen", "reifendruck", "laub"} {
				assert.NotEqual(t, no, strings.ToLower(junk), name)
			}
			assert.Equal(t, junk, strings.ToLower(junk), "%s: %s keeps a capital that is no name's", name, junk)
		}
	}
}

// Paths and addresses are no words.
func TestAddressesGiveNoTerms(t *testing.T) {
	text := `<p>Unpack it to /usr/local/share and look at https://files.example/studs/list or write to shop@studs.example. We sell tyres and/or rims.</p>` + good
	terms := proposed(t, corpustest.Page(t, 1, "a.example", text), corpustest.Page(t, 2, "b.example", text))
	require.NotEmpty(t, terms)
	for _, no := range []string{"usr", "share", "local", "files", "https", "shop", "usr local share"} {
		assert.False(t, terms[no], no)
	}
	assert.True(t, terms["rims"], "%v", terms)
}
