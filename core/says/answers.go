package says

import (
	"slices"

	"corpulan/core/language"
	"corpulan/core/text"
)

// Answer is a place where a text says what is asked.
type Answer struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Heading string `json:"heading"`
	Words   int    `json:"words"`
	By      string `json:"by"`             // "FAQ", "heading", "section", "text" or "page"
	Text    string `json:"text,omitempty"` // the passage that answers, how it begins
	Form    Form   `json:"form,omitempty"`

	Stance language.Stance `json:"stance,omitempty"` // where a page asks for yes or no itself, and begins its answer with either
}

// least are the log-odds from which a section is said to answer: it is likelier than not.
const least = 0.0 // our own

// Answers finds where the texts say what is asked, in any of some wordings of one question, the first of which
// leads: in FAQ markup or under a heading that asks it, or in the section that the judge finds likeliest.
func (t *Texts) Answers(wordings ...Asked) []Answer {
	found := []Answer{}
	lead := wordings[0]
	for _, w := range wordings {
		if lead.About.Theme == 0 || lead.About.Theme == w.About.Theme && w.About.Whole > lead.About.Whole {
			lead.About = w.About
		}
	}
	all := t.candidates(lead, t.wanted(lead))
	for i := range t.Docs {
		if a, ok := t.byItself(i, wordings); ok {
			found = append(found, a)
		} else if a, ok := t.behindIt(i, lead); ok {
			found = append(found, a)
		} else if a, ok := t.likeliest(i, lead, all[i]); ok {
			found = append(found, a)
		}
	}
	return found
}

// AnswerOf is where one text says what is asked.
func (t *Texts) AnswerOf(rank int, q Asked) (Answer, bool) {
	if q.About.Theme == 0 {
		q.About = t.AboutOf(q)
	}
	i := slices.Index(t.Ranks, rank)
	if a, ok := t.behindIt(i, q); ok {
		return a, true
	}
	return t.likeliest(i, q, t.candidates(q, t.wanted(q))[i])
}

// under is the answer that a section is.
func (t *Texts) under(i, n int, by string, lead Asked) Answer {
	s := t.Docs[i].Reading.Sections[n]
	return Answer{t.Ranks[i], n, s.Heading, s.Words, by, t.answerText(i, n, lead.Stems), formOf(s, lead.Kind), ""}
}

// stance is whether an answer says yes or no to a question that asks for either.
func (t *Texts) stance(q Asked, answer string) language.Stance {
	if q.Kind != language.YesNo {
		return ""
	}
	return t.Language.StanceOf(answer)
}

// byItself is the answer of a text that asks the question itself.
func (t *Texts) byItself(i int, wordings []Asked) (Answer, bool) {
	d := t.Docs[i]
	for _, w := range wordings {
		if w.Rank != t.Ranks[i] {
			continue
		}
		switch w.Place {
		case "heading":
			if d.Reading.Sections[w.Section].Words >= minAnswer {
				a := t.under(i, w.Section, "heading", wordings[0])
				a.Stance = t.stance(w, d.Reading.Sections[w.Section].Text)
				return a, true
			}
		case "FAQ":
			for _, p := range d.Reading.FAQ {
				if text.WithoutNumber(p.Question) == w.Text && p.Answer != "" {
					return Answer{t.Ranks[i], -1, p.Question, text.CountWords(p.Answer), "FAQ", p.Answer, Prose, t.stance(w, p.Answer)}, true
				}
			}
		}
	}
	return Answer{}, false
}

// behindIt is the answer of a text that asks the question in its running text.
func (t *Texts) behindIt(i int, lead Asked) (Answer, bool) {
	for _, q := range t.asks(i) {
		if Same(lead, q.Asked, t.common) && (t.draft == nil || t.goesOn(i, q, lead)) {
			s := t.Docs[i].Reading.Sections[q.section]
			return Answer{t.Ranks[i], q.section, s.Heading, text.CountWords(q.behind), "text", q.behind, Prose, t.stance(q.Asked, q.behind)}, true
		}
	}
	return Answer{}, false
}

// goesOn tells whether what stands behind a question of a draft has what it asks for, or else takes up its words: who knows what will
// be asked can put the question before anything.
func (t *Texts) goesOn(i int, in inText, q Asked) bool {
	w, want := t.wanted(q), formOfAsked(q)
	var all forms
	most := 0.0
	for n := in.from; n < in.to; n++ {
		if t.draft(&t.Docs[i].Sentences[n]) {
			continue
		}
		said := t.saidBy(i, n, q, w)
		all = all.or(t.formsOf(i, n))
		share := 0.0
		for k, x := range w.words {
			share += said.parts[k] * x.weight
		}
		most = max(most, share)
	}
	if want != anyForm {
		return all.have(want)
	}
	return most >= enough*w.total
}

// likeliest is the section of a text that the judge finds likeliest to answer; the beginning of a text whose
// title has all that is asked, where no more is asked than the keyword.
func (t *Texts) likeliest(i int, lead Asked, list []judged) (Answer, bool) {
	if !lead.AsksMore(t.common) && lead.About.Theme == 0 {
		n, ok := t.pageAbout(i, lead)
		if !ok {
			return Answer{}, false
		}
		return t.under(i, n, "page", lead), true
	}
	j, ok := mostly(list, func(j judged) float64 { return j.odds })
	if !ok || j.odds < least || !t.isWhole(j) {
		return Answer{}, false
	}
	return t.under(i, j.section, "section", lead), true
}

// isWhole tells whether a section has all the things that are asked for, or is of the theme; where no dictionary
// tells things from what is done with them it is not demanded.
func (t *Texts) isWhole(j judged) bool {
	return j.whole || j.traits[OfTheme] > 0 || !t.Language.Senses
}

// pageAbout finds the beginning of a page whose title has all that a question asks which
// asks for no more than the keyword does: the page is its answer.
func (t *Texts) pageAbout(i int, q Asked) (section int, ok bool) {
	if len(q.Stems) == 0 {
		return 0, false
	}
	r := t.Docs[i].Reading
	title := t.Language.ContentStems(r.Title)
	if slices.ContainsFunc(q.Stems, func(s string) bool { return !slices.Contains(title, s) }) {
		return 0, false
	}
	for n, s := range r.Sections {
		if s.Words >= minAnswer {
			return n, true
		}
	}
	return 0, false
}

// Example is a text's likeliest section for what is asked, with its traits; ok is false where none comes into
// question.
func (t *Texts) Example(rank int, q Asked, by *Judge) (traits Judge, ok bool) {
	i := slices.Index(t.Ranks, rank)
	q.About = t.AboutOf(q)
	j, ok := mostly(t.candidates(q, t.wanted(q))[i], func(j judged) float64 { return by.odds(j.traits) })
	return j.traits, ok
}
