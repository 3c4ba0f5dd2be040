package text

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestPhrasesMatchWholeLines(t *testing.T) {
	p := NewPhrases("leave|post a|your comment", "#|no? comments #?", "more from *", "tags : *", "back to|zur the? _ _?", "läs också", "* rights reserved", "click here *2", "what do you think")
	for _, line := range []string{"Leave a comment", "POST YOUR COMMENT!", "Comments", "12 comments", "No comments", "Comments (1,204)", "More from", "More from Mara Holm", "Tags: bikes, snow",
		"« Back to the top", "Las ocksa", "LÄS OCKSÅ:", "© 2026. All rights reserved.", "Click here now", "What do you think?"} {
		assert.True(t, p.Match(line), line)
	}
	for _, line := range []string{"Leave a comment below", "Leave comment", "Comments are welcome", "Some more from", "Tags bikes", "Back. To the top", "Click here for all of it", "", "…", "Comments. 12", "2.3 comments"} {
		assert.False(t, p.Match(line), line)
	}
}

func TestPhrasesAreFoundInLines(t *testing.T) {
	p := NewPhrases("top #", "how to", "guía", "?", "review|reviews|reviewed")
	for line, want := range map[string]string{"The Top 10 Bikes": "Top 10", "HOW TO ride": "HOW TO", "La Guía total": "Guía", "Is it?": "?", "Tyres reviewed": "reviewed", "Previews": "", "": ""} {
		assert.Equal(t, want, p.Find(line), line)
	}
	assert.Equal(t, len("Photo: "), NewPhrases("photo :", "photo").Begin(NewLine("Photo: Mara"))+1)
	assert.Zero(t, NewPhrases("photo :").Begin(NewLine("A photo: Mara")))
}

func TestAPhraseThatCannotBeReadIsAFaultOfTheProgram(t *testing.T) {
	assert.Panics(t, func() { NewPhrases("a *x") })
	assert.Panics(t, func() { NewPhrases(" ") })
}
