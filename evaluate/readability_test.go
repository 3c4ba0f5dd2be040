package main

import (
	"cmp"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/text"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Readability against the reference program `style` of Debian's package
// diction, on what was read of English pages from the web. The formulas must
// agree to the rounding of what style prints. Its boundaries of words and
// sentences are others than UAX #29's but near. Its syllables come from a rule
// alone, which finds fewer than the pronouncing dictionary ours come from; that
// moves the ease by up to ten points, and is held to be no more.
func TestReadabilityOfPagesAgainstStyle(t *testing.T) {
	style, err := exec.LookPath("style")
	if err != nil {
		t.Fatal("Debian's package diction is not installed; `make test` installs it")
	}
	pages, err := expectedPages(module(t, "codeberg.org/readeck/go-readability/v2"))
	require.NoError(t, err)
	figures := regexp.MustCompile(`(?s)Kincaid: (-?[\d.]+).*Flesch Index: (-?[\d.]+).* (\d+) words, average length [\d.]+ characters = ([\d.]+) syllables\s+(\d+) sentences`)
	var words, sentences, syllables []float64 // ours, measured by theirs
	for _, p := range pages {
		r, err := reading.Read(reading.Page{URL: p.URL, Body: p.Source})
		require.NoError(t, err)
		if r.Language != "en" || r.Detected != "en" || r.Counts.Sentences < 25 {
			continue
		}
		prose := proseOf(r)
		file := filepath.Join(t.TempDir(), "text")
		require.NoError(t, os.WriteFile(file, []byte(prose), 0o644))
		out, err := exec.Command(style, file).Output()
		require.NoError(t, err)
		m := figures.FindStringSubmatch(string(out))
		require.NotNil(t, m, string(out))
		var theirs [5]float64
		for i := range theirs {
			theirs[i], err = strconv.ParseFloat(m[i+1], 64)
			require.NoError(t, err)
		}
		f := text.Flesch(int(theirs[2]), int(theirs[4]), int(math.Round(theirs[2]*theirs[3])))
		assert.InDelta(t, theirs[1], f.FleschReadingEase, 0.6, p.Name) // .005 syllables a word are .42 points
		assert.InDelta(t, theirs[0], f.FleschKincaidGrade, 0.15, p.Name)

		n, all, ends := 0, 0, 0
		for line := range strings.Lines(prose) {
			ends += len(language.For("en").Sentences(strings.TrimSpace(line)))
			text.EachWord(line, func(w text.Span) { n++; all += text.Syllables(w.Of(line)) })
		}
		words = append(words, float64(n)/theirs[2])
		sentences = append(sentences, float64(ends)/theirs[4])
		syllables = append(syllables, float64(all)/float64(n)-theirs[3])
	}
	require.Greater(t, len(words), 30, "enough pages to tell")
	assert.InDelta(t, 1, median(words), 0.02)
	assert.InDelta(t, 1, median(sentences), 0.05)
	assert.InDelta(t, 0.1, median(syllables), 0.05)
}

// proseOf is the paragraphs and quotations, what readability is measured on.
func proseOf(r *reading.Reading) string {
	var b strings.Builder
	for _, s := range r.Sections {
		for kind, line := range s.Blocks() {
			if kind == reading.LineParagraph || kind == reading.LineQuote {
				b.WriteString(line + "\n\n")
			}
		}
	}
	return b.String()
}

func median(x []float64) float64 {
	x = slices.SortedFunc(slices.Values(x), cmp.Compare[float64])
	return x[len(x)/2]
}
