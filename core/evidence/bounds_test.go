package evidence

import (
	"context"
	"fmt"
	"runtime"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/message"

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
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", b.String()), corpustest.Page(t, 2, "b.example", other)}
	var e *Evidence
	mb := allocated(func() { e = compute(Input{Keyword: "tyre", Language: "en", Pages: pages}) })
	assert.Less(t, mb, uint64(900))
	require.NotEmpty(t, e.Notes, "the person is told")
	assert.Contains(t, message.Joined(" ", e.Notes...).String(), "Of rank 1 the first 2498 headings are compared; it has 23800.")
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

// Who does not wait any more is not computed for.
func TestAComputationCanBeGivenUp(t *testing.T) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	e, err := Compute(ctx, Input{Keyword: "ice", Language: "en", Pages: []corpus.RankedPage{corpustest.Page(t, 1, "a.example", "<p>Tyres grip on ice.")}})
	assert.ErrorIs(t, err, context.Canceled)
	assert.Nil(t, e)
}

func TestACutPageIsNamed(t *testing.T) {
	d := corpustest.Page(t, 1, "a.example", "<p>"+strings.Repeat("The tyre grips on grey ice. ", 10_000)).Doc
	e := compute(Input{Keyword: "ice", Language: "en", Pages: []corpus.RankedPage{{Rank: 1, Doc: d}, corpustest.Page(t, 2, "b.example", "<p>Tyres grip on ice.")}})
	assert.Contains(t, message.Joined(" ", e.Notes...).String(), "Of rank 1 the first 50000 words are compared; it has 60000.")
}
