package evidence

import (
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/entities"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/points"
	"corpulan/core/questions"
	"corpulan/core/says"
	"corpulan/core/stats"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"
)

// Kind is what sort of finding something is.
type Kind string

// The kinds of finding that a brief can hold.
const (
	TermKind     Kind = "term"
	EntityKind   Kind = "entity"
	QuestionKind Kind = "question"
	ThemeKind    Kind = "theme"
	PointKind    Kind = "point" // what a section is to say
	FactKind     Kind = "fact"  // a figure to be checked
	LinkKind     Kind = "link"  // an address to link to
	ThingKind    Kind = "thing" // what pages list under its name
)

// Finding is one finding of any kind, as tables, drawers, decisions and exports have it.
type Finding struct {
	Key  string
	Text string
	Made []string // what it is made of: keys, or texts (see KindOf.ByKeys)
	Said []string // how else it is worded: shapes, wordings, headings

	Note string          // its tier, type, kind, level or theme
	Flag message.Message // why it is out by default
	More message.Message // what tells more of it
	Long string          // what an abbreviation stands for; the day of a fact

	Pages  int
	Counts []int // how much of it each page has, in the order of Sources
	Times  []int // how often each page has it, where Counts are words
	Total  int
	Range  stats.Range
	Even   int // percent: how evenly the pages use it, or how salient it is

	Of any // a pointer to what the finder made

	// Made when they are asked for: what stands beside its name where it is opened, and what a table
	// has of it behind its text: a cell for each further column; nil where there is none.
	About func() message.Message
	Cells func() []any
}

// Passage is a place in a page that a finding is of.
type Passage struct {
	Rank    int
	Section int // -1 where it is in none
	Place   message.Message
	Heading string
	Text    string // empty: that of the section
	Made    bool   // the text is put together: no page has it so
	Words   int
}

// KindOf is all that has to be known of a kind of finding.
type KindOf struct {
	Kind     Kind
	Name     string            // of its table
	Columns  []message.Message // of its table, the first for its text
	ByKeys   bool              // it is made of keys, which are compared as they are; else of texts, by their stems
	Worded   bool              // a decision that has lost it finds it again by any of its wordings
	Searched bool              // lists of keywords may know it as a query
	Moves    bool              // a brief that stands is told of it when the field has moved, not when a bound has

	find     func(e *Evidence, add func(Finding))
	lines    func(e *Evidence, pages []corpus.RankedPage, f Finding) []corpus.ConcordanceLine
	passages func(e *Evidence, pages []corpus.RankedPage, f Finding) []Passage
}

var kinds = []KindOf{
	{Kind: TermKind, Name: "terms", ByKeys: true, Worded: true, Searched: true, Moves: true, find: termsFound,
		Columns: []message.Message{"term", "shapes", "tier", "pages", "uses", "per page, lower quartile", "per page, median", "per page, upper quartile", "per 1,000 words, lower quartile", "per 1,000 words, median", "per 1,000 words, upper quartile",
			"in titles", "in headings", "in openings", "in image texts", "dispersion DP", "G² against general language", "log ratio", "C-value", "nearness to the keyword", "semantic field", "short forms", "out by default"},
		lines: func(_ *Evidence, pages []corpus.RankedPage, f Finding) []corpus.ConcordanceLine {
			return corpus.Concordance(pages, f.Of.(*vocabulary.Term).Keys...)
		}},
	{Kind: EntityKind, Name: "entities", ByKeys: true, find: entitiesFound,
		Columns: []message.Message{"entity", "variants", "stands for", "type", "told by", "pages", "mentions", "salience", "out by default"},
		lines: func(e *Evidence, pages []corpus.RankedPage, f Finding) []corpus.ConcordanceLine {
			x := f.Of.(*entities.Entity)
			if x.Type == entities.ConceptType {
				return corpus.Concordance(pages, language.For(e.Language).PhraseKey(x.Name))
			}
			return corpus.Mentions(pages, x.Variants...)
		}},
	{Kind: QuestionKind, Name: "questions", Worded: true, Searched: true, Moves: true, find: questionsFound,
		Columns:  []message.Message{"question", "wordings", "kind", "on the results page", "asked by ranks", "answered by ranks"},
		passages: askedAndAnswered},
	{Kind: ThemeKind, Name: "themes", Worded: true, Moves: true, find: themesFound,
		Columns:  []message.Message{"theme", "headings", "pages", "usual place, 0 to 1", "usual level", "words, lower quartile", "words, median", "words, upper quartile"},
		passages: pointsIn},
	{Kind: PointKind, Name: "points", find: pointsFound,
		Columns:  []message.Message{"point", "theme", "words of rank", "said by ranks", "figures that differ"},
		passages: sayings},
	{Kind: FactKind, Name: "facts", find: factsFound,
		Columns: []message.Message{"fact", "kind", "figures", "words of rank", "given by ranks", "date of the page", "cites"},
		passages: func(_ *Evidence, _ []corpus.RankedPage, f Finding) []Passage {
			x := f.Of.(*Fact)
			var list []Passage
			for _, s := range x.Says {
				list = append(list, Passage{Rank: s.Rank, Section: s.Section, Place: message.Message(x.Kind), Text: s.Text})
			}
			return list
		}},
	{Kind: LinkKind, Name: "links", ByKeys: true, find: linksFound,
		Columns: []message.Message{"address", "kind of site", "anchor texts", "pages", "sentences"}},
	{Kind: ThingKind, Name: "listed", Worded: true, Moves: true, find: thingsFound,
		Columns:  []message.Message{"thing", "written", "pages", "positions", "verdicts", "price", "figures", "praised", "criticised", "pages differ"},
		passages: listings},
}

// Kinds lists them all, in the order of their tables.
func Kinds() []Kind {
	list := make([]Kind, len(kinds))
	for i, k := range kinds {
		list[i] = k.Kind
	}
	return list
}

// OfKind is what is to be known of a kind; false for one that is none.
func OfKind(k Kind) (KindOf, bool) {
	i := slices.IndexFunc(kinds, func(x KindOf) bool { return x.Kind == k })
	if i < 0 {
		return KindOf{}, false
	}
	return kinds[i], true
}

// Findings are those of a kind, in the field's own order.
func (e *Evidence) Findings(k Kind) (list []Finding) {
	if x, ok := OfKind(k); ok {
		x.find(e, func(f Finding) { list = append(list, f) })
	}
	return list
}

// Finding is the one of a kind and a key.
func (e *Evidence) Finding(k Kind, key string) (Finding, bool) {
	list := e.Findings(k)
	i := slices.IndexFunc(list, func(f Finding) bool { return f.Key == key })
	if i < 0 {
		return Finding{}, false
	}
	return list[i], true
}

// Lines are the sentences of the pages that have a finding; none for kinds that have passages.
func (e *Evidence) Lines(k Kind, f Finding, pages []corpus.RankedPage) []corpus.ConcordanceLine {
	if x, ok := OfKind(k); ok && x.lines != nil {
		return x.lines(e, pages, f)
	}
	return nil
}

// Passages are the places of the pages that a finding is of; none for kinds that have lines.
func (e *Evidence) Passages(k Kind, f Finding, pages []corpus.RankedPage) []Passage {
	if x, ok := OfKind(k); ok && x.passages != nil {
		return x.passages(e, pages, f)
	}
	return nil
}

func quartiles(r stats.Range) []any { return []any{r.Lower, r.Median, r.Upper} }

// onPages counts one for each page of some ranks.
func (e *Evidence) onPages(ranks ...int) []int {
	counts := make([]int, len(e.Sources))
	for i, s := range e.Sources {
		for _, r := range ranks {
			if r == s.Rank {
				counts[i]++
			}
		}
	}
	return counts
}

func termsFound(e *Evidence, add func(Finding)) {
	names := map[string]string{}
	for _, t := range e.Terms {
		names[t.Key] = t.Text
	}
	for i := range e.Terms {
		t := &e.Terms[i]
		f := Finding{Key: t.Key, Text: t.Text, Made: t.Keys, Note: string(t.Tier), Pages: t.Pages, Counts: t.Counts, Total: t.Count, Range: t.Use, Even: int(math.Round(100 * (1 - t.Spread))), Flag: t.Flag, Of: t}
		if t.YieldsTo != "" && f.Flag == "" {
			f.Flag = message.Of("stands for %s", names[t.YieldsTo])
		}
		for _, s := range t.Shapes {
			f.Said = append(f.Said, s.Text)
		}
		f.About = func() message.Message {
			if len(f.Said) < 2 {
				return ""
			}
			return message.Of("written %s", strings.Join(f.Said, ", "))
		}
		f.Cells = func() []any {
			return slices.Concat([]any{strings.Join(f.Said, "; "), message.Message(t.Tier), t.Pages, t.Count}, quartiles(t.Use), quartiles(t.Rate),
				[]any{t.Titles, t.Headings, t.Openings, t.Images, t.Spread, t.G2, t.LogRatio, t.CValue, t.Nearness, names[t.Field], strings.Join(t.Short, "; "), f.Flag})
		}
		add(f)
	}
}

func entitiesFound(e *Evidence, add func(Finding)) {
	for i := range e.Entities {
		x := &e.Entities[i]
		add(Finding{Key: x.Key, Text: x.Name, Made: []string{x.Key}, Said: x.Variants, Note: string(x.Type), Pages: x.Pages, Counts: x.Counts, Total: x.Mentions, Flag: x.Flag, More: x.Why,
			Even: int(math.Round(100 * x.Salience)), Long: x.Long, Of: x,
			About: func() message.Message {
				about := []message.Message{message.Of("%v: %v", message.Label(x.Type, "names"), x.Why)}
				if x.Long != "" {
					about = append(about, message.Of("stands for %s", x.Long))
				}
				if len(x.Variants) > 1 {
					about = append(about, message.Of("written %s", strings.Join(x.Variants, ", ")))
				}
				return message.Joined("; ", about...)
			},
			Cells: func() []any {
				return []any{strings.Join(x.Variants, "; "), x.Long, message.Label(x.Type, "names"), x.Why, x.Pages, x.Mentions, x.Salience, x.Flag}
			}})
	}
}

func questionsFound(e *Evidence, add func(Finding)) {
	for i := range e.Questions {
		q := &e.Questions[i]
		f := Finding{Key: q.Key, Text: q.Text, Note: string(q.Kind), Pages: len(q.AnsweredBy), Counts: make([]int, len(e.Sources)), Total: len(q.Wordings), Of: q}
		for _, w := range q.Wordings {
			f.Said = append(f.Said, w.Text)
		}
		f.Made = f.Said
		f.About = func() message.Message {
			about := message.Of("a short answer: %v", message.Message(q.Form))
			if q.FormNow != "" && q.FormNow != q.Form {
				about = message.Joined("; ", about, message.Of("the field has %v", message.Message(q.FormNow)))
			}
			if yes, no := q.Saying(language.SaysYes), q.Saying(language.SaysNo); len(yes) > 0 && len(no) > 0 {
				about = message.Joined("; ", about, stances(yes, no))
			}
			return about
		}
		var by []message.Message
		onResults := message.Message("")
		if q.OnResults {
			by, onResults = append(by, "results page"), "yes"
		}
		if len(q.AskedBy) > 0 {
			by = append(by, message.Counted(len(q.AskedBy), "page"))
		}
		f.More = message.Joined(", ", by...)
		ranks := []int{}
		for _, a := range q.AnsweredBy {
			ranks = append(ranks, a.Rank)
			for n, s := range e.Sources {
				if s.Rank == a.Rank {
					f.Counts[n] = a.Words
				}
			}
		}
		f.Times = e.onPages(ranks...)
		f.Cells = func() []any {
			return []any{strings.Join(f.Said, " / "), message.Message(q.Kind), onResults, q.AskedBy, ranks}
		}
		add(f)
	}
}

func askedAndAnswered(_ *Evidence, pages []corpus.RankedPage, f Finding) (list []Passage) {
	q := f.Of.(*questions.Question)
	for _, w := range q.Wordings {
		list = append(list, Passage{Rank: w.Rank, Section: -1, Place: message.Of("asked: %v", message.Message(w.Place)), Heading: w.Text})
	}
	for _, a := range q.AnsweredBy {
		p := Passage{Rank: a.Rank, Section: a.Section, Place: message.Of("answered: %v", message.Message(a.By)), Heading: a.Heading, Words: a.Words}
		if a.Section < 0 {
			p.Text = pairOf(pages, a)
		}
		list = append(list, p)
	}
	return list
}

// pairOf is the answer that structured data gives to a question.
func pairOf(pages []corpus.RankedPage, a says.Answer) string {
	for _, p := range pages {
		for _, pair := range p.Doc.Reading.FAQ {
			if p.Rank == a.Rank && pair.Question == a.Heading {
				return pair.Answer
			}
		}
	}
	return ""
}

func themesFound(e *Evidence, add func(Finding)) {
	for i := range e.Themes {
		t := &e.Themes[i]
		f := Finding{Key: t.Key, Text: t.Label, Note: message.Of("h%d", t.Level).String(), Pages: t.Pages, Counts: t.Counts, Total: len(t.Members), Range: t.Length, Of: t}
		for _, m := range t.Members {
			f.Said = append(f.Said, m.Text)
		}
		f.Made = f.Said
		if t.Generic {
			f.Flag = "says where it stands, not what it is about"
		}
		f.Cells = func() []any {
			return append([]any{strings.Join(f.Said, " / "), t.Pages, t.Place, t.Level}, quartiles(t.Length)...)
		}
		add(f)
	}
}

// pointsIn are what the pages state of a theme.
func pointsIn(e *Evidence, _ []corpus.RankedPage, f Finding) (list []Passage) {
	theme := f.Of.(*themes.Theme)
	for _, t := range e.Points {
		if t.Theme != theme.Key {
			continue
		}
		for _, p := range t.Points {
			list = append(list, Passage{Rank: p.Rank, Section: -1, Place: "says", Text: p.Text})
		}
	}
	return list
}

func pointsFound(e *Evidence, add func(Finding)) {
	labels := map[string]string{}
	for _, t := range e.Themes {
		labels[t.Key] = t.Label
	}
	for i := range e.Points {
		for n := range e.Points[i].Points {
			p := &e.Points[i].Points[n]
			f := Finding{Key: p.Key, Text: p.Text, Note: labels[e.Points[i].Theme], Pages: len(p.Ranks), Of: p}
			var says []int
			for _, s := range p.Says {
				f.Made = append(f.Made, s.Text)
				says = append(says, s.Rank)
			}
			f.Counts = e.onPages(says...)
			if len(p.Disputed) > 0 {
				f.Flag = "pages differ"
			}
			f.Cells = func() []any {
				var differ []string
				for _, d := range p.Disputed {
					for _, v := range d.Values {
						differ = append(differ, v.Text)
					}
				}
				return []any{f.Note, p.Rank, p.Ranks, strings.Join(differ, "; ")}
			}
			add(f)
		}
	}
}

func sayings(_ *Evidence, _ []corpus.RankedPage, f Finding) (list []Passage) {
	p := f.Of.(*points.Point)
	for _, s := range p.Says {
		list = append(list, Passage{Rank: s.Rank, Section: s.Section, Place: "says", Text: s.Text})
	}
	for _, s := range p.Against {
		list = append(list, Passage{Rank: s.Rank, Section: s.Section, Place: "says otherwise", Text: s.Text})
	}
	return list
}

func factsFound(e *Evidence, add func(Finding)) {
	for i := range e.Facts {
		x := &e.Facts[i]
		f := Finding{Key: x.Key, Text: x.Text, Note: string(x.Kind), More: message.Text(strings.Join(x.Figures, ", ")), Total: x.Rank, Long: x.Date, Of: x, Counts: e.onPages(x.Ranks()...),
			Cells: func() []any {
				return []any{message.Message(x.Kind), strings.Join(x.Figures, "; "), x.Rank, x.Ranks(), x.Date, x.Cites}
			}}
		for _, s := range x.Says {
			f.Made = append(f.Made, s.Text)
		}
		for _, n := range f.Counts {
			f.Pages += min(n, 1)
		}
		add(f)
	}
}

func linksFound(e *Evidence, add func(Finding)) {
	for i := range e.Citations {
		x := &e.Citations[i]
		add(Finding{Key: x.URL, Text: x.URL, Made: []string{x.URL}, Note: string(x.Kind), Pages: x.Pages, Counts: e.onPages(x.Sources...), Of: x,
			Cells: func() []any {
				var sentences []string
				for _, s := range x.Sentences {
					sentences = append(sentences, s.Text)
				}
				return []any{message.Message(x.Kind), strings.Join(x.Texts, "; "), x.Pages, strings.Join(sentences, "\n")}
			}})
	}
}
