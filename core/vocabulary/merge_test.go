package vocabulary

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// One term, however it is written; the prose is our own.
func TestOneTermManyShapes(t *testing.T) {
	pages := []corpus.Page{
		corpustest.Page(t, 1, "a.example", `<p>Check the tyre pressure with a gauge. The bottom bracket (BB) creaks when water gets in. A mudguard keeps the BB dry. The mudguard is long.</p>`),
		corpustest.Page(t, 2, "b.example", `<p>The pressure of tires falls in the cold. A fender stops the spray. The fender flap helps, and the bottom bracket lasts longer. Clean the BB.</p>`),
		corpustest.Page(t, 3, "c.example", `<p>A mudguard is cheap. Tyre pressure matters. The bottom bracket is sealed.</p>`),
	}
	terms := Find(corpus.NewField(pages, "en-GB", "winter cycling"))
	for text, count := range map[string]int{"tyre pressure": 3, "mudguard": 5, "bottom bracket": 6} {
		term := termNamed(terms, text)
		require.NotNil(t, term, text)
		assert.Equal(t, 3, term.Pages, text)
		assert.Equal(t, count, term.Count, text)
		assert.Len(t, corpus.Concordance(pages, term.Keys...), count, "every count has its place: %s", text)
	}
	for _, term := range terms {
		assert.NotContains(t, []string{"fender", "BB"}, term.Text)
	}
	shapes := map[string]bool{}
	for _, s := range termNamed(terms, "mudguard").Shapes {
		shapes[s.Text] = true
	}
	assert.True(t, shapes["fender"] && shapes["mudguard"], "%v", shapes)
}
