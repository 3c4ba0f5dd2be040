package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/core/fit"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// An edit that says nothing of one's own never raises a fit: a paragraph of a page with its heading, one's own once more,
// terms in a row, questions alone, headings alone.
func TestNothingIsGainedWithoutSaying(t *testing.T) {
	a := askedOf(t, "knives")
	good, err := os.ReadFile(filepath.Join("drafts", "knives", "good.md"))
	require.NoError(t, err)
	own := strings.Split(strings.TrimSpace(string(good)), "\n\n")
	var theirs []string // paragraphs of pages with their headings
	for _, p := range a.pages {
		for _, s := range p.Doc.Reading.Sections {
			if s.Words > 40 {
				theirs = append(theirs, "## "+s.Heading+"\n\n"+s.Text)
			}
		}
	}
	var terms, questions, headings strings.Builder
	for _, x := range a.b.Terms {
		terms.WriteString(x.Term + ", ")
	}
	for _, q := range a.b.Questions {
		questions.WriteString(q.Text + " ")
		headings.WriteString("\n\n## " + q.Text)
	}
	for _, s := range a.b.Outline {
		headings.WriteString("\n\n## " + s.Heading)
	}
	rapid.Check(t, func(r *rapid.T) {
		n := rapid.IntRange(8, len(own)).Draw(r, "paragraphs")
		text := strings.Join(own[:n], "\n\n")
		more := rapid.OneOf(rapid.SampledFrom(theirs), rapid.SampledFrom(own[:n]), rapid.SampledFrom([]string{terms.String(), questions.String(), headings.String()})).Draw(r, "more")
		before, after := a.fitOf(t, text), a.fitOf(t, text+"\n\n"+more)
		if after.Fit > before.Fit {
			for i, p := range after.Parts {
				if p.Score > before.Parts[i].Score {
					r.Logf("%s: %.3f after %.3f", p.Name, p.Score, before.Parts[i].Score)
					for _, x := range p.Met {
						r.Logf("   %v %v", x.Text, x.Says)
					}
				}
			}
			r.Fatalf("%.1f after %.1f", after.Fit, before.Fit)
		}
	})
}

// A required thing that was missing, said in a sentence of one's own, never lowers a fit.
func TestNothingIsLostBySaying(t *testing.T) {
	a := askedOf(t, "knives")
	good, err := os.ReadFile(filepath.Join("drafts", "knives", "good.md"))
	require.NoError(t, err)
	own := strings.Split(strings.TrimSpace(string(good)), "\n\n")
	frames := []string{"Nobody told us before we tried it, but the %s mattered more at home than any of the advice that came with the set.",
		"Ask a cook about %s and you hear a story, and most of the time the story ends with a plaster.", "We put off the question of %s for years, which was a mistake that cost us a good evening."}
	rapid.Check(t, func(r *rapid.T) {
		n := rapid.IntRange(8, len(own)).Draw(r, "paragraphs")
		text := strings.Join(own[:n], "\n\n")
		before := a.fitOf(t, text)
		var missing []string
		for _, p := range before.Parts {
			if p.Name == fit.Terms || p.Name == fit.Entities {
				for _, x := range p.Missing {
					if x.Score == 0 {
						missing = append(missing, x.Text.String())
					}
				}
			}
		}
		if len(missing) == 0 {
			r.Skip("nothing is missing")
		}
		word := rapid.SampledFrom(missing).Draw(r, "word")
		after := a.fitOf(t, text+"\n\n"+fmt.Sprintf(rapid.SampledFrom(frames).Draw(r, "frame"), word))
		if after.Fit < before.Fit {
			for i, p := range after.Parts {
				if p.Score < before.Parts[i].Score {
					r.Logf("%s: %.4f after %.4f", p.Name, p.Score, before.Parts[i].Score)
				}
			}
			r.Fatalf("%s: %.1f after %.1f", word, after.Fit, before.Fit)
		}
	})
}
