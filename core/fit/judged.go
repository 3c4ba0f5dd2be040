package fit

import (
	"strings"

	"corpulan/core/message"
)

// Judged is what the writer says of the questions of a brief, by their keys. It stands as long as the text does that it is about.
type Judged map[string]Judgement

// Judgement is what the writer says of one question.
type Judgement struct {
	Answers bool   `json:"answers"` // else it does not
	Text    string `json:"text"`    // the passage of the draft, in lines of blank-separated words
}

// LongestJudged is how long a passage may be that a writer points at, in characters. Our own.
const LongestJudged = 5000

// judge applies what the writer says of a question to what was found. Who says "it is here" is believed where the passage stands in
// sentences that count, and says more than that it is asked: a word cannot be given for what is copied, or not there.
func (t *measured) judge(item *Item, judged Judged, question string) {
	j, ok := judged[item.Key]
	if !ok {
		return
	}
	if !j.Answers {
		if item.Score > 0 && squeezed(item.Passage) == squeezed(j.Text) {
			item.Score, item.Says, item.Judged = 0, "not answered by what was found, as the writer says", true
		}
		return
	}
	here := squeezed(j.Text)
	var said []string
	for _, s := range t.prose {
		if strings.Contains(here, saidAs(s)) {
			said = append(said, s.Text)
			item.Section = s.Section
		}
	}
	if passage := strings.Join(said, " "); len(said) > 0 && t.adds(passage, question) {
		item.Score, item.Says, item.Judged = 1, "answered, as the writer says", true
		item.Where, item.Passage = t.heading(item.Section), passage
	} else if len(said) > 0 {
		item.Says = message.Of("%v; what the writer points at says little more than the question", item.Says)
	} else {
		item.Says = message.Of("%v; what the writer pointed at is gone, or does not count", item.Says)
	}
}

// squeezed is a text in small letters with one blank between words, as saidAs has sentences.
func squeezed(text string) string { return strings.ToLower(strings.Join(strings.Fields(text), " ")) }
