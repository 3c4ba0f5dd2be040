package corpus

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// The first two are examples of Schwartz & Hearst (2003), from memory; the others
// our own.
func TestLongForm(t *testing.T) {
	for _, c := range []struct{ short, before, long string }{
		{"HMM", "we trained a hidden markov model", "hidden markov model"},
		{"HSF", "the gene heat shock transcription factor", "heat shock transcription factor"},
		{"BB", "pull the bottom bracket", "bottom bracket"},
		{"StVZO", "nach der Straßenverkehrs-Zulassungs-Ordnung", "Straßenverkehrs-Zulassungs-Ordnung"},
		{"WAL", "uses write-ahead logging", "write-ahead logging"},
		{"USB", "a cable of another kind", ""},
		{"OK", "", ""},
	} {
		assert.Equal(t, c.long, LongForm(c.short, c.before), c.short)
	}
	assert.True(t, isShortForm("TTF-1"))
	assert.False(t, isShortForm("see below"))
	assert.False(t, isShortForm("a"))
}
