package reading

import (
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/text"
)

// maxQuestions bounds the list; a page that asks more is no page to learn from.
// Our own.
const maxQuestions = 500

// readQuestions lists what the page asks, each once, in the page's order:
// FAQ markup, headings that ask, and questions in running text.
func readQuestions(r *Reading) {
	have := map[string]bool{}
	lang := language.For(r.Language)
	r.addUnmarkedPairs(lang)
	add := func(q string) {
		if k := strings.ToLower(q); !have[k] && len(have) < maxQuestions {
			have[k] = true
			r.Questions = append(r.Questions, q)
		}
	}
	for _, p := range r.FAQ {
		add(p.Question)
	}
	for _, s := range r.Sections {
		if q := text.WithoutNumber(s.Heading); s.Level > 0 && lang.IsQuestionHeading(q) {
			add(q)
		}
		for _, q := range s.Asks(lang) {
			add(q)
		}
	}
}

// longestQuestion is how long a sentence is that asks one thing, in bytes. Our own.
const longestQuestion = 200

// fewestPairs is from how many on questions with answers below them are a list of them.
// Our own.
const fewestPairs = 2

// addUnmarkedPairs finds questions with their answers that no FAQ markup names: in lists
// of definitions, and in boxes that open at their question.
func (r *Reading) addUnmarkedPairs(lang *language.Language) {
	var pairs []Pair
	for _, s := range r.Sections {
		open := false
		for kind, line := range s.Blocks() {
			asks := kind == LineDefinition && lang.IsQuestion(line) && strings.HasSuffix(line, "?")
			switch {
			case asks:
				pairs = append(pairs, Pair{Question: line})
				open = true
			case open && kind != LineCode:
				last := &pairs[len(pairs)-1]
				last.Answer = strings.TrimSpace(last.Answer + " " + line)
				open = kind != LineDefinition // what else stands below belongs to a box that is open
			}
		}
	}
	pairs = slices.DeleteFunc(pairs, func(p Pair) bool { return p.Answer == "" })
	if len(pairs) < fewestPairs {
		return
	}
	for _, p := range pairs {
		if len(r.FAQ) < maxQuestions && !slices.ContainsFunc(r.FAQ, func(q Pair) bool { return q.Question == p.Question }) {
			r.FAQ = append(r.FAQ, p)
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
			if q := sp.Of(line); len(q) <= longestQuestion && lang.IsQuestion(q) {
				found = append(found, strings.TrimLeft(q, "(["))
			}
		}
	}
	return found
}
