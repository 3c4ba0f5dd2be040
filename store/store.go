// Package store keeps publications, studies and what was gathered for them in
// PostgreSQL. It holds all the SQL of the program. Everything hangs on a
// publication: apart from the few calls a worker makes, which name a study, no
// query exists without its publication.
//
//   - models.go      the tables; migrations/ makes them
//   - studies.go     the desk: studies, shelves, purging
//   - gatherings.go  the state of a gathering, under one lock; results.go, pages.go,
//     curate.go change it, carry.go takes over from an earlier one
//   - captures.go    the bytes of captures, stored once, pruned
//   - duplicates.go, reread.go  near-duplicates; readings of an older engine
//   - people.go      accounts, sessions, members, links that are good once
//   - publications.go whose briefs they are, and what they say for all of them
//   - ownpages.go    pages of the publication itself
//   - briefs.go      what was decided and typed
//   - keywords.go, resultspages.go  lists of keywords; results pages to compare them by
//   - plans.go       what people did to lists and slates, to be undone; slates
//   - links.go       links to a brief, remarks, ticks
//   - desk.go, search.go, notices.go  the ledger; words found anywhere; who should know of what
//   - machines.go    tokens, webhooks and what they are told
//   - changes.go     what people did, to be undone; history.go lists it all
//   - watch.go       what an operator watches
//   - workers.go     workers, hosts, orphans
//   - clean.go       bytes that PostgreSQL does not take
//   - log.go         what goes wrong, in the program's log
package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"corpulan/store/migrations"

	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	_ "github.com/jackc/pgx/v5/stdlib" // the driver "pgx"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivermigrate"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Errors that callers tell apart; test with errors.Is.
var (
	ErrNotFound = errors.New("not found")
	// ErrConflict says that somebody else saved a newer revision meanwhile.
	ErrConflict = errors.New("somebody else has changed this meanwhile")
	ErrTooMany  = errors.New("too many")
)

// TooManyError is an ErrTooMany of pages in a gathering.
type TooManyError struct{ Have, Adding, Most int }

func (e *TooManyError) Error() string {
	return fmt.Sprintf("a gathering holds at most %d pages; it has %d and %d would come", e.Most, e.Have, e.Adding)
}

// Is makes errors.Is(err, ErrTooMany) true.
func (e *TooManyError) Is(target error) bool { return target == ErrTooMany }

// Store is a handle on one database, for use by many goroutines.
type Store struct {
	db  *gorm.DB
	sql *sql.DB
	log *slog.Logger
}

// forChange locks rows that are about to be changed. Rows that refer to them can come meanwhile:
// FOR UPDATE would make each of those wait, since a foreign key holds on to what it refers to
// (PostgreSQL's manual, Row-Level Locks).
var forChange = clause.Locking{Strength: "NO KEY UPDATE"}

// usualConnections is how many connections a process opens at most. Our own: four processes stay
// below PostgreSQL's own default of 100.
const usualConnections = 24

// Open connects to the database at a postgres:// address. What goes wrong beneath
// is written to log, as the queue's and the workers' own is; nil for nowhere. It opens so many
// connections at most; 0 for the usual number.
func Open(ctx context.Context, url string, log *slog.Logger, connections int) (*Store, error) {
	if log == nil {
		log = slog.New(slog.DiscardHandler)
	}
	pool, err := sql.Open("pgx", url)
	if err != nil {
		return nil, fmt.Errorf("connecting to the database: %w", err)
	}
	if connections == 0 {
		connections = usualConnections
	}
	pool.SetMaxOpenConns(connections)
	pool.SetMaxIdleConns(max(connections/2, 2))
	pool.SetConnMaxIdleTime(5 * time.Minute)
	if err := pool.PingContext(ctx); err != nil {
		_ = pool.Close()
		return nil, fmt.Errorf("connecting to the database: %w", err)
	}
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: cleanPool{pool}}), &gorm.Config{
		Logger:                 sqlLogger(log),
		SkipDefaultTransaction: true,
		QueryFields:            true, // what only the database uses (words to be found by) stays there
		TranslateError:         true,
	})
	if err != nil {
		_ = pool.Close()
		return nil, fmt.Errorf("connecting to the database: %w", err)
	}
	return &Store{db: db, sql: pool, log: log}, nil
}

// Log is where all that works on this database writes what goes wrong.
func (s *Store) Log() *slog.Logger { return s.log }

// Close gives the connections back.
func (s *Store) Close() error { return s.sql.Close() }

// SQL is the connection pool, for the queue that shares the database.
func (s *Store) SQL() *sql.DB { return s.sql }

// Ready tells whether the database answers.
func (s *Store) Ready(ctx context.Context) error { return s.sql.PingContext(ctx) }

// migrationLock is the number of the advisory lock that holds goose's and the
// queue's migrations together; any number of our own.
const migrationLock = 0x636f7270

// Migrate brings the schema to the program's version: our tables by goose, the
// queue's by its own migrator.
func Migrate(ctx context.Context, url string) error {
	pool, err := pgxpool.New(ctx, url)
	if err != nil {
		return fmt.Errorf("connecting to the database: %w", err)
	}
	defer pool.Close()
	db, err := sql.Open("pgx", url)
	if err != nil {
		return err
	}
	defer db.Close()
	// Processes that start at once migrate one after another, ours and the queue's.
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return fmt.Errorf("preparing migrations: %w", err)
	}
	conn, err := db.Conn(ctx)
	if err != nil {
		return fmt.Errorf("connecting to the database: %w", err)
	}
	defer conn.Close()
	if _, err := conn.ExecContext(ctx, "select pg_advisory_lock($1)", migrationLock); err != nil {
		return fmt.Errorf("waiting to migrate the database: %w", err)
	}
	defer func() {
		_, _ = conn.ExecContext(context.WithoutCancel(ctx), "select pg_advisory_unlock($1)", migrationLock)
	}()
	provider, err := migrations.Provider(db, goose.WithSessionLocker(locker))
	if err != nil {
		return fmt.Errorf("preparing migrations: %w", err)
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrating the database: %w", err)
	}
	queue, err := rivermigrate.New(riverpgxv5.New(pool), nil)
	if err != nil {
		return err
	}
	if _, err := queue.Migrate(ctx, rivermigrate.DirectionUp, nil); err != nil {
		return fmt.Errorf("migrating the queue: %w", err)
	}
	return nil
}

// InTx runs f in one transaction; the *sql.Tx is for the queue, so that a job
// is asked for exactly when the data it works on are there.
func (s *Store) InTx(ctx context.Context, f func(tx *Store, sqlTx *sql.Tx) error) error {
	return s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		tx, ok := db.Statement.ConnPool.(*cleanTx)
		if !ok {
			return errors.New("store: the transaction is not one of ours")
		}
		return f(&Store{db: db, sql: s.sql, log: s.log}, tx.Tx)
	})
}

// Lasting tells whether an error of the database will come again however often
// the same is tried: the data are at fault, not the connection.
func Lasting(err error) bool {
	var pg *pgconn.PgError
	if !errors.As(err, &pg) || len(pg.Code) < 2 {
		return false
	}
	switch pg.Code[:2] { // classes of PostgreSQL's Appendix A
	case "21", "22", "23", "42", "54":
		return true
	}
	return false
}

// found turns GORM's word for nothing into ours.
func found(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}

// find is the rows of a query.
func find[T any](q *gorm.DB) ([]T, error) {
	var list []T
	err := q.Find(&list).Error
	return list, err
}

// take is the one row of a query, or the one with a number; it fails with ErrNotFound.
func take[T any](q *gorm.DB, number ...any) (T, error) {
	var row T
	err := found(q.Take(&row, number...).Error)
	return row, err
}
