package brief

import (
	"testing"

	"corpulan/core/themes"

	"github.com/stretchr/testify/assert"
)

// What most pages put first stands first, whatever the lengths of what else they have move it to.
func TestTheOrderOfDoing(t *testing.T) {
	theme := func(key string, place float64, at ...[2]int) themes.Theme {
		x := themes.Theme{Key: key, Place: place}
		for _, m := range at {
			x.Members = append(x.Members, themes.ThemeHeading{Rank: m[0], Section: m[1]})
		}
		return x
	}
	list := []themes.Theme{
		theme("open", .3, [2]int{1, 4}, [2]int{2, 3}, [2]int{3, 2}),
		theme("off", .4, [2]int{1, 3}, [2]int{2, 2}, [2]int{4, 9}),
		theme("close", .5, [2]int{1, 9}),
	}
	byPlace(list)
	assert.Equal(t, []string{"off", "open", "close"}, []string{list[0].Key, list[1].Key, list[2].Key})
	// A majority of one is none, and majorities in a circle end.
	circle := []themes.Theme{
		theme("a", .1, [2]int{1, 1}, [2]int{2, 1}, [2]int{5, 3}, [2]int{6, 3}),
		theme("b", .2, [2]int{1, 2}, [2]int{2, 2}, [2]int{3, 1}, [2]int{4, 1}),
		theme("c", .3, [2]int{3, 2}, [2]int{4, 2}, [2]int{5, 1}, [2]int{6, 1}),
	}
	byPlace(circle)
	assert.Len(t, circle, 3)
}
