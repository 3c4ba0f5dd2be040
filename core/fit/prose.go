package fit

import (
	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/reading"
)

// measured is a draft as it is measured.
type measured struct {
	doc      *corpus.Doc
	lang     *language.Language
	prose    []*corpus.Sentence // sentences of its body, each once
	headings []*corpus.Sentence
	words    int                    // of prose
	quoted   int                    // words of quotations
	bySect   map[int]map[string]int // stems of the prose of each section
}

// What is a sentence and no list of words: it has as many words, and of a language whose
// function words are known as large a part of them. Our own; running text has 40 to 60 % of
// function words, a list of terms next to none.
const (
	shortestSentence = 4
	leastStops       = 0.15
)

// newText finds what of a draft counts: sentences outside headings, quotations and code, the
// same one only once.
func newText(d *corpus.Doc, code string) *measured {
	t := &measured{doc: d, lang: language.For(code), bySect: map[int]map[string]int{}}
	seen := map[string]bool{}
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if s.Heading {
			t.headings = append(t.headings, s)
			continue
		}
		if s.Kind == reading.LineQuote || s.Kind == reading.LineCode {
			t.quoted += wordsIn(s)
			continue
		}
		key := saidAs(s)
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
		t.words += wordsIn(s)
		for _, tok := range s.Tokens {
			if !tok.Stop {
				stems[tok.Stem]++
			}
		}
	}
	return t
}

// wordsIn counts a sentence's words.
func wordsIn(s *corpus.Sentence) int {
	n := 0
	for _, tok := range s.Tokens {
		if tok.WordStart {
			n++
		}
	}
	return n
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
func (t *measured) heading(section int) string {
	if section < 0 || section >= len(t.doc.Reading.Sections) {
		return ""
	}
	return t.doc.Reading.Sections[section].Heading
}
