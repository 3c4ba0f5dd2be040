package reading

import (
	"strings"

	"corpulan/core/language"
)

// mostQuestions bounds the list; a page that asks more is no page to learn from.
// Our own.
const mostQuestions = 500

// readQuestions lists what the page asks, each once, in the page's order:
// FAQ markup, headings that ask, and questions in running text.
func readQuestions(r *Reading) {
	have := map[string]bool{}
	lang := language.For(r.Language)
	add := func(q string) {
		if k := strings.ToLower(q); !have[k] && len(have) < mostQuestions {
			have[k] = true
			r.Questions = append(r.Questions, q)
		}
	}
	for _, p := range r.FAQ {
		add(p.Question)
	}
	for _, s := range r.Sections {
		if s.Level > 0 && lang.IsQuestionHeading(s.Heading) {
			add(s.Heading)
		}
		for _, q := range s.Asks(lang) {
			add(q)
		}
	}
}

// Asks finds the questions in the running text of a section.
func (s Section) Asks(lang *language.Language) []string {
	var found []string
	if !strings.Contains(s.Text, "?") {
		return nil
	}
	for kind, line := range s.Blocks() {
		if kind == LineCode || !strings.Contains(line, "?") {
			continue
		}
		for _, sp := range lang.Sentences(line) {
			if q := sp.Of(line); lang.IsQuestion(q) {
				found = append(found, q)
			}
		}
	}
	return found
}
