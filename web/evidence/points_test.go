package evidence_test

import (
	"html"
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/web/webtest"
)

// A point under a section leads to the sentences of all pages that say so, and is
// dropped and taken back like any finding.
func TestPointsOfASection(t *testing.T) {
	s := webtest.WithField(t)
	_, doc := s.Get(t, s.Path("/brief"))
	keys := webtest.Between(doc, `data-row="point `, `"`)
	require.NotEmpty(t, keys)
	key := html.UnescapeString(keys[0])
	code, page := s.Get(t, s.Path("/sources?kind=point&key=%s", url.QueryEscape(key)))
	require.Equal(t, http.StatusOK, code)
	assert.GreaterOrEqual(t, len(webtest.Between(page, `<td class="where">`, "</td>")), 2, "two pages at least")
	text := webtest.Between(page, `<div class="pane-head"> <h2>`, "</h2>")[0]
	assert.Contains(t, doc, text)
	_, markdown := s.Get(t, s.Path("/brief/as/md"))
	assert.Contains(t, markdown, "- Say: ")

	mark := []string{"kind", "point", "key", key, "text", html.UnescapeString(text), "view", "brief"}
	s.Place = "brief"
	code, _, _ = s.Post(t, s.Path("/choices"), true, append(mark, "state", "dropped")...)
	require.Equal(t, http.StatusOK, code)
	_, doc = s.Get(t, s.Path("/brief"))
	assert.NotContains(t, webtest.Between(doc, `data-row="point `, `"`), keys[0])
	assert.Contains(t, doc, "take back")
	s.Post(t, s.Path("/undo"), true)
	_, doc = s.Get(t, s.Path("/brief"))
	assert.Contains(t, webtest.Between(doc, `data-row="point `, `"`), keys[0])
	code, _ = s.Get(t, s.Path("/evidence/as/points.csv"))
	assert.Equal(t, http.StatusOK, code)
}
