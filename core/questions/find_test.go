package questions

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/language"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The gold set by which the threshold of sameQuestion was fixed: pairs of
// wordings, and whether a strategist would list them once. Made by hand.
var goldPairs = []struct {
	a, b string
	same bool
}{
	{"Do I need studded tyres for winter commuting?", "Do you need studded tyres?", true},
	{"How often should I clean my chain in winter?", "How often should I clean my bike chain in winter?", true},
	{"What should I wear to cycle to work in winter?", "What should I wear to bike to work in winter?", true},
	{"How do I keep my feet warm?", "How to keep feet warm when winter bike commuting?", true},
	{"Is it safe to ride on ice?", "Is riding on ice safe?", true},
	{"How bright should my lights be?", "How bright should a bike light be?", true},
	{"Are mudguards worth it?", "Is a mudguard worth it?", true},
	{"Do I need studded tyres?", "How long do studded tyres last?", false},
	{"How do I keep my feet warm?", "How do I keep my hands warm?", false},
	{"What tyre pressure should I use in winter?", "What tyres should I use in winter?", false},
	{"When should I clean my chain?", "Where should I clean my chain?", false},
	{"How much do winter tyres cost?", "Why do winter tyres cost so much?", false},
	{"Can I charge an e-bike battery in the cold?", "Can I store an e-bike battery in the cold?", false},
	{"How cold is too cold to cycle?", "How do I stop my glasses fogging up?", false},
	{"Is it safe to cycle in winter?", "Is it safe to cycle in snow?", false},
}

func TestGoldPairs(t *testing.T) {
	f := corpus.NewField(nil, "en", "winter bike commuting")
	common := f.KeywordStems()
	as := func(q string) asked {
		kind, _ := f.Language.KindOfQuestion(q)
		return asked{kind: kind, stems: questionStems(f.Language, q)}
	}
	wrong := 0
	for _, p := range goldPairs {
		if sameAsking(as(p.a), as(p.b), common) != p.same {
			wrong++
			t.Logf("judged wrongly: %q / %q (same: %v)", p.a, p.b, p.same)
		}
		assert.Equal(t, sameAsking(as(p.a), as(p.b), common), sameAsking(as(p.b), as(p.a), common), "the order of two questions does not matter")
	}
	assert.Zero(t, wrong, "of %d pairs", len(goldPairs))
}

func TestQuestionsAreMergedAndAnswered(t *testing.T) {
	answer := `<p>On a gritted road you do not need them; on ice the studded tyres are what keeps you upright every day of it.</p>`
	pages := []corpus.Page{
		corpustest.Page(t, 1, "a.example", `<h1>Guide</h1><h2>Do I need studded tyres?</h2>`+answer),
		corpustest.Page(t, 4, "b.example", `<h1>Other</h1><h2>Tyres</h2><p>Do you need studded tyres in winter? Some do, if their need is great, and the studded tyres of this winter are light.</p>`),
	}
	found, notes := Find(t.Context(), corpus.NewField(pages, "en", "winter bike commuting"), []string{"Do I need studded tyres for winter commuting?", "How do I stop my glasses fogging?"}, nil)
	assert.Empty(t, notes)
	require.Len(t, found, 2)
	q := found[0]
	assert.Equal(t, "Do I need studded tyres for winter commuting?", q.Text, "the results page's wording leads")
	assert.True(t, q.OnResults)
	assert.Equal(t, []int{1, 4}, q.AskedBy)
	require.Len(t, q.AnsweredBy, 2)
	assert.Equal(t, "heading", q.AnsweredBy[0].By)
	assert.Equal(t, language.YesNo, q.Kind)
	assert.Empty(t, found[1].AnsweredBy, "nobody answers it")
	assert.True(t, found[1].Recommended())
}

func TestATurnOfPhraseIsNoQuestion(t *testing.T) {
	found, _ := Find(t.Context(), corpus.NewField([]corpus.Page{
		corpustest.Page(t, 1, "a.example", `<h1>It</h1><p>Who would do that? Not me. And why not? Is winter not for bike commuting? What is it like there, you may ask?</p>`)}, "en", "winter bike commuting"), nil, nil)
	assert.Empty(t, found)
}

// 100,000 questions of one page do not crowd out another's.
func TestManyQuestions(t *testing.T) {
	var b strings.Builder
	for i := range 100_000 {
		fmt.Fprintf(&b, "<p>How does a w%dx tyre grip on t%dy ice?</p>", i, i)
	}
	pages := []corpus.Page{corpustest.Page(t, 1, "a.example", b.String()), corpustest.Page(t, 2, "b.example", "<h2>Intro</h2><h3>How often should the chain be oiled?</h3><p>"+strings.Repeat("Every week in winter. ", 10))}
	list, notes := Find(t.Context(), corpus.NewField(pages, "en", "winter"), nil, nil)
	assert.LessOrEqual(t, len(list), mostAsked)
	assert.Contains(t, strings.Join(notes, " "), "more questions than can be compared")
	found := false
	for _, q := range list {
		found = found || strings.Contains(q.Text, "chain")
	}
	assert.True(t, found)
}
