package jobs

import (
	"context"
	"runtime"
	"time"
)

// turns is how a process gives way to people: it reads and keeps few pages at the same time, and
// rests after each. Fetching waits for others, but reading takes the processor, and keeping takes
// the database, which knows no priorities: it would write pages before it answers whoever looks on.
type turns struct{ room chan struct{} }

// newTurns lets half of the processors read pages: more at once would be no faster where several
// processes work, and would leave nothing of the machine to others.
func newTurns() *turns { return &turns{make(chan struct{}, max(1, runtime.GOMAXPROCS(0)/2))} }

// How long a turn rests, in times that the database took: where that is busy it takes longer, and
// is asked less. At most so long. Both our own; see Load in docs/operating.md.
const (
	restFor     = 2
	longestRest = time.Second
)

// take waits for a turn.
func (t *turns) take(ctx context.Context) (give func(), err error) {
	select {
	case t.room <- struct{}{}:
		return func() { <-t.room }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// keep lets the database keep something, and rests.
func (t *turns) keep(ctx context.Context, keep func() error) error {
	began := time.Now()
	err := keep()
	rest := time.NewTimer(min(restFor*time.Since(began), longestRest))
	defer rest.Stop()
	select {
	case <-rest.C:
	case <-ctx.Done():
	}
	return err
}
