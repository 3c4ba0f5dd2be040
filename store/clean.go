package store

import (
	"bytes"
	"context"
	"database/sql"
	"database/sql/driver"
	"encoding/json"
	"reflect"
	"strings"
	"unicode/utf8"

	"gorm.io/gorm"
)

// Pages, headers, addresses and forms may hold bytes that PostgreSQL takes in
// no text: NUL, and what is not UTF-8. They are cleaned here, once, as values
// go to the database: NUL is dropped, broken bytes become U+FFFD. Bodies of
// captures are bytes and stay as they are.

// cleanPool hands every value to the database cleaned.
type cleanPool struct{ *sql.DB }

// cleanTx does so within a transaction.
type cleanTx struct{ *sql.Tx }

var (
	_ gorm.ConnPool         = cleanPool{}
	_ gorm.ConnPoolBeginner = cleanPool{}
	_ gorm.GetDBConnector   = cleanPool{}
	_ gorm.TxCommitter      = (*cleanTx)(nil)
)

// GetDBConn implements gorm.GetDBConnector.
func (p cleanPool) GetDBConn() (*sql.DB, error) { return p.DB, nil }

// BeginTx implements gorm.ConnPoolBeginner.
func (p cleanPool) BeginTx(ctx context.Context, o *sql.TxOptions) (gorm.ConnPool, error) {
	tx, err := p.DB.BeginTx(ctx, o)
	if err != nil {
		return nil, err
	}
	return &cleanTx{tx}, nil
}

// ExecContext implements gorm.ConnPool, as do the three below.
func (p cleanPool) ExecContext(ctx context.Context, q string, args ...any) (sql.Result, error) {
	return p.DB.ExecContext(ctx, q, cleaned(args)...)
}

// QueryContext is described at ExecContext.
func (p cleanPool) QueryContext(ctx context.Context, q string, args ...any) (*sql.Rows, error) {
	return p.DB.QueryContext(ctx, q, cleaned(args)...)
}

// QueryRowContext is described at ExecContext.
func (p cleanPool) QueryRowContext(ctx context.Context, q string, args ...any) *sql.Row {
	return p.DB.QueryRowContext(ctx, q, cleaned(args)...)
}

// ExecContext is described at cleanPool.
func (t *cleanTx) ExecContext(ctx context.Context, q string, args ...any) (sql.Result, error) {
	return t.Tx.ExecContext(ctx, q, cleaned(args)...)
}

// QueryContext is described at cleanPool.
func (t *cleanTx) QueryContext(ctx context.Context, q string, args ...any) (*sql.Rows, error) {
	return t.Tx.QueryContext(ctx, q, cleaned(args)...)
}

// QueryRowContext is described at cleanPool.
func (t *cleanTx) QueryRowContext(ctx context.Context, q string, args ...any) *sql.Row {
	return t.Tx.QueryRowContext(ctx, q, cleaned(args)...)
}

func cleaned(args []any) []any {
	var out []any // made only where something has to change
	for i, a := range args {
		c, changed := clean(a)
		if changed && out == nil {
			out = append([]any{}, args...)
		}
		if changed {
			out[i] = c
		}
	}
	if out == nil {
		return args
	}
	return out
}

// clean is a value as the database takes it, and whether that is another.
func clean(a any) (any, bool) {
	switch v := a.(type) {
	case string:
		s := cleanString(v)
		return s, s != v
	case []byte, nil:
		return a, false
	case driver.Valuer: // JSON
		if p := reflect.ValueOf(v); p.Kind() == reflect.Pointer && p.IsNil() {
			return a, false // a null, which the driver tells
		}
		value, err := v.Value()
		if err != nil {
			return a, false
		}
		switch j := value.(type) {
		case []byte:
			return cleanJSON(j), true
		case string:
			return string(cleanJSON([]byte(j))), true
		}
	}
	return a, false
}

func cleanString(s string) string {
	if strings.IndexByte(s, 0) < 0 && utf8.ValidString(s) {
		if len(s) > 1 && (s[0] == '{' || s[0] == '[') && strings.Contains(s, nulEscape) && json.Valid([]byte(s)) {
			return string(cleanJSON([]byte(s)))
		}
		return s
	}
	return strings.ReplaceAll(strings.ToValidUTF8(s, "\uFFFD"), "\x00", "")
}

const nulEscape = `\u0000`

// cleanJSON drops escaped NULs, which jsonb refuses, and nothing else: a
// backslash before the escape's own makes it plain text.
func cleanJSON(j []byte) []byte {
	if !bytes.Contains(j, []byte(nulEscape)) {
		return j
	}
	out := make([]byte, 0, len(j))
	for i := 0; i < len(j); {
		switch {
		case j[i] != '\\' || i+1 >= len(j):
			out = append(out, j[i])
			i++
		case bytes.HasPrefix(j[i:], []byte(nulEscape)):
			i += len(nulEscape)
		default: // an escape of its own, whole
			out = append(out, j[i], j[i+1])
			i += 2
		}
	}
	return out
}
