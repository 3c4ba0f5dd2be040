package questions

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"
)

// answerer finds where pages answer a question, in one field.
type answerer struct {
	*corpus.Field
	common   map[string]bool // stems of the keyword
	headings [][][]string    // content stems of each section's heading, by page
	idf      func(stem string) float64
	headed   *headed            // sections of themes
	forms    map[[2]int]held    // by page and section, as they are asked for
	blocks   map[[2]int][]block // by page and section, as they are asked for
}

func newAnswerer(f *corpus.Field, common map[string]bool) *answerer {
	a := &answerer{f, common, make([][][]string, len(f.Docs)), f.SectionIDF(), headingsOf(f, nil), map[[2]int]held{}, map[[2]int][]block{}}
	for i, d := range f.Docs {
		for n := range d.Sections {
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

// AnswersOf are the places where the pages of a field answer one question, none of which
// need ask it.
func AnswersOf(f *corpus.Field, question string) []Answer {
	w := askedOf(f.Language, question)
	common := f.KeywordStems()
	w.fill(common)
	return newAnswerer(f, common).answers([]asked{w})
}

// minAnswer is how many words under a heading count as an answer.
// Our own: a sentence.
const minAnswer = 15

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
			if d.Reading.Sections[w.Section].Words >= minAnswer {
				return under(w.Section, "heading")
			}
		case "FAQ":
			for _, p := range d.Reading.FAQ {
				if text.WithoutNumber(p.Question) == w.Text && p.Answer != "" {
					return Answer{rank, -1, p.Question, text.CountWords(p.Answer), "FAQ", p.Answer, Prose}, true
				}
			}
		}
	}
	if n, ok := a.sectionOfTheme(page, d, group); ok {
		return under(n, "section")
	}
	if n, ok := a.sectionAbout(page, d, lead); ok {
		return under(n, "section")
	}
	if n, ok := a.pageAbout(d, lead); ok {
		return under(n, "page")
	}
	return Answer{}, false
}

// hasForm tells whether a section has what a question asks for: a sum where it asks for a price, a number where
// it asks how much, how often or how long.
func (a *answerer) hasForm(page, section int, q asked) bool {
	if q.kind != language.HowMuch && q.matter != language.Price && q.matter != language.HowOften && q.matter != language.HowLong {
		return true
	}
	at := [2]int{page, section}
	form, known := a.forms[at]
	if !known {
		d := a.Docs[page]
		for i := range d.Sentences {
			s := &d.Sentences[i]
			if s.Section != section || s.Heading {
				continue
			}
			for _, t := range s.Tokens {
				form.number = form.number || t.Number || a.Language.IsNumber(t.Folded) || a.Language.IsUnit(t.Folded)
			}
			form.money = form.money || slices.ContainsFunc(s.Figures(a.Language), func(x corpus.Figure) bool { return x.Money })
		}
		a.forms[at] = form
	}
	if q.matter == language.Price {
		return form.money
	}
	return form.number
}

// held is what a section holds that a question may ask for.
type held struct{ number, money bool }

// sectionOfTheme finds the section in which a page treats the matter that a question asks about, the longest.
func (a *answerer) sectionOfTheme(page int, d *corpus.Doc, group []asked) (section int, ok bool) {
	for _, w := range group {
		if w.theme == 0 {
			continue
		}
		for _, n := range a.headed.sections[w.theme][page] {
			if words := d.Reading.Sections[n].Words; words >= minAnswer && a.hasForm(page, n, w) && (!ok || words > d.Reading.Sections[section].Words) {
				section, ok = n, true
			}
		}
		return section, ok
	}
	return 0, false
}

// How much of what is asked beyond the keyword a section must hold, all our own: the
// weights of stems are their inverse section frequency, those of verbs and adjectives a
// part of it, since answers put them in other words.
const (
	wholly     = 0.99 // of the nouns, in a section whose heading has none of them
	mostly     = 0.7  // of all, in one whose heading has the stem that says most
	ofWeak     = 0.3
	fewestUses = 2 // of the stem that says most
)

// sectionAbout finds the section that is about what is asked: its heading has the stem
// that says most and it holds most of the others, or it holds all the nouns, the one that
// says most twice. A question with one noun beyond the keyword ("What does it cost?") is
// answered only under a heading that has it, since nothing else says what is asked about.
func (a *answerer) sectionAbout(page int, d *corpus.Doc, q asked) (section int, ok bool) {
	w := a.weigh(q)
	if w.most == "" {
		return 0, false
	}
	best := 0.0
	for n, have := range d.Sections {
		if d.Reading.Sections[n].Words < minAnswer { // which is quickly seen
			continue
		}
		if !a.hasForm(page, n, q) {
			continue
		}
		headed := a.headedBy(page, n, w.most)
		if have[w.most] == 0 && !headed {
			continue
		}
		if score := w.score(q, have, headed); score > best {
			best, section, ok = score, n, true
		}
	}
	return section, ok
}

// weighed is what is asked beyond the keyword, by weight.
type weighed struct {
	weight map[string]float64 // of each stem that is not common
	total  float64            // of all
	strong float64            // of the nouns
	nouns  int
	most   string // the stem that says most; empty if there is none
}

func (a *answerer) weigh(q asked) weighed {
	w := weighed{weight: map[string]float64{}}
	for _, s := range q.stems {
		if a.common[s] {
			continue
		}
		w.weight[s] = a.idf(s)
		if q.weak[s] {
			w.weight[s] *= ofWeak
		} else {
			w.strong += w.weight[s]
			w.nouns++
		}
		w.total += w.weight[s]
		if w.most == "" || w.weight[s] > w.weight[w.most] {
			w.most = s
		}
	}
	return w
}

// score tells how much of what is asked a section holds; 0 if too little.
func (w weighed) score(q asked, have map[string]int, headed bool) float64 {
	held, nouns, uses := 0.0, 0.0, 0
	for _, s := range q.stems {
		uses += have[s]
		if have[s] > 0 || s == w.most && headed {
			held += w.weight[s]
			if !q.weak[s] {
				nouns += w.weight[s]
			}
		}
	}
	held /= w.total
	score := held + float64(uses)/float64(uses+len(q.stems))
	switch {
	case held < mostly:
		return 0
	case headed:
		return score + 1
	case w.nouns > 1 && nouns >= wholly*w.strong && have[w.most] >= fewestUses:
		return score
	}
	return 0
}

// shortestHead is how many letters the last word of a compound has at least to stand for
// it. Our own.
const shortestHead = 5

// headedBy tells whether a section's heading has a stem, or the head of the compound that
// it is: "Schloss" for "Fahrradschloss".
func (a *answerer) headedBy(page, section int, stem string) bool {
	return slices.ContainsFunc(a.headings[page][section], func(h string) bool {
		return h == stem || a.Language.JoinsWords && len(h) >= shortestHead && strings.HasSuffix(stem, h)
	})
}

// pageAbout finds the beginning of a page whose title has all that a question asks which
// asks for no more than the keyword does: the page is its answer.
func (a *answerer) pageAbout(d *corpus.Doc, q asked) (section int, ok bool) {
	if q.full || len(q.stems) == 0 {
		return 0, false
	}
	title := a.Language.ContentStems(d.Reading.Title)
	if slices.ContainsFunc(q.stems, func(s string) bool { return !slices.Contains(title, s) }) {
		return 0, false
	}
	for n, s := range d.Reading.Sections {
		if s.Words >= minAnswer {
			return n, true
		}
	}
	return 0, false
}
