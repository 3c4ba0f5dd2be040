package writer_test

import (
	"net/http"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is handed over is what it was: neither an edit nor a page set aside, which makes no revision, changes it, until it is handed over
// again. Who writes and by when stand in the brief, and that is undone like anything.
func TestAStateThatIsHandedOver(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "brief"
	code, page, _ := s.Post(t, s.Path("/handover"), false, "name", "Wren", "due", "2026-12-18", "days", "30", "remarks", "yes", "dossier", "yes")
	require.Equal(t, http.StatusOK, code, page)
	path := strings.TrimPrefix(webtest.Between(page, `<input readonly value="`, `"`)[0], s.URL)
	assert.Contains(t, page, "by 2026-12-18")
	w := s.Stranger(t)
	_, was := w.Get(t, path)
	assert.Contains(t, was, "2026-12-18")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	s.Post(t, s.Path("/results/%d/kept", results[0].ID), true, "kept", "false", "reason", "no")
	_, is := w.Get(t, path)
	assert.Equal(t, was, is)
	_, page = s.Get(t, s.Path("/share"))
	assert.Contains(t, page, "changed since")
	links, err := s.Scope.Links(t.Context(), s.Study.ID)
	require.NoError(t, err)
	code, _, _ = s.Post(t, s.Path("/share/%d/again", links[0].ID), false)
	require.Equal(t, http.StatusSeeOther, code)
	_, is = w.Get(t, path)
	assert.NotEqual(t, was, is)
	_, page = s.Get(t, s.Path("/share"))
	assert.NotContains(t, page, "changed since")
	again := is
	code, _, _ = s.Post(t, s.Path("/share/%d/back", links[0].ID), false)
	require.Equal(t, http.StatusSeeOther, code)
	_, is = w.Get(t, path)
	assert.Equal(t, was, is, "handing over again can be taken back")
	s.Post(t, s.Path("/share/%d/back", links[0].ID), false)
	_, is = w.Get(t, path)
	assert.Equal(t, again, is, "and that as well")
	s.Post(t, s.Path("/undo"), true) // the page
	s.Post(t, s.Path("/undo"), true) // writer, day and state
	_, json := s.Get(t, s.Path("/brief/as/json"))
	assert.NotContains(t, json, "2026-12-18")
	assert.NotContains(t, json, `"status": "`+brief.Handed)

	// What was typed into one form does not stand in the other.
	code, page, _ = s.Post(t, s.Path("/share"), false, "name", "Client & <co>", "password", "short")
	require.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, `value="Client &amp; &lt;co&gt;"`)
	assert.Equal(t, 1, strings.Count(page, "Client &amp;"))
	assert.Equal(t, 1, strings.Count(page, `role="alert"`))
	code, page, _ = s.Post(t, s.Path("/handover"), false, "name", "Wren", "due", "soon")
	require.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "A day is written")
	code, _, _ = s.Post(t, s.Path("/share/%d/again", links[0].ID+99), false)
	assert.Equal(t, http.StatusNotFound, code)
}
