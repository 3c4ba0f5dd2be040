package jobs

import (
	"context"
	"errors"

	"corpulan/analysis"
	"corpulan/queue"
	"corpulan/store"

	"github.com/riverqueue/river"
)

// computer runs EvidenceArgs.
type computer struct {
	river.WorkerDefaults[queue.EvidenceArgs]
	store   *store.Store
	analyst *analysis.Analyst
}

// Work computes the evidence of a gathering and keeps it.
func (w *computer) Work(ctx context.Context, job *river.Job[queue.EvidenceArgs]) error {
	if err := w.analyst.Ahead(ctx, w.store, job.Args.Gathering); !errors.Is(err, store.ErrNotFound) {
		return err
	}
	return nil // deleted meanwhile
}
