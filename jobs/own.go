package jobs

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"corpulan/analysis"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/formats/handed"
	"corpulan/gather"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"

	"github.com/riverqueue/river"
)

// sitemapper runs SitemapArgs.
type sitemapper struct {
	river.WorkerDefaults[queue.SitemapArgs]
	store   *store.Store
	queue   *queue.Queue
	fetcher *gather.Fetcher
	reader  *handed.Reader
	log     *slog.Logger
}

// Work reads the list of a site's own pages, keeps those that are new or changed, and asks for
// them. What goes wrong is kept where a person sees it.
func (w *sitemapper) Work(ctx context.Context, job *river.Job[queue.SitemapArgs]) error {
	sc := w.store.In(job.Args.Publication)
	pages, notes, err := w.fetcher.Sitemap(ctx, job.Args.Address, w.reader.Sitemap)
	if ctx.Err() != nil {
		return ctx.Err()
	}
	result := store.SitemapRead{Address: job.Args.Address, Done: true, Notes: notes, Found: len(pages)}
	if err != nil {
		result.Problem = message.Fault(err).Keep()
	}
	return sc.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		if len(pages) > 0 {
			list := make([]store.OwnPage, len(pages))
			for i, p := range pages {
				list[i] = store.OwnPage{URL: p.URL, Changed: p.Changed}
			}
			fresh, left, err := tx.AddOwn(ctx, list)
			if err != nil {
				return err
			}
			if result.Fresh = fresh; left > 0 {
				result.Notes = append(result.Notes, fmt.Sprintf("At most %d own pages are kept; %d and more were left out. A list of those that matter, as CSV, says which.", store.MaxOwn, left))
			}
			if err := w.queue.Own(ctx, sqlTx, job.Args.Publication); err != nil {
				return err
			}
		}
		_, err := tx.EditPublication(ctx, func(_ *string, s *store.Settings) error {
			result.At = time.Now()
			s.Sitemap = &result
			return nil
		})
		return err
	})
}

// ownReader runs OwnArgs.
type ownReader struct {
	river.WorkerDefaults[queue.OwnArgs]
	store   *store.Store
	fetcher *gather.Fetcher
	worker  string
	log     *slog.Logger
	turns   *turns
}

// showEvery is after how many own pages the briefs are told of them.
const showEvery = 25

// Work reads the own pages that wait, one after another: they are of one site. A page that
// fails is kept with the reason, and the rest go on.
func (w *ownReader) Work(ctx context.Context, job *river.Job[queue.OwnArgs]) error {
	sc := w.store.In(job.Args.Publication)
	held, holder := fmt.Sprintf("own pages of %d", job.Args.Publication), fmt.Sprintf("%s/%d", w.worker, job.ID)
	defer func() {
		free, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer cancel()
		_ = w.store.FreeHost(free, held, holder, 0) // else it is given back with time
	}()
	after := int64(0)
	for n := 1; ; n++ {
		wait, err := w.store.HoldHost(ctx, held, holder, holdPages)
		if err != nil {
			return err
		}
		if wait > 0 {
			return river.JobSnooze(lookAgain)
		}
		p, err := sc.NextOwn(ctx, after)
		if errors.Is(err, store.ErrNotFound) {
			return sc.TouchAll(ctx)
		}
		if err != nil {
			return err
		}
		if err := w.one(ctx, sc, p); err != nil {
			return err
		}
		if after = p.ID; n%showEvery == 0 {
			if err := sc.TouchAll(ctx); err != nil {
				return err
			}
		}
	}
}

func (w *ownReader) one(ctx context.Context, sc store.Scope, p store.OwnPage) error {
	page, err := w.fetcher.Fetch(ctx, p.URL)
	var failure *gather.Failure
	if errors.As(err, &failure) {
		return sc.FailOwn(ctx, p.ID, failure.Reason)
	}
	if err != nil {
		return err
	}
	give, err := w.turns.take(ctx)
	if err != nil {
		return err
	}
	defer give()
	doc, err := study.ReadPage(reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
	if errors.As(err, &failure) {
		return sc.FailOwn(ctx, p.ID, failure.Reason)
	}
	if err != nil {
		return err
	}
	doc.URL = p.URL // links lead where the list says
	if err := w.turns.keep(ctx, func() error { return sc.KeepOwn(ctx, p.ID, doc, analysis.OwnStems(doc)) }); err != nil {
		if !store.Lasting(err) {
			return err
		}
		w.log.Error("an own page cannot be kept", "url", p.URL, "error", err)
		return sc.FailOwn(ctx, p.ID, "The page was fetched but cannot be kept; the server's log says why.")
	}
	return nil
}

// NextRetry implements river.Worker.
func (w *ownReader) NextRetry(job *river.Job[queue.OwnArgs]) time.Time { return soon(job.Attempt) }
