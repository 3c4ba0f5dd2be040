package says

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
)

// What people search is met under other words for the same, with words that say nothing beside, and by the
// general matter; not by the keyword alone.
func TestMeets(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h1>Winter bikes</h1><h2>Looking after the bike</h2><p>Wipe it, dry it and oil it each week of the winter, and it will last for ten more.</p><h2>Mudguards</h2><p>Full mudguards keep the spray off you and off whoever rides behind you, all winter long.</p>`),
		corpustest.Page(t, 2, "b.example", `<h1>Riding a bike in winter</h1><h2>Riding on frozen roads</h2><p>Brake early and steer little where the bicycle may slip, and let the cars wait behind you.</p>`),
	}
	m := In(corpus.NewField(pages, "en", "winter bike"), nil)
	for query, want := range map[string][2][]int{
		"winter bike maintenance":          {{1}, {}},
		"best mudguards uk 2026":           {{1}, {}},
		"winter bicycle mudguards":         {{1}, {}},
		"riding frozen road":               {{2}, {1}},
		"mudguards for frozen roads":       {{}, {1, 2}},
		"winter bike trailers":             {{}, {}},
		"how much does a winter bike cost": {{}, {}},
	} {
		met, partly := m.Meets(query)
		assert.Equal(t, want, [2][]int{met, partly}, query)
	}
	treated := func(rank, section int) int {
		if rank == 1 && section == 3 {
			return 1
		}
		return 0
	}
	met, _ := In(corpus.NewField(pages, "en", "winter bike"), treated).Meets("mudguards for bikes")
	assert.Equal(t, []int{1}, met, "by a section of the theme")
}
