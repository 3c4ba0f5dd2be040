package main

import (
	"os/exec"
	"slices"
	"strings"
	"testing"

	"corpulan/core/demand"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// module is the folder of a module that the project depends on.
func module(t *testing.T, path string) string {
	t.Helper()
	out, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", path).Output()
	require.NoError(t, err)
	return strings.TrimSpace(string(out))
}

// The test pages of the readability module: source and expected pages made by
// that module. docs/evaluation.md says what the figures mean.
func TestTheAimsAreMet(t *testing.T) {
	pages, err := expectedPages(module(t, "codeberg.org/readeck/go-readability/v2"))
	require.NoError(t, err)
	require.Greater(t, len(pages), 100)
	var words, first, headings score
	for _, p := range pages {
		w, _, h := measure(p, readers[0].read(p))
		words.add(w)
		headings.add(h)
		w, _, _ = measure(p, readers[1].read(p))
		first.add(w)
	}
	assert.Greater(t, words.f1(), 0.98)
	assert.Greater(t, words.f1(), first.f1(), "the second extractor and the judge must add something")
	assert.GreaterOrEqual(t, headings.recall(), 0.97)
	assert.GreaterOrEqual(t, headings.precision(), 0.95)
}

func TestEveryHeadingJudgedByHandIsOnItsPage(t *testing.T) {
	pages, err := expectedPages(module(t, "codeberg.org/readeck/go-readability/v2"))
	require.NoError(t, err)
	judged, err := judgedHeadings()
	require.NoError(t, err)
	for _, p := range pages {
		source := headingBag(headingsOf(parsed(p.Source)))
		for heading := range judged[p.Name] {
			assert.Positive(t, source[heading], "%s: %s", p.Name, heading)
		}
		delete(judged, p.Name)
	}
	assert.Empty(t, judged, "pages that are not there")
}

func TestScores(t *testing.T) {
	s := compare(wordBag("the chain, the oil"), wordBag("The chain and salt"))
	assert.Equal(t, score{both: 2, found: 4, expected: 4}, s)
	assert.Equal(t, 0.5, s.f1())
	assert.Equal(t, 1.0, score{}.precision(), "nothing to find and nothing found")
	assert.Equal(t, map[string]int{"history": 1, "oil": 2}, headingBag([]string{"History[edit]", "Oil", "oil", "Chains"}, "Chains | Site"))
}

// Labelled queries with simulated results are grouped as a reader grouped them, and words alone
// say little: results carry the rule.
func TestLabelledKeywords(t *testing.T) {
	list, labels, err := labelledKeywords("fields/keywords.tsv")
	require.NoError(t, err)
	require.Len(t, list, 144)
	results := simulated(list, labels)
	_, _, words := grouped(list, labels, demand.Options{Language: "en", Width: 0.5})
	for _, width := range []float64{0.4, 0.5, 0.6} {
		_, _, f := grouped(list, labels, demand.Options{Language: "en", Width: width, Results: results})
		assert.Greater(t, f, 0.75, width)
		assert.Greater(t, f, 2*words)
	}
	// The simulation is no gift: of two queries of one matter some share fewer than three
	// results, and of two matters some share three.
	few, many := 0, 0
	for i, a := range list {
		for j, b := range list[:i] {
			n := 0
			for _, u := range results[demand.Same(a.Text)] {
				if slices.Contains(results[demand.Same(b.Text)], u) {
					n++
				}
			}
			switch {
			case labels[i] == labels[j] && n < 3:
				few++
			case labels[i] != labels[j] && n >= 3:
				many++
			}
		}
	}
	assert.Positive(t, few)
	assert.Positive(t, many)
}
