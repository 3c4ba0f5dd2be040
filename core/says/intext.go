package says

import (
	"strings"

	"corpulan/core/corpus"
)

// inText is a question of running text, with what stands behind it.
type inText struct {
	Asked
	section int
	behind  string

	from, to int // its sentences
}

// longestBehind is how many words behind a question are taken. Our own: the length of
// an answer box (40 to 60 words, common practice) and the rest of its last sentence.
const longestBehind = 60

// asks are the questions that a text asks in its running text and goes on to answer, in minAnswer words before
// the next question or heading. They are looked for once.
func (t *Texts) asks(i int) []inText {
	if list, known := t.asked[i]; known {
		return list
	}
	list := []inText{}
	d := t.Docs[i]
	for n := range d.Sentences {
		s := &d.Sentences[n]
		if s.Heading || !IsAsked(s.Text) {
			continue
		}
		if text, words, to := behind(d, n); words >= minAnswer {
			if q := Ask(t.Language, s.Text); len(q.Stems) > 0 {
				list = append(list, inText{q, s.Section, text, n + 1, to})
			}
		}
	}
	t.asked[i] = list
	return list
}

// IsAsked tells a sentence that ends on a question mark.
func IsAsked(s string) bool { return strings.HasSuffix(strings.TrimRight(s, " \"'”’»)"), "?") }

// behind is what stands behind a question in its section, how many words it has, and where it ends.
func behind(d *corpus.Doc, question int) (said string, words, to int) {
	section := d.Sentences[question].Section
	var parts []string
	to = question + 1
	for ; to < len(d.Sentences); to++ {
		s := &d.Sentences[to]
		if s.Heading || s.Section != section || IsAsked(s.Text) || words >= longestBehind {
			break
		}
		for _, t := range s.Tokens {
			if t.WordStart {
				words++
			}
		}
		parts = append(parts, s.Text)
	}
	return strings.Join(parts, " "), words, to
}
