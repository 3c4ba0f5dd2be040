package cache

import (
	"context"
	"errors"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestOneMakesWhatSeveralWant(t *testing.T) {
	c, err := New(Options[string, *int]{MaximumSize: 10})
	require.NoError(t, err)
	var made atomic.Int64
	begin := make(chan struct{})
	load := func(context.Context, string) (*int, error) {
		<-begin
		made.Add(1)
		n := 7
		return &n, nil
	}
	var wait sync.WaitGroup
	for range 20 {
		wait.Go(func() {
			n, err := c.Get(t.Context(), "seven", load)
			assert.NoError(t, err)
			assert.Equal(t, 7, *n)
		})
	}
	close(begin)
	wait.Wait()
	assert.EqualValues(t, 1, made.Load())
}

func TestWhatFailedIsNotKept(t *testing.T) {
	c, err := New(Options[int, []string]{MaximumWeight: 100, Weigher: func(_ int, l []string) uint32 { return uint32(1 + len(l)) }})
	require.NoError(t, err)
	broken := errors.New("broken")
	_, err = c.Get(t.Context(), 1, func(context.Context, int) ([]string, error) { return nil, broken })
	assert.ErrorIs(t, err, broken)
	_, ok := c.Find(1)
	assert.False(t, ok)
	list, err := c.Get(t.Context(), 1, func(context.Context, int) ([]string, error) { return nil, nil })
	require.NoError(t, err)
	assert.Nil(t, list, "nothing is a value, too")
	_, ok = c.Find(1)
	assert.True(t, ok)
	c.Set(1, []string{"a"})
	list, _ = c.Find(1)
	assert.Equal(t, []string{"a"}, list)
	c.Forget(1)
	_, ok = c.Find(1)
	assert.False(t, ok)
}

func TestSeveralAtOnce(t *testing.T) {
	c, err := New(Options[int, string]{MaximumSize: 10})
	require.NoError(t, err)
	c.Set(1, "one")
	all, err := c.All(t.Context(), []int{1, 2, 3}, func(_ context.Context, missing []int) (map[int]string, error) {
		assert.ElementsMatch(t, []int{2, 3}, missing)
		return map[int]string{2: "two"}, nil
	})
	require.NoError(t, err)
	assert.Equal(t, map[int]string{1: "one", 2: "two"}, all)
}
