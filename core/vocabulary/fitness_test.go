package vocabulary

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
)

// What a word is the field decides: words that a dictionary calls verbs are terms where
// they are used as nouns, light words may begin a term, and rare adjectives and a trade's
// verbs stand alone; common verbs and adjectives do not. The prose is our own.
func TestWhatTheFieldDoesWithAWord(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h2>Degrease the chain</h2><p>A full suspension eats bumps. Hold the drop with both hands. The back light blinks. Each commit has a message, and a commit is small. Degrease the chain and the cassette first. A reflective vest helps; be reflective. You ride fast and go home. The road is wet, and a wet road is long.</p>`),
		corpustest.Page(t, 2, "b.example", `<h2>Degrease it</h2><p>With a full suspension the frame is heavy. The drop of the bar is deep. Check the back light. This commit is large. Degrease the chain with a brush. The tape is reflective. You ride slowly. A wet road is slick.</p>`),
		corpustest.Page(t, 3, "c.example", `<h2>Degrease again</h2><p>A full suspension is dear. My drop is low. A back light is cheap. The commit fails. Degrease the cassette. Wear a reflective band. They ride home. The wet road shines.</p>`),
	}
	proposed := map[string]bool{}
	why := map[string]string{}
	for _, term := range Find(t.Context(), corpus.NewField(pages, "en-GB", "winter cycling"), nil) {
		proposed[term.Text] = term.Recommended()
		why[term.Text] = term.Flag.String() + term.YieldsTo
	}
	for _, want := range []string{"full suspension", "back light", "drop", "commit", "reflective", "degrease"} {
		assert.True(t, proposed[want], "%s is lost: %q among %v", want, why[want], why)
	}
	for _, no := range []string{"ride fast", "wet", "full", "back", "eats", "fails", "go home"} {
		assert.False(t, proposed[no], no)
	}
}
