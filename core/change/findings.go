package change

import (
	"cmp"
	"context"
	"math"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/listed"
	"corpulan/core/message"
	"corpulan/core/questions"
	"corpulan/core/says"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"
)

// joined is both fields as one, so that a finding is the same in both: themes and questions
// come from grouping, and two groupings by themselves would differ where nothing moved. A page
// that says the same in both is in it once, and cannot move anything.
type joined struct {
	pages []page // that count in one field or in both
	docs  []corpus.RankedPage
	notes []message.Message
}

// page is one page of the joined field.
type page struct {
	pair
	was, is int // numbers of its documents in docs, -1 for none; the same where its text is
}

func join(in Input, pairs []pair) *joined {
	j := &joined{}
	var unread []string
	for n, p := range pairs {
		add := func(d *corpus.Doc) int {
			j.docs = append(j.docs, corpus.RankedPage{Rank: len(j.docs) + 1, Doc: d, Of: n + 1})
			return len(j.docs) - 1
		}
		// What was read only once would be a page that came or went, which it is not.
		if p.before != nil && p.after != nil && (p.before.Doc == nil) != (p.after.Doc == nil) {
			if p.before.counts() || p.after.counts() {
				unread = append(unread, p.after.URL)
			}
			continue
		}
		pg := page{pair: p, was: -1, is: -1}
		if !p.before.counts() {
			pg.before = nil
		}
		if !p.after.counts() {
			pg.after = nil
		}
		switch {
		case pg.before == nil && pg.after == nil:
			continue
		case pg.before != nil && pg.after != nil && sameText(pg.before.Doc, pg.after.Doc):
			pg.is = add(pg.after.Doc)
			pg.was = pg.is
		default:
			if pg.before != nil {
				pg.was = add(pg.before.Doc)
			}
			if pg.after != nil {
				pg.is = add(pg.after.Doc)
			}
		}
		j.pages = append(j.pages, pg)
	}
	switch n := len(unread); {
	case n == 1:
		j.notes = append(j.notes, message.Of("One page was read in one of the gatherings only, and is left out of both fields: %s.", unread[0]))
	case n > 1:
		j.notes = append(j.notes, message.Of("%d pages were read in one of the gatherings only, and are left out of both fields.", n))
	}
	return j
}

// sameText tells whether two documents say the same, heading by heading and word by word.
func sameText(a, b *corpus.Doc) bool {
	x, y := a.Reading, b.Reading
	if a == b {
		return true
	}
	if x.Title != y.Title || x.Description != y.Description || len(x.Sections) != len(y.Sections) || len(x.FAQ) != len(y.FAQ) || !slices.Equal(x.ImageTexts, y.ImageTexts) || !slices.Equal(x.Questions, y.Questions) {
		return false
	}
	for i := range x.Sections {
		if s, t := x.Sections[i], y.Sections[i]; s.Heading != t.Heading || s.Level != t.Level || s.Text != t.Text || s.Lines != t.Lines {
			return false
		}
	}
	return true
}

// findings are the terms, things, themes and questions that moved.
func (j *joined) findings(ctx context.Context, in Input, m *Movement) error {
	if len(j.docs) == 0 {
		return ctx.Err()
	}
	f := corpus.NewField(j.docs, in.Language, in.Keyword)
	taught := house.New(in.House, f.Language)
	for _, t := range vocabulary.Find(ctx, f, taught) {
		if t.Flag != "" || t.YieldsTo != "" || t.Pages < 2 {
			continue
		}
		j.moved(&m.Terms, Finding{Key: t.Key, Text: t.Text, Made: t.Keys}, func(doc int) bool { return t.Counts[doc] > 0 }, "")
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	lists := listed.Find(f, taught)
	j.things(lists.Things, m)
	if ctx.Err() != nil {
		return ctx.Err()
	}
	found, notes := themes.Find(ctx, f, taught, lists.Sections)
	_ = notes // about bounds of one field; the fields by themselves say them
	for _, t := range found {
		if t.Generic {
			continue
		}
		finding := Finding{Key: t.Key, Text: t.Label}
		for _, h := range t.Members {
			finding.Made = append(finding.Made, h.Text)
		}
		j.moved(&m.Themes, finding, func(doc int) bool { return t.Counts[doc] > 0 }, "")
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	asked := slices.Concat(in.Before.Asked, in.After.Asked)
	was, is := folded(in.Before.Asked), folded(in.After.Asked)
	qs, _ := questions.Find(ctx, says.In(f, nil), asked, taught)
	for _, q := range qs {
		finding := Finding{Key: q.Key, Text: q.Text}
		var on struct{ before, after bool }
		for _, w := range q.Wordings {
			finding.Made = append(finding.Made, w.Text)
			if w.Rank == 0 {
				on.before, on.after = on.before || was[plain(w.Text)], on.after || is[plain(w.Text)]
			}
		}
		askers := map[int]bool{}
		for _, rank := range q.AskedBy {
			askers[rank-1] = true
		}
		j.moved(&m.Questions, finding, func(doc int) bool { return askers[doc] }, map[[2]bool]How{{false, true}: New, {true, false}: Gone}[[2]bool{on.before, on.after}])
	}
	for _, list := range []*[]Finding{&m.Terms, &m.Themes, &m.Questions, &m.Listed} {
		slices.SortStableFunc(*list, func(a, b Finding) int {
			return cmp.Or(-boolOrder(a.Results, b.Results), cmp.Compare(math.Abs(b.Least), math.Abs(a.Least)))
		})
	}
	return ctx.Err()
}

// moved adds a finding to a list if its change is worth showing, or if the results page itself
// took it up (New) or let it go (Gone).
func (j *joined) moved(list *[]Finding, f Finding, has func(doc int) bool, results How) {
	all := make([]having, len(j.pages))
	f.RanksWas, f.Ranks = []int{}, []int{}
	for i, p := range j.pages {
		all[i] = having{p.was >= 0, p.was >= 0 && has(p.was), p.is >= 0, p.is >= 0 && has(p.is)}
		if all[i].hasBefore {
			f.RanksWas = append(f.RanksWas, p.before.Rank)
		}
		if all[i].hasAfter {
			f.Ranks = append(f.Ranks, p.after.Rank)
		}
	}
	f.Before, f.OfBefore, f.After, f.OfAfter = shareOf(all)
	f.Least = least(all)
	f.Results = results != ""
	if !f.Results && !worth(f.Least, f.OfBefore, f.OfAfter) {
		return
	}
	slices.Sort(f.RanksWas)
	slices.Sort(f.Ranks)
	share := float64(f.After)/float64(max(f.OfAfter, 1)) - float64(f.Before)/float64(max(f.OfBefore, 1))
	switch {
	case f.Before == 0 && f.After > 0:
		f.How = New
	case f.After == 0 && f.Before > 0:
		f.How = Gone
	case share > 0:
		f.How = Risen
	case share < 0:
		f.How = Fallen
	default:
		f.How = results
	}
	*list = append(*list, f)
}

func folded(list []string) map[string]bool {
	m := map[string]bool{}
	for _, s := range list {
		m[plain(s)] = true
	}
	return m
}

func boolOrder(a, b bool) int { return one(a) - one(b) }
