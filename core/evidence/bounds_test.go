package evidence

import (
	"context"
	"fmt"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// allocated is how many megabytes f allocates in all.
func allocated(f func()) uint64 {
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	f()
	runtime.ReadMemStats(&after)
	return (after.TotalAlloc - before.TotalAlloc) >> 20
}

// Grouping takes memory by the square of the headings: 23,800 would be 4.5 GB.
func TestAPageOfManyHeadings(t *testing.T) {
	var b strings.Builder
	for i := range 23_800 {
		fmt.Fprintf(&b, "<h2>Tyre %d</h2><p>Grip on ice and snow number %d.</p>", i, i)
	}
	other := `<h2>Tyre pressure</h2><p>Lower the pressure on ice.</p><h2>Lights</h2><p>Be seen in winter.</p>`
	pages := []Page{page(t, 1, "a.example", b.String()), page(t, 2, "b.example", other)}
	var e *Evidence
	mb := allocated(func() { e = compute(Input{Keyword: "tyre", Language: "en", Pages: pages}) })
	assert.Less(t, mb, uint64(900))
	require.NotEmpty(t, e.Notes, "the person is told")
	assert.Contains(t, e.Notes, "Of rank 1 the first 2998 headings are compared; it has 23800.")
	members := 0
	for _, th := range e.Themes {
		for _, m := range th.Members {
			if m.Rank == 2 {
				members++
			}
		}
	}
	assert.Equal(t, 2, members, "no other page loses any of its own")
}

// A page may be one sentence of 100 kB: its lines show what stands around a hit.
func TestTheConcordanceOfOneSentence(t *testing.T) {
	text := "<p>" + strings.Repeat("the tyre grips on grey ice and ", 3000)
	pages := []Page{page(t, 1, "a.example", text), page(t, 2, "b.example", text)}
	lines := Concordance(pages, "tyre")
	require.Len(t, lines, 6000)
	size := 0
	for _, l := range lines {
		size += len(l.Left) + len(l.Hit) + len(l.Right)
		assert.Equal(t, "tyre", l.Hit)
	}
	assert.Less(t, size, 6000*(2*Context+20))
	assert.True(t, strings.HasPrefix(lines[100].Left, "…") && strings.HasSuffix(lines[100].Right, "…"))
	assert.Equal(t, "the ", lines[0].Left, "the sentence begins here")
	assert.Equal(t, "ßé", lastRunes("aßé", 2))
	assert.Equal(t, "aß", firstRunes("aßé", 2))
}

// A book among the pages is compared by its first fifty thousand words.
func TestAPageOfAMillionWords(t *testing.T) {
	var b strings.Builder
	for i := range 200_000 {
		fmt.Fprintf(&b, "w%dx grips on ice. ", i)
	}
	d := page(t, 1, "a.example", "<p>"+b.String()).Doc
	tokens := 0
	for _, s := range d.sentences {
		tokens += len(s.tokens)
	}
	assert.LessOrEqual(t, tokens, mostWords)
	assert.Equal(t, d.Reading.Counts.Words-mostWords, d.Cut())
	assert.Greater(t, d.Size(), int64(mostWords*200))
	e := compute(Input{Keyword: "ice", Language: "en", Pages: []Page{{1, d}, page(t, 2, "b.example", "<p>Tyres grip on ice.")}})
	assert.Contains(t, e.Notes[0], "Of rank 1 the first 50000 words are compared")
}

// What caches count is what documents take, to a factor of two.
func TestSizeIsHonest(t *testing.T) {
	var unique strings.Builder
	for i := range 20_000 {
		fmt.Fprintf(&unique, "w%dx ", i)
	}
	r := page(t, 1, "a.example", "<p>"+unique.String()).Doc.Reading
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	d := Prepare(r, "en")
	runtime.GC()
	runtime.ReadMemStats(&after)
	took := float64(after.HeapAlloc - before.HeapAlloc)
	assert.InDelta(t, 1, float64(d.Size())/took, 1, "%d reckoned, %.0f taken", d.Size(), took)
	runtime.KeepAlive(d)
}

// 100,000 questions of one page do not crowd out another's.
func TestManyQuestions(t *testing.T) {
	var b strings.Builder
	for i := range 100_000 {
		fmt.Fprintf(&b, "<p>How does a w%dx tyre grip on t%dy ice?</p>", i, i)
	}
	pages := []Page{page(t, 1, "a.example", b.String()), page(t, 2, "b.example", "<h2>Intro</h2><h3>How often should the chain be oiled?</h3><p>"+strings.Repeat("Every week in winter. ", 10))}
	e := compute(Input{Keyword: "winter", Language: "en", Pages: pages})
	assert.LessOrEqual(t, len(e.Questions), mostAsked)
	assert.Contains(t, strings.Join(e.Notes, " "), "more questions than can be compared")
	found := false
	for _, q := range e.Questions {
		found = found || strings.Contains(q.Text, "chain")
	}
	assert.True(t, found)
}

// Who does not wait any more is not computed for.
func TestAComputationCanBeGivenUp(t *testing.T) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	e, err := Compute(ctx, Input{Keyword: "ice", Language: "en", Pages: []Page{page(t, 1, "a.example", "<p>Tyres grip on ice.")}})
	assert.ErrorIs(t, err, context.Canceled)
	assert.Nil(t, e)
}
