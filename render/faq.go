package render

import (
	"encoding/json"
	"io"

	"corpulan/core/brief"
)

// answerHere stands where the writer has yet to answer.
const answerHere = "(answer in 40 to 60 words)"

// FAQ writes the questions of a brief as FAQPage data of schema.org, in JSON-LD, ready
// for the writer's answers.
func FAQ(w io.Writer, b brief.Brief) error {
	type answer struct {
		Type string `json:"@type"`
		Text string `json:"text"`
	}
	type question struct {
		Type   string `json:"@type"`
		Name   string `json:"name"`
		Answer answer `json:"acceptedAnswer"`
	}
	page := struct {
		Context  string     `json:"@context"`
		Type     string     `json:"@type"`
		Language string     `json:"inLanguage"`
		Entities []question `json:"mainEntity"`
	}{"https://schema.org", "FAQPage", b.Language, []question{}}
	for _, q := range b.Questions {
		page.Entities = append(page.Entities, question{"Question", q.Text, answer{"Answer", answerHere}})
	}
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	return enc.Encode(page)
}
