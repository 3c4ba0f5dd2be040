// Package questions finds what a field asks, in however many wordings, and where
// its pages answer it:
//
//   - find.go     the questions of a field, each with its wordings
//   - perhaps.go  questions that may be the same, for a person to join
//   - form.go     what form a short answer should have
//
// Where they are answered is judged in core/says.
package questions

import (
	"cmp"
	"context"
	"iter"
	"maps"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/says"
	"corpulan/core/text"
)

// Question is one thing people ask, however it is worded.
type Question struct {
	Key        string                `json:"key"`
	Text       string                `json:"text"`
	Kind       language.QuestionKind `json:"kind"`
	Wordings   []says.Wording        `json:"wordings"`
	OnResults  bool                  `json:"on_results"`         // the results page shows it
	AskedBy    []int                 `json:"asked_by"`           // ranks of the pages that ask it
	AnsweredBy []says.Answer         `json:"answered_by"`        // in rank order
	Perhaps    []string              `json:"perhaps"`            // keys of questions that may be the same
	Form       says.Form             `json:"form"`               // that a short answer should have
	FormNow    says.Form             `json:"form_now,omitempty"` // that most answers have
	Far        bool                  `json:"far,omitempty"`      // see isFar
}

// Recommended tells whether a question may be proposed for a brief: the results
// page shows it, two pages ask it, or a page that is about the keyword makes a heading or
// FAQ entry of it.
func (q Question) Recommended() bool {
	if q.OnResults || len(q.AskedBy) >= 2 {
		return true
	}
	return !q.Far && slices.ContainsFunc(q.Wordings, func(w says.Wording) bool { return w.Place != "text" })
}

// Saying are the ranks of the pages that say yes, or no, to the question.
func (q Question) Saying(what language.Stance) (ranks []int) {
	for _, a := range q.AnsweredBy {
		if a.Stance == what {
			ranks = append(ranks, a.Rank)
		}
	}
	return ranks
}

// Find collects what the results page and the pages ask, brings the wordings of
// one question together, and finds where the pages answer it. notes say what was
// left out. What the house has taught to be one question is. It stops, with what it has, when ctx ends.
func Find(ctx context.Context, texts *says.Texts, onResults []string, taught *house.Lexicon) (found []Question, notes []message.Message) {
	f := texts.Field
	common := maps.Clone(f.KeywordStems())
	all, notes := collectAsked(f, onResults, common)
	for i := range all {
		all[i].About = texts.AboutOf(all[i])
	}
	groups := joinTaught(groupQuestions(all, common), f.Language, taught)
	list := []Question{}
	for _, g := range groups {
		if ctx.Err() != nil {
			break
		}
		q := Question{Text: g[0].Text, Kind: g[0].Kind, AskedBy: []int{}}
		for _, w := range g {
			q.Wordings = append(q.Wordings, w.Wording)
			if w.Rank == 0 {
				q.OnResults = true
			} else if !slices.Contains(q.AskedBy, w.Rank) {
				q.AskedBy = append(q.AskedBy, w.Rank)
			}
		}
		slices.Sort(q.AskedBy)
		q.Key = string(q.Kind) + " " + strings.Join(g[0].Stems, " ")
		q.AnsweredBy = texts.Answers(g...)
		q.Far = isFar(f, g)
		q.Form, q.FormNow = advised(q.Kind, q.Text, q.AnsweredBy), usual(q.AnsweredBy)
		list = append(list, q)
	}
	perhaps(list, groups, common)
	slices.SortStableFunc(list, func(a, b Question) int {
		return cmp.Or(boolOrder(a.OnResults, b.OnResults), len(b.AskedBy)-len(a.AskedBy), placeOrder(a.Wordings[0].Place)-placeOrder(b.Wordings[0].Place), strings.Compare(a.Text, b.Text))
	})
	return list, notes
}

// groupQuestions puts each wording to the first group whose leading wording asks the same, or opens a new one.
func groupQuestions(all []says.Asked, common map[string]bool) [][]says.Asked {
	var groups [][]says.Asked
next:
	for _, a := range all {
		for i, g := range groups {
			if says.Same(g[0], a, common) {
				groups[i] = append(g, a)
				continue next
			}
		}
		groups = append(groups, []says.Asked{a})
	}
	return groups
}

// aboutKeyword is the nearness from which all that a page asks is of its keyword: some of its
// stems stand in the title, the others in headings. Our own.
const aboutKeyword = 0.6

// isFar tells whether a question has nothing to do with the keyword: no wording has a word
// of it, and each stands in a section that has none, of a page that is about something else
// besides, such as a chapter of a manual.
func isFar(f *corpus.Field, wordings []says.Asked) bool {
	near := f.Nearness()
	for _, w := range wordings {
		page := slices.Index(f.Ranks, w.Rank)
		if page < 0 || near.Pages[page] >= aboutKeyword || near.Sections[page] == nil {
			return false
		}
		if w.Section >= 0 && near.Sections[page][w.Section] > 0 || slices.ContainsFunc(w.Stems, f.IsOfKeyword) {
			return false
		}
	}
	return true
}

func boolOrder(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return -1
	}
	return 1
}

func placeOrder(place string) int {
	return slices.Index([]string{"results page", "FAQ", "heading", "text"}, place)
}

// collectAsked lists every wording in the order of its authority: results
// page, FAQ markup, headings, running text.
func collectAsked(f *corpus.Field, onResults []string, common map[string]bool) (all []says.Asked, notes []message.Message) {
	add := func(q, place string, rank, section int) {
		a := says.Ask(f.Language, q)
		a.Wording = says.Wording{Text: q, Rank: rank, Place: place, Section: section}
		for _, t := range a.Tokens() { // a compound with it as well, in languages that join words
			if f.IsOfKeyword(t) {
				common[t] = true
			}
		}
		// In running text a question without two content words is a turn of phrase.
		if len(a.Stems) == 0 || place == "text" && (!a.AsksMore(common) || len(a.Stems) < 2) {
			return
		}
		all = append(all, a)
	}
	// Each place of each page has a share, so that one page cannot crowd out the rest.
	share, cut := max(maxAsked/(3*len(f.Docs)+1), 5), 0
	for _, q := range onResults[:min(len(onResults), share)] {
		add(q, "results page", 0, -1)
	}
	for _, place := range []string{"FAQ", "heading", "text"} {
		for i, d := range f.Docs {
			start := len(all)
			for q, section := range asks(d, place, f.Language) {
				if len(all)-start >= share {
					cut++
					break
				}
				add(q, place, f.Ranks[i], section)
			}
		}
	}
	if cut > 0 {
		notes = append(notes, message.Of("Pages ask more questions than can be compared; the first %d of each kind of place on a page are.", share))
	}
	return all, notes
}

// asks are the questions of one place of a page, each with its section; -1 for FAQ markup. Those in another language
// are left out.
func asks(d *corpus.Doc, place string, lang *language.Language) iter.Seq2[string, int] {
	return func(yield func(string, int) bool) {
		ask := func(q string, section int) bool { return d.IsForeignLine(q) || yield(q, section) }
		if place == "FAQ" {
			for _, p := range d.Reading.FAQ {
				if !ask(text.WithoutNumber(p.Question), -1) {
					return
				}
			}
			return
		}
		words := 0
		for n, s := range d.Reading.Sections {
			if place == "heading" {
				if q := text.WithoutNumber(s.Heading); s.Level > 1 && lang.IsQuestionHeading(q) && !ask(q, n) {
					return
				}
				continue
			}
			if words >= corpus.MaxWords {
				return
			}
			words += s.Words
			for _, q := range s.Asks(lang) {
				if !ask(q, n) {
					return
				}
			}
		}
	}
}

// maxAsked is how many wordings of questions are compared with one another, and
// looked for on every page. Our own bound; a field of a hundred pages asks some
// hundreds.
const maxAsked = 3000
