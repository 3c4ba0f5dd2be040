package fit

import (
	"maps"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/message"
	"corpulan/core/says"
)

// When a section of a brief is covered: its points, terms and words stand together in the
// sentences of one section of the draft. Our own.
const (
	headingWeighs = 1.5 // a stem of its heading, against one of a point
	termWeighs    = 1.0
	pointWeighs   = 0.6
	enoughStems   = 0.5 // of the weight of a section's stems covers it
	fewestWords   = 25  // of prose that a covered section has
	partOfLength  = 0.4 // and of the words that the brief gives it
	maxPointStems = 24
)

// sections scores the sections of the outline by what stands in the body of the draft: the
// stems of its heading, points and terms within one section's sentences, enough of them, and
// enough words. A heading pasted gives nothing. What several sections of the outline find in one of
// the draft they share: its words are for each only once.
func (t *measured) sections(b *brief.Brief) Part {
	common := t.field.KeywordStems()
	var items []Item
	var weights, asks []float64
	wanted := map[int]float64{} // words that a section of the draft is to have for all that find themselves in it
	b.Each(func(s *brief.Section) {
		if s.Folded { // said in passing, and asked of nobody
			return
		}
		want := t.stemsOf(s, common)
		stems := slices.Sorted(maps.Keys(want))
		item := Item{Key: s.Key, Text: message.Text(s.Heading)}
		best, at := 0.0, -1
		for section, have := range t.bySect {
			score := min(shareOf(want, stems, have)/enoughStems, 1) * min(float64(t.wordsOf(section))/t.asks(s), 1)
			if score > best || score == best && section < at {
				best, at = score, section
			}
		}
		item.Score = best
		item.Where, item.Section = t.heading(at), at
		items = append(items, item)
		weights = append(weights, 1)
		asks = append(asks, t.asks(s))
		wanted[at] += best * t.asks(s)
	})
	for i := range items {
		item := &items[i]
		shared := item.Score > 0 && wanted[item.Section] > float64(t.wordsOf(item.Section))
		if shared {
			item.Score *= float64(t.wordsOf(item.Section)) / wanted[item.Section]
		}
		switch {
		case item.Score == 0:
			item.Says = "not covered"
		case shared:
			item.Says = message.Of("%.0f %% covered, in words that others of the outline need as well", 100*item.Score)
		case item.Score < 1:
			item.Says = message.Of("%.0f %% covered", 100*item.Score)
		default:
			item.Says = "covered"
		}
		item.Effort = max(int(asks[i]*(1-item.Score)), sentenceWords)
		if item.Score > 0 {
			item.Words = t.wordsOf(item.Section)
		}
	}
	return part(Sections, items, weights)
}

// shareOf is the part of what is wanted that a section has, by weight, 0 to 1; stems are those wanted, in order,
// so that sums are the same each time.
func shareOf(want map[string]float64, stems []string, have map[string]int) float64 {
	got, whole := 0.0, 0.0
	for _, st := range stems {
		whole += want[st]
		if have[st] > 0 {
			got += want[st]
		}
	}
	if whole == 0 {
		return 0
	}
	return got / whole
}

// asks is how many words of prose a section must have to be covered.
func (t *measured) asks(s *brief.Section) float64 {
	own := s.Words
	for _, ch := range s.Children {
		own -= ch.Words
	}
	return max(fewestWords, partOfLength*float64(own))
}

// stemsOf are the stems that a section is about, with their weights.
func (t *measured) stemsOf(s *brief.Section, common map[string]bool) map[string]float64 {
	want := map[string]float64{}
	add := func(text string, w float64) {
		for _, st := range t.lang.ContentStems(text) {
			if !common[st] {
				want[st] = max(want[st], w)
			}
		}
	}
	add(s.Heading, headingWeighs)
	for _, x := range s.Terms {
		add(x, termWeighs)
	}
	for _, p := range s.Points {
		if len(want) < maxPointStems {
			add(p.Text, pointWeighs)
		}
	}
	return want
}

func (t *measured) wordsOf(section int) int {
	n := 0
	for _, c := range t.bySect[section] {
		n += c
	}
	return n
}

// questions scores the questions of a brief by whether a passage of the draft answers them, as the field's pages
// are judged: a section of the draft is of the matter of the brief's section that it covers best.
func (t *measured) questions(b *brief.Brief, judged Judged) Part {
	f := t.field
	of, under := t.covering(b)
	texts := says.InDraft(f, func(_, section int) int { return of[section] }, func(s *corpus.Sentence) bool { return !t.counts[s] })
	var items []Item
	var weights []float64
	for _, q := range b.Questions {
		item := Item{Key: q.Key, Text: message.Text(q.Text), Says: "not answered", Section: -1, Effort: answerWords}
		asked := says.Ask(f.Language, q.Text)
		asked.About = asked.AboutHeading(f.Language, under[q.Section], q.Section, f.KeywordStems())
		// A heading without a text answers nothing.
		if a, ok := texts.AnswerOf(1, asked); ok && t.bySect[a.Section] != nil && (a.By == "text" || t.wordsOf(a.Section) >= fewestWords/2) && t.adds(a.Text, q.Text) {
			item.Score, item.Says, item.Where, item.Section, item.Passage = 1, "answered", t.heading(a.Section), a.Section, a.Text
		}
		t.judge(&item, judged, q.Text)
		items = append(items, item)
		weights = append(weights, 1)
	}
	return part(Questions, items, weights)
}

// fewestAdded are content words that an answer has beyond those of its question. Our own.
const fewestAdded = 4

// adds tells whether a passage says more than that it is asked: "Yes, that is a good thing to know about chains."
func (t *measured) adds(passage, question string) bool {
	asked := t.lang.ContentStems(question)
	added := map[string]bool{}
	for _, st := range t.lang.ContentStems(passage) {
		if !slices.Contains(asked, st) && !t.lang.Light(st) {
			added[st] = true
		}
	}
	return len(added) >= fewestAdded
}

// covering gives for each section of the draft the section of the brief that it covers best, by a number from 1,
// and those numbers by the headings of the brief.
func (t *measured) covering(b *brief.Brief) (of map[int]int, under map[string]int) {
	of, under = map[int]int{}, map[string]int{}
	best := map[int]float64{}
	common := t.field.KeywordStems()
	n := 0
	b.Each(func(s *brief.Section) {
		n++
		under[s.Heading] = n
		want := t.stemsOf(s, common)
		stems := slices.Sorted(maps.Keys(want))
		for section, have := range t.bySect {
			if score := shareOf(want, stems, have); score >= enoughStems && score > best[section] {
				of[section], best[section] = n, score
			}
		}
	})
	return of, under
}

// entities scores the names that a brief asks for by whether a sentence has them.
func (t *measured) entities(b *brief.Brief) Part {
	var items []Item
	var weights []float64
	for _, x := range b.Entities {
		item := Item{Key: x.Key, Text: message.Text(x.Name), Says: "not named", Section: -1, Effort: sentenceWords}
		for _, s := range t.prose {
			if corpus.HasWord(strings.ToLower(s.Text), strings.ToLower(x.Name)) {
				item.Score, item.Says, item.Where, item.Section = 1, "named", t.heading(s.Section), s.Section
				break
			}
		}
		items = append(items, item)
		weights = append(weights, 1)
	}
	return part(Entities, items, weights)
}
