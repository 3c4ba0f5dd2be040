package evidence

import (
	"cmp"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/questions"
	"corpulan/core/says"
	"corpulan/core/text"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"
)

// OpeningKind is in what a field leaves room.
type OpeningKind string

// The kinds, in the order they are shown.
const (
	AskedUnmet    OpeningKind = "asked and unmet"     // a question that nobody answers, or one page alone
	SearchedUnmet OpeningKind = "searched and unmet"  // a related search that no section is about
	OnePage       OpeningKind = "on one page only"    // a matter that a single page treats at length
	Disputed      OpeningKind = "disputed"            // figures that pages differ in, and questions to which some say yes and some no
	Unmeasured    OpeningKind = "told and unmeasured" // by what readers are told to choose, and no page gives a figure
	InWalls       OpeningKind = "in walls of text"    // a matter that pages have in long paragraphs, with no list, table or picture
	InSourceOnly  OpeningKind = "in a source only"    // what an extra source says and no page of the field
)

// Opening is something that few pages say, or none, and a page of ours could.
type Opening struct {
	Kind  OpeningKind     `json:"kind"`
	Of    string          `json:"of"` // the kind of finding: "question", "search", "theme", "point" or "thing"
	Key   string          `json:"key"`
	Text  string          `json:"text"`
	Why   message.Message `json:"why"`
	Ranks []int           `json:"ranks"` // pages that say something of it
}

// Bounds of openings, all our own.
const (
	maxOpenings = 8  // of one kind
	atLength    = 60 // words under a heading that is a matter and no remark
	longestName = 14 // words of a heading that names a matter and is no sentence
	fewestPages = 3  // of a field in which one page alone says something
)

// openings finds what the field leaves open.
func (e *Evidence) openings(texts *says.Texts) []Opening {
	list := []Opening{}
	add := func(found []Opening) { list = append(list, found[:min(len(found), maxOpenings)]...) }
	add(e.unmetQuestions())
	add(e.unmetSearches(texts))
	if len(texts.Docs) >= fewestPages {
		add(e.onOnePage(texts.Field))
	}
	add(e.disputedPoints())
	add(e.disputedQuestions())
	alone, unmeasured := e.listOpenings(texts.Field)
	add(alone)
	add(unmeasured)
	add(e.inWalls())
	return list
}

// inWalls are the matters that a page could show where the field only tells them at length.
func (e *Evidence) inWalls() []Opening {
	var list []Opening
	for _, x := range e.Shown {
		if x.Form != Wall {
			continue
		}
		i := slices.IndexFunc(e.Themes, func(t themes.Theme) bool { return t.Key == x.Theme })
		list = append(list, Opening{InWalls, "theme", x.Theme, e.Themes[i].Label, message.Of("%v have it in paragraphs of over %d words; none has a list, a table or a picture", message.Counted(len(x.Sources), "page"), wallWords), x.Sources})
	}
	return list
}

// unmetQuestions are questions that enough ask and nobody answers, then, in a field of
// some pages, those that one page answers which does not ask them.
func (e *Evidence) unmetQuestions() []Opening {
	var list, nearly []Opening
	for _, q := range e.Questions {
		if !q.Recommended() {
			continue
		}
		o := Opening{Kind: AskedUnmet, Of: "question", Key: q.Key, Text: q.Text, Ranks: []int{}}
		switch {
		case len(q.AnsweredBy) == 0:
			o.Why = message.Of("%v; no page answers it", asking(q))
			list = append(list, o)
		case len(q.AnsweredBy) == 1 && (q.OnResults || len(q.AskedBy) > 1) && len(e.Sources) >= fewestPages:
			o.Why = message.Of("%v; rank %d alone answers it", asking(q), q.AnsweredBy[0].Rank)
			o.Ranks = []int{q.AnsweredBy[0].Rank}
			nearly = append(nearly, o)
		}
	}
	return append(list, nearly...)
}

func asking(q questions.Question) message.Message {
	switch {
	case q.OnResults:
		return "the results page asks it"
	case len(q.AskedBy) == 1:
		return "one page asks it"
	}
	return message.Of("%d pages ask it", len(q.AskedBy))
}

// unmetSearches are related searches that no page meets.
func (e *Evidence) unmetSearches(texts *says.Texts) []Opening {
	var list []Opening
	for _, search := range e.Related {
		met, partly := texts.Meets(search)
		if len(met) > 0 {
			continue
		}
		why := message.Message("people search it; no page has its words")
		if len(partly) > 0 {
			why = "people search it; its words stand together in no section"
		}
		list = append(list, Opening{SearchedUnmet, "search", search, search, why, partly})
	}
	return list
}

// onOnePage are the matters that one page alone treats at length and no other in passing,
// those of the pages and sections nearest to the keyword first.
func (e *Evidence) onOnePage(f *corpus.Field) []Opening {
	near := f.Nearness()
	type found struct {
		Opening
		weight float64
	}
	var list []found
	lists := e.IsOfLists() // where every guide has a heading for its criteria
	for _, t := range e.Themes {
		if t.Pages != 1 || t.Generic || lists && e.namesChoosing(f, t.Label) || len(t.Coverage) != 1 || t.Coverage[0].Words < atLength || text.CountWords(t.Label) > longestName {
			continue
		}
		c := t.Coverage[0]
		i := slices.Index(f.Ranks, c.Rank)
		if f.Docs[i].Reading.Sections[c.Section].Words < atLength {
			continue // it only holds others
		}
		weight := near.Pages[i]
		if s := near.Sections[i]; s != nil {
			weight *= 1 + s[c.Section]
		}
		list = append(list, found{Opening{OnePage, "theme", t.Key, t.Label, message.Of("rank %d alone treats it, in %d words", c.Rank, c.Words), []int{c.Rank}}, weight})
	}
	slices.SortStableFunc(list, func(a, b found) int { return cmp.Compare(b.weight, a.weight) })
	openings := make([]Opening, len(list))
	for i, o := range list {
		openings[i] = o.Opening
	}
	return openings
}

func (e *Evidence) disputedPoints() []Opening {
	var list []Opening
	for _, t := range e.Points {
		for _, p := range t.Points {
			if len(p.Disputed) == 0 {
				continue
			}
			var values []message.Message
			ranks := slices.Clone(p.Ranks)
			for _, d := range p.Disputed {
				for _, v := range d.Values {
					ranks = append(ranks, v.Rank)
					values = append(values, message.Of("“%s” (rank %d)", v.Text, v.Rank))
				}
			}
			list = append(list, Opening{Disputed, "point", p.Key, p.Text, message.Of("pages differ: %v", message.Joined(", ", values...)), slices.Compact(slices.Sorted(slices.Values(ranks)))})
		}
	}
	return list
}

// disputedQuestions are those to which some pages say yes and others no.
func (e *Evidence) disputedQuestions() []Opening {
	var list []Opening
	for _, q := range e.Questions {
		if yes, no := q.Saying(language.SaysYes), q.Saying(language.SaysNo); len(yes) > 0 && len(no) > 0 {
			list = append(list, Opening{Disputed, "question", q.Key, q.Text, stances(yes, no), slices.Sorted(slices.Values(slices.Concat(yes, no)))})
		}
	}
	return list
}

// stances tells which pages say yes to a question, and which no.
func stances(yes, no []int) message.Message {
	return message.Of("rank %v says yes, rank %v no", listOf(yes), listOf(no))
}

func listOf(ranks []int) message.Message {
	parts := make([]message.Message, len(ranks))
	for i, r := range ranks {
		parts[i] = message.Of("%d", r)
	}
	return message.Joined(", ", parts...)
}

// CoverageOf is how a page treats a theme; nothing where it does not.
func CoverageOf(t themes.Theme, rank int) (themes.Cover, bool) {
	i := slices.IndexFunc(t.Coverage, func(c themes.Cover) bool { return c.Rank == rank })
	if i < 0 {
		return themes.Cover{}, false
	}
	return t.Coverage[i], true
}

// maxBeside is how many terms of one extra source are openings. Our own.
const maxBeside = 5

// OnlyIn are the terms that a text uses twice and more and none of some pages does, those that say most of it first; at most so many.
func OnlyIn(of corpus.RankedPage, pages []*corpus.Doc, lang *language.Language, keyword string, taught *house.Lexicon, most int) (list []vocabulary.Term) {
	for _, t := range vocabulary.Alone(corpus.NewField([]corpus.RankedPage{of}, lang.Code, keyword)) {
		if len(list) == most {
			break
		}
		// A word that is never written in small letters is a name: of who speaks, above all.
		if t.Words == 1 && !lang.NounsHaveCapitals && of.Doc.Lower[text.Fold(t.Text)] == 0 {
			continue
		}
		if t.Count < 2 || t.LogRatio <= 0 || t.IsKeyword || slices.ContainsFunc(t.Keys, func(k string) bool {
			return taught != nil && taught.Ignored[k] || slices.ContainsFunc(pages, func(d *corpus.Doc) bool { return d.Phrases[k] != nil })
		}) {
			continue
		}
		list = append(list, t)
	}
	return list
}

// beside are the terms that extra sources use and no page of the field.
func beside(pages []corpus.RankedPage, f *corpus.Field, taught *house.Lexicon) []Opening {
	var list []Opening
	for _, p := range pages {
		for _, t := range OnlyIn(p, f.Docs, f.Language, f.Keyword, taught, maxBeside) {
			list = append(list, Opening{Kind: InSourceOnly, Of: "beside", Key: t.Key, Text: t.Text, Ranks: []int{p.Rank},
				Why: message.Of("“%s” says it %d times, and no page of the field", p.Doc.Reading.Title, t.Count)})
		}
	}
	return list
}
