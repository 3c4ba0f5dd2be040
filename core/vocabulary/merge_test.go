package vocabulary

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/house"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// One term, however it is written; the prose is our own.
func TestOneTermManyShapes(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<p>Check the tyre pressure with a gauge. The bottom bracket (BB) creaks when water gets in. A mudguard keeps the BB dry. The mudguard is long.</p>`),
		corpustest.Page(t, 2, "b.example", `<p>The pressure of tires falls in the cold. A fender stops the spray. The fender flap helps, and the bottom bracket lasts longer. Clean the BB.</p>`),
		corpustest.Page(t, 3, "c.example", `<p>A mudguard is cheap. Tyre pressure matters. The bottom bracket is sealed.</p>`),
	}
	terms := Find(t.Context(), corpus.NewField(pages, "en-GB", "winter cycling"), nil)
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

// What the house has taught outdoes what spelling and lists say.
func TestTheHouseIsHeeded(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<p>A mudguard keeps the road surface off. The e-bike has a chain oil. Use the chain oil and the lube on an ebike.</p>`),
		corpustest.Page(t, 2, "b.example", `<p>The mudguard and the road surface. An ebike needs a lube; the e-bike does too. The chain oil is thick.</p>`),
	}
	field := corpus.NewField(pages, "en-GB", "winter cycling")
	plain := Find(t.Context(), field, nil)
	assert.Equal(t, 4, termNamed(plain, "e-bike").Count, "two spellings of one term")
	taught := house.New([]house.Entry{{Kind: house.Ignore, Term: "road surface"}, {Kind: house.Merge, Term: "lubes", Other: "chain oil"},
		{Kind: house.Split, Term: "e-bike", Other: "ebike"}, {Kind: house.Prefer, Term: "mudguards", Other: "fender"}}, field.Language)
	terms := Find(t.Context(), field, taught)
	assert.Equal(t, 5, termNamed(terms, "chain oil").Count)
	assert.Len(t, corpus.Concordance(pages, termNamed(terms, "chain oil").Keys...), 5)
	assert.Equal(t, 2, termNamed(terms, "e-bike").Count)
	assert.Equal(t, isIgnored, termNamed(terms, "road surface").Flag.String())
	fender := termNamed(terms, "fender")
	require.NotNil(t, fender)
	assert.Equal(t, "fender", fender.Text)
	assert.Equal(t, 2, fender.Count)
}

// Compounds know the words they are made of.
func TestCompounds(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.PageIn(t, "de", 1, "a.example", `<p>Das Fahrradschloss friert ein, wenn das Schloss nass ist. Das Fahrrad braucht ein gutes Schloss. Der Reifendruck fällt, wenn der Reifen kalt ist.</p>`),
		corpustest.PageIn(t, "de", 2, "b.example", `<p>Ein Fahrradschloss am Fahrrad. Das Schloss ist kalt, der Reifen auch, und der Reifendruck stimmt.</p>`),
	}
	terms := Find(t.Context(), corpus.NewField(pages, "de", "winter"), nil)
	key := func(text string) string {
		term := termNamed(terms, text)
		require.NotNil(t, term, text)
		return term.Key
	}
	assert.Equal(t, []string{key("Fahrrad"), key("Schloss")}, termNamed(terms, "Fahrradschloss").Parts)
	assert.Empty(t, termNamed(terms, "Schloss").Parts)
}
