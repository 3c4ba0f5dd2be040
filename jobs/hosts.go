package jobs

import (
	"context"
	"fmt"
	"sync/atomic"
	"time"

	"corpulan/store"
)

// hostGate lets one request at a time to a host, whichever worker process makes
// it. It implements gather.Gate.
type hostGate struct {
	store   *store.Store
	worker  string
	entries atomic.Int64
}

// Enter waits until nobody else has the host. How long it may be held bounds
// only what a lost process keeps from others.
func (g *hostGate) Enter(ctx context.Context, host string, longest, delay time.Duration) (leave func(), err error) {
	holder := fmt.Sprintf("%s/%d", g.worker, g.entries.Add(1))
	for {
		wait, err := g.store.HoldHost(ctx, host, holder, longest)
		if err != nil {
			return nil, err
		}
		if wait == 0 {
			return func() { g.leave(ctx, host, holder, longest, delay) }, nil
		}
		select {
		case <-time.After(min(wait, time.Second)):
		case <-ctx.Done():
			return nil, ctx.Err()
		}
	}
}

// leave gives a host back. Where the database does not answer it is tried again
// in the background, for no longer than the host would be kept anyway.
func (g *hostGate) leave(ctx context.Context, host, holder string, longest, delay time.Duration) {
	free, cancel := context.WithTimeout(context.WithoutCancel(ctx), longest)
	if g.store.FreeHost(free, host, holder, delay) == nil {
		cancel()
		return
	}
	go func() {
		defer cancel()
		for {
			select {
			case <-time.After(300 * time.Millisecond):
			case <-free.Done():
				return
			}
			if g.store.FreeHost(free, host, holder, 0) == nil {
				return
			}
		}
	}()
}
