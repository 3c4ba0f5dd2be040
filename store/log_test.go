package store

import (
	"bytes"
	"context"
	"errors"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"gorm.io/gorm"
)

// A statement that failed stands in the program's log; that somebody gave up, or
// that nothing was found, does not.
func TestWhatGORMLogs(t *testing.T) {
	var out bytes.Buffer
	l := sqlLogger(slog.New(slog.NewTextHandler(&out, nil)).With("process", "p"))
	trace := func(ctx context.Context, err error) string {
		out.Reset()
		l.Trace(ctx, time.Now(), func() (string, int64) { return "select 1 from x where y = $1", 0 }, err)
		return out.String()
	}
	said := trace(t.Context(), errors.New("relation x does not exist"))
	assert.Contains(t, said, "relation x does not exist")
	assert.Contains(t, said, "where y = $1")
	assert.Contains(t, said, "process=p")
	gone, stop := context.WithCancel(t.Context())
	stop()
	assert.Empty(t, trace(gone, errors.New("broken off")))
	for _, err := range []error{nil, gorm.ErrRecordNotFound, gorm.ErrDuplicatedKey, context.Canceled} {
		assert.Empty(t, trace(t.Context(), err))
	}
}
