package corpus_test

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestCollocates(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<p>Lower the tyre pressure by ten psi. A lower tyre pressure grips. Check the tyre pressure with a gauge.</p>`),
		corpustest.Page(t, 2, "b.example", `<p>Low tyre pressure wears the rim. Check your tyre pressure every week; the gauge lies.</p>`),
	}
	list := corpus.Collocates(pages, "tyre pressur")
	require.NotEmpty(t, list)
	byText := map[string]corpus.Collocate{}
	for i, c := range list {
		byText[c.Text] = c
		if i > 0 {
			assert.GreaterOrEqual(t, list[i-1].LogDice, c.LogDice)
		}
	}
	assert.Equal(t, 2, byText["check"].Count)
	assert.Equal(t, 2, byText["check"].Left)
	assert.Equal(t, 2, byText["check"].Pages)
	assert.InDelta(t, 14+-0.8073549, byText["check"].LogDice, 1e-6, "14 + log2(2·2 / (5 + 2))")
	assert.NotContains(t, byText, "the")
	assert.NotContains(t, byText, "tyre")
	assert.NotContains(t, byText, "rim", "stands there once only")
}

func TestSortLines(t *testing.T) {
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", `<p>Warm gloves help. My gloves are wet. Buy gloves now. The warm gloves are red.</p>`)}
	order := func(by corpus.Side) (list []string) {
		lines := corpus.Concordance(pages, "glove")
		corpus.SortLines(lines, by)
		for _, l := range lines {
			list = append(list, l.Left+"|"+l.Right)
		}
		return list
	}
	assert.Equal(t, []string{"Buy | now.", "My | are wet.", "Warm | help.", "The warm | are red."}, order(corpus.ByLeft))
	assert.Equal(t, []string{"The warm | are red.", "My | are wet.", "Warm | help.", "Buy | now."}, order(corpus.ByRight))
	assert.Equal(t, "Warm | help.", order(corpus.ByPage)[0])
}
