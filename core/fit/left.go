package fit

import (
	"cmp"
	"maps"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/message"
)

// Left are words that do not count, for one reason.
type Left struct {
	Words int             `json:"words"`
	Why   message.Message `json:"why"`
}

// leaves counts the words of a draft's body that do not count, by why.
type leaves struct {
	copied map[int]int // by rank, OfOurs for pages of ours
	quoted int
	again  int
	lists  int
	asked  int
}

// of notes a sentence that stands on a page.
func (l *leaves) of(s *corpus.Sentence, rank int) {
	if l.copied == nil {
		l.copied = map[int]int{}
	}
	l.copied[rank] += wordsIn(s)
}

// list says them, the most words first.
func (l *leaves) list() []Left {
	list := []Left{}
	add := func(words int, why message.Message) {
		if words > 0 {
			list = append(list, Left{words, why})
		}
	}
	for _, rank := range slices.Sorted(maps.Keys(l.copied)) {
		why := message.Of("stand on page %d, or nearly so", rank)
		if rank < 0 {
			why = "stand on another page of ours, or nearly so"
		}
		add(l.copied[rank], why)
	}
	add(l.quoted, "are marked as quoted, or are code")
	add(l.again, "were said before, or say the same with a word changed")
	add(l.lists, "are lists of words, no sentences")
	add(l.asked, "ask a question of the brief once more")
	slices.SortStableFunc(list, func(a, b Left) int { return cmp.Compare(b.Words, a.Words) })
	return list
}

// paragraphWords are the words of a paragraph that a writer would add. Our own: the middle of what is easy to scan.
const paragraphWords = 80

// Paragraph is what one more paragraph would bring.
type Paragraph struct {
	Gain  float64           `json:"gain"` // points of fit
	On    []message.Message `json:"on"`   // what it would say
	Words int               `json:"words"`
}

// NextParagraph is the paragraph that would be of most use to a reader: what is missing most, and of what comes next that for which
// it has room.
func (f Fit) NextParagraph() (p Paragraph) {
	for _, l := range f.Missing() {
		if l.Over || l.Part == Length || l.Part == Form || l.Gain <= 0 {
			continue
		}
		if p.Words > 0 && p.Words+l.Effort > paragraphWords {
			continue
		}
		p.Words += l.Effort
		p.Gain += l.Gain
		p.On = append(p.On, l.Text)
	}
	return p
}
