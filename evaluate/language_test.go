package main

import (
	"testing"

	"corpulan/core/language"
	"corpulan/core/reading"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The language that a page's text is told to be in, against the one that its
// author declares, on the pages the readability module ships. Three declare English
// and are not in it.
func TestDetectedLanguagesAreTheDeclaredOnes(t *testing.T) {
	pages, err := expectedPages(module(t, "codeberg.org/readeck/go-readability/v2"))
	require.NoError(t, err)
	told, other := map[string]int{}, 0
	for _, p := range pages {
		r, err := reading.Read(reading.Page{URL: p.URL, Body: p.Source})
		require.NoError(t, err)
		if r.Counts.Words < 60 || !language.For(r.Language).IsRead() {
			continue
		}
		told[r.Language]++
		if r.Detected != r.Language {
			other++
			t.Logf("%s declares %s and reads like %q", p.Name, r.Language, r.Detected)
		}
	}
	require.GreaterOrEqual(t, len(told), 5, "languages: %v", told)
	assert.LessOrEqual(t, other, 3, "of %v", told) // those in invented Latin
}
