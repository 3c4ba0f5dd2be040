package evidence

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/text"
)

// Question is one thing people ask, however it is worded.
type Question struct {
	Key        string                `json:"key"`
	Text       string                `json:"text"`
	Kind       language.QuestionKind `json:"kind"`
	Wordings   []Wording             `json:"wordings"`
	OnResults  bool                  `json:"on_results"`  // the results page shows it
	AskedBy    []int                 `json:"asked_by"`    // ranks of the pages that ask it
	AnsweredBy []Answer              `json:"answered_by"` // in rank order
}

// Wording is one way the question was put, and where.
type Wording struct {
	Text    string `json:"text"`
	Rank    int    `json:"rank"`  // 0 for the results page
	Place   string `json:"place"` // "results page", "FAQ", "heading" or "text"
	Section int    `json:"section"`
}

// Answer is a place where a page answers the question.
type Answer struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Heading string `json:"heading"`
	Words   int    `json:"words"`
	By      string `json:"by"` // "FAQ", "heading" or "section"
}

// Recommended tells whether a question may be proposed for a brief: the results
// page shows it, two pages ask it, or a page makes a heading or FAQ entry of it.
func (q Question) Recommended() bool {
	if q.OnResults || len(q.AskedBy) >= 2 {
		return true
	}
	return slices.ContainsFunc(q.Wordings, func(w Wording) bool { return w.Place != "text" })
}

// sameQuestion is the weighted Jaccard similarity from which two wordings
// count as one question; fixed against the pairs in questions_test.go.
const sameQuestion = 0.62

// asked is a wording with what it is compared by.
type asked struct {
	Wording
	kind  language.QuestionKind
	stems []string // content stems, sorted, each once
	full  bool     // it asks something beyond the keyword itself
}

func (f *field) questions(onResults []string) []Question {
	common := map[string]bool{}
	for _, s := range f.lang.ContentStems(f.keyword) {
		common[s] = true
	}
	groups := groupQuestions(f.collectAsked(onResults, common), common)
	list := []Question{}
	for _, g := range groups {
		if f.ctx.Err() != nil {
			break
		}
		q := Question{Text: g[0].Text, Kind: g[0].kind, AskedBy: []int{}}
		for _, w := range g {
			q.Wordings = append(q.Wordings, w.Wording)
			if w.Rank == 0 {
				q.OnResults = true
			} else if !slices.Contains(q.AskedBy, w.Rank) {
				q.AskedBy = append(q.AskedBy, w.Rank)
			}
		}
		slices.Sort(q.AskedBy)
		q.Key = string(q.Kind) + " " + strings.Join(g[0].stems, " ")
		q.AnsweredBy = f.answers(g, common)
		list = append(list, q)
	}
	slices.SortStableFunc(list, func(a, b Question) int {
		return cmp.Or(boolOrder(a.OnResults, b.OnResults), len(b.AskedBy)-len(a.AskedBy), placeOrder(a.Wordings[0].Place)-placeOrder(b.Wordings[0].Place), strings.Compare(a.Text, b.Text))
	})
	return list
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
func (f *field) collectAsked(onResults []string, common map[string]bool) []asked {
	var all []asked
	add := func(q, place string, rank, section int) {
		a := asked{Wording: Wording{q, rank, place, section}, stems: f.questionStems(q)}
		a.kind, _ = f.lang.KindOfQuestion(q)
		for _, s := range a.stems {
			a.full = a.full || !common[s]
		}
		// In running text a question without two content words is a turn of phrase.
		if len(a.stems) == 0 || place == "text" && (!a.full || len(a.stems) < 2) {
			return
		}
		all = append(all, a)
	}
	// Each place of each page has a share, so that one page cannot crowd out the rest.
	share := max(mostAsked/(3*len(f.docs)+1), 5)
	start, cut := 0, 0
	full := func() bool {
		if len(all)-start < share {
			return false
		}
		cut++
		return true
	}
	for _, q := range onResults[:min(len(onResults), share)] {
		add(q, "results page", 0, -1)
	}
	for i, d := range f.docs {
		start = len(all)
		for _, p := range d.Reading.FAQ {
			if full() {
				break
			}
			add(p.Question, "FAQ", f.ranks[i], -1)
		}
	}
	for i, d := range f.docs {
		start = len(all)
		for n, s := range d.Reading.Sections {
			if full() {
				break
			}
			if s.Level > 1 && f.lang.IsQuestionHeading(s.Heading) {
				add(s.Heading, "heading", f.ranks[i], n)
			}
		}
	}
	for i, d := range f.docs {
		start = len(all)
		asked := 0
		for n, s := range d.Reading.Sections {
			if asked >= mostWords || full() {
				break
			}
			asked += s.Words
			for _, q := range s.Asks(f.lang) {
				if full() {
					break
				}
				add(q, "text", f.ranks[i], n)
			}
		}
	}
	if cut > 0 {
		f.note("Pages ask more questions than can be compared; the first %d of each kind of place on a page are.", share)
	}
	return all
}

// mostAsked is how many wordings of questions are compared with one another, and
// looked for on every page. Our own bound; a field of a hundred pages asks some
// hundreds.
const mostAsked = 3000

func (f *field) questionStems(q string) []string {
	light := map[string]bool{} // "need", "use": they say nothing of what is asked about
	text.EachWord(q, func(w text.Span) {
		if folded := text.Fold(w.Of(q)); f.lang.Light(folded) {
			light[f.lang.StemFolded(folded)] = true
		}
	})
	stems := slices.DeleteFunc(f.lang.ContentStems(q), func(s string) bool { return light[s] })
	slices.Sort(stems)
	return slices.Compact(stems)
}

// groupQuestions puts each wording to the first group whose leading wording
// asks the same, or opens a new one.
func groupQuestions(all []asked, common map[string]bool) [][]asked {
	var groups [][]asked
next:
	for _, a := range all {
		for i, g := range groups {
			if sameAsking(g[0], a, common) {
				groups[i] = append(g, a)
				continue next
			}
		}
		groups = append(groups, []asked{a})
	}
	return groups
}

// sameAsking compares two questions by their content stems. The words of the
// keyword stand in nearly every question of its field and so weigh less.
func sameAsking(a, b asked, common map[string]bool) bool {
	if !kindsAgree(a.kind, b.kind) {
		return false
	}
	const ofKeyword = 0.3
	weight := func(s string) float64 {
		if common[s] {
			return ofKeyword
		}
		return 1
	}
	shared, all := 0.0, 0.0
	for _, s := range a.stems {
		all += weight(s)
		if slices.Contains(b.stems, s) {
			shared += weight(s)
		}
	}
	for _, s := range b.stems {
		if !slices.Contains(a.stems, s) {
			all += weight(s)
		}
	}
	return all > 0 && shared/all >= sameQuestion
}

// kindsAgree holds apart questions that share their words but ask for
// different things: when against where.
func kindsAgree(a, b language.QuestionKind) bool {
	loose := func(k language.QuestionKind) bool {
		return k == language.What || k == language.YesNo || k == language.How || k == language.Which
	}
	return a == b || loose(a) && loose(b)
}

// answers finds where the pages answer a group of wordings: in FAQ markup,
// under a heading that asks it, or in a section that holds all it is about.
func (f *field) answers(group []asked, common map[string]bool) []Answer {
	found := []Answer{}
	for i, d := range f.docs {
		if a, ok := f.answerIn(i, d, group, common); ok {
			found = append(found, a)
		}
	}
	return found
}

// leastAnswer is how many words under a heading count as an answer.
const leastAnswer = 15

func (f *field) answerIn(i int, d *Doc, group []asked, common map[string]bool) (Answer, bool) {
	rank := f.ranks[i]
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
	for n, stems := range d.sections {
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
