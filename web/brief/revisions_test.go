package brief_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/web/webtest"
)

// Every state of a brief is kept with who made it and how; two are compared by their words; an
// earlier one is restored, and that is undone.
func TestRevisions(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "brief"
	typed := func(field, was, value string) {
		code, _, _ := s.Post(t, s.Path("/brief/fields"), true, "field", field, "value", value, "was", was, "typed", fmt.Sprint(was != ""))
		require.Equal(t, http.StatusOK, code)
	}
	typed("notes", "", "Sell tyres to <beginners>.")
	typed("notes", "Sell tyres to <beginners>.", "Sell winter tyres to <beginners>.")
	s.Post(t, s.Path("/parts"), true, "do", "hide", "part", "terms")
	code, page := s.Get(t, s.Path("/brief/revisions?from=1&to=2"))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "Sell <ins>winter </ins>tyres to &lt;beginners&gt;.")
	for _, said := range []string{"Typed: Notes", "Hidden: Terms", "as proposed", "· you"} {
		assert.Contains(t, page, said)
	}
	assert.Contains(t, page, "1 line differs")
	_, page = s.Get(t, s.Path("/brief/revisions?from=0&to=3"))
	assert.Greater(t, strings.Count(page, "<del>"), 3, "the terms are gone")
	code, _, _ = s.Post(t, s.Path("/brief/restore"), false, "revision", "1")
	require.Equal(t, http.StatusSeeOther, code)
	_, md := s.Get(t, s.Path("/brief/as/md"))
	assert.Contains(t, md, `Sell tyres to \<beginners\>.`)
	assert.Contains(t, md, "## Terms")
	s.Post(t, s.Path("/undo"), true)
	_, md = s.Get(t, s.Path("/brief/as/md"))
	assert.Contains(t, md, "Sell winter tyres")
	assert.NotContains(t, md, "## Terms")
	for _, path := range []string{"/brief/revisions?from=99", "/brief/revisions?to=99"} {
		code, _ := s.Get(t, s.Path("%s", path))
		assert.Equal(t, http.StatusNotFound, code)
	}
	code, _, _ = s.Post(t, s.Path("/brief/restore"), false, "revision", "x")
	assert.Equal(t, http.StatusNotFound, code)
}
