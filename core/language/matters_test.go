package language

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// How sections on a general matter are headed: common usage, no published source.
func TestMatters(t *testing.T) {
	for _, c := range []struct {
		lang, heading string
		want          Matter
	}{
		{"en", "How often should you water it?", HowOften},
		{"en", "How long does the paint take to dry?", HowLong},
		{"en", "How long it takes", HowLong},
		{"en", "What will it cost?", Price},
		{"en", "Do I need planning permission?", Law},
		{"en", "What not to do", Mistakes},
		{"en", "When to call in a professional", Oneself},
		{"en", "What you'll need", Tools},
		{"en", "How to tell if it worked", Test},
		{"de", "Wie teuer wird das?", Price},
		{"de", "Dämmkosten im Überblick", Price},
		{"de", "Die häufigsten Fehler", Mistakes},
		{"de", "Garten ohne Zaun", Alternatives},
		{"fr", "L’outillage", Tools},
		{"fr", "À quelle fréquence tailler ?", HowOften},
		{"fr", "Les erreurs à éviter", Mistakes},
		{"es", "¿Cada cuánto hay que regar?", HowOften},
		{"es", "¿Cuánto cuesta?", Price},
		{"it", "Quanto tempo ci vuole", HowLong},
		{"it", "Gli errori da evitare", Mistakes},
		{"nl", "Veelgemaakte fouten", Mistakes},
		{"nl", "Wat heb je nodig?", Tools},
		{"pt", "Com que frequência regar", HowOften},
		{"pt", "Quanto custa", Price},
		{"sv", "Vanliga misstag", Mistakes},
		{"sv", "Verktyg och material", Tools},
	} {
		got := Matter("")
		named, _ := For(c.lang).Matters(c.heading)
		for _, n := range named {
			if n.Matter != Beside && got == "" {
				got = n.Matter
			}
		}
		assert.Equal(t, c.want, got, "%s: %s", c.lang, c.heading)
	}
}

// Each language knows the same matters, in one order, and calls those by name that say enough by themselves.
func TestAllLanguagesKnowTheMatters(t *testing.T) {
	called := []Matter{HowOften, HowLong, Funding, Price, Law, Mistakes, Safety, Oneself, Tools}
	for _, code := range Codes() {
		lang := For(code)
		for _, m := range called {
			assert.NotEmpty(t, lang.NameOfMatter(m), "%s: %s", code, m)
		}
		assert.Empty(t, lang.NameOfMatter(WhereTo))
		assert.Equal(t, mattersIn(t, Program), mattersIn(t, code), code)
	}
	named, words := For("xx").Matters("What it costs")
	assert.Empty(t, named, "no list, no matters")
	assert.Equal(t, []string{"what", "it", "costs"}, words)
}

// mattersIn are the matters of a language's list, in their order.
func mattersIn(t *testing.T, code string) (all []string) {
	list, err := matterLists.ReadFile("matters/" + code + ".txt")
	require.NoError(t, err)
	for line := range strings.Lines(string(list)) {
		names, _, _ := strings.Cut(line, ":")
		matter, _, _ := strings.Cut(names, " = ")
		all = append(all, matter)
	}
	return all
}
