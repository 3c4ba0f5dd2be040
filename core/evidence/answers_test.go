package evidence_test

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"
	"corpulan/core/says"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// writtenOf is the answer that is written out to a question of pages with these texts under its heading.
func writtenOf(t *testing.T, heading string, under ...string) (w evidence.Written, ok bool) {
	t.Helper()
	var pages []corpus.RankedPage
	for i, s := range under {
		pages = append(pages, corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>Studded bike tyres</h1><p>Bike tyres with studs are sold in every winter, and page %d is about them.</p>
			<h2>%s</h2>%s<h2>Tyre pressure</h2><p>Lower the tyre pressure by %d psi when it freezes, and check it every week.</p>`, i, heading, s, i+5)))
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "studded bike tyres", Language: "en", Pages: pages, Asked: []string{heading}})
	require.NoError(t, err)
	for _, q := range e.Questions {
		if q.Text != heading {
			continue
		}
		for _, w := range e.Written {
			if w.Question == q.Key {
				return w, true
			}
		}
	}
	return evidence.Written{}, false
}

// An answer is whole sentences of the page that says what is asked, with the figure it asks for: neither the story before it nor what
// leans on another sentence.
func TestAnAnswerIsWrittenOut(t *testing.T) {
	lasts := "How long do studded bike tyres last?"
	w, ok := writtenOf(t, lasts,
		`<p>Studded tyres are for ice. They are noisy on dry roads and slower everywhere.</p>`,
		`<p>I bought my first pair of tyres long ago. Studded tyres last four to five thousand kilometres, which is three or four winters for most. This is why they are dear.</p>`,
		`<p>It depends. Studded tyres last some three winters where the roads are cleared of snow every day.</p>`)
	require.True(t, ok)
	assert.Contains(t, []int{2, 3}, w.Rank, "page 1 has no time")
	said := strings.Join(w.Lines, " ")
	assert.Contains(t, said, "last")
	assert.NotContains(t, said, "I bought")
	assert.False(t, strings.HasPrefix(said, "This"))
	for _, line := range w.Lines {
		assert.Regexp(t, `[.!]$`, line, "no sentence is cut")
	}
	_, ok = writtenOf(t, lasts, `<p>Studded tyres are for ice, and they are noisy on dry roads and slower than others everywhere.</p>`, `<p>Studs are made of carbide. Most have a body of aluminium around a pin of carbide that bites.</p>`)
	assert.False(t, ok, "nobody says how long")
}

// Steps are written out as steps, all of them or none.
func TestStepsAreWrittenOut(t *testing.T) {
	list := func(n int) string {
		var b strings.Builder
		for i := range n {
			fmt.Fprintf(&b, "<li>Fit stud %d with the tool, square to the tyre. It may take a while.</li>", i+1)
		}
		return "<p>To fit studded tyres you need a lever.</p><ol>" + b.String() + "</ol>"
	}
	w, ok := writtenOf(t, "How do you fit studded bike tyres?", list(4), list(4))
	require.True(t, ok)
	assert.Equal(t, says.Steps, w.Form)
	assert.Len(t, w.Lines, 4)
	assert.Equal(t, "Fit stud 1 with the tool, square to the tyre.", w.Lines[0])
	_, ok = writtenOf(t, "How do you fit studded bike tyres?", list(12), list(12))
	assert.False(t, ok, "half a list is no answer")
}
