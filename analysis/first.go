package analysis

import (
	"context"

	"corpulan/store"
)

// First is Findings, or, where these have to be computed over many pages, a provisional analysis with the
// terms alone as soon as they are counted; the rest is computed meanwhile.
func (a *Analyst) First(ctx context.Context, sc store.Scope, st store.Study) (*Analysis, error) {
	// One of each comes at most, and is left there where nobody waits any more.
	first, whole, failed := make(chan Analysis, 1), make(chan *Analysis, 1), make(chan error, 1)
	go func() {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute)
		defer cancel()
		if an, err := a.findings(ctx, sc, st, func(an Analysis) { first <- an }); err != nil {
			failed <- err
		} else {
			whole <- an
		}
	}()
	select {
	case an := <-whole:
		return an, nil
	case an := <-first:
		an.Provisional, an.TermsAlone = true, true
		return &an, a.compose(ctx, sc, &an)
	case err := <-failed:
		return nil, err
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}
