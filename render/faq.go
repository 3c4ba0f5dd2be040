package render

import (
	"encoding/json"
	"io"

	"corpulan/core/brief"
	"corpulan/core/fit"
)

// answerHere stands where the writer has yet to answer.
const answerHere = "(answer in 40 to 60 words)"

// FAQ writes the questions of a brief as FAQPage data of schema.org, in JSON-LD, ready
// for the writer's answers.
func FAQ(w io.Writer, b brief.Brief) error {
	var list []fit.Answer
	for _, q := range b.Questions {
		list = append(list, fit.Answer{Question: q.Text, Answer: answerHere})
	}
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	return enc.Encode(faqPage(b.Language, list))
}

type faqAnswer struct {
	Type string `json:"@type"`
	Text string `json:"text"`
}

type faqQuestion struct {
	Type   string    `json:"@type"`
	Name   string    `json:"name"`
	Answer faqAnswer `json:"acceptedAnswer"`
}

type faq struct {
	Context  string        `json:"@context"`
	Type     string        `json:"@type"`
	Language string        `json:"inLanguage"`
	Entities []faqQuestion `json:"mainEntity"`
}

// faqPage is a FAQPage of questions with their answers.
func faqPage(language string, list []fit.Answer) faq {
	page := faq{"https://schema.org", "FAQPage", language, []faqQuestion{}}
	for _, x := range list {
		page.Entities = append(page.Entities, faqQuestion{"Question", x.Question, faqAnswer{"Answer", x.Answer}})
	}
	return page
}
