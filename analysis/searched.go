package analysis

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/demand"
	"corpulan/core/evidence"
	"corpulan/core/says"
	"corpulan/store"
)

// How many keywords are set against pages at once, and how many queries against the field. Our own.
const (
	MaxStanding = 80
	maxSearched = 1000
	ownBeside   = 6
	maxLists    = 5 // that are looked through for the group of a keyword
)

// KeywordsFor are the keywords that a study is about: its own, the secondary ones of its brief,
// others that somebody names, and those of its group, in the list whose group is the largest; with
// their figures where a list knows them. The list is nil where none has the keyword.
func (d *Demander) KeywordsFor(ctx context.Context, sc store.Scope, an *Analysis, others []string) ([]demand.Keyword, *store.KeywordList, error) {
	words := append([]string{an.Study.Keyword}, Lines(an.Brief.Field(brief.FieldSecondary))...)
	words = append(words, others...)
	group, list, err := d.largestGroup(ctx, sc, an.Study)
	if err != nil {
		return nil, nil, err
	}
	for _, k := range group {
		words = append(words, k.Text)
	}
	out, err := withFigures(ctx, sc, an.Study, words)
	return out[:min(len(out), MaxStanding)], list, err
}

// largestGroup is the group of a study's keyword that has the most keywords, of the lists of its
// market, and that list; the newer of two that are as large. The list is nil where none has the
// keyword; the group is empty while a list is still being grouped.
func (d *Demander) largestGroup(ctx context.Context, sc store.Scope, st store.Study) (group []demand.Keyword, in *store.KeywordList, err error) {
	key := demand.Same(st.Keyword)
	lists, err := sc.ListsWith(ctx, st.Language, st.Country, key, maxLists)
	if err != nil {
		return nil, nil, err
	}
	for i, list := range lists {
		g, _, err := d.Groups(ctx, sc, list, -1)
		if err != nil {
			return nil, nil, err
		}
		if in == nil {
			in = &lists[i]
		}
		if g == nil {
			continue
		}
		for _, x := range g.Groups {
			if len(x.Keywords) > len(group) && slices.ContainsFunc(x.Keywords, func(k demand.Keyword) bool { return demand.Same(k.Text) == key }) {
				group, in = x.Keywords, &lists[i]
			}
		}
	}
	return group, in, nil
}

// withFigures are queries with what lists know of them, each once.
func withFigures(ctx context.Context, sc store.Scope, st store.Study, words []string) ([]demand.Keyword, error) {
	var keys []string
	var out []demand.Keyword
	for _, w := range words {
		if key := demand.Same(w); key != "" && !slices.Contains(keys, key) {
			keys, out = append(keys, key), append(out, demand.Keyword{Text: w})
		}
	}
	figures, err := sc.FiguresOf(ctx, st.Language, st.Country, keys)
	for i, key := range keys {
		if f, ok := figures[key]; ok {
			f.Text = out[i].Text
			out[i] = f
		}
	}
	return out, err
}

// PagesFor are the pages that keywords are set against: those of the field, those of ours in
// the study, and the own pages nearest to it.
func (a *Analyst) PagesFor(ctx context.Context, sc store.Scope, an *Analysis) (field []corpus.RankedPage, ours []*corpus.Doc, err error) {
	for _, r := range an.Results {
		if r.Own && r.ReadingID != nil && an.Docs[*r.ReadingID] != nil {
			ours = append(ours, an.Docs[*r.ReadingID])
		}
	}
	if len(an.Evidence.Sources) == 0 {
		return an.Pages, ours, nil
	}
	mark, err := sc.OwnMark(ctx)
	if err != nil || strings.HasPrefix(mark, "0") {
		return an.Pages, ours, err
	}
	near, err := a.nearOwn(ctx, sc, an, mark)
	if err != nil {
		return nil, nil, err
	}
	for _, d := range near {
		if len(ours) < ownBeside && !slices.ContainsFunc(ours, func(o *corpus.Doc) bool { return o.Reading.URL == d.Reading.URL }) {
			ours = append(ours, d)
		}
	}
	return an.Pages, ours, nil
}

// Searched are the queries of a study's market that are near its keyword, against its field,
// and what the field has that none of them asks for.
type Searched struct {
	Queries []demand.Searched
	Terms   []string // of the field that nobody searches
	Asked   []string // questions of the field that nobody searches
	Lists   int      // lists of the market
}

// SearchedFor sets what people search against what the field says: queries of all lists of the
// market that are near the keyword, and what the results page offered. What the rules or a
// person have thrown out of the list that has the keyword is left out.
func (d *Demander) SearchedFor(ctx context.Context, sc store.Scope, an *Analysis) (Searched, error) {
	near, lists, err := d.QueriesNear(ctx, sc, an)
	if err != nil {
		return Searched{}, err
	}
	f := corpus.NewField(an.Pages, an.Study.Language, an.Study.Keyword)
	out := Searched{Lists: lists, Queries: demand.SearchedIn(near, f.Language, len(f.Docs), says.In(f, an.Evidence.Treated()).Meets)}
	var terms, asked []string
	for _, t := range an.Evidence.Terms {
		if t.Recommended() {
			terms = append(terms, t.Text)
		}
	}
	for _, q := range an.Evidence.Questions {
		asked = append(asked, q.Text)
	}
	out.Terms, out.Asked = demand.NotSearched(terms, near, an.Study.Language), demand.NotSearched(asked, near, an.Study.Language)
	return out, nil
}

// QueriesNear are the queries near a study's keyword as SearchedFor takes them, and how many
// lists the market has.
func (d *Demander) QueriesNear(ctx context.Context, sc store.Scope, an *Analysis) (near []demand.Keyword, lists int, err error) {
	all, lists, err := sc.MarketKeywords(ctx, an.Study.Language, an.Study.Country, MaxLooked)
	if err != nil {
		return nil, 0, err
	}
	newest, err := sc.ListsWith(ctx, an.Study.Language, an.Study.Country, demand.Same(an.Study.Keyword), 1)
	if err != nil {
		return nil, 0, err
	}
	for _, list := range newest {
		g, _, err := d.Groups(ctx, sc, list, -1)
		if err != nil {
			return nil, 0, err
		}
		if g == nil {
			continue
		}
		out := map[string]bool{}
		for _, o := range g.Out {
			out[demand.Same(o.Keyword)] = true
		}
		all = slices.DeleteFunc(all, func(k demand.Keyword) bool { return out[demand.Same(k.Text)] })
	}
	near = demand.Near(all, an.Study.Keyword, an.Study.Language)
	var offered []demand.Keyword
	for _, q := range slices.Concat(an.Gathering.Related, an.Gathering.Suggestions, an.Gathering.Asked) {
		offered = append(offered, demand.Keyword{Text: strings.TrimRight(q, "?")})
	}
	near, _ = demand.Merge(near[:min(len(near), maxSearched)], offered)
	return near, lists, nil
}

// MaxLooked is how many keywords of a market are looked through for those near a study. Our own.
const MaxLooked = 20_000

// FiguresFor is what lists know of the terms and questions of some evidence, by their keys; nil
// where the market has no list.
func FiguresFor(ctx context.Context, sc store.Scope, st store.Study, e *evidence.Evidence) (map[string]demand.Keyword, error) {
	mark, err := sc.DemandMark(ctx, st.Language, st.Country)
	if err != nil || mark == "" {
		return nil, err
	}
	of := map[string][]string{} // keys of findings, by the query
	add := func(finding, text string) {
		if key := demand.Same(strings.TrimRight(text, "?")); !slices.Contains(of[key], finding) {
			of[key] = append(of[key], finding)
		}
	}
	for _, t := range e.Terms {
		add(t.Key, t.Text)
		for _, s := range t.Shapes {
			add(t.Key, s.Text)
		}
	}
	for _, q := range e.Questions {
		for _, w := range q.Wordings {
			add(q.Key, w.Text)
		}
	}
	keys := make([]string, 0, len(of))
	for k := range of {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	figures, err := sc.FiguresOf(ctx, st.Language, st.Country, keys)
	if err != nil {
		return nil, err
	}
	out := map[string]demand.Keyword{}
	for _, key := range keys { // of several shapes the one that is searched most
		f, ok := figures[key]
		if !ok {
			continue
		}
		for _, finding := range of[key] {
			if have, known := out[finding]; !known || cmp.Less(have.Volume.Value, f.Volume.Value) {
				out[finding] = f
			}
		}
	}
	return out, nil
}
