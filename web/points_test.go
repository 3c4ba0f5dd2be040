package web_test

import (
	"html"
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A point under a section leads to the sentences of all pages that say so, and is
// dropped and taken back like any finding.
func TestPointsOfASection(t *testing.T) {
	s := withField(t)
	_, doc := s.get(t, s.path("/brief"))
	keys := between(doc, `data-row="point `, `"`)
	require.NotEmpty(t, keys)
	key := html.UnescapeString(keys[0])
	code, page := s.get(t, s.path("/sources?kind=point&key=%s", url.QueryEscape(key)))
	require.Equal(t, http.StatusOK, code)
	assert.GreaterOrEqual(t, len(between(page, `<td class="where">`, "</td>")), 2, "two pages at least")
	text := between(page, `<div class="pane-head"><h2>`, "</h2>")[0]
	assert.Contains(t, doc, text)
	_, markdown := s.get(t, s.path("/brief/as/md"))
	assert.Contains(t, markdown, "- Say: ")

	mark := []string{"kind", "point", "key", key, "text", html.UnescapeString(text), "view", "brief"}
	s.place = "brief"
	code, _, _ = s.post(t, s.path("/choices"), true, append(mark, "state", "dropped")...)
	require.Equal(t, http.StatusOK, code)
	_, doc = s.get(t, s.path("/brief"))
	assert.NotContains(t, between(doc, `data-row="point `, `"`), keys[0])
	assert.Contains(t, doc, "take back")
	s.post(t, s.path("/undo"), true)
	_, doc = s.get(t, s.path("/brief"))
	assert.Contains(t, between(doc, `data-row="point `, `"`), keys[0])
	code, _ = s.get(t, s.path("/evidence/as/points.csv"))
	assert.Equal(t, http.StatusOK, code)
}
