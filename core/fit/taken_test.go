package fit_test

import (
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/fit"

	"github.com/stretchr/testify/assert"
)

// What stands on a page is taken, quoted or not and with some words changed; what two writers say alike by chance is not.
func TestTaken(t *testing.T) {
	page := pageOf(t, 3, `<h1>Winter riding</h1><p>Wipe the salt off the chain with an old rag before you carry the bicycle indoors.
		A wet lube stays on the links through a week of rain and slush on the road. Check both brake pads for grit that scores the rim on the way down.
		Keep the gloves on a warm radiator. Never heat a battery near a fire.</p>`)
	beside := fit.NewShingles([]corpus.RankedPage{page})
	taken := func(s string) (sentences []string) {
		doc := draftOf(t, "<h1>Riding</h1><p>"+s+"</p>").Read("", "en")
		of := beside.Taken(doc)
		for i := range doc.Sentences {
			if rank := of[strings.ToLower(doc.Sentences[i].Text)]; rank > 0 {
				assert.Equal(t, 3, rank)
				sentences = append(sentences, doc.Sentences[i].Text)
			}
		}
		return sentences
	}
	assert.Empty(t, taken("My own bicycle stands in a cold shed all winter, and the chain is rusty by March."))
	copied := "Wipe the salt off the chain with an old rag before you carry the bicycle indoors."
	assert.Equal(t, []string{copied}, taken("I have my own way. "+copied+" That is what I do each time."))
	assert.Len(t, taken("“"+copied+"”"), 1, "in marks as well")
	assert.Len(t, taken("Keep the gloves on a warm radiator. Never heat a battery near a fire."), 2, "short ones beside each other")
	assert.Empty(t, taken("Never heat a battery near a fire. I learnt that as a child."), "a short one alone")
	reworded := "Clean the salt off the chain with an old cloth before you carry the bicycle indoors. A wet oil stays on the links through a week of rain and mud on the road."
	assert.Len(t, taken(reworded), 2)
	assert.Empty(t, taken("Clean the salt off the chain with an old cloth before taking the bicycle indoors. My neighbour never does, and rides a new one each year."), "one alone is no copying")
	assert.Empty(t, taken(""))
	assert.Empty(t, fit.NewShingles(nil).Taken(page.Doc))
}

// A question put before what does not answer it is not answered, nor is one that is only said to be a good one.
func TestQuestionsPasted(t *testing.T) {
	b := brief.Brief{Keyword: "winter riding", Language: "en", Words: brief.WordRange{Lower: 10, Upper: 500}, Questions: []brief.Question{{Key: "q", Text: "How do I clean the chain?"}, {Key: "r", Text: "Why do batteries fail in the cold?"}}}
	answered := func(s string) float64 {
		for _, p := range fit.Of(&b, draftOf(t, s).Read("", "en"), fit.Taken{}).Parts {
			if p.Name == fit.Questions {
				return p.Score
			}
		}
		return -1
	}
	const other = "The village has a school, two shops and a church whose tower was built by the monks of the abbey in the valley below."
	assert.Zero(t, answered("<p>How do I clean the chain? "+other+" Why do batteries fail in the cold? "+other+"</p>"))
	assert.Zero(t, answered("<p>Yes, it is a good thing to know about how to clean the chain. It is a good thing to know about why batteries fail in the cold.</p>"))
	// Nor are its words marked as if they counted.
	b.Terms = []brief.Term{{Key: "chain", Term: "chain", Tier: "staple", Lower: 1, Upper: 3, Most: 9}}
	n := draftOf(t, "<p>How do I clean the chain? The chain is wiped each week, and that is all there is to it.</p>")
	uses := 0
	for _, m := range fit.Marks(&b, n, n.Read("", "en"), nil, nil) {
		if m.Kind == fit.MarkTerm {
			uses++
		}
	}
	assert.Equal(t, 1, uses)
	assert.Equal(t, .5, answered("<h2>The chain</h2><p>To clean the chain, hold a rag round the lower run, turn the crank backwards and let the links pass until no more grime comes off, then dry it and oil each roller.</p>"))
}

// Two translators' sentences are each translator's own: Barzilay and McKeown (2001, "Extracting paraphrases from a parallel corpus",
// figure 1; from memory). The same with its halves turned round is the first one's still.
func TestPublishedParaphrase(t *testing.T) {
	const one = "Emma burst into tears and he tried to comfort her, saying things to make her smile."
	const other = "Emma cried, and he tried to console her, adorning his words with puns."
	const turned = "He tried to comfort Emma when she burst into tears, saying things that made her smile."
	page := pageOf(t, 1, "<h1>Emma</h1><p>"+one+" The evening went on in silence behind the closed shutters of the house.</p>")
	beside := fit.NewShingles([]corpus.RankedPage{page})
	taken := func(s string) int {
		return len(beside.Taken(draftOf(t, "<p>"+s+" On that evening silence went on behind closed shutters of the house.</p>").Read("", "en")))
	}
	assert.Zero(t, taken(other))
	assert.Equal(t, 2, taken(turned))
	assert.Equal(t, 2, taken(one))
}
