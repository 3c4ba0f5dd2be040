package localpg

import (
	"context"
	"fmt"

	"github.com/jackc/pgx/v5"
)

// EnsureDatabase makes a database unless it is there, and returns its address.
func (c *Cluster) EnsureDatabase(ctx context.Context, name string) (string, error) {
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	if err != nil {
		return "", fmt.Errorf("connecting to the private cluster: %w", err)
	}
	defer conn.Close(ctx)
	var there bool
	if err := conn.QueryRow(ctx, "select exists(select 1 from pg_database where datname = $1)", name).Scan(&there); err != nil {
		return "", err
	}
	if !there {
		if _, err := conn.Exec(ctx, "create database "+pgx.Identifier{name}.Sanitize()); err != nil {
			return "", fmt.Errorf("making database %s: %w", name, err)
		}
	}
	return c.URL(name), nil
}
