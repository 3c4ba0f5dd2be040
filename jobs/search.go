// Package jobs holds the workers: they do the long work of the program in the
// background, on a queue in the same database. search.go asks the engine,
// fetch.go fetches and reads pages, demand.go works on lists of keywords, hosts.go lets one of them at a time to a
// host, reread.go reads captures again, purge.go takes out what was deleted
// long ago, workers.go runs them.
package jobs

import (
	"context"
	"database/sql"
	"errors"
	"log/slog"
	"time"

	"corpulan/core/message"
	"corpulan/queue"
	"corpulan/search"
	"corpulan/store"
	"corpulan/study"

	"github.com/riverqueue/river"
)

// searcher runs SearchArgs.
type searcher struct {
	river.WorkerDefaults[queue.SearchArgs]
	store    *store.Store
	queue    *queue.Queue
	services services
	log      *slog.Logger
}

// Work asks the provider, keeps the results and asks for the pages of every
// host, all in one transaction.
func (s *searcher) Work(ctx context.Context, job *river.Job[queue.SearchArgs]) error {
	g, st, err := s.store.Gathering(ctx, job.Args.Gathering)
	if errors.Is(err, store.ErrNotFound) || err == nil && g.State != store.Searching {
		return nil // the study is gone, the gathering stopped, or another attempt got this far
	}
	if err != nil {
		return err
	}
	if job.Attempt > job.MaxAttempts {
		return s.store.FailSearch(ctx, g, "The search was tried several times and never came to its end.")
	}
	provider, _, err := s.services.of(ctx, st.PublicationID)
	if err != nil {
		return err
	}
	found, err := provider.Search(ctx, search.Query{Keyword: st.Keyword, Language: st.Language, Country: st.Country, Count: st.Depth})
	if err != nil {
		if ctx.Err() != nil {
			return err
		}
		return s.store.FailSearch(ctx, g, message.Fault(err))
	}
	if len(found.Items) == 0 {
		return s.store.FailSearch(ctx, g, message.Of("The search engine has no results for “%s”.", st.Keyword))
	}
	results := study.ResultsOf(g, found)
	err = s.store.InTx(ctx, func(tx *store.Store, sqlTx *sql.Tx) error {
		hosts, err := tx.Found(ctx, g, results, found.Asked, found.Related, found.Suggestions)
		if err != nil {
			return err
		}
		if err := s.queue.EvidenceSoon(ctx, sqlTx, g.ID); err != nil {
			return err
		}
		return s.queue.Fetch(ctx, sqlTx, g.ID, hosts...)
	})
	if store.Lasting(err) {
		s.log.Error("the results of a search cannot be kept", "study", st.ID, "error", err)
		return s.store.FailSearch(ctx, g, "What the search engine gave cannot be kept; the server's log says why.")
	}
	return err
}

// NextRetry implements river.Worker.
func (s *searcher) NextRetry(job *river.Job[queue.SearchArgs]) time.Time { return soon(job.Attempt) }
