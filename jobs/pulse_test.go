package jobs

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// Nobody is called silent by who could not beat itself, or was late.
func TestWhoMayCallOthersSilent(t *testing.T) {
	now := time.Date(2026, 11, 26, 12, 0, 0, 0, time.UTC)
	p := pulse{last: now}
	beat := func(after time.Duration, ok bool) bool {
		now = now.Add(after)
		return p.judges(ok, now)
	}
	until := func(ok bool) (beats int) {
		for !beat(beatEvery, ok) {
			beats++
		}
		return beats
	}
	assert.Equal(t, 3, until(true), "after as many beats in a row")
	assert.True(t, beat(beatEvery, true))
	assert.False(t, beat(beatEvery, false), "the database is away")
	assert.Equal(t, 3, until(true), "others are given time to beat again")
	assert.False(t, beat(silentAfter, true), "late by itself: its machine is busy, and others wait for it as well")
	assert.Equal(t, 3, until(true))
}
