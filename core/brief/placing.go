package brief

import (
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/says"
	"corpulan/core/themes"
)

// profiles tell what the sections of an outline are about.
type profiles struct {
	keyword map[string]bool               // its stems
	at      map[pageSection]string        // sections of the outline, by the sections of pages that belong to them
	of      map[string]map[string]float64 // by section: stem -> 1 in its headings, 0.5 leading its text
	spread  map[string]float64            // in how many sections a stem stands
}

// profiles are made of the themes, and of the headings that a person wrote.
func (b *Brief) profiles(e *evidence.Evidence) profiles {
	lang := langOf(b)
	byKey := map[string]themes.Theme{}
	for _, t := range e.Themes {
		byKey[t.Key] = t
	}
	p := profiles{map[string]bool{}, map[pageSection]string{}, map[string]map[string]float64{}, map[string]float64{}}
	for _, st := range lang.ContentStems(b.Keyword) {
		p.keyword[st] = true
	}
	each(b.Outline, func(s *Section) {
		of := map[string]float64{}
		if t, ok := byKey[s.Key]; ok {
			of = profile(t, lang)
			for _, m := range t.Members {
				p.at[pageSection{m.Rank, m.Section}] = s.Key
			}
		}
		for _, st := range lang.ContentStems(s.Heading) {
			of[st] = 1
		}
		p.of[s.Key] = of
		for st := range of {
			p.spread[st]++
		}
	})
	return p
}

// best is the section whose profile shares most with some stems, beyond a least score: a
// stem that many sections have counts less.
func (p profiles) best(outline []Section, stems []string, common map[string]bool, least float64) *Section {
	var best *Section
	each(outline, func(s *Section) {
		score := 0.0
		for _, st := range stems {
			if !common[st] {
				score += p.of[s.Key][st] / max(p.spread[st], 1)
			}
		}
		if score > least {
			best, least = s, score
		}
	})
	return best
}

// pageSection is a section of a page.
type pageSection struct{ rank, section int }

// fewestAnswers is in how many pages' sections on one matter a question must be answered to stand under it by that alone. Our own.
const fewestAnswers = 2

// answering is the section of the outline that a question belongs to: the one with the greatest sum of its share of the pages' sections
// that answer it, of the words that both have, and of a heading that stands whole within the question. nil where no section has enough of
// any of them.
func (p profiles) answering(outline []Section, answers []says.Answer, stems []string, common map[string]bool, lang *language.Language) *Section {
	votes, all := map[string]int{}, 0.0
	for _, a := range answers {
		if key, ok := p.at[pageSection{a.Rank, a.Section}]; ok {
			votes[key]++
			all++
		}
	}
	var best *Section
	most := 0.0
	each(outline, func(s *Section) {
		score, like, named, telling := 0.0, 0.0, 0.0, false
		for _, st := range stems {
			w := p.of[s.Key][st]
			if common[st] || w == 0 {
				continue
			}
			like += w / max(p.spread[st], 1)
			if w == 1 { // it stands in the headings of the matter
				named += w / max(p.spread[st], 1)
			}
		}
		if n := votes[s.Key]; n >= fewestAnswers && (2*n >= len(answers) || like > 0) {
			score = float64(votes[s.Key]) / all
		}
		heading := lang.ContentStems(s.Heading)
		for _, st := range heading {
			telling = telling || !p.keyword[st]
		}
		if telling && !slices.ContainsFunc(heading, func(st string) bool { return !slices.Contains(stems, st) }) {
			score++
		}
		if score == 0 && named <= minForQuestion && (like <= minForQuestion || len(answers) == 0) {
			return // where no page answers it, the words of a section's text say nothing
		}
		if score += like; score > most {
			best, most = s, score
		}
	})
	return best
}

// langOf is the language of a brief.
func langOf(b *Brief) *language.Language { return language.For(b.Language) }

// byHand is the section that a person put a finding under; nil where nobody did, or where the
// section is gone.
func (b *Brief) byHand(c Choices, k Kind, key string) (at *Section) {
	want := textOf(c.TypedIn(AtField(k, key)))
	if want == "" {
		return nil
	}
	each(b.Outline, func(s *Section) {
		if s.Key == want {
			at = s
		}
	})
	return at
}

// minForQuestion is the score from which a question belongs under a section: a word that
// leads two sections is enough, a vaguer one is not. Our own.
const minForQuestion = 0.24

// placeQuestions puts each question under the section of the outline that answers it, on two pages and more, else under that whose
// headings and leading words it shares most with; one that a person put somewhere stands there.
func placeQuestions(b *Brief, e *evidence.Evidence, c Choices, p profiles) {
	lang := langOf(b)
	common := commonStems(b.Questions, b.Keyword, lang)
	answers := map[string][]says.Answer{}
	for _, q := range e.Questions {
		answers[q.Key] = q.AnsweredBy
	}
	stood := b.stoodUnder(c, stoodQuestions)
	for i := range b.Questions {
		q := &b.Questions[i]
		best := b.byHand(c, QuestionKind, q.Key)
		if best == nil {
			best = stood(q.Text)
		}
		if best == nil && !c.basis.had(QuestionKind, q.Key) {
			stems := lang.ContentStems(q.Text)
			best = p.answering(b.Outline, answers[q.Key], stems, common, lang)
		}
		if best == nil {
			continue
		}
		q.Section = best.Heading
		if !strings.EqualFold(strings.TrimRight(best.Heading, "?"), strings.TrimRight(q.Text, "?")) {
			best.Questions = append(best.Questions, q.Text)
		}
	}
	b.keepStood(c, QuestionKind, stoodQuestions, func(s *Section) *[]string { return &s.Questions })
}

func stoodQuestions(x *Stood) []string { return x.Questions }
func stoodTerms(x *Stood) []string     { return x.Terms }

// How terms are put under sections. Our own: half of a section's leading words, or a word
// of its headings that no other has.
const (
	minForTerm = 0.32
	maxOfTerms = 8 // under one section
)

// placeTerms puts each term of the brief under the section it belongs to most. A term of the
// keyword's own words belongs to all of them, and so to none.
func placeTerms(b *Brief, c Choices, p profiles) {
	lang := langOf(b)
	common := map[string]bool{}
	for _, st := range lang.ContentStems(b.Keyword) {
		common[st] = true
	}
	stood := b.stoodUnder(c, stoodTerms)
	for _, t := range b.Terms {
		if at := b.byHand(c, TermKind, t.Key); at != nil {
			at.Terms = append(at.Terms, t.Term)
			continue
		}
		if at := stood(t.Term); at != nil {
			at.Terms = append(at.Terms, t.Term)
			continue
		}
		if c.basis.had(TermKind, t.Key) {
			continue // it stood under none
		}
		if best := p.best(b.Outline, lang.ContentStems(t.Term), common, minForTerm); best != nil && len(best.Terms) < maxOfTerms {
			best.Terms = append(best.Terms, t.Term)
		}
	}
	b.keepStood(c, TermKind, stoodTerms, func(s *Section) *[]string { return &s.Terms })
}

// commonStems are the keyword's own, and those that a quarter of the questions
// have ("cycle", "work"): they do not tell one section from another.
func commonStems(questions []Question, keyword string, lang *language.Language) map[string]bool {
	common, in := map[string]bool{}, map[string]int{}
	for _, s := range lang.ContentStems(keyword) {
		common[s] = true
	}
	for _, q := range questions {
		stems := lang.ContentStems(q.Text)
		slices.Sort(stems)
		for _, s := range slices.Compact(stems) {
			if in[s]++; in[s] >= max(3, (len(questions)+3)/4) {
				common[s] = true
			}
		}
	}
	return common
}

func profile(t themes.Theme, lang *language.Language) map[string]float64 {
	p := map[string]float64{}
	for _, s := range t.Terms {
		p[s] = 0.5
	}
	for _, m := range t.Members {
		weight := 1.0
		if _, asks := lang.KindOfQuestion(m.Text); asks { // it has words of any question: "How do I stop …?"
			weight = 0.5
		}
		for _, s := range lang.ContentStems(m.Text) {
			p[s] = max(p[s], weight)
		}
	}
	return p
}
