package questions

import (
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// answerer finds where pages answer a question, in one field.
type answerer struct {
	*corpus.Field
	common   map[string]bool // stems of the keyword
	headings [][][]string    // content stems of each section's heading, by page
	sections map[string]int  // in how many sections a stem stands
	all      int
	blocks   map[[2]int][]block // by page and section, as they are asked for
}

func newAnswerer(f *corpus.Field, common map[string]bool) *answerer {
	a := &answerer{f, common, make([][][]string, len(f.Docs)), map[string]int{}, 0, map[[2]int][]block{}}
	for i, d := range f.Docs {
		for n, stems := range d.Sections {
			a.all++
			for s := range stems {
				a.sections[s]++
			}
			a.headings[i] = append(a.headings[i], f.Language.ContentStems(d.Reading.Sections[n].Heading))
		}
	}
	return a
}

// answers finds where the pages answer a group of wordings: in FAQ markup, under a heading
// that asks it, or in a section that is about what is asked.
func (a *answerer) answers(group []asked) []Answer {
	found := []Answer{}
	for i, d := range a.Docs {
		if ans, ok := a.in(i, d, group); ok {
			found = append(found, ans)
		}
	}
	return found
}

// leastAnswer is how many words under a heading count as an answer.
// Our own: a sentence.
const leastAnswer = 15

func (a *answerer) in(page int, d *corpus.Doc, group []asked) (Answer, bool) {
	rank, lead := a.Ranks[page], group[0]
	under := func(n int, by string) (Answer, bool) {
		s := d.Reading.Sections[n]
		return Answer{rank, n, s.Heading, s.Words, by, a.answerText(page, n, lead.stems), formOf(s, lead.kind)}, true
	}
	for _, w := range group {
		if w.Rank != rank {
			continue
		}
		switch w.Place {
		case "heading":
			if d.Reading.Sections[w.Section].Words >= leastAnswer {
				return under(w.Section, "heading")
			}
		case "FAQ":
			for _, p := range d.Reading.FAQ {
				if p.Question == w.Text && p.Answer != "" {
					return Answer{rank, -1, p.Question, text.CountWords(p.Answer), "FAQ", p.Answer, Prose}, true
				}
			}
		}
	}
	if n, ok := a.sectionAbout(page, d, lead.stems); ok {
		return under(n, "section")
	}
	return Answer{}, false
}

// How much of what is asked beyond the keyword a section must hold, all our own: the
// weights of stems are their inverse section frequency.
const (
	wholly     = 0.99 // of a section whose heading has none of it
	mostly     = 0.7  // of a section whose heading has the stem that says most
	fewestUses = 2    // of the stem that says most
)

// sectionAbout finds the section that is about what is asked: its heading has the stem
// that says most and it holds most of the others, or it holds them all, the one that says
// most twice. A question with one stem beyond the keyword ("What does it cost?") is
// answered only under a heading that has it, since nothing else says what is asked about.
func (a *answerer) sectionAbout(page int, d *corpus.Doc, stems []string) (section int, ok bool) {
	total, most := 0.0, ""
	weight := func(s string) float64 { return stats.IDF(a.sections[s], a.all) }
	beyond := 0
	for _, s := range stems {
		if a.common[s] {
			continue
		}
		beyond++
		total += weight(s)
		if most == "" || weight(s) > weight(most) {
			most = s
		}
	}
	if most == "" {
		return 0, false
	}
	best := 0.0
	for n, have := range d.Sections {
		if have[most] == 0 || d.Reading.Sections[n].Words < leastAnswer {
			continue
		}
		held, uses := 0.0, 0
		for _, s := range stems {
			uses += have[s]
			if have[s] > 0 && !a.common[s] {
				held += weight(s)
			}
		}
		held /= total
		headed := slices.Contains(a.headings[page][n], most)
		if !(headed && held >= mostly || !headed && beyond > 1 && held >= wholly && have[most] >= fewestUses) {
			continue
		}
		score := held + float64(uses)/float64(uses+len(stems))
		if headed {
			score++
		}
		if score > best {
			best, section, ok = score, n, true
		}
	}
	return section, ok
}
