// Package jobs does the long work of the program in the background, on a queue
// in the same database: searching, and fetching and reading pages.
package jobs

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"slices"
	"strings"

	"corpulan/core/reading"
	"corpulan/core/text"
	"corpulan/gather"
	"corpulan/store"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"gorm.io/datatypes"
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

// Fetch asks for the pages of a host.
func (q *Queue) Fetch(ctx context.Context, tx *sql.Tx, gathering int64, host string) error {
	_, err := q.client.InsertTx(ctx, tx, FetchArgs{gathering, host}, nil)
	return err
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
	var hosts []string
	for _, r := range results {
		if !slices.Contains(hosts, r.Host) {
			hosts = append(hosts, r.Host)
		}
	}
	return s.store.InTx(ctx, func(tx *store.Store, sqlTx *sql.Tx) error {
		if err := tx.Found(ctx, g, results, found.Asked, found.Related, found.Suggestions); err != nil {
			return err
		}
		for _, h := range hosts {
			if err := s.queue.Fetch(ctx, sqlTx, g.ID, h); err != nil {
				return err
			}
		}
		return nil
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
		ended, err := f.store.KeepEarlier(ctx, r, earlier, earlierReading, ProposeSetAside(earlierReading.Document.Data(), study.Language))
		return f.afterPage(ctx, r, ended, err)
	}
	doc, err := ReadPage(reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
	if errors.As(err, &failure) {
		return f.failed(ctx, r, failure)
	}
	c, err := CaptureOf(page)
	if err != nil {
		return err
	}
	ended, err := f.store.KeepPage(ctx, r, c, doc, ProposeSetAside(doc, study.Language))
	return f.afterPage(ctx, r, ended, err)
}

// afterPage looks for near-duplicates once the last page is in.
func (f *fetcher) afterPage(ctx context.Context, r store.Result, ended bool, err error) error {
	if err != nil || !ended {
		return err
	}
	return ProposeDuplicates(ctx, f.store, r.GatheringID)
}

func (f *fetcher) failed(ctx context.Context, r store.Result, why *gather.Failure) error {
	ended, err := f.store.FailPage(ctx, r, string(why.Code), why.Reason)
	return f.afterPage(ctx, r, ended, err)
}

// ProposeDuplicates sets aside what says the same as a page that ranks better.
// It runs once all pages are in, so that no two of them can miss each other.
func ProposeDuplicates(ctx context.Context, st *store.Store, gathering int64) error {
	pages, err := st.Sketches(ctx, gathering)
	if err != nil {
		return err
	}
	for i, p := range pages {
		for _, better := range pages[:i] {
			if reading.Resemblance(p.Sketch, better.Sketch) < reading.NearDuplicate {
				continue
			}
			if err := st.ProposeAside(ctx, p.ID, fmt.Sprintf("Nearly the same text as rank %d", better.Rank)); err != nil {
				return err
			}
			break
		}
	}
	return nil
}

// CaptureOf is a page as it is kept: its bytes compressed, its headers beside them.
func CaptureOf(page *gather.Page) (*store.Capture, error) {
	body, err := compress(page.Body)
	if err != nil {
		return nil, err
	}
	return &store.Capture{URL: page.URL, FinalURL: page.FinalURL, Status: page.Status,
		Headers: datatypes.NewJSONType(map[string][]string(page.Header)), ContentType: page.ContentType,
		Body: body, Size: int64(len(page.Body)), Digest: page.Digest[:], CapturedAt: page.At}, nil
}

// PageOf is a capture as the page it was: CaptureOf turned round.
func PageOf(c store.Capture) (gather.Page, error) {
	z, err := gzip.NewReader(bytes.NewReader(c.Body))
	if err != nil {
		return gather.Page{}, fmt.Errorf("unpacking the capture of %s: %w", c.URL, err)
	}
	defer z.Close()
	body, err := io.ReadAll(z)
	if err != nil {
		return gather.Page{}, fmt.Errorf("unpacking the capture of %s: %w", c.URL, err)
	}
	return gather.Page{URL: c.URL, FinalURL: c.FinalURL, Status: c.Status, Header: c.Headers.Data(), ContentType: c.ContentType,
		Body: body, Digest: sha256.Sum256(body), At: c.CapturedAt}, nil
}

// ReadPage reads a page that was fetched or handed in; its error is a
// *gather.Failure. A page must not take the program with it, whatever is in it.
func ReadPage(page reading.Page) (doc *reading.Reading, err error) {
	defer func() {
		if p := recover(); p != nil {
			doc, err = nil, &gather.Failure{Code: gather.Unreadable, Reason: "The page could not be read.", Err: fmt.Errorf("panic: %v", p)}
		}
	}()
	doc, err = reading.Read(page)
	switch {
	case errors.Is(err, reading.ErrEmpty):
		return nil, &gather.Failure{Code: gather.EmptyPage, Reason: "The page is empty.", Err: err}
	case errors.Is(err, reading.ErrNotHTML):
		return nil, &gather.Failure{Code: gather.NotAPage, Reason: sentence(err.Error()), Err: err}
	case err != nil:
		return nil, &gather.Failure{Code: gather.Unreadable, Reason: sentence(err.Error()), Err: err}
	}
	return doc, nil
}

// ProposeSetAside says why a page had better not count, empty if it should.
func ProposeSetAside(r *reading.Reading, language string) string {
	if r.Barrier != "" {
		return "Not the content: " + r.Barrier
	}
	switch r.Kind {
	case reading.Forum:
		return "A forum thread"
	case reading.Video:
		return "A video with little text"
	case reading.Home:
		return "A site's first page"
	case reading.Thin:
		return fmt.Sprintf("Hardly any text (%d words)", r.Counts.Words)
	case reading.Category:
		return "A shop category"
	case reading.Directory:
		return "A directory"
	}
	if r.Detected != "" && text.BaseLanguage(language) != r.Detected {
		return fmt.Sprintf("In another language (%s)", r.Detected)
	}
	return ""
}

func compress(body []byte) ([]byte, error) {
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	if _, err := z.Write(body); err != nil {
		return nil, err
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	return b.Bytes(), nil
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
