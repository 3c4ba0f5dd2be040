// Package jobs does the long work of the program in the background, on a queue
// in the same database: searching, and fetching and reading pages.
package jobs

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strings"

	"corpulan/core/reading"
	"corpulan/gather"
	"corpulan/store"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
)

// SearchArgs asks for the ranked results of a gathering.
type SearchArgs struct {
	Gathering int64 `json:"gathering"`
}

// Kind implements river.JobArgs.
func (SearchArgs) Kind() string { return "search" }

// FetchArgs asks for the pages of one host. A job to each host keeps requests
// to it one at a time, however many workers there are.
type FetchArgs struct {
	Gathering int64  `json:"gathering"`
	Host      string `json:"host"`
}

// Kind implements river.JobArgs.
func (FetchArgs) Kind() string { return "fetch" }

// Queue takes jobs, inside the transaction that makes them due.
type Queue struct {
	client *river.Client[*sql.Tx]
}

// NewQueue makes a queue for the store's database.
func NewQueue(st *store.Store) (*Queue, error) {
	client, err := river.NewClient(riverdatabasesql.New(st.SQL()), &river.Config{Logger: quiet()})
	if err != nil {
		return nil, fmt.Errorf("opening the queue: %w", err)
	}
	return &Queue{client}, nil
}

// Search asks for a gathering to be made.
func (q *Queue) Search(ctx context.Context, tx *sql.Tx, gathering int64) error {
	_, err := q.client.InsertTx(ctx, tx, SearchArgs{gathering}, nil)
	return err
}

// Fetch asks for the waiting pages of some hosts.
func (q *Queue) Fetch(ctx context.Context, tx *sql.Tx, gathering int64, hosts ...string) error {
	for _, h := range hosts {
		if _, err := q.client.InsertTx(ctx, tx, FetchArgs{gathering, h}, nil); err != nil {
			return err
		}
	}
	return nil
}

// quiet keeps the queue's own messages to what a person must know.
func quiet() *slog.Logger {
	return slog.New(slog.NewTextHandler(logWriter{}, &slog.HandlerOptions{Level: slog.LevelError}))
}

// searcher runs SearchArgs.
type searcher struct {
	river.WorkerDefaults[SearchArgs]
	store    *store.Store
	queue    *Queue
	provider gather.Provider
}

// Work asks the provider, keeps the results and asks for the pages of every
// host, all in one transaction.
func (s *searcher) Work(ctx context.Context, job *river.Job[SearchArgs]) error {
	g, study, err := s.store.Gathering(ctx, job.Args.Gathering)
	if errors.Is(err, store.ErrNotFound) || err == nil && g.State != store.Searching {
		return nil // the study is gone, or another attempt got this far
	}
	if err != nil {
		return err
	}
	found, err := s.provider.Search(ctx, gather.Query{Keyword: study.Keyword, Language: study.Language, Country: study.Country, Count: study.Depth})
	if err != nil {
		if ctx.Err() != nil {
			return err
		}
		return s.store.FailGathering(ctx, g, sentence(err.Error()))
	}
	if len(found.Items) == 0 {
		return s.store.FailGathering(ctx, g, fmt.Sprintf("The search engine has no results for “%s”.", study.Keyword))
	}
	results := ResultsOf(g, found)
	return s.store.InTx(ctx, func(tx *store.Store, sqlTx *sql.Tx) error {
		hosts, err := tx.Found(ctx, g, results, found.Asked, found.Related, found.Suggestions)
		if err != nil {
			return err
		}
		return s.queue.Fetch(ctx, sqlTx, g.ID, hosts...)
	})
}

// ResultsOf are the items of a results page as a gathering keeps them.
func ResultsOf(g store.Gathering, found *gather.Results) []store.Result {
	results := make([]store.Result, len(found.Items))
	for i, it := range found.Items {
		results[i] = store.Result{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: it.Rank, URL: it.URL,
			Host: HostOf(it.URL), Title: it.Title, Snippet: it.Snippet, State: store.Waiting, Kept: true}
	}
	return results
}

// fetcher runs FetchArgs.
type fetcher struct {
	river.WorkerDefaults[FetchArgs]
	store   *store.Store
	fetcher *gather.Fetcher
}

// Work fetches and reads the pages of the host that are still to be had. A
// page that fails is recorded with its reason and the rest go on.
func (f *fetcher) Work(ctx context.Context, job *river.Job[FetchArgs]) error {
	_, study, err := f.store.Gathering(ctx, job.Args.Gathering)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	for rank := 0; ; {
		r, err := f.store.NextUnfetched(ctx, job.Args.Gathering, job.Args.Host, rank)
		if errors.Is(err, store.ErrNotFound) {
			return nil // all in, or stopped
		}
		if err != nil {
			return err
		}
		if err := f.one(ctx, study, r); err != nil {
			return err
		}
		rank = r.Rank
	}
}

func (f *fetcher) one(ctx context.Context, study store.Study, r store.Result) error {
	if err := f.store.BeginFetch(ctx, r); err != nil {
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
	page, err := f.fetcher.FetchAgain(ctx, r.URL, seen)
	var failure *gather.Failure
	switch {
	case errors.As(err, &failure):
		return f.failed(ctx, r, failure)
	case err != nil:
		return err
	case page.NotModified():
		return f.store.KeepEarlier(ctx, r, earlier, earlierReading, ProposeSetAside(earlierReading.Document.Data(), study.Language))
	}
	doc, err := ReadPage(reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
	if errors.As(err, &failure) {
		return f.failed(ctx, r, failure)
	}
	c, err := CaptureOf(page)
	if err != nil {
		return err
	}
	return f.store.KeepPage(ctx, r, c, doc, ProposeSetAside(doc, study.Language))
}

func (f *fetcher) failed(ctx context.Context, r store.Result, why *gather.Failure) error {
	return f.store.FailPage(ctx, r, string(why.Code), why.Reason)
}

// HostOf is the host of an address, in small letters.
func HostOf(address string) string {
	_, rest, _ := strings.Cut(address, "://")
	host, _, _ := strings.Cut(rest, "/")
	host, _, _ = strings.Cut(host, "?")
	return strings.ToLower(host)
}

func sentence(s string) string {
	if s == "" {
		return s
	}
	s = strings.ToUpper(s[:1]) + s[1:]
	if !strings.HasSuffix(s, ".") {
		s += "."
	}
	return s
}
