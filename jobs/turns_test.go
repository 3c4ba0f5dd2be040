package jobs

import (
	"context"
	"errors"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// After each page a process leaves the database alone for longer than it took, and others of the
// process wait; but never for long.
func TestATurnRests(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		turns := &turns{make(chan struct{}, 1)}
		page := func(took time.Duration) {
			give, err := turns.take(t.Context())
			require.NoError(t, err)
			defer give()
			_ = turns.keep(t.Context(), func() error { time.Sleep(took); return nil })
		}
		began := time.Now()
		done := make(chan time.Duration, 2)
		for range 2 {
			go func() {
				page(10 * time.Millisecond)
				done <- time.Since(began)
			}()
		}
		assert.Equal(t, 10*time.Millisecond*(1+restFor), <-done)
		assert.Equal(t, 2*10*time.Millisecond*(1+restFor), <-done, "one after another")
		began = time.Now()
		page(time.Minute)
		assert.Equal(t, time.Minute+longestRest, time.Since(began))
	})
}

// What goes wrong is told, and an end is not slept through.
func TestATurnEnds(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		turns := &turns{make(chan struct{}, 1)}
		ctx, cancel := context.WithCancel(t.Context())
		wrong := errors.New("the database is away")
		give, err := turns.take(ctx)
		require.NoError(t, err)
		began := time.Now()
		go func() { time.Sleep(time.Second); cancel() }()
		_, err = turns.take(ctx)
		assert.ErrorIs(t, err, context.Canceled)
		assert.ErrorIs(t, turns.keep(ctx, func() error { time.Sleep(time.Hour); return wrong }), wrong)
		assert.Equal(t, time.Hour+time.Second, time.Since(began))
		give()
		_, err = turns.take(t.Context())
		assert.NoError(t, err, "it was given back")
	})
}
