package fit

import (
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// text is a draft as it is measured.
type text struct {
	doc      *corpus.Doc
	lang     *language.Language
	prose    []*corpus.Sentence // sentences of its body, each once
	headings []*corpus.Sentence
	words    int                    // of prose
	bySect   map[int]map[string]int // stems of the prose of each section
}

// What is a sentence and no list of words: it has as many words, and of a language whose
// function words are known as large a part of them. Our own; running text has 40 to 60 % of
// function words, a list of terms next to none.
const (
	shortestSentence = 4
	leastStops       = 0.15
)

// newText finds what of a draft counts: sentences outside headings, in the draft's language,
// the same one only once.
func newText(d *corpus.Doc, code string) *text {
	t := &text{doc: d, lang: language.For(code), bySect: map[int]map[string]int{}}
	seen := map[string]bool{}
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if s.Heading {
			t.headings = append(t.headings, s)
			continue
		}
		key := strings.ToLower(strings.Join(strings.Fields(s.Text), " "))
		if seen[key] || !isProse(s) {
			continue
		}
		seen[key] = true
		t.prose = append(t.prose, s)
		stems := t.bySect[s.Section]
		if stems == nil {
			stems = map[string]int{}
			t.bySect[s.Section] = stems
		}
		for _, tok := range s.Tokens {
			if tok.WordStart {
				t.words++
			}
			if !tok.Stop {
				stems[tok.Stem]++
			}
		}
	}
	return t
}

// isProse tells a sentence from a list of words.
func isProse(s *corpus.Sentence) bool {
	stops := 0
	for _, tok := range s.Tokens {
		if tok.Stop {
			stops++
		}
	}
	return len(s.Tokens) >= shortestSentence && float64(stops) >= leastStops*float64(len(s.Tokens))
}

// heading is that of a section of the draft.
func (t *text) heading(section int) string {
	if section < 0 || section >= len(t.doc.Reading.Sections) {
		return ""
	}
	return t.doc.Reading.Sections[section].Heading
}
