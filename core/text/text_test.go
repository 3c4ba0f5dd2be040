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

// Stems as the vocabularies published with the Snowball stemmers give them
// (from memory).
func TestStem(t *testing.T) {
	for lang, pairs := range map[string]map[string]string{
		"en": {"tyres": "tyre", "commuting": "commut", "commuter": "commut", "mudguards": "mudguard", "happily": "happili", "consistency": "consist"},
		"de": {"aufeinander": "aufeinand", "katers": "kat"},
		"fr": {"continuellement": "continuel"},
		"es": {"cheques": "chequ"},
	} {
		l := NewLanguage(lang)
		for in, want := range pairs {
			assert.Equal(t, want, l.Stem(in), lang+" "+in)
		}
	}
	assert.Equal(t, "bicykl", NewLanguage("pl").Stem("Bicykl"), "a language without a stemmer keeps its words")
}

func TestContentStems(t *testing.T) {
	l := NewLanguage("en-GB")
	assert.Equal(t, []string{"need", "stud", "tyre", "bike"}, l.ContentStems("Do I need studded tyres for my e-bike?"))
	assert.True(t, l.Stop("don't"))
	assert.True(t, l.Stop("you'll"))
	assert.False(t, l.Stop("tyre"))
	for _, lang := range []string{"de", "fr", "es", "it", "nl", "pt", "sv"} {
		assert.NotEmpty(t, NewLanguage(lang).stop, lang)
	}
}

func TestQuestions(t *testing.T) {
	for q, want := range map[string]QuestionKind{
		"Do I need studded tyres?": YesNo, "How cold is too cold to ride?": HowMuch, "How do I clean a chain?": How, "What should I wear?": What,
		"Why is ice slippery?": Why, "When does the council grit?": When, "Which tyre should you buy?": Which, "Where can I park?": Where, "Who clears the path?": Who,
	} {
		kind, asks := KindOfQuestion(q, "en")
		assert.True(t, asks, q)
		assert.Equal(t, want, kind, q)
		assert.True(t, IsQuestion(q, "en"), q)
	}
	for _, s := range []string{"Really?", "You ride in winter, right?", "What?!", "He asked: why? And how?", "Nice day.", "", "Think about it?"} {
		assert.False(t, IsQuestion(s, "en"), s)
	}
	for lang, q := range map[string]string{"de": "Wie lange hält ein Akku?", "fr": "Comment choisir un pneu ?", "es": "¿Cómo elegir una rueda?", "it": "Quanto costa una gomma?", "nl": "Hoe kies je een band?", "pt": "Como escolher um pneu?", "sv": "Hur väljer man ett däck?"} {
		_, asks := KindOfQuestion(q, lang)
		assert.True(t, asks, q)
	}
}

func TestQuestionHeadings(t *testing.T) {
	for _, s := range []string{"Is it worth it?", "How do I store a bike", "What tyres do I need", "Why should you ride"} {
		assert.True(t, IsQuestionHeading(s, "en"), s)
	}
	for _, s := range []string{"What to wear", "How studs work", "HOW CONFLICTS ARE PRESENTED", "What to do when a push fails", "What other cities can copy", "When snow falls", "Do it yourself"} {
		assert.False(t, IsQuestionHeading(s, "en"), s)
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
		t.Skip("Debian's package diction is not installed; `make test` installs it")
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
	r := Flesch(CountWords(s), len(Sentences(strings.TrimSpace(s))), syllables)
	assert.InDelta(t, figure("Flesch Index"), r.FleschReadingEase, 4)
	assert.InDelta(t, figure("Kincaid"), r.FleschKincaidGrade, 0.7)
}

func TestDetect(t *testing.T) {
	assert.Equal(t, "en", Detect("Winter riding is mostly a question of habit, good tyres and a light that does not fail you on the way home."))
	assert.Equal(t, "de", Detect("Wer im Winter mit dem Fahrrad zur Arbeit fährt, braucht gute Reifen, helles Licht und trockene Schuhe für den Weg."))
	assert.Empty(t, Detect("Winter"))
}
