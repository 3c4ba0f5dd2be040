package language

import (
	"os/exec"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"corpulan/core/text"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Each language has the formula made for it. The values are worked by hand from the published formulas, remembered: of 100 words in 5
// sentences with 150 syllables, 480 letters and 20 long words.
func TestEase(t *testing.T) {
	p := text.Prose{Words: 100, Sentences: 5, Syllables: 150, Letters: 480, Long: 20}
	for code, want := range map[string]float64{
		"en": 206.835 - 1.015*20 - 84.6*1.5,
		"de": 180 - 20 - 58.5*1.5,
		"fr": 207 - 1.015*20 - 73.6*1.5,
		"es": 206.84 - 1.02*20 - 60*1.5,
		"nl": 206.84 - 0.93*20 - 77*1.5,
		"pt": 248.835 - 1.015*20 - 84.6*1.5,
		"it": 89 + (300*5-10*480)/100,
		"sv": 20 + 20,
	} {
		e, ok := EaseOf(code)
		require.True(t, ok, code)
		assert.InDelta(t, want, e.Of(p), 0.006, code)
		assert.Zero(t, e.Of(text.Prose{}), "no text, no ease")
		assert.True(t, e.Meets(e.Plain, e.Plain, 0))
	}
	_, ok := EaseOf("fi")
	assert.False(t, ok)
}

// Syllables as dictionaries divide the words (common knowledge of each language, from memory).
func TestSyllables(t *testing.T) {
	for code, words := range map[string]string{
		"de": "Haus=1 Fahrrad=2 Reifen=2 Theater=3 Bremsbelag=3 Häuser=2 Straße=2 Beleuchtung=3 Winterreifen=4 Schnee=1 Idee=2 ideal=3",
		"fr": "vélo=2 pneu=1 isolation=4 maison=2 combles=1 laine=1 toiture=2 oiseau=2 eau=1 prix=1 chauffage=2 hiver=2",
		"es": "piscina=3 invierno=3 agua=2 día=2 cubierta=3 limpiar=2 cloro=2 aérea=4 país=2 cuidado=3 bueno=2 que=1",
		"it": "bicicletta=4 acqua=2 inverno=3 più=1 casa=2 gomma=2 olio=2 paese=3",
		"nl": "fiets=1 wasmachine=4 kalk=1 winter=2 leeuw=1 huis=1 water=2 ontkalken=3 thee=1 mooie=2 theater=3",
		"pt": "parede=3 bolor=2 pão=1 água=2 janela=3 quarto=2 saúde=3 ações=2",
		"sv": "cykel=2 vinter=2 däck=1 kaffe=2 lampa=2",
	} {
		l := For(code)
		for pair := range strings.FieldsSeq(words) {
			word, n, _ := strings.Cut(pair, "=")
			assert.Equal(t, n, strconv.Itoa(l.Syllables(word)), "%s: %s", code, word)
		}
	}
}

// Björnsson's LIX is that of GNU style (Debian's package diction) for the same text.
func TestLixAgainstStyle(t *testing.T) {
	prose := "The rider checks the pressure of both tyres before the ride, and the lamp is tested after that. Nobody wants a puncture on a frozen bridge in the evening. Studded tyres are slower on dry asphalt, but considerably safer wherever meltwater has frozen overnight."
	style, err := exec.LookPath("style")
	if err != nil {
		t.Fatal("Debian's package diction is not installed; `make test` installs it")
	}
	cmd := exec.CommandContext(t.Context(), style)
	cmd.Stdin = strings.NewReader(prose)
	out, err := cmd.Output()
	require.NoError(t, err)
	theirs, err := strconv.ParseFloat(regexp.MustCompile(`Lix: ([\d.]+)`).FindStringSubmatch(string(out))[1], 64)
	require.NoError(t, err)
	p := text.Prose{Sentences: len(For("en").Sentences(prose))}
	for _, w := range text.Words(prose) {
		p.Words++
		if len(w.Of(prose)) > text.LongWord {
			p.Long++
		}
	}
	lix, _ := EaseOf("sv")
	assert.InDelta(t, theirs, lix.Of(p), 0.1)
}
