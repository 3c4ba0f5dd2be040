package jobs

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"time"

	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/gather"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"

	"github.com/riverqueue/river"
)

// fetcher runs FetchArgs.
type fetcher struct {
	river.WorkerDefaults[queue.FetchArgs]
	store   *store.Store
	queue   *queue.Queue
	fetcher *gather.Fetcher
	worker  string
	log     *slog.Logger
	turns   *turns
	fetched func(outcome string)
}

// A job holds the pages of its host while it works on them, and says so again
// with every page; a second job for them waits.
const (
	holdPages = 3 * time.Minute
	lookAgain = time.Second
)

// Work fetches and reads the pages of the host that are still to be had. A
// page that fails is recorded with its reason and the rest go on.
func (f *fetcher) Work(ctx context.Context, job *river.Job[queue.FetchArgs]) error {
	_, st, err := f.store.Gathering(ctx, job.Args.Gathering)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	pages, holder := fmt.Sprintf("pages of %s for %d", job.Args.Host, job.Args.Gathering), fmt.Sprintf("%s/%d", f.worker, job.ID)
	defer func() {
		free, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer cancel()
		_ = f.store.FreeHost(free, pages, holder, 0) // else it is given back with time
	}()
	for rank := 0; ; {
		wait, err := f.store.HoldHost(ctx, pages, holder, holdPages)
		if err != nil {
			return err
		}
		if wait > 0 {
			return river.JobSnooze(lookAgain)
		}
		r, err := f.store.NextUnfetched(ctx, job.Args.Gathering, job.Args.Host, rank)
		if errors.Is(err, store.ErrNotFound) {
			return f.ended(ctx, job.Args.Gathering) // all in, or stopped
		}
		if err != nil {
			return err
		}
		if err := f.one(ctx, st, r, job.Attempt >= job.MaxAttempts); err != nil {
			return err
		}
		rank = r.Rank
	}
}

// one gets one page. In the last attempt of a job whatever goes wrong is the
// page's end, so that its gathering comes to one.
func (f *fetcher) one(ctx context.Context, st store.Study, r store.Result, last bool) error {
	if r.Losses >= store.MaxLosses {
		f.log.Error("a page stopped its reader again and again", "url", r.URL, "study", st.ID, "losses", r.Losses)
		return f.store.FailPage(ctx, r, string(gather.InternalReason), message.Of("Reading this page stopped the program %d times; it is not tried again.", r.Losses))
	}
	err := f.get(ctx, st, r)
	if err == nil || ctx.Err() != nil || !last && !store.Lasting(err) {
		return err
	}
	f.log.Error("a page cannot be kept", "url", r.URL, "study", st.ID, "error", err)
	return f.store.FailPage(ctx, r, string(gather.InternalReason), "The page was fetched but cannot be kept; the server's log says why.")
}

func (f *fetcher) get(ctx context.Context, st store.Study, r store.Result) error {
	if err := f.store.BeginFetch(ctx, r); errors.Is(err, store.ErrNotFound) {
		return nil // handed in, or taken out again
	} else if err != nil {
		return err
	}
	// Without an earlier capture the page is simply fetched.
	earlier, earlierReading, missing := f.store.Earlier(ctx, r, reading.Engine)
	var seen gather.Seen
	if missing == nil {
		seen = gather.SeenIn(http.Header(earlier.Headers.Data()))
	} else if !errors.Is(missing, store.ErrNotFound) {
		return missing
	}
	if missing != nil && !r.Added {
		kept, err := f.keepRecent(ctx, st, r)
		if kept || err != nil {
			return err
		}
	}
	page, err := f.fetcher.FetchAgain(ctx, r.URL, seen)
	var failure *gather.Failure
	f.count(err)
	switch {
	case errors.As(err, &failure):
		return f.store.FailPage(ctx, r, string(failure.Code), failure.Reason)
	case err != nil:
		return err
	case page.NotModified():
		return f.store.KeepEarlier(ctx, r, earlier, earlierReading, earlierReading.Document.Data().ProposeAside(st.Language, st.Keyword))
	}
	give, err := f.turns.take(ctx)
	if err != nil {
		return err
	}
	defer give()
	doc, err := study.ReadPage(reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
	if errors.As(err, &failure) {
		return f.store.FailPage(ctx, r, string(failure.Code), failure.Reason)
	}
	c, err := study.CaptureOf(page)
	if err != nil {
		return err
	}
	return f.turns.keep(ctx, func() error {
		return f.store.KeepPage(ctx, r, c, doc, doc.ProposeAside(st.Language, st.Keyword))
	})
}

// keepRecent takes a page that another study of the publication captured lately; false where
// there is none.
func (f *fetcher) keepRecent(ctx context.Context, st store.Study, r store.Result) (bool, error) {
	c, rd, err := f.store.Recent(ctx, r, reading.Engine, time.Now())
	if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrPruned) {
		return false, nil
	}
	if err != nil {
		return false, err
	}
	c.ID = 0 // of this study, beside the other's; the bytes are kept once
	doc := rd.Document.Data()
	if f.fetched != nil {
		f.fetched("kept")
	}
	give, err := f.turns.take(ctx)
	if err != nil {
		return false, err
	}
	defer give()
	return true, f.turns.keep(ctx, func() error {
		return f.store.KeepPage(ctx, r, &c, doc, doc.ProposeAside(st.Language, st.Keyword))
	})
}

// ended has the evidence computed of a gathering whose last page is in, so that it is there when
// somebody looks.
func (f *fetcher) ended(ctx context.Context, gathering int64) error {
	g, _, err := f.store.Gathering(ctx, gathering)
	if errors.Is(err, store.ErrNotFound) || err == nil && g.State != store.Done {
		return nil
	}
	if err != nil {
		return err
	}
	return f.queue.Evidence(ctx, gathering)
}

// count tells those who watch how a fetch ended.
func (f *fetcher) count(err error) {
	var failure *gather.Failure
	switch {
	case f.fetched == nil:
	case errors.As(err, &failure):
		f.fetched(string(failure.Code))
	case err == nil:
		f.fetched("read")
	}
}

// NextRetry implements river.Worker.
func (f *fetcher) NextRetry(job *river.Job[queue.FetchArgs]) time.Time { return soon(job.Attempt) }
