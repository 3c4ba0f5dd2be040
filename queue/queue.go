// Package queue is what may be asked of the workers: the arguments of their
// jobs, and how to ask. It holds no worker code, so that whoever asks for work
// need not know how it is done.
package queue

import (
	"context"
	"database/sql"
	"fmt"
	"log/slog"
	"time"

	"corpulan/core/demand"
	"corpulan/core/reading"
	"corpulan/store"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivertype"
)

// Tries is how often a job is run before the queue gives it up. It is written
// into the job as it is asked for: what a worker's client says does not count.
const Tries = 12

// SearchArgs asks for the ranked results of a gathering.
type SearchArgs struct {
	Gathering int64 `json:"gathering"`
}

// Kind implements river.JobArgs.
func (SearchArgs) Kind() string { return "search" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (SearchArgs) InsertOpts() river.InsertOpts { return river.InsertOpts{MaxAttempts: Tries} }

// FetchArgs asks for the pages of one host. A job to each host keeps requests
// to it one at a time, however many workers there are.
type FetchArgs struct {
	Gathering int64  `json:"gathering"`
	Host      string `json:"host"`
}

// Kind implements river.JobArgs.
func (FetchArgs) Kind() string { return "fetch" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (FetchArgs) InsertOpts() river.InsertOpts { return river.InsertOpts{MaxAttempts: Tries} }

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
	return river.InsertOpts{Priority: 4, MaxAttempts: Tries, UniqueOpts: unfinished()}
}

// EvidenceArgs asks for the evidence of a gathering to be computed ahead of those who look.
type EvidenceArgs struct {
	Gathering int64 `json:"gathering"`
}

// Kind implements river.JobArgs.
func (EvidenceArgs) Kind() string { return "evidence" }

// Computing is the queue of what takes a whole processor: a process works on one at a time.
const Computing = "computing"

// InsertOpts implements river.JobArgsWithInsertOpts: whoever looks again asks again.
func (EvidenceArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Queue: Computing, MaxAttempts: 2, UniqueOpts: unfinished()}
}

// SitemapArgs asks for the list of a site's own pages, and for those that are new or changed.
type SitemapArgs struct {
	Publication int64  `json:"publication"`
	Address     string `json:"address"`
}

// Kind implements river.JobArgs.
func (SitemapArgs) Kind() string { return "sitemap" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (SitemapArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 2, MaxAttempts: 3, UniqueOpts: unfinished()}
}

// OwnArgs asks for the own pages of a publication that wait to be read.
type OwnArgs struct {
	Publication int64 `json:"publication"`
}

// Kind implements river.JobArgs.
func (OwnArgs) Kind() string { return "own" }

// InsertOpts implements river.JobArgsWithInsertOpts: it comes after gatherings.
func (OwnArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 3, MaxAttempts: Tries}
}

// unfinished makes one job of its arguments enough as long as it has not ended.
func unfinished() river.UniqueOpts {
	return river.UniqueOpts{ByArgs: true, ByState: []rivertype.JobState{
		rivertype.JobStateAvailable, rivertype.JobStatePending, rivertype.JobStateRunning, rivertype.JobStateRetryable, rivertype.JobStateScheduled}}
}

// The kinds of work on a list of keywords.
const (
	ImportKeywords = "import"  // the table that waits, by the columns given
	AskResults     = "results" // results pages of its keywords
	AskFigures     = "figures" // volume, difficulty and cost
	FromSeeds      = "seeds"   // what people search around some queries
)

// DemandArgs asks for work on a list of keywords.
type DemandArgs struct {
	Publication int64           `json:"publication"`
	List        int64           `json:"list"`
	Work        string          `json:"work"`
	Columns     *demand.Columns `json:"columns,omitempty"` // of an import
	Seeds       []string        `json:"seeds,omitempty"`
	Depth       int             `json:"depth,omitempty"`   // how far from the seeds
	Letters     bool            `json:"letters,omitempty"` // seeds with each letter, too
	Most        int             `json:"most,omitempty"`    // questions put to the service
}

// Kind implements river.JobArgs.
func (DemandArgs) Kind() string { return "demand" }

// InsertOpts implements river.JobArgsWithInsertOpts: a gathering goes before.
func (DemandArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 2, MaxAttempts: Tries}
}

// MailArgs asks for a notice to be mailed to whom it is for.
type MailArgs struct {
	Notice int64 `json:"notice"`
}

// Kind implements river.JobArgs.
func (MailArgs) Kind() string { return "mail" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (MailArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 3, MaxAttempts: Tries}
}

// AccountMailArgs asks for the notices of accounts to be mailed.
type AccountMailArgs struct{}

// Kind implements river.JobArgs.
func (AccountMailArgs) Kind() string { return "accountmail" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (AccountMailArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 3, MaxAttempts: 3, UniqueOpts: unfinished()}
}

// DueArgs asks for notices of what is due.
type DueArgs struct{}

// Kind implements river.JobArgs.
func (DueArgs) Kind() string { return "due" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (DueArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 4, MaxAttempts: 3, UniqueOpts: unfinished()}
}

// AgainArgs asks for the studies to be gathered again whose time has come.
type AgainArgs struct{}

// Kind implements river.JobArgs.
func (AgainArgs) Kind() string { return "again" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (AgainArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 4, MaxAttempts: 3, UniqueOpts: unfinished()}
}

// DeliverArgs asks for an event to be told to a webhook.
type DeliverArgs struct {
	Delivery int64 `json:"delivery"`
}

// Kind implements river.JobArgs.
func (DeliverArgs) Kind() string { return "deliver" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (DeliverArgs) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Priority: 3, MaxAttempts: Tries}
}

// PurgeArgs asks for what was deleted long ago to be taken out of the database.
type PurgeArgs struct{}

// Kind implements river.JobArgs.
func (PurgeArgs) Kind() string { return "purge" }

// InsertOpts implements river.JobArgsWithInsertOpts.
func (PurgeArgs) InsertOpts() river.InsertOpts { return river.InsertOpts{Priority: 4, MaxAttempts: 3} }

// Queue takes jobs, inside the transaction that makes them due.
type Queue struct {
	client *river.Client[*sql.Tx]
}

// New makes a queue for the store's database.
func New(st *store.Store) (*Queue, error) {
	client, err := river.NewClient(riverdatabasesql.New(st.SQL()), &river.Config{Logger: Quiet(st.Log())})
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

// Reread asks for the captures to be read again that an older engine read.
func (q *Queue) Reread(ctx context.Context) error {
	_, err := q.client.Insert(ctx, RereadArgs{reading.Engine}, nil)
	return err
}

// Evidence asks for the evidence of a gathering to be computed.
func (q *Queue) Evidence(ctx context.Context, gathering int64) error {
	_, err := q.client.Insert(ctx, EvidenceArgs{gathering}, nil)
	return err
}

// soon is when the first pages of a gathering are in. Our own.
const soon = 2 * time.Second

// EvidenceSoon asks for the evidence of a gathering that has just begun: whoever looks while its
// pages arrive finds some.
func (q *Queue) EvidenceSoon(ctx context.Context, tx *sql.Tx, gathering int64) error {
	_, err := q.client.InsertTx(ctx, tx, EvidenceArgs{gathering}, &river.InsertOpts{ScheduledAt: time.Now().Add(soon)})
	return err
}

// Sitemap asks for a site's list of its own pages.
func (q *Queue) Sitemap(ctx context.Context, tx *sql.Tx, publication int64, address string) error {
	_, err := q.client.InsertTx(ctx, tx, SitemapArgs{publication, address}, nil)
	return err
}

// Own asks for the own pages of a publication that wait.
func (q *Queue) Own(ctx context.Context, tx *sql.Tx, publication int64) error {
	_, err := q.client.InsertTx(ctx, tx, OwnArgs{publication}, nil)
	return err
}

// Demand asks for work on a list of keywords.
func (q *Queue) Demand(ctx context.Context, tx *sql.Tx, args DemandArgs) error {
	_, err := q.client.InsertTx(ctx, tx, args, nil)
	return err
}

// Mail asks for a notice to be mailed.
func (q *Queue) Mail(ctx context.Context, tx *sql.Tx, notice int64) error {
	_, err := q.client.InsertTx(ctx, tx, MailArgs{notice}, nil)
	return err
}

// Deliver puts up to so many events that wait on the queue.
func (q *Queue) Deliver(ctx context.Context, st *store.Store, most int) error {
	return st.InTx(ctx, func(tx *store.Store, sqlTx *sql.Tx) error {
		ids, err := tx.Undelivered(ctx, most)
		if err != nil {
			return err
		}
		for _, id := range ids {
			if _, err := q.client.InsertTx(ctx, sqlTx, DeliverArgs{id}, nil); err != nil {
				return err
			}
		}
		return nil
	})
}

// Quiet is a log that the queue itself writes only errors to: it says much that
// nobody needs to know.
func Quiet(log *slog.Logger) *slog.Logger { return slog.New(errorsOnly{log.Handler()}) }

type errorsOnly struct{ slog.Handler }

func (h errorsOnly) Enabled(ctx context.Context, level slog.Level) bool {
	return level >= slog.LevelError && h.Handler.Enabled(ctx, level)
}

func (h errorsOnly) WithAttrs(attrs []slog.Attr) slog.Handler {
	return errorsOnly{h.Handler.WithAttrs(attrs)}
}

func (h errorsOnly) WithGroup(name string) slog.Handler { return errorsOnly{h.Handler.WithGroup(name)} }
