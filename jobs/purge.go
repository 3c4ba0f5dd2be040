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
	kept  time.Duration // bytes of captures that no newest gathering shows; 0 for always
	log   *slog.Logger
}

const purgeEvery = time.Hour

// Work takes out of the database what was deleted long ago.
func (p *purger) Work(ctx context.Context, _ *river.Job[queue.PurgeArgs]) error {
	n, err := p.store.Purge(ctx, store.KeptDeleted)
	if n > 0 {
		p.log.Info("studies deleted long ago are gone for good", "studies", n)
	}
	if err != nil {
		return err
	}
	if err := p.store.ForgetEvidence(ctx); err != nil {
		return err
	}
	captures, bodies, err := p.store.Prune(ctx, p.kept)
	if captures+bodies > 0 {
		p.log.Info("bytes of captures are given up", "captures", captures, "stored", bodies)
	}
	return err
}
