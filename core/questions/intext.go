package questions

import (
	"strings"

	"corpulan/core/corpus"
)

// Said is where a text asks a question in its running text and goes on to answer it.
type Said struct {
	Section int
	Text    string // the sentences behind the question
}

// longestSaid is how many words of an answer in running text are taken. Our own: the length of
// an answer box (40 to 60 words, common practice) and the rest of its last sentence.
const longestSaid = 60

// SaidIn finds a question in the running text of the one document of a field, asked in any
// words, with minAnswer words behind it before the next question or heading.
func SaidIn(f *corpus.Field, question string) (Said, bool) {
	common := f.KeywordStems()
	want := askedOf(f.Language, question)
	if len(want.stems) == 0 {
		return Said{}, false
	}
	for _, d := range f.Docs {
		for i := range d.Sentences {
			s := &d.Sentences[i]
			if s.Heading || !isAsked(s.Text) || !sameAsking(want, askedOf(f.Language, s.Text), common) {
				continue
			}
			if said, ok := behind(d, i); ok {
				return said, true
			}
		}
	}
	return Said{}, false
}

func isAsked(s string) bool { return strings.HasSuffix(strings.TrimRight(s, " \"'”’»)"), "?") }

// behind is what stands behind a question in its section.
func behind(d *corpus.Doc, question int) (Said, bool) {
	section := d.Sentences[question].Section
	var parts []string
	words := 0
	for _, s := range d.Sentences[question+1:] {
		if s.Heading || s.Section != section || isAsked(s.Text) || words >= longestSaid {
			break
		}
		for _, t := range s.Tokens {
			if t.WordStart {
				words++
			}
		}
		parts = append(parts, s.Text)
	}
	return Said{section, strings.Join(parts, " ")}, words >= minAnswer
}
