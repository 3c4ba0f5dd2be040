package main

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What pages say is judged on questions that did not teach the judge: 370 pairs of a question and a page, by a
// reader.
func TestWhatPagesSay(t *testing.T) {
	sayings, err := readSayings("fields")
	require.NoError(t, err)
	var kept score
	n := 0
	for _, name := range []string{"combles", "commuting", "kompost", "piscina", "storing", "tap"} {
		f, c := standinField(t, name)
		h, err := hear(f, c, sayings)
		require.NoError(t, err)
		s, _ := saysScore(h, func(s saying) bool { return !s.teaches })
		t.Logf("%s: precision %.2f, recall %.2f", name, s.precision(), s.recall())
		kept.add(s)
		for _, x := range h.sayings {
			if !x.teaches {
				n += len(x.said) + len(x.not)
			}
		}
	}
	assert.Greater(t, n, 200)
	assert.Greater(t, kept.precision(), .70)
	assert.Greater(t, kept.recall(), .68)
	_, err = readSayings(filepath.Join("fields", "none"))
	assert.Error(t, err)
}
