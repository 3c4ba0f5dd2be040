package jobs

import (
	"context"
	"errors"
	"log/slog"

	"corpulan/core/reading"
	"corpulan/formats/handed"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"

	"github.com/riverqueue/river"
)

// rereader runs RereadArgs.
type rereader struct {
	river.WorkerDefaults[queue.RereadArgs]
	store  *store.Store
	reader *handed.Reader
	log    *slog.Logger
}

// Work reads capture after capture. What it has done stays done: a job that is
// run again goes on where it was.
func (w *rereader) Work(ctx context.Context, job *river.Job[queue.RereadArgs]) error {
	if job.Args.Engine != reading.Engine {
		return nil // asked for by another version of the program, which sees to it
	}
	gatherings := map[int64]bool{}
	for after := int64(0); ; {
		c, err := w.store.NextOutdated(ctx, reading.Engine, after)
		if errors.Is(err, store.ErrNotFound) {
			break
		}
		if err != nil {
			return err
		}
		after = c.ID
		if err := w.store.BeginReread(ctx, c); err != nil {
			return err
		}
		doc, err := w.reread(ctx, c)
		if err != nil {
			// The older reading stays; it was good enough until now.
			w.log.Warn("a capture could not be read again", "url", c.URL, "error", err)
			if err := w.store.EndReread(ctx, c); err != nil {
				return err
			}
			continue
		}
		touched, err := w.store.Reread(ctx, c, doc, (*reading.Reading).ProposeAside)
		if err != nil {
			return err
		}
		for _, g := range touched {
			gatherings[g] = true
		}
	}
	for g := range gatherings {
		if err := w.store.ProposeAgain(ctx, g); err != nil {
			return err
		}
	}
	return nil
}

func (w *rereader) reread(ctx context.Context, c store.Capture) (*reading.Reading, error) {
	page, err := study.PageOf(c)
	if err != nil {
		return nil, err
	}
	return study.ReadCapture(ctx, w.reader, reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
}
