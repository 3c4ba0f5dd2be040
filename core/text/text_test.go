package text

import (
	"fmt"
	"os"
	"os/exec"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestFold(t *testing.T) {
	for in, want := range map[string]string{"Tyre": "tyre", "bike's": "bike", "rider’s": "rider", "Café": "cafe", "non‑slip": "non-slip", "STRASSE": "strasse", "Straße": "strasse", "": ""} {
		assert.Equal(t, want, Fold(in), in)
	}
}

// The formulas of Flesch (1948) and Kincaid et al. (1975) worked by hand: 100
// words, 5 sentences, 150 syllables.
func TestFleschFormulas(t *testing.T) {
	r := Flesch(100, 5, 150)
	assert.InDelta(t, 206.835-1.015*20-84.6*1.5, r.FleschReadingEase, 0.0051)
	assert.InDelta(t, 0.39*20+11.8*1.5-15.59, r.FleschKincaidGrade, 0.0051)
	assert.Equal(t, Readability{}, Flesch(0, 0, 0))
}

func TestSyllables(t *testing.T) {
	for w, want := range map[string]int{"bike": 1, "bicycle": 3, "commuting": 3, "tyre": 1, "e-bike": 2, "mudguard": 2, "overshoes": 3, "zibble": 2, "x": 1, "gloved": 1, "snowpatted": 3} {
		assert.Equal(t, want, Syllables(w), w)
	}
}

// Against the reference program `style` of Debian's package diction, on a text
// of our own: its counts of words and sentences differ a little from UAX #29,
// and it counts syllables by rule alone.
func TestReadabilityAgainstStyle(t *testing.T) {
	style, err := exec.LookPath("style")
	if err != nil {
		t.Fatal("Debian's package diction is not installed; `make test` installs it")
	}
	b, err := os.ReadFile("testdata/winter.txt")
	require.NoError(t, err)
	out, err := exec.Command(style, "testdata/winter.txt").Output()
	require.NoError(t, err)
	figure := func(name string) float64 {
		m := regexp.MustCompile(regexp.QuoteMeta(name) + `:\s*(-?[\d.]+)`).FindSubmatch(out)
		require.NotNil(t, m, fmt.Sprintf("%s in %s", name, out))
		v, err := strconv.ParseFloat(string(m[1]), 64)
		require.NoError(t, err)
		return v
	}
	s := string(b)
	syllables := 0
	EachWord(s, func(w Span) { syllables += Syllables(w.Of(s)) })
	r := Flesch(CountWords(s), len(Sentences(strings.TrimSpace(s), none)), syllables)
	assert.InDelta(t, figure("Flesch Index"), r.FleschReadingEase, 4)
	assert.InDelta(t, figure("Kincaid"), r.FleschKincaidGrade, 0.7)
}
