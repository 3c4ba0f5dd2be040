package points

import (
	"strings"
	"testing"

	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
)

// The gist of a page is five of its sentences at most, in its order, none twice, and what
// is said again and again comes before what is said once in passing.
func TestGist(t *testing.T) {
	page := corpustest.Page(t, 4, "a.example", `<h1>Chains</h1><p>Salt eats a bicycle chain within one winter. My aunt once baked a cake for the whole street.</p><h2>Care</h2><p>Wipe the chain after each ride so that salt cannot eat the chain. Oil the chain once a week, since salt washes oil off the chain. A chain that salt has eaten must be replaced before spring comes. Dry the chain with a rag before new oil goes on the chain. Keep the chain off the floor of a damp and salty shed.</p>`)
	gist := Gist(t.Context(), page, "en")
	assert.Len(t, gist, gistLength)
	last := 0
	seen := map[string]bool{}
	for _, s := range gist {
		assert.Equal(t, 4, s.Rank)
		assert.GreaterOrEqual(t, s.Section, last)
		assert.False(t, seen[s.Text])
		seen[s.Text], last = true, s.Section
		assert.NotContains(t, s.Text, "aunt")
	}
	assert.Empty(t, Gist(t.Context(), corpustest.Page(t, 1, "b.example", "<p>"+strings.Repeat("Yes. ", 30)+"</p>"), "en"))
}
