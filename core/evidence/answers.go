package evidence

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/questions"
	"corpulan/core/reading"
	"corpulan/core/says"
	"corpulan/core/text"
)

// Written is an answer to a question in the form that suits it, written out from what one page says.
type Written struct {
	Question string    `json:"question"` // its key
	Form     says.Form `json:"form"`
	Rank     int       `json:"rank"`
	Lines    []string  `json:"lines"` // whole sentences, or the items of a list; never cut
}

// How much of a page is an answer. An answer of 40 to 60 words is common practice, no published source; the rest is our own.
const (
	longestAnswer  = 60 // words of a paragraph
	shortestAnswer = 12
	fewestSaid     = 3 // words of a sentence behind the first: "K/W." is none
	mostSentences  = longestAnswer / fewestSaid
	fewestLines    = 3 // of a list
	mostLines      = 8
	longestLine    = 20  // words of an item
	mostOfAsked    = 0.6 // of what is asked beyond the keyword that one sentence has
	fewStems       = 10  // with which an answer still says little
)

// written writes out each question's answer from the page whose passage says most of what is asked, and of what the other answers say.
func (e *Evidence) written(texts *says.Texts) []Written {
	f := texts.Field
	list := []Written{}
	for _, q := range e.Questions {
		if !q.Recommended() || len(q.AnsweredBy) == 0 {
			continue
		}
		w := writing{field: f, texts: texts, asked: says.Ask(f.Language, q.Text), question: q, common: map[string]int{}}
		for _, st := range f.Language.ContentStems(q.Text) {
			w.common[st] = len(q.AnsweredBy) + 1
		}
		for _, a := range q.AnsweredBy {
			stems := f.Language.ContentStems(a.Text)
			slices.Sort(stems)
			for _, st := range slices.Compact(stems) {
				w.common[st]++
			}
		}
		best := Written{}
		most := 0.0
		for _, a := range q.AnsweredBy {
			lines := w.lines(a)
			if worth := w.worth(lines); len(lines) > 0 && worth > most {
				best, most = Written{q.Key, q.Form, a.Rank, lines}, worth
			}
		}
		if most > 0 {
			list = append(list, best)
		}
	}
	return list
}

// writing is the search for the best answer to one question.
type writing struct {
	field    *corpus.Field
	texts    *says.Texts
	asked    says.Asked
	question questions.Question
	common   map[string]int // stems: in how many answers they stand, those of the question in all
}

// worth is how much of what is asked and commonly answered some lines say, over their stems and some more: of two answers that keep to
// the point equally the longer one is better.
func (w writing) worth(lines []string) float64 {
	stems := w.field.Language.ContentStems(strings.Join(lines, " "))
	slices.Sort(stems)
	sum, n := 0.0, 0
	for _, st := range slices.Compact(stems) {
		sum += float64(w.common[st])
		n++
	}
	return sum / float64(n+fewStems)
}

// lines are what one page answers, in the form that suits the question; none where it has no such thing.
func (w writing) lines(a says.Answer) []string {
	i := slices.Index(w.field.Ranks, a.Rank)
	if a.Section < 0 || i < 0 {
		return w.paragraph(w.sentencesOf(a.Text))
	}
	d := w.field.Docs[i]
	s := d.Reading.Sections[a.Section]
	switch w.question.Form {
	case says.Steps, says.List:
		return w.items(s)
	case says.Table:
		for _, t := range d.Reading.Tables {
			if t.Section == a.Section {
				return rowsOf(t)
			}
		}
		return nil
	}
	var sentences []string
	var said []says.Sentence
	for _, x := range w.texts.SentencesOf(a.Rank, a.Section, w.asked) {
		if k := d.Sentences[x.At].Kind; k == reading.LineParagraph || k == reading.LineDefinition {
			sentences, said = append(sentences, d.Sentences[x.At].Text), append(said, x)
		}
	}
	isOne := func(x says.Sentence) bool { return x.Share >= mostOfAsked }
	var best []string
	most := 0.0
	for k := range sentences {
		if !slices.ContainsFunc(said[k:min(k+mostSentences, len(said))], isOne) {
			continue
		}
		lines := w.paragraph(sentences[k:])
		share, has := 0.0, false
		for _, x := range said[k : k+len(lines)] {
			share, has = max(share, x.Share), has || x.Has
		}
		if !has || share < mostOfAsked {
			continue
		}
		if worth := share * w.worth(lines); worth > most {
			best, most = lines, worth
		}
	}
	return best
}

func (w writing) sentencesOf(s string) (list []string) {
	for _, x := range w.field.Language.Sentences(s) {
		list = append(list, x.Of(s))
	}
	return list
}

// paragraph is as many of the first sentences as go into an answer; none where the first one does not answer by itself.
func (w writing) paragraph(sentences []string) (lines []string) {
	words := 0
	for i, x := range sentences {
		n := text.CountWords(x)
		if words+n > longestAnswer || !strings.HasSuffix(x, ".") && !strings.HasSuffix(x, "!") {
			break
		}
		if i == 0 && w.field.Language.LeansBack(x) || i > 0 && n < fewestSaid || w.tellsOfSelf(x) {
			break
		}
		words += n
		lines = append(lines, x)
	}
	if words < shortestAnswer {
		return nil
	}
	return lines
}

// tellsOfSelf tells a sentence that is about its writer, and no answer of ours.
func (w writing) tellsOfSelf(sentence string) bool {
	return slices.ContainsFunc(text.Words(sentence), func(x text.Span) bool { return w.field.Language.IsFirstPerson(text.Fold(x.Of(sentence))) })
}

// items are those of a section's list, each whole; none where it has too few, or such as say more than a line.
func (w writing) items(s reading.Section) (lines []string) {
	for kind, line := range s.Blocks() {
		if kind != reading.LineItem {
			continue
		}
		first := line
		if spans := w.field.Language.Sentences(line); len(spans) > 1 {
			first = spans[0].Of(line)
		}
		if text.CountWords(first) > longestLine {
			return nil
		}
		if len(lines) == mostLines {
			return nil // half a list is no answer
		}
		lines = append(lines, first)
	}
	if len(lines) < fewestLines {
		return nil
	}
	return lines
}

// rowsOf are the rows of a small table, a line each.
func rowsOf(t reading.Table) (lines []string) {
	if len(t.Rows) > mostLines {
		return nil
	}
	for _, r := range t.Rows {
		line := strings.Join(slices.DeleteFunc(slices.Clone(r), func(c string) bool { return strings.TrimSpace(c) == "" }), " | ")
		if text.CountWords(line) > longestLine {
			return nil
		}
		lines = append(lines, line)
	}
	return lines
}
