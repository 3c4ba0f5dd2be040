package themes_test

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/themes"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A group has the name of the theme that half of its uses and more stand in, a theme names one
// group, and where no theme holds them nobody does.
func TestNaming(t *testing.T) {
	body := "<h2>Hands</h2><p>Mitts warm hands. Liners warm hands too. Mitts go over the bar.</p><h2>Lights</h2><p>A lamp of many lumens. The lamp is bright.</p><h2>Ends</h2><p>A saddle, a pump, a pump.</p>"
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", body), corpustest.Page(t, 2, "b.example", body)}
	section := func(heading string) []themes.ThemeHeading {
		var list []themes.ThemeHeading
		for _, p := range pages {
			for i, s := range p.Doc.Reading.Sections {
				if s.Heading == heading {
					list = append(list, themes.ThemeHeading{Rank: p.Rank, Section: i})
				}
			}
		}
		require.Len(t, list, 2)
		return list
	}
	list := []themes.Theme{{Label: "Lights", Members: section("Lights")}, {Label: "Hands", Members: section("Hands")}}
	groups := [][][]string{{{"mitt"}, {"liner"}}, {{"lamp"}, {"lumen"}}, {{"saddl"}, {"pump"}}, {{"hand"}}}
	names, err := themes.Naming(t.Context(), pages, "en", list, groups)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 0, -1, -1}, names, "Hands is taken by the first of two that it holds whole")
	names, err = themes.Naming(t.Context(), nil, "en", list, groups)
	require.NoError(t, err)
	assert.Equal(t, []int{-1, -1, -1, -1}, names)
}
