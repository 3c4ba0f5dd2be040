package slate_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A slate is proposed, changed, undone, begun and taken along.
func TestASlate(t *testing.T) {
	s := webtest.WithList(t)
	code, text, _ := s.Post(t, "/demand/1/slate", true)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "Pick the groups")
	code, _, h := s.Post(t, "/demand/1/slate", true, "group", "winter riding", "group", "bar mitts", "group", "chain lube")
	require.Equal(t, http.StatusOK, code)
	require.Equal(t, "/slates/1", h.Get("HX-Redirect"))
	_, page := s.Get(t, "/slates/1")
	assert.Contains(t, page, "Slate: winter riding")
	assert.Contains(t, page, "as is common", "two supporting articles are few")
	do := func(want int, what string, pairs ...string) string {
		t.Helper()
		code, text, _ := s.Post(t, "/slates/1/"+what, true, pairs...)
		require.Equal(t, want, code, text)
		return text
	}
	do(http.StatusOK, "page", "key", "bar mitts", "field", "owner", "value", "Ida <i>")
	do(http.StatusOK, "page", "key", "bar mitts", "field", "due", "value", "2026-12-07")
	// Somebody else has written there since: theirs stands, and that is said.
	assert.Contains(t, do(http.StatusConflict, "page", "key", "bar mitts", "field", "owner", "was", "", "value", "Bo"), "Ida &lt;i&gt;")
	do(http.StatusOK, "page", "key", "bar mitts", "field", "owner", "was", "Ida <i>", "value", "Ida <i>")
	do(http.StatusOK, "page", "key", "chain lube", "field", "due", "value", "2026-12-23")
	do(http.StatusOK, "page", "key", "bar mitts", "field", "kind", "value", "how-to")
	assert.Contains(t, do(http.StatusOK, "pillar", "key", "bar mitts"), "The pillar page is bar mitts")
	assert.Contains(t, do(http.StatusOK, "undo"), "Taken back: The pillar page is bar mitts")
	for _, wrong := range [][]string{{"page", "key", "bar mitts", "field", "due", "value", "soon"}, {"page", "key", "no such", "field", "owner", "value", "x"}, {"page", "key", "bar mitts", "field", "owner", "value", strings.Repeat("x", 2001)}} {
		do(http.StatusUnprocessableEntity, wrong[0], wrong[1:]...)
	}
	_, page = s.Get(t, "/slates/1?tab=weeks")
	assert.Contains(t, page, "Week 50")
	assert.Contains(t, page, "nothing is due", "the week between is shown, empty")
	assert.Contains(t, page, "Week 52")
	_, page = s.Get(t, "/slates/1?tab=links")
	assert.Contains(t, page, "every supporting article leads to the pillar page")
	assert.Contains(t, page, `class="spoke"`)

	code, _, _ = s.Post(t, "/slates/1/studies", true, "depth", "5000")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, do(http.StatusOK, "studies", "depth", "10"), "3 pages begun")
	assert.Contains(t, do(http.StatusOK, "studies", "depth", "10"), "0 pages begun", "none is begun twice")
	have, err := s.Scope.SlateStudies(t.Context(), 1)
	require.NoError(t, err)
	require.Len(t, have, 3)
	_, md := s.Get(t, fmt.Sprintf("/studies/%d/brief/as/md?dossier=yes", have["bar mitts"]))
	for _, said := range []string{"pogies for bikes", `Ida \<i\>`, "2026-12-07"} {
		assert.Contains(t, md, said, "the brief has what the slate says")
	}
	assert.Contains(t, do(http.StatusOK, "take", "key", "chain lube"), "Taken out of the slate")
	assert.Contains(t, do(http.StatusOK, "undo"), "Taken back")
	do(http.StatusOK, "move", "key", "chain lube", "by", "-1")
	for _, format := range []string{"csv", "xlsx", "opml", "ics"} {
		code, text := s.Get(t, "/slates/1/as/"+format)
		assert.Equal(t, http.StatusOK, code, format)
		assert.NotEmpty(t, text)
	}
	code, _ = s.Get(t, "/slates/1/as/doc")
	assert.Equal(t, http.StatusNotFound, code)
	s.Post(t, "/slates/1/delete", false)
	_, page = s.Get(t, "/demand")
	assert.NotContains(t, page, "/slates/1\"")
	assert.Contains(t, page, "bring back the slate winter riding")
	s.Post(t, "/slates/1/bring-back", false)
	_, page = s.Get(t, "/demand")
	assert.Contains(t, page, "/slates/1\"")
	// Groups of another list join it without a second pillar; those of another market do not.
	s.Post(t, "/demand", false, "language", "en", "country", "gb", "pasted", "bicycle lamps\nsaddle bags")
	code, _, _ = s.Post(t, "/demand/2/slate", true, "group", "bicycle lamps", "into", "1")
	assert.Equal(t, http.StatusOK, code)
	_, page = s.Get(t, "/slates/1")
	assert.Equal(t, 1, strings.Count(page, `<span class="flag">pillar</span>`))
	s.Post(t, "/demand", false, "language", "de", "country", "de", "pasted", "Fahrradlampe\nSattel")
	code, text, _ = s.Post(t, "/demand/3/slate", true, "group", "sattel", "into", "1")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "another market")
	code, _ = s.Get(t, "/slates/77")
	assert.Equal(t, http.StatusNotFound, code)
	assert.Empty(t, s.Logged())
}
