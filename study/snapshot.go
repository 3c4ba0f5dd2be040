package study

import (
	"context"
	"slices"
	"time"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/store"

	"github.com/maypok86/otter/v2"
)

// snapshot is the evidence of a gathering that is still running, as of a moment ago.
type snapshot struct {
	pages    []corpus.Page
	docs     map[int64]*corpus.Doc // of all pages that were in
	evidence *evidence.Evidence
	took     time.Duration // to make it
}

// size is about how many bytes a snapshot holds on to.
func (s *snapshot) size() (bytes int64) {
	for _, d := range s.docs {
		bytes += d.Size()
	}
	if s.evidence != nil {
		bytes += s.evidence.Size()
	}
	return bytes
}

// The evidence of a running gathering serves for those who look for ten times as long as it took
// to make, and that times as many as are running, so that no more than a tenth of the machine
// goes into all of them, and within bounds; the next who comes after that gets it still, and has
// it made anew in the background. Pages arrive many
// times a second; computing it for each of them, for each reader, would take the machine from
// the gathering itself. Our own.
const (
	snapshotLeast = 2 * time.Second
	snapshotMost  = 30 * time.Second
)

func snapshotLasts(took time.Duration, running int) time.Duration {
	return min(max(10*took*time.Duration(max(running, 1)), snapshotLeast), snapshotMost)
}

// current is the evidence of a study: of all its kept pages, or, while they are
// still arriving, of those that were in a moment ago. What a person sets aside is
// out at once in any case.
func (a *Analyst) current(ctx context.Context, sc store.Scope, an *Analysis) (*evidence.Evidence, error) {
	fresh := func(ctx context.Context, an *Analysis) (*evidence.Evidence, error) {
		if err := a.prepare(ctx, sc, an); err != nil {
			return nil, err
		}
		return a.compute(ctx, an)
	}
	if !an.Gathering.Running() {
		return fresh(ctx, an)
	}
	mine := *an // the loader may go on in the background
	s, err := a.running.Get(ctx, an.Gathering.ID, otter.LoaderFunc[int64, *snapshot](func(ctx context.Context, _ int64) (*snapshot, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute)
		defer cancel()
		began := time.Now()
		e, err := fresh(ctx, &mine)
		return &snapshot{mine.Pages, mine.Docs, e, time.Since(began)}, err
	}))
	if err != nil {
		return nil, err
	}
	if !s.serves(an) {
		return fresh(ctx, an)
	}
	an.Pages, an.Docs = s.pages, s.docs
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
	return len(s.pages) > 0 || !slices.ContainsFunc(an.Results, Counts)
}
