package store

import (
	"context"
	"database/sql/driver"
	"errors"
	"strings"
	"syscall"

	"github.com/jackc/pgx/v5/pgconn"
)

// Trouble is what is the matter with the machines behind an error, where it is no fault of ours.
type Trouble string

// The troubles that people are told of as such.
const (
	DiskFull Trouble = "full"
	Away     Trouble = "away" // the database does not answer
)

// TroubleOf tells what trouble an error comes from; none for a fault of another kind.
func (s *Store) TroubleOf(ctx context.Context, err error) Trouble {
	var pg *pgconn.PgError
	switch {
	case errors.As(err, &pg) && pg.Code == "53100", errors.Is(err, syscall.ENOSPC):
		return DiskFull
	// PostgreSQL, appendix A: connection exceptions, no more connections, and the server's comings and goings.
	case pg != nil && (strings.HasPrefix(pg.Code, "08") || pg.Code == "53300" || strings.HasPrefix(pg.Code, "57P0")):
		return Away
	case errors.As(err, new(*pgconn.ConnectError)), errors.Is(err, driver.ErrBadConn), s.Ready(ctx) != nil:
		return Away
	}
	return ""
}
