package jobs

import (
	"context"
	"log/slog"
	"time"

	"corpulan/analysis"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"

	"github.com/riverqueue/river"
)

// againer runs AgainArgs.
type againer struct {
	river.WorkerDefaults[queue.AgainArgs]
	store   *store.Store
	queue   *queue.Queue
	analyst *analysis.Analyst
	log     *slog.Logger
}

// How often is looked whose time has come, and how many gatherings begin at once then. Our own.
const (
	againEvery = 5 * time.Minute
	maxAgain   = 10
)

// Work gathers studies again whose time has come. One that cannot be has its next time.
func (w *againer) Work(ctx context.Context, _ *river.Job[queue.AgainArgs]) error {
	due, err := w.store.TakeDue(ctx, time.Now(), maxAgain)
	if err != nil {
		return err
	}
	for _, st := range due {
		do := study.For(w.store.In(st.PublicationID), w.queue, "the schedule").Named("The schedule").With(w.analyst)
		if err := do.AgainByItself(ctx, st.ID); err != nil {
			if ctx.Err() != nil {
				return ctx.Err()
			}
			w.log.Error("a study could not be gathered again", "study", st.ID, "error", err)
		}
	}
	return nil
}
