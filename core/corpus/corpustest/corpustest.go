// Package corpustest makes pages and fields for tests.
package corpustest

import (
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/reading"

	"github.com/stretchr/testify/require"
)

// Page reads an article's HTML as an English page of a host.
func Page(t testing.TB, rank int, host, html string) corpus.RankedPage {
	t.Helper()
	return PageIn(t, "en", rank, host, html)
}

// PageIn is Page in another language.
func PageIn(t testing.TB, language string, rank int, host, html string) corpus.RankedPage {
	t.Helper()
	r, err := reading.Read(reading.Page{URL: "http://" + host + "/page", Body: []byte(`<html lang="` + language + `"><body><article>` + html + `</article></body></html>`)})
	require.NoError(t, err)
	return corpus.RankedPage{Rank: rank, Doc: corpus.Prepare(r, language)}
}
