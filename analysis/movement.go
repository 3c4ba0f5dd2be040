package analysis

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"corpulan/core/change"
	"corpulan/core/corpus"
	"corpulan/store"
)

// sideOf is a gathering as movement compares it.
func sideOf(g store.Gathering, results []store.Result, docs map[int64]*corpus.Doc) change.Gathering {
	side := change.Gathering{Asked: g.Asked, Related: g.Related}
	for _, r := range results {
		to := change.Result{Rank: r.Rank, URL: r.URL, Title: r.Title, Added: r.Added, Kept: r.Kept && !r.Own}
		if r.State == store.Read && r.ReadingID != nil && docs[*r.ReadingID] != nil {
			to.Doc = docs[*r.ReadingID]
			to.Also = slices.DeleteFunc([]string{to.Doc.Reading.URL, to.Doc.Reading.Canonical}, func(s string) bool { return s == "" })
		}
		side.Results = append(side.Results, to)
	}
	return side
}

// Movement is what changed between two gatherings of a study; to is the later. What it returns
// is shared, and not for changing.
func (a *Analyst) Movement(ctx context.Context, sc store.Scope, an *Analysis, from, to store.Gathering) (*change.Movement, error) {
	sides := []store.Gathering{from, to}
	results := make([][]store.Result, 2)
	var sig strings.Builder
	fmt.Fprintf(&sig, "%d %s %q", an.Study.ID, an.Study.Language, an.Study.Keyword)
	for i, g := range sides {
		var err error
		if results[i], err = sc.Results(ctx, g.ID); err != nil {
			return nil, err
		}
		fmt.Fprintf(&sig, " %d %q %q:", g.ID, g.Asked, g.Related)
		for _, r := range results[i] {
			reading := int64(0)
			if r.State == store.Read && r.ReadingID != nil {
				reading = *r.ReadingID
			}
			fmt.Fprintf(&sig, " %d/%d/%v", r.Rank, reading, r.Kept && !r.Own)
		}
	}
	for _, e := range an.Lexicon {
		fmt.Fprintf(&sig, " %s %q %q", e.Kind, e.Term, e.Other)
	}
	return a.movements.Get(ctx, sig.String(), func(ctx context.Context, _ string) (*change.Movement, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute) // others may wait for it too
		defer cancel()
		in := change.Input{Keyword: an.Study.Keyword, Language: an.Study.Language, House: an.taught()}
		for i, to := range []*change.Gathering{&in.Before, &in.After} {
			docs, err := a.docsOf(ctx, sc, results[i], an.Study.Language)
			if err != nil {
				return nil, err
			}
			*to = sideOf(sides[i], results[i], docs)
		}
		return change.Compare(ctx, in)
	})
}

// Since is what moved since the gathering before the newest one that has ended; nil where there
// is none.
func (a *Analyst) Since(ctx context.Context, sc store.Scope, an *Analysis) (*change.Movement, error) {
	all, err := sc.Gatherings(ctx, an.Study.ID)
	if err != nil {
		return nil, err
	}
	from, to := an.since(all)
	if from == nil || to == nil {
		return nil, nil
	}
	return a.Movement(ctx, sc, an, *from, *to)
}

// since are the two gatherings that are compared unless others are asked for: the newest that has
// ended, and the one that the brief stands on, else the one before.
func (an *Analysis) since(all []store.Gathering) (from, to *store.Gathering) {
	ended := slices.DeleteFunc(slices.Clone(all), func(g store.Gathering) bool { return g.State != store.Done })
	if len(ended) < 2 {
		return nil, nil
	}
	to = &ended[len(ended)-1]
	from = &ended[len(ended)-2]
	if basis := an.Saved.Choices.Data().Stands; basis != nil {
		for i := range ended[:len(ended)-1] {
			if ended[i].ID == basis.Gathering {
				from = &ended[i]
			}
		}
	}
	return from, to
}

// Compared are the two gatherings that a person asks for by their numbers, or those that are
// compared unless others are asked for; nil where there is nothing to compare.
func (an *Analysis) Compared(all []store.Gathering, from, to int64) (before, after *store.Gathering) {
	before, after = an.since(all)
	for i, g := range all {
		if g.State != store.Done {
			continue
		}
		if g.ID == from {
			before = &all[i]
		}
		if g.ID == to {
			after = &all[i]
		}
	}
	if before != nil && after != nil && before.ID > after.ID {
		before, after = after, before
	}
	if before == nil || after == nil || before.ID == after.ID {
		return nil, nil
	}
	return before, after
}

// Proposals are what the newest evidence asks of a brief that stands on an older gathering.
func (a *Analyst) Proposals(ctx context.Context, sc store.Scope, an *Analysis) ([]change.Proposal, error) {
	if an.Saved.Choices.Data().Stands == nil || an.Gathering.Running() || len(an.Evidence.Sources) == 0 {
		return nil, nil
	}
	m, err := a.Since(ctx, sc, an)
	if err != nil {
		return nil, err
	}
	return change.Proposals(an.Evidence, an.Saved.Choices.Data(), an.Setting, m), nil
}

// DocOf is a page of a gathering, by its address, made ready for comparison.
func (a *Analyst) DocOf(ctx context.Context, sc store.Scope, an *Analysis, g store.Gathering, url string) (*corpus.Doc, error) {
	results, err := sc.Results(ctx, g.ID)
	if err != nil {
		return nil, err
	}
	results = slices.DeleteFunc(results, func(r store.Result) bool { return r.URL != url || r.ReadingID == nil })
	docs, err := a.docsOf(ctx, sc, results, an.Study.Language)
	if err != nil {
		return nil, err
	}
	for _, d := range docs {
		return d, nil
	}
	return nil, store.ErrNotFound
}

// Side is a study as it is set beside another.
func (a *Analyst) Side(ctx context.Context, sc store.Scope, st store.Study) (change.Side, error) {
	an, err := a.Analyse(ctx, sc, st)
	if err != nil {
		return change.Side{}, err
	}
	return change.Side{Evidence: an.Evidence, Results: sideOf(an.Gathering, an.Results, an.Docs).Results}, nil
}
