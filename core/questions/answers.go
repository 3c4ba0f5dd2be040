package questions

import (
	"corpulan/core/corpus"
	"corpulan/core/text"
)

// answers finds where the pages answer a group of wordings: in FAQ markup,
// under a heading that asks it, or in a section that holds all it is about.
func answers(f *corpus.Field, group []asked, common map[string]bool) []Answer {
	found := []Answer{}
	for i, d := range f.Docs {
		if a, ok := answerIn(f.Ranks[i], d, group, common); ok {
			found = append(found, a)
		}
	}
	return found
}

// leastAnswer is how many words under a heading count as an answer.
// Our own: a sentence.
const leastAnswer = 15

func answerIn(rank int, d *corpus.Doc, group []asked, common map[string]bool) (Answer, bool) {
	for _, w := range group {
		if w.Rank != rank {
			continue
		}
		switch w.Place {
		case "heading":
			s := d.Reading.Sections[w.Section]
			if s.Words >= leastAnswer {
				return Answer{rank, w.Section, s.Heading, s.Words, "heading"}, true
			}
		case "FAQ":
			for _, p := range d.Reading.FAQ {
				if p.Question == w.Text && p.Answer != "" {
					return Answer{rank, -1, p.Question, text.CountWords(p.Answer), "FAQ"}, true
				}
			}
		}
	}
	// The stems beyond the keyword must stand together in one section; with only
	// one of them ("What does it cost?") nothing says what the section is about.
	lead := group[0]
	if !lead.full || len(lead.stems) < 2 {
		return Answer{}, false
	}
	best, bestHits := -1, 0
	for n, stems := range d.Sections {
		hits, met := 0, true
		for _, s := range lead.stems {
			if stems[s] > 0 {
				hits += stems[s]
			} else if !common[s] {
				met = false
			}
		}
		if met && hits >= len(lead.stems) && hits > bestHits && d.Reading.Sections[n].Words >= leastAnswer {
			best, bestHits = n, hits
		}
	}
	if best < 0 {
		return Answer{}, false
	}
	s := d.Reading.Sections[best]
	return Answer{rank, best, s.Heading, s.Words, "section"}, true
}
