package main

import (
	"fmt"
	"testing"

	"corpulan/core/themes"

	"github.com/stretchr/testify/assert"
)

// grouping is themes of headings that go by the label before their number: "a1 a2" is one theme of two
// headings labelled a.
func grouping(groups ...[]string) (found []themes.Theme, labels map[heading]string) {
	labels = map[heading]string{}
	for g, names := range groups {
		t := themes.Theme{}
		for i, name := range names {
			text := fmt.Sprintf("%s g%d n%d", name, g, i)
			t.Members = append(t.Members, themes.ThemeHeading{Rank: 1, Text: text})
			labels[heading{1, foldHeading(text)}] = name
		}
		found = append(found, t)
	}
	return found, labels
}

// Amigó, Gonzalo, Artiles & Verdejo 2009, "A comparison of extrinsic clustering evaluation metrics based on
// formal constraints": B-cubed alone of the measures that they compare keeps all four. The groupings are made
// after their figures.
func TestBcubedKeepsTheConstraints(t *testing.T) {
	of := func(groups ...[]string) float64 {
		_, b := agreement(grouping(groups...))
		return b
	}
	assert.Greater(t, of([]string{"a", "a", "a"}, []string{"b", "b"}, []string{"c"}), of([]string{"a", "a", "a"}, []string{"b", "b", "c"}), "homogeneity")
	assert.Greater(t, of([]string{"a", "a", "a", "a"}, []string{"b"}), of([]string{"a", "a"}, []string{"a", "a"}, []string{"b"}), "completeness")
	assert.Greater(t, of([]string{"a", "a", "a", "a"}, []string{"b", "c", "d", "e", "f"}), of([]string{"a", "a", "a", "a", "f"}, []string{"b", "c", "d", "e"}), "a rag bag")
	assert.Greater(t, of([]string{"a", "a", "a", "a"}, []string{"a"}, []string{"b", "b"}, []string{"c", "c"}, []string{"d", "d"}),
		of([]string{"a", "a", "a", "a", "a"}, []string{"b"}, []string{"b"}, []string{"c"}, []string{"c"}, []string{"d"}, []string{"d"}), "size against quantity")
	assert.InDelta(t, 1, of([]string{"a", "a"}, []string{"b"}), 1e-9)
}
