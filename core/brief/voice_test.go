package brief

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"
	"corpulan/core/language"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// How own pages call the reader and themselves, and how long their sentences are, is measured; of too little nothing is said.
func TestVoiceOfOwnPages(t *testing.T) {
	voice := func(code, paragraph string, pages int) Voice {
		var docs []*corpus.Doc
		for i := range pages {
			docs = append(docs, corpustest.PageIn(t, code, i+1, "own.example", "<h1>Kilometer</h1><h2>Alpha</h2>"+strings.Repeat("<p>"+paragraph+"</p>", 12)).Doc)
		}
		return VoiceOf(docs, language.For(code))
	}
	you := voice("en", "You need a light that you can see by. We sell three of them, and we ride with each.", 3)
	assert.Equal(t, Voice{Pages: 3, You: "you", We: "we", Sentence: 10, Paragraph: 19}, you)
	assert.Equal(t, "du", voice("de", "Im Winter brauchst du ein Licht, das du gut sehen kannst, und das dir den Weg zeigt.", 3).You)
	sir := voice("de", "Im Winter brauchen Sie ein Licht, das Ihnen den Weg zeigt. Sie ist teuer, sagt man.", 3)
	assert.Equal(t, "Sie", sir.You)
	assert.Empty(t, sir.We)
	assert.Empty(t, voice("de", "Die Lampe ist hell. Sie leuchtet weit, und sie hält lange in der kalten Zeit.", 3).You, "sie is no address")
	assert.Equal(t, "vous", voice("fr", "En hiver, vous avez besoin d’une lampe qui vous montre bien la route du soir.", 3).You)
	assert.Zero(t, voice("en", "You need a light.", 2))
	b := Brief{in: english{}}
	assert.Equal(t, "To “you”, speaking as “we”, sentences of about 10 words, paragraphs of about 19 words.", b.voice(you).text)
	assert.Empty(t, b.voice(Voice{}).text)
}

// What pages differ in is of this page, and stands beside what the publication never says.
func TestWhatNotToSay(t *testing.T) {
	e := fieldThatDiffers(t)
	b := Compose(e, Choices{}, Setting{Publication: "Quillfen", Defaults: map[string]string{FieldAvoid: "Superlatives."}})
	assert.Contains(t, b.Fields.Avoid, "No single figure where pages differ: “Tyre pressure”")
	assert.Contains(t, b.Fields.Avoid, "\nSuperlatives.")
	assert.NotContains(t, b.House, FieldAvoid)
	assert.Equal(t, b.Fields.Avoid, b.Short().Fields.Avoid)
	plain := Compose(field(t, "a.example", "b.example", "c.example"), Choices{}, Setting{Publication: "Quillfen", Defaults: map[string]string{FieldAvoid: "Superlatives."}})
	assert.Equal(t, "Superlatives.", plain.Fields.Avoid)
	assert.Contains(t, plain.House, FieldAvoid)
}

// fieldThatDiffers has pages that give different figures of one thing.
func fieldThatDiffers(t *testing.T) *evidence.Evidence {
	var pages []corpus.RankedPage
	for i, psi := range []string{"10", "10", "25"} {
		pages = append(pages, corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>Winter riding</h1><h2>Tyre pressure</h2><p>Lower the tyre pressure by %s psi in frost for more grip. Only page number %d says this line about valves.</p><h2>Clothes</h2><p>Wear wool below a shell, says page %d.</p>`, psi, i, i)))
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(t, err)
	return e
}
