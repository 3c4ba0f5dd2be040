package language_test

import (
	"testing"

	"corpulan/core/language"

	"github.com/stretchr/testify/assert"
)

// How sections on a general matter are headed: common usage, no published source.
func TestMatters(t *testing.T) {
	for _, c := range []struct {
		lang, heading string
		want          language.Matter
	}{
		{"en", "How often should you water it?", language.HowOften},
		{"en", "How long does the paint take to dry?", language.HowLong},
		{"en", "How long it takes", language.HowLong},
		{"en", "What will it cost?", language.Price},
		{"en", "Do I need planning permission?", language.Law},
		{"en", "What not to do", language.Mistakes},
		{"en", "When to call in a professional", language.Oneself},
		{"en", "What you'll need", language.Tools},
		{"en", "How to tell if it worked", language.Test},
		{"de", "Wie teuer wird das?", language.Price},
		{"de", "Dämmkosten im Überblick", language.Price},
		{"de", "Die häufigsten Fehler", language.Mistakes},
		{"de", "Garten ohne Zaun", language.Alternatives},
		{"fr", "L’outillage", language.Tools},
		{"fr", "À quelle fréquence tailler ?", language.HowOften},
		{"fr", "Les erreurs à éviter", language.Mistakes},
		{"es", "¿Cada cuánto hay que regar?", language.HowOften},
		{"es", "¿Cuánto cuesta?", language.Price},
		{"it", "Quanto tempo ci vuole", language.HowLong},
		{"it", "Gli errori da evitare", language.Mistakes},
		{"nl", "Veelgemaakte fouten", language.Mistakes},
		{"nl", "Wat heb je nodig?", language.Tools},
		{"pt", "Com que frequência regar", language.HowOften},
		{"pt", "Quanto custa", language.Price},
		{"sv", "Vanliga misstag", language.Mistakes},
		{"sv", "Verktyg och material", language.Tools},
	} {
		got := language.Matter("")
		named, _ := language.For(c.lang).Matters(c.heading)
		for _, n := range named {
			if n.Matter != language.Beside && got == "" {
				got = n.Matter
			}
		}
		assert.Equal(t, c.want, got, "%s: %s", c.lang, c.heading)
	}
}

// Each language knows the same matters, in one order, and calls those by name that say enough by themselves.
func TestAllLanguagesKnowTheMatters(t *testing.T) {
	called := []language.Matter{language.HowOften, language.HowLong, language.Funding, language.Price, language.Law, language.Mistakes, language.Safety, language.Oneself, language.Tools}
	for _, code := range language.Codes() {
		lang := language.For(code)
		for _, m := range called {
			assert.NotEmpty(t, lang.NameOfMatter(m), "%s: %s", code, m)
		}
		assert.Empty(t, lang.NameOfMatter(language.WhereTo))
		assert.Equal(t, language.For("en").MattersKnown(), lang.MattersKnown(), code)
	}
	named, words := language.For("xx").Matters("What it costs")
	assert.Empty(t, named, "no list, no matters")
	assert.Equal(t, []string{"what", "it", "costs"}, words)
}
