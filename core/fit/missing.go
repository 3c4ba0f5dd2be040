package fit

import (
	"cmp"
	"slices"
)

// About how many words it takes to mend something. Our own: a sentence of a writer has some
// fifteen words, an answer forty to sixty (common practice, no published source).
const (
	sentenceWords = 15
	answerWords   = 50
	formEffort    = 10
)

// Lack is something that a draft lacks, or has too much of, with the part it belongs to.
type Lack struct {
	Part string
	Over bool
	Item
}

// ofUse is in which order what is missing is of use to a reader: what they ask and do not find
// comes before words that are not there. Our own.
var ofUse = map[string]int{Questions: 0, Sections: 1, Things: 1, Entities: 2, Terms: 2, Length: 3, Form: 3}

// Missing lists what a draft lacks: first what a reader misses most, and of that the cheapest, by what the fit would rise by for
// each word it takes. What is all but met comes last.
func (f Fit) Missing() []Lack {
	var list []Lack
	for _, p := range f.Parts {
		for _, x := range p.Missing {
			if x.Waits { // a longer text is what is missing
				continue
			}
			list = append(list, Lack{p.Name, false, x})
		}
		for _, x := range p.Overdone {
			list = append(list, Lack{p.Name, true, x})
		}
	}
	worth := func(l Lack) float64 { return l.Gain / float64(max(l.Effort, 1)) }
	slices.SortStableFunc(list, func(a, b Lack) int { return cmp.Or(ofUse[a.Part]-ofUse[b.Part], cmp.Compare(worth(b), worth(a))) })
	return list
}

// Answer is a question with the passage of a draft that answers it.
type Answer struct {
	Question string `json:"question" yaml:"question"`
	Answer   string `json:"answer" yaml:"answer"`
}

// Answers are the questions that a draft answers.
func (f Fit) Answers() []Answer {
	var list []Answer
	for _, p := range f.Parts {
		for _, x := range p.Met {
			if p.Name == Questions && x.Passage != "" {
				list = append(list, Answer{x.Text.String(), x.Passage})
			}
		}
	}
	return list
}
