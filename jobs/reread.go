package jobs

import (
	"context"
	"errors"
	"log/slog"

	"corpulan/core/reading"
	"corpulan/store"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/rivertype"
)

// RereadArgs asks for all captures to be read again whose readings are older
// than an engine.
type RereadArgs struct {
	Engine int `json:"engine"`
}

// Kind implements river.JobArgs.
func (RereadArgs) Kind() string { return "reread" }

// InsertOpts implements river.JobArgsWithInsertOpts: one such job is enough,
// however many programs ask for it, and it comes after people's own.
func (RereadArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 4, UniqueOpts: river.UniqueOpts{ByArgs: true, ByState: []rivertype.JobState{
		rivertype.JobStateAvailable, rivertype.JobStatePending, rivertype.JobStateRunning, rivertype.JobStateRetryable, rivertype.JobStateScheduled}}}
}

// Reread asks for the captures to be read again that an older engine read.
func (q *Queue) Reread(ctx context.Context) error {
	_, err := q.client.Insert(ctx, RereadArgs{reading.Engine}, nil)
	return err
}

// rereader runs RereadArgs.
type rereader struct {
	river.WorkerDefaults[RereadArgs]
	store *store.Store
}

// Work reads capture after capture. What it has done stays done: a job that is
// run again goes on where it was.
func (w *rereader) Work(ctx context.Context, job *river.Job[RereadArgs]) error {
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
		doc, err := reread(c)
		if err != nil {
			// The older reading stays; it was good enough until now.
			slog.Warn("a capture could not be read again", "url", c.URL, "error", err)
			continue
		}
		touched, err := w.store.Reread(ctx, c, doc, ProposeSetAside)
		if err != nil {
			return err
		}
		for _, g := range touched {
			gatherings[g] = true
		}
	}
	for g := range gatherings {
		if err := w.store.ProposeDuplicates(ctx, g); err != nil {
			return err
		}
	}
	return nil
}

func reread(c store.Capture) (*reading.Reading, error) {
	page, err := PageOf(c)
	if err != nil {
		return nil, err
	}
	return ReadPage(reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
}
