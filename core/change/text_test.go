package change_test

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/core/change"
	"corpulan/core/corpus"
	"corpulan/core/reading"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// diff of GNU diffutils, with --minimal, finds the same shortest script: as many lines stay.
func TestAgainstDiff(t *testing.T) {
	if _, err := exec.LookPath("diff"); err != nil {
		t.Fatal("diff is not here")
	}
	rapid.Check(t, func(rt *rapid.T) {
		sentences := rapid.SliceOfN(rapid.SampledFrom([]string{"Ice is slippery.", "Salt eats chains.", "Studs are loud.", "Wax lasts long.", "Gloves keep hands warm.", "Lamps fail in frost.", "Brakes wear in grit."}), 0, 25)
		was, now := sentences.Draw(rt, "was"), sentences.Draw(rt, "now")
		dir := t.TempDir()
		for name, lines := range map[string][]string{"was": was, "now": now} {
			require.NoError(rt, os.WriteFile(filepath.Join(dir, name), []byte(strings.Join(append(lines, ""), "\n")), 0o600))
		}
		out, err := exec.Command("diff", "--minimal", "--unchanged-line-format==", "--old-line-format=-", "--new-line-format=+", filepath.Join(dir, "was"), filepath.Join(dir, "now")).Output()
		if err != nil && len(out) == 0 {
			rt.Fatal(err)
		}
		stay := 0
		for _, l := range change.Lines(page(rt, was), page(rt, now)) {
			if l.State == change.Stays && !l.Heading {
				stay++
			}
		}
		assert.Equal(rt, strings.Count(string(out), "="), stay, "%s", out)
	})
}

func page(t require.TestingT, sentences []string) *corpus.Doc {
	var b strings.Builder
	b.WriteString("<html lang=en><article><h1>Winter</h1>")
	for _, s := range sentences {
		fmt.Fprintf(&b, "<p>%s</p>", s)
	}
	r, err := reading.Read(reading.Page{Body: []byte(b.String())})
	require.NoError(t, err)
	return corpus.Prepare(r, "en")
}

// What stays and what was cut make the older version, what stays and what was added the newer.
func TestPiecesMakeBothVersions(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		words := rapid.SliceOfN(rapid.SampledFrom([]string{"ice", "übel", "e-bike", "3.5", "—", "“so”", "and", "frost,"}), 0, 12)
		was, now := strings.Join(words.Draw(rt, "was"), " "), strings.Join(words.Draw(rt, "now"), " ")
		a, b := "", ""
		for _, p := range change.Pieces(was, now) {
			if p.State != change.Added {
				a += p.Text
			}
			if p.State != change.Cut {
				b += p.Text
			}
		}
		assert.Equal(rt, was, a)
		assert.Equal(rt, now, b)
	})
}

// Looked at the other way round, what was added was cut.
func TestTheOtherWayRound(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		sentences := rapid.SliceOfN(rapid.SampledFrom([]string{"Ice is slippery.", "Salt eats chains.", "Studs are loud in town.", "Studs are loud.", "Wax lasts long."}), 1, 12)
		was, now := page(rt, sentences.Draw(rt, "was")), page(rt, sentences.Draw(rt, "now"))
		there, back := change.Text(was, now), change.Text(now, was)
		assert.ElementsMatch(rt, there.Added, back.Cut)
		assert.ElementsMatch(rt, there.Cut, back.Added)
		assert.Equal(rt, there.Stayed, back.Stayed)
	})
}

// BenchmarkCompare20 compares two gatherings of twenty pages, all of which have changed. The
// budget is 150 ms.
func BenchmarkCompare20(b *testing.B) {
	files, err := filepath.Glob("../../standin/sites/*/*/*.html")
	require.NoError(b, err)
	require.GreaterOrEqual(b, len(files), 20)
	var in change.Input
	in.Keyword, in.Language = "winter bike commuting", "en"
	for i, name := range files[:20] {
		body, err := os.ReadFile(name)
		require.NoError(b, err)
		url := fmt.Sprintf("https://h%d.example/", i)
		for _, side := range []struct {
			body string
			to   *change.Gathering
		}{{string(body), &in.Before}, {strings.ReplaceAll(strings.Replace(string(body), "<p>", "<p>This winter is said to be colder. ", 3), "battery", "accumulator"), &in.After}} {
			r, err := reading.Read(reading.Page{URL: url, Body: []byte(side.body)})
			require.NoError(b, err)
			side.to.Results = append(side.to.Results, change.Result{Rank: i + 1, URL: url, Kept: true, Doc: corpus.Prepare(r, "en")})
		}
	}
	for b.Loop() {
		_, err := change.Compare(b.Context(), in)
		require.NoError(b, err)
	}
}
