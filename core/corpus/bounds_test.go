package corpus_test

import (
	"fmt"
	"runtime"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A page may be one sentence of 100 kB: its lines show what stands around a hit.
func TestTheConcordanceOfOneSentence(t *testing.T) {
	text := "<p>" + strings.Repeat("the tyre grips on grey ice and ", 3000)
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", text), corpustest.Page(t, 2, "b.example", text)}
	lines := corpus.Concordance(pages, "tyre")
	require.Len(t, lines, 6000)
	size := 0
	for _, l := range lines {
		size += len(l.Left) + len(l.Hit) + len(l.Right)
		assert.Equal(t, "tyre", l.Hit)
	}
	assert.Less(t, size, 6000*(2*corpus.Context+20))
	assert.True(t, strings.HasPrefix(lines[100].Left, "…") && strings.HasSuffix(lines[100].Right, "…"))
	assert.Equal(t, "the ", lines[0].Left, "the sentence begins here")
}

// A book among the pages is compared by its first fifty thousand words.
func TestAPageOfAMillionWords(t *testing.T) {
	var b strings.Builder
	for i := range 200_000 {
		fmt.Fprintf(&b, "w%dx grips on ice. ", i)
	}
	d := corpustest.Page(t, 1, "a.example", "<p>"+b.String()).Doc
	tokens := 0
	for _, s := range d.Sentences {
		tokens += len(s.Tokens)
	}
	assert.LessOrEqual(t, tokens, corpus.MaxWords)
	assert.Equal(t, d.Reading.Counts.Words-corpus.MaxWords, d.Cut())
	assert.Greater(t, d.Size(), int64(corpus.MaxWords*200))
}

// What caches count is what documents take, to a factor of two.
func TestSizeIsHonest(t *testing.T) {
	var unique strings.Builder
	for i := range 20_000 {
		fmt.Fprintf(&unique, "w%dx ", i)
	}
	r := corpustest.Page(t, 1, "a.example", "<p>"+unique.String()).Doc.Reading
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	d := corpus.Prepare(r, "en")
	runtime.GC()
	runtime.ReadMemStats(&after)
	took := float64(after.HeapAlloc - before.HeapAlloc)
	assert.InDelta(t, 1, float64(d.Size())/took, 1, "%d reckoned, %.0f taken", d.Size(), took)
	runtime.KeepAlive(d)
}
