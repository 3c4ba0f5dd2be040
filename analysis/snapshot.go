package analysis

import (
	"context"
	"errors"
	"slices"
	"time"

	"corpulan/core/evidence"
	"corpulan/store"
)

// snapshot is evidence of a gathering as of a moment ago.
type snapshot struct {
	basis    string
	evidence *evidence.Evidence
	took     time.Duration // to make it
	made     time.Time
}

// While pages arrive, many times a second, those who look get evidence of the pages that were in
// a moment ago: for four times as long as it took to make, within bounds. Then newer is asked for,
// and they get the older one until that is there: computing it for each page, for each reader,
// would take the machine from the gathering itself. The same for a moment after the last page
// where it takes long; where it does not, whoever sees a gathering done gets all of it. Our own.
const (
	snapshotLeast = 2 * time.Second
	snapshotMost  = 20 * time.Second
	lately        = time.Minute            // after the last page
	takesLong     = 300 * time.Millisecond // to compute
	countedAtOnce = 30                     // pages that whoever looks first while they arrive waits for
)

func snapshotLasts(took time.Duration) time.Duration {
	return min(max(4*took, snapshotLeast), snapshotMost)
}

// evidenceOf is the evidence of a study: of all its kept pages, or, while they are still arriving
// and nobody asks for all, of those that were in a moment ago. What a person sets aside is out at
// once in any case. first is as in exact.
func (a *Analyst) evidenceOf(ctx context.Context, sc store.Scope, an *Analysis, all bool, first func(*evidence.Evidence)) (*evidence.Evidence, error) {
	if e, ok := a.evidence.Find(an.signature()); ok {
		return e, nil
	}
	running := an.Gathering.Running()
	if all || a.ask == nil || !running && (an.Gathering.FinishedAt == nil || time.Since(*an.Gathering.FinishedAt) > lately) {
		return a.exact(ctx, sc, an, first)
	}
	s, err := a.lastOf(ctx, sc, an)
	if err != nil {
		return nil, err
	}
	if running && (s == nil || len(s.evidence.Sources) == 0) && an.Counting() > countedAtOnce {
		an.Provisional, an.stale = true, true
		return nothing(ctx, an), a.ask(ctx, an.Gathering.ID)
	}
	if s == nil || !s.serves(an) || !running && s.forAll(an) < takesLong {
		return a.exact(ctx, sc, an, first)
	}
	if !running {
		if e := a.kept(ctx, sc, an, a.digest(an.signature())); e != nil {
			a.evidence.Set(an.signature(), e)
			return e, nil
		}
	}
	an.Provisional = true
	if !running || time.Since(s.made) > snapshotLasts(s.took) {
		an.stale = true
		if err := a.ask(ctx, an.Gathering.ID); err != nil {
			return nil, err
		}
	}
	return s.evidence, nil
}

// nothing is the evidence of no page.
func nothing(ctx context.Context, an *Analysis) *evidence.Evidence {
	e, err := evidence.Compute(ctx, evidence.Input{Keyword: an.Study.Keyword, Language: an.Study.Language})
	if err != nil {
		return &evidence.Evidence{Keyword: an.Study.Keyword, Language: an.Study.Language}
	}
	return e
}

// forAll is about how long it would take to compute the evidence of all pages that count now: it
// grows as they do.
func (s *snapshot) forAll(an *Analysis) time.Duration {
	return s.took * time.Duration(an.Counting()) / time.Duration(max(len(s.evidence.Sources), 1))
}

// lastOf is what was last computed over a gathering, by whichever process; nil for nothing.
func (a *Analyst) lastOf(ctx context.Context, sc store.Scope, an *Analysis) (*snapshot, error) {
	basis := an.basis()
	had, _ := a.newest.Find(an.Gathering.ID)
	if had != nil && had.basis != basis {
		had = nil
	}
	var after time.Time
	if had != nil {
		after = had.made
	}
	row, err := sc.NewestEvidence(ctx, an.Gathering.ID, a.digest(basis), after)
	if errors.Is(err, store.ErrNotFound) {
		return had, nil
	}
	if err != nil || row.Body == nil {
		return had, err
	}
	e, err := evidence.Decode(row.Body)
	if err != nil {
		return had, nil // it is computed anew
	}
	s := &snapshot{basis, e, row.Took, row.MadeAt}
	a.newest.Set(an.Gathering.ID, s)
	return s, nil
}

// serves tells whether every page of a snapshot still counts, as far as the
// person who looks can know.
func (s *snapshot) serves(an *Analysis) bool {
	byRank := map[int]*store.Result{}
	for i := range an.Results {
		byRank[an.Results[i].Rank] = &an.Results[i]
	}
	for _, p := range s.evidence.Sources {
		r := byRank[p.Rank]
		if r == nil || r.State == store.Read && !Counts(*r) {
			return false
		}
	}
	return len(s.evidence.Sources) > 0 || !slices.ContainsFunc(an.Results, Counts)
}
