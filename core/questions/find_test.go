package questions

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/says"

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
	{"Studded tyres or winter tyres?", "Do you need studded tyres?", false},
	{"What size mudguards do I need?", "How do I know what size mudguards I need?", true},
	{"What does winter bike commuting cost?", "How expensive is commuting by bike in winter?", true},
	{"Which winter bike should you buy?", "What is the best bike for winter commuting?", true},
	{"What if the chain freezes?", "Why does the chain freeze?", false},
	{"How do I know when the chain is worn?", "When is the chain worn?", false},
}

func TestGoldPairs(t *testing.T) {
	f := corpus.NewField(nil, "en", "winter bike commuting")
	common := f.KeywordStems()
	as := func(q string) says.Asked { return says.Ask(f.Language, q) }
	wrong := 0
	for _, p := range goldPairs {
		if says.Same(as(p.a), as(p.b), common) != p.same {
			wrong++
			t.Logf("judged wrongly: %q / %q (same: %v)", p.a, p.b, p.same)
		}
		assert.Equal(t, says.Same(as(p.a), as(p.b), common), says.Same(as(p.b), as(p.a), common), "the order of two questions does not matter")
	}
	assert.Zero(t, wrong, "of %d pairs", len(goldPairs))
}

func TestQuestionsAreMergedAndAnswered(t *testing.T) {
	answer := `<p>On a gritted road you do not need them; on ice the studded tyres are what keeps you upright every day of it.</p>`
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h1>Guide</h1><h2>Do I need studded tyres?</h2>`+answer),
		corpustest.Page(t, 4, "b.example", `<h1>Other</h1><h2>Tyres</h2><p>Do you need studded tyres in winter? Some do, if their need is great, and the studded tyres of this winter are light.</p>`),
	}
	found, notes := Find(t.Context(), says.In(corpus.NewField(pages, "en", "winter bike commuting"), nil), []string{"Do I need studded tyres for winter commuting?", "How do I stop my glasses fogging?"}, nil)
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

// An entry of a FAQ that counts its questions is answered there.
func TestANumberedFAQ(t *testing.T) {
	found, _ := Find(t.Context(), says.In(corpus.NewField([]corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<title>Winter tyres</title><script type="application/ld+json">{"@context":"https://schema.org","@type":"FAQPage","mainEntity":[{"@type":"Question","name":"1. Do I need studs in winter?","acceptedAnswer":{"@type":"Answer","text":"On ice you do, on salted roads you do not."}}]}</script><h1>Winter tyres</h1><p>Tyres for the winter are soft and wide, and grip in the cold.</p>`),
	}, "en", "winter tyres"), nil), nil, nil)
	require.Len(t, found, 1)
	assert.Equal(t, "Do I need studs in winter?", found[0].Text)
	require.Len(t, found[0].AnsweredBy, 1)
	assert.Equal(t, "FAQ", found[0].AnsweredBy[0].By)
}

// A chapter of a manual asks of everything; only what it asks near the keyword is proposed, and
// what counts its headings is no part of the question.
func TestAQuestionFarFromTheKeyword(t *testing.T) {
	long := strings.Repeat("<p>Each volume of a disk can be made larger, and what it holds stays where it is.</p>", 8)
	found, _ := Find(t.Context(), says.In(corpus.NewField([]corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<title>Partition a disk</title><h1>Partition a disk</h1><h2>2. What does it cost?</h2>`+long),
		corpustest.Page(t, 2, "b.example", `<title>Chapter 9. System tips</title><h1>System tips</h1><h2>9.1. Partitions</h2>`+long+
			`<h2>9.2. RAID or LVM?</h2><p>Both take partitions of several disks together.</p>`+long+
			`<h2>9.5.1. Who is on the system?</h2><p>The command says who is signed in, and since when they are.</p>`+
			`<h2>9.6. How do I partition a disk?</h2>`+long),
	}, "en", "partition"), nil), nil, nil)
	proposed := map[string]bool{}
	for _, q := range found {
		proposed[q.Text] = q.Recommended()
	}
	assert.Equal(t, map[string]bool{"What does it cost?": true, "RAID or LVM?": true, "Who is on the system?": false, "How do I partition a disk?": true}, proposed)
}

func TestATurnOfPhraseIsNoQuestion(t *testing.T) {
	found, _ := Find(t.Context(), says.In(corpus.NewField([]corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h1>It</h1><p>Who would do that? Not me. And why not? Is winter not for bike commuting? What is it like there, you may ask?</p>`)}, "en", "winter bike commuting"), nil), nil, nil)
	assert.Empty(t, found)
}

// 100,000 questions of one page do not crowd out another's.
func TestManyQuestions(t *testing.T) {
	var b strings.Builder
	for i := range 100_000 {
		fmt.Fprintf(&b, "<p>How does a w%dx tyre grip on t%dy ice?</p>", i, i)
	}
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", b.String()), corpustest.Page(t, 2, "b.example", "<h2>Intro</h2><h3>How often should the chain be oiled?</h3><p>"+strings.Repeat("Every week in winter. ", 10))}
	list, notes := Find(t.Context(), says.In(corpus.NewField(pages, "en", "winter"), nil), nil, nil)
	assert.LessOrEqual(t, len(list), maxAsked)
	assert.Contains(t, message.Joined(" ", notes...).String(), "more questions than can be compared")
	found := false
	for _, q := range list {
		found = found || strings.Contains(q.Text, "chain")
	}
	assert.True(t, found)
}

// What a section is about answers, whatever its heading's words; a person's joins count.
func TestAnswersByMeaningAndJoins(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h1>Guide</h1><h2>How do I keep my feet warm?</h2><p>Wear wool socks and insulated boots, and change both when they get wet on the way, every single time.</p><h2>What does it cost?</h2><p>About forty pounds for a pair of them, and sixty for good ones that last for some years of daily use.</p>`),
		corpustest.Page(t, 2, "b.example", `<h1>Other</h1><h2>Feet</h2><p>Warm feet begin with dry ones: two pairs of socks, and boots with room for them, keep the cold out all day.</p><ul><li>wool socks</li><li>insoles</li><li>overshoes</li></ul><h2>Prices</h2><p>Nothing here costs more than a coffee a day over the year, which is what we like about it most.</p>`),
		corpustest.Page(t, 3, "c.example", `<h1>Third</h1><h2>Are your toes cold?</h2><p>Then stop at the next cafe and rub them until they are not, since frozen toes are no joke at all.</p>`),
	}
	f := corpus.NewField(pages, "en", "winter riding")
	find := func(taught *house.Lexicon) map[string]Question {
		found, _ := Find(t.Context(), says.In(f, nil), nil, taught)
		all := map[string]Question{}
		for _, q := range found {
			all[q.Text] = q
		}
		return all
	}
	all := find(nil)
	feet := all["How do I keep my feet warm?"]
	require.Len(t, feet.AnsweredBy, 2)
	assert.Equal(t, "Feet", feet.AnsweredBy[1].Heading)
	assert.Equal(t, says.Steps, feet.AnsweredBy[1].Form, "three items under a how")
	assert.Contains(t, feet.AnsweredBy[1].Text, "Warm feet begin")
	assert.Len(t, all["What does it cost?"].AnsweredBy, 1, "a price list is not told to be about the same thing")
	require.Contains(t, all, "Are your toes cold?")
	taught := house.New([]house.Entry{{Kind: house.Asks, Term: "Are your toes cold?", Other: "How do I keep my feet warm?"}}, f.Language)
	all = find(taught)
	assert.NotContains(t, all, "Are your toes cold?")
	assert.Len(t, all["How do I keep my feet warm?"].Wordings, 2)
	assert.Equal(t, []int{1, 3}, all["How do I keep my feet warm?"].AskedBy)
}

func TestPerhapsTheSame(t *testing.T) {
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", `<h1>Cold</h1><h2>How cold is too cold to cycle?</h2><p>Minus twenty.</p><h2>How cold is too cold to bike to work?</h2><p>Minus ten.</p><h2>Where do I park?</h2><p>At the gate.</p>`)}
	found, _ := Find(t.Context(), says.In(corpus.NewField(pages, "en", "winter bike commuting"), nil), nil, nil)
	perhaps := map[string][]string{}
	for _, q := range found {
		perhaps[q.Text] = q.Perhaps
	}
	assert.Len(t, perhaps["How cold is too cold to cycle?"], 1)
	assert.Len(t, perhaps["How cold is too cold to bike to work?"], 1)
	assert.Empty(t, perhaps["Where do I park?"])
}

// Joins in a row and to a middle one lose no question, whatever their order.
func TestJoinsInARow(t *testing.T) {
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", `<h1>X</h1><h2>How does a bell ring loudly?</h2><p>It does.</p><h2>Where can the horse drink water?</h2><p>There.</p><h2>Why should the moon shine at noon?</h2><p>It should not.</p><h2>When will the baker open again?</h2><p>Soon.</p>`)}
	f := corpus.NewField(pages, "en", "winter")
	join := func(a, b string) house.Entry { return house.Entry{Kind: house.Asks, Term: a, Other: b} }
	bell, horse, moon := "How does a bell ring loudly?", "Where can the horse drink water?", "Why should the moon shine at noon?"
	for _, entries := range [][]house.Entry{{join(bell, horse), join(horse, moon)}, {join(horse, moon), join(bell, horse)}, {join(moon, bell), join(horse, bell)}, {join(bell, horse), join(horse, moon), join(moon, bell)}} {
		found, _ := Find(t.Context(), says.In(f, nil), nil, house.New(entries, f.Language))
		wordings := 0
		for _, q := range found {
			wordings += len(q.Wordings)
		}
		assert.Equal(t, 4, wordings, "%v", entries)
		assert.Len(t, found, 2, "%v", entries)
	}
}
