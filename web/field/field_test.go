package field_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/web/webtest"
)

func TestTheFieldPlace(t *testing.T) {
	s := webtest.WithField(t)
	code, page := s.Get(t, s.Path("/field"))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "<strong>3</strong> kept pages")
	assert.Equal(t, 3, strings.Count(page, `<g class="page"`))
	assert.Contains(t, page, `data-theme="1"`)
	assert.Contains(t, page, "Tyre pressure")
	assert.Contains(t, page, "The same as a table")
	assert.Contains(t, page, "informational", "the shares start with a capital by the style sheet alone")
}

func TestAPageOfOursIsPointedAtAndNeverCounted(t *testing.T) {
	s := webtest.WithField(t)
	_, before := s.Get(t, s.Path("/field"))
	results, err := s.Scope.Results(t.Context(), s.Gathering(t))
	require.NoError(t, err)
	_, err = s.Store.SQL().ExecContext(t.Context(), "with r as (update results set own = true where id = $1) update studies set change = change + 1", results[2].ID)
	require.NoError(t, err)
	_, page := s.Get(t, s.Path("/field"))
	assert.NotContains(t, before, `class="own"`)
	assert.Contains(t, page, "<strong>2</strong> kept pages")
	assert.Equal(t, 1, strings.Count(page, `<g class="page own"`))
	assert.Contains(t, page, "ours, s3.example")
}

func TestAnEmptyFieldSaysTheNextStep(t *testing.T) {
	s := webtest.WithField(t)
	_, err := s.Store.SQL().ExecContext(t.Context(), "with r as (update results set kept = false) update studies set change = change + 1")
	require.NoError(t, err)
	code, page := s.Get(t, s.Path("/field"))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "Keep at least one page")
}

func TestHowAPageWasRead(t *testing.T) {
	s := webtest.WithField(t)
	results, err := s.Scope.Results(t.Context(), s.Gathering(t))
	require.NoError(t, err)
	code, page := s.Get(t, s.Path("/pages/%d", results[0].ID))
	require.Equal(t, http.StatusOK, code)
	for _, want := range []string{"s1.example/p", "Winter riding", "Tyre pressure", "Headings", "<h1", "Struck lines", "<s>Photo: Ada Holm</s>"} {
		assert.Contains(t, page, want)
	}
	code, page = s.Get(t, s.Path("/pages/%d/sections/2", results[0].ID))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "Lower the tyre pressure by 10 psi")
	assert.Contains(t, page, `class="is-code"`)
	assert.NotContains(t, page, "alert(", "a captured script")

	for _, path := range []string{"/pages/%d/sections/99", "/pages/%d/sections/x", "/pages/99%d", "/pages/x%d"} {
		code, _ = s.Get(t, s.Path(path, results[0].ID))
		assert.Equal(t, http.StatusNotFound, code, path)
	}
	code, _ = s.Get(t, s.Path("/pages/%d", results[3].ID))
	assert.Equal(t, http.StatusNotFound, code, "a page that was never had")
}

func TestWhatTheAddressSaysOfTheField(t *testing.T) {
	s := webtest.WithField(t)
	results, err := s.Scope.Results(t.Context(), s.Gathering(t))
	require.NoError(t, err)
	_, page := s.Get(t, s.Path("/field?open=%d.2", results[0].ID))
	assert.Contains(t, page, "Lower the tyre pressure by 10 psi", "a section that was open is open again")
	for _, gone := range []string{"99.1", "x", "1.99", "-"} {
		code, page := s.Get(t, s.Path("/field?open=%s", gone))
		assert.Equal(t, http.StatusOK, code, gone)
		assert.NotContains(t, page, "shown-head", gone)
	}
}

// Who leads is kept with the study, and can be undone.
func TestTheSplitIsKept(t *testing.T) {
	s := webtest.WithField(t)
	code, _, _ := s.Post(t, s.Path("/leaders"), false, "leaders", "1")
	assert.Equal(t, http.StatusSeeOther, code)
	_, page := s.Get(t, s.Path("/field"))
	assert.Contains(t, page, "among ranks 1 to 1", "one leader cannot be compared")
	s.Post(t, s.Path("/undo"), true)
	_, page = s.Get(t, s.Path("/field"))
	assert.Contains(t, page, `name="leaders" min="1" max="100" value="3"`)
	for _, bad := range []string{"lots", "0", "-1", "9999"} {
		code, page, _ := s.Post(t, s.Path("/leaders"), true, "leaders", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, code, bad)
		assert.Contains(t, page, "whole number", bad)
	}
}
