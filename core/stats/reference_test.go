package stats

import (
	"math"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The same figures as NLTK, scikit-learn and SciPy give on the same counts: see
// testdata/reference.py. NLTK's G² sums over the four cells of word against corpus;
// ours is the two-cell form of Rayson & Garside (2000), which leaves out the cells of
// all other words and so is a little smaller, by less than 1 % where the word is rare.
func TestReferenceLibraries(t *testing.T) {
	b, err := os.ReadFile("testdata/reference.tsv")
	require.NoError(t, err)
	checked := 0
	for line := range strings.Lines(string(b)) {
		f := strings.Split(strings.TrimSpace(line), "\t")
		if len(f) != 6 {
			continue
		}
		checked++
		var n [4]int
		for i := range n {
			n[i], err = strconv.Atoi(f[i+1])
			require.NoError(t, err)
		}
		want, err := strconv.ParseFloat(f[5], 64)
		require.NoError(t, err)
		switch f[0] {
		case "g2":
			got := math.Abs(LogLikelihood(float64(n[0]), float64(n[1]), float64(n[2]), float64(n[3])))
			assert.InDelta(t, want, got, 0.01*want, line)
		case "fisher":
			assert.InDelta(t, want, FisherExact(n[0], n[1], n[2], n[3]), 1e-9, line)
		case "idf":
			assert.InDelta(t, want, IDF(n[1], n[0]), 1e-12, line)
		}
	}
	assert.Equal(t, 14, checked)
}
