package says

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func answering(t *testing.T, language, keyword, question string, pages ...string) []Answer {
	t.Helper()
	ranked := make([]corpus.RankedPage, len(pages))
	for i, p := range pages {
		ranked[i] = corpustest.PageIn(t, language, i+1, "a.example", "<h1>"+keyword+"</h1>"+p)
	}
	f := corpus.NewField(ranked, language, keyword)
	q := Ask(f.Language, question)
	texts := In(f, nil)
	q.About = texts.AboutOf(q)
	return texts.Answers(q)
}

func ranks(list []Answer) []int {
	r := []int{}
	for _, a := range list {
		r = append(r, a.Rank)
	}
	return r
}

const filler = "<h2>Elsewhere</h2><p>The road along the canal is quiet in the morning, and the gate at its end opens at seven.</p>"

// What is said counts, by its words, by others for the same and by its form; not what shares a word with it.
func TestWhoSaysIt(t *testing.T) {
	oil := "<h2>Oil</h2><p>Put one drop of oil on every link of the chain each week, and wipe off what stays outside.</p>"
	for _, c := range []struct {
		name, language, keyword, question string
		pages                             []string
		want                              []int
	}{
		{"words", "en", "winter riding", "How often should the chain be oiled?", []string{oil + filler, filler}, []int{1}},
		{"a sum is asked for", "en", "winter riding", "How much does a bell cost?",
			[]string{"<h2>Bells</h2><p>A bell of brass is loud and its cost is low, which all who ride along the canal will like.</p>", "<h2>Bells</h2><p>A bell of brass costs some 12 pounds, and those of steel about half as much as that in most shops.</p>"}, []int{2}},
		{"another thing of the keyword's kind", "en", "winter bike", "Can you charge an e-bike in the snow?",
			[]string{"<h2>Snow</h2><p>Ride a bike in fresh snow as you would ride it in sand, slowly, upright and with soft tyres on both wheels.</p>" + filler, "<h2>E-bikes and snow</h2><p>Charge the e-bike indoors when there is snow outside, since its cells take no charge in the frost.</p>"}, []int{2}},
		{"part of a compound", "de", "Fahrrad im Winter", "Welches Fahrradschloss hält bei Frost?",
			[]string{"<h2>Das Schloss</h2><p>Ein Schloss aus Stahl hält auch bei Frost, wenn man vor dem Winter etwas Graphit in den Zylinder gibt.</p>", "<h2>Die Kette</h2><p>Eine Kette rostet im Winter schnell, wenn Salz auf den Straßen liegt und niemand sie danach abwischt.</p>"}, []int{1}},
		{"asked in the text", "en", "winter riding", "How often should I oil the chain?",
			[]string{"<h2>Care</h2><p>How often should you oil the chain? Once a week is what most people need, and after each ride on a salted road as well, whatever they say.</p>", filler}, []int{1}},
	} {
		assert.Equal(t, c.want, ranks(answering(t, c.language, c.keyword, c.question, c.pages...)), c.name)
	}
}

// A draft answers by what it says, and not by repeating the question.
func TestADraftAnswersInItsOwnWords(t *testing.T) {
	in := func(body string) bool {
		f := corpus.NewField([]corpus.RankedPage{corpustest.Page(t, 1, "a.example", "<h1>Winter riding</h1>"+body)}, "en", "winter riding")
		_, ok := InDraft(f, nil, nil).AnswerOf(1, Ask(f.Language, "Do studded tyres wear out on tarmac?"))
		return ok
	}
	assert.True(t, in("<h2>Studs</h2><p>On tarmac studded tyres wear slowly: those with carbide pins last for five thousand kilometres and more.</p>"))
	assert.False(t, in("<h2>Studs</h2><p>Do studded tyres wear out on tarmac? Do studded tyres wear out? On tarmac, do they? How many people ask this!</p>"))
}

// The same section is found whoever else is asked, and every answer has its text.
func TestAnswersHaveTheirText(t *testing.T) {
	list := answering(t, "en", "winter riding", "How do I keep my feet warm?", "<h2>Feet</h2><p>Warm feet begin with dry ones: two pairs of socks, and boots with room for them, keep the cold out.</p><ul><li>wool socks</li><li>insoles</li><li>overshoes</li></ul>")
	require.Len(t, list, 1)
	assert.Equal(t, "Feet", list[0].Heading)
	assert.Equal(t, Steps, list[0].Form)
	assert.Contains(t, list[0].Text, "dry ones")
}
