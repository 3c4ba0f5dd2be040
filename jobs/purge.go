package jobs

import (
	"context"
	"log/slog"
	"time"

	"corpulan/queue"
	"corpulan/store"

	"github.com/riverqueue/river"
)

// purger runs PurgeArgs.
type purger struct {
	river.WorkerDefaults[queue.PurgeArgs]
	store *store.Store
	log   *slog.Logger
}

const purgeEvery = time.Hour

// Work takes out of the database what was deleted long ago.
func (p *purger) Work(ctx context.Context, _ *river.Job[queue.PurgeArgs]) error {
	n, err := p.store.Purge(ctx, store.KeptDeleted)
	if n > 0 {
		p.log.Info("studies deleted long ago are gone for good", "studies", n)
	}
	return err
}
