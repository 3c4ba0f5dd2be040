package study

import (
	"context"
	"time"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/store"

	"github.com/maypok86/otter/v2"
)

// snapshot is the evidence of a gathering that is still running, as of a moment ago.
type snapshot struct {
	pages    []corpus.Page
	evidence *evidence.Evidence
}

// snapshotLasts is how long the evidence of a running gathering serves for those
// who look; the next who comes after it gets it still, and has it made anew in
// the background. Pages arrive many times a second; computing it for each of
// them, for each reader, would take the machine from the gathering itself.
const snapshotLasts = 2 * time.Second

// current is the evidence of a study: of all its kept pages, or, while they are
// still arriving, of those that were in a moment ago. What a person sets aside is
// out at once in any case.
func (a *Analyst) current(ctx context.Context, an *Analysis) (*evidence.Evidence, error) {
	if !an.Gathering.Running() {
		return a.compute(ctx, an)
	}
	mine := *an // the loader may go on in the background
	s, err := a.running.Get(ctx, an.Gathering.ID, otter.LoaderFunc[int64, *snapshot](func(ctx context.Context, _ int64) (*snapshot, error) {
		e, err := a.compute(context.WithoutCancel(ctx), &mine)
		return &snapshot{mine.Pages, e}, err
	}))
	if err != nil {
		return nil, err
	}
	if !s.serves(an) {
		return a.compute(ctx, an)
	}
	an.Pages = s.pages
	return s.evidence, nil
}

// serves tells whether every page of a snapshot still counts, as far as the
// person who looks can know.
func (s *snapshot) serves(an *Analysis) bool {
	byRank := map[int]*store.Result{}
	for i := range an.Results {
		byRank[an.Results[i].Rank] = &an.Results[i]
	}
	for _, p := range s.pages {
		r := byRank[p.Rank]
		if r == nil || r.State == store.Read && !Counts(*r) {
			return false
		}
	}
	return len(s.pages) > 0 || len(an.Pages) == 0
}
