package brief_test

import (
	"html"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/web/webtest"
)

// An outline by hand: sections are added, moved, set deeper, dragged, renamed, given words and
// dropped; each is one step that is undone, and what is renamed keeps its pages.
func TestTheOutlineByHand(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "brief"
	edit := func(want int, form ...string) string {
		t.Helper()
		code, page, _ := s.Post(t, s.Path("/outline"), true, form...)
		require.Equal(t, want, code, page)
		return page
	}
	is := func(want ...string) map[string]string {
		t.Helper()
		lines, keys := s.Outlined(t)
		require.Equal(t, want, lines)
		return keys
	}
	undo := func() { s.Post(t, s.Path("/undo"), true) }
	for _, text := range []string{"First of ours", "Second <of> ours"} {
		edit(http.StatusOK, "do", "add", "key", "", "value", text)
	}
	keys := is("2 Tyre pressure", "2 First of ours", "2 Second <of> ours")
	tyre, first, second := keys["Tyre pressure"], keys["First of ours"], keys["Second <of> ours"]
	edit(http.StatusOK, "do", "up", "key", second)
	is("2 Tyre pressure", "2 Second <of> ours", "2 First of ours")
	edit(http.StatusOK, "do", "in", "key", second)
	is("2 Tyre pressure", "3 Second <of> ours", "2 First of ours")
	edit(http.StatusOK, "do", "up", "key", first)
	is("2 First of ours", "2 Tyre pressure", "3 Second <of> ours")
	undo()
	is("2 Tyre pressure", "3 Second <of> ours", "2 First of ours")
	edit(http.StatusOK, "do", "put", "key", first, "parent", tyre, "before", second)
	is("2 Tyre pressure", "3 First of ours", "3 Second <of> ours")
	edit(http.StatusUnprocessableEntity, "do", "put", "key", tyre, "parent", second)
	edit(http.StatusOK, "do", "add", "key", first, "value", "Between")
	is("2 Tyre pressure", "3 First of ours", "3 Between", "3 Second <of> ours")
	edit(http.StatusOK, "do", "rename", "key", tyre, "value", "How hard to <pump>")
	is("2 How hard to <pump>", "3 First of ours", "3 Between", "3 Second <of> ours")
	_, md := s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, md, `### How hard to \<pump\>`)
	assert.Contains(t, md, "3 pages have it")
	page := edit(http.StatusOK, "do", "words", "key", first, "value", "2,000")
	assert.Contains(t, page, "2000 words set")
	assert.Contains(t, page, "add up to")
	edit(http.StatusOK, "do", "words", "key", first, "value", "")
	page = edit(http.StatusOK, "do", "rename", "key", first, "value", "Between")
	assert.Contains(t, page, "“Between” stands twice")
	undo()
	// Dropping one that others stand below lifts them; its theme is said to be left out.
	code, page, _ := s.Post(t, s.Path("/choices"), true, "kind", "theme", "key", tyre, "text", "How hard to <pump>", "state", "dropped", "view", "brief")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "is left out, and")
	is("2 First of ours", "2 Between", "2 Second <of> ours")
	undo()
	edit(http.StatusOK, "do", "restore", "key", tyre)
	is("2 Tyre pressure", "3 First of ours", "3 Between", "3 Second <of> ours")
	question := html.UnescapeString(webtest.Between(func() string { _, doc := s.Get(t, s.Path("/brief")); return doc }(), `data-row="question `, `</li>`)[0])
	asked := html.UnescapeString(webtest.Between(question, `name="text" value="`, `"`)[0])
	edit(http.StatusOK, "do", "bring", "key", first, "value", strings.ToUpper(asked))
	_, md = s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, md, "under “First of ours”")
	edit(http.StatusUnprocessableEntity, "do", "bring", "key", first, "value", "nothing of the kind")
	_, found := s.Get(t, s.Path("/outline/bring?value=%s", url.QueryEscape(strings.ToUpper(strings.Fields(asked)[1]))))
	assert.Contains(t, html.UnescapeString(found), asked)
	item := html.UnescapeString(webtest.Between(found, `name="item" value="question `, `"`)[0])
	edit(http.StatusOK, "do", "bring", "key", second, "item", "question "+item, "value", "what was typed to find it")
	_, md = s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, md, "under “Second")
	undo()
	_, found = s.Get(t, s.Path("/outline/bring?value=zzz"))
	assert.Contains(t, found, "No question and no term has these words")
	undo()
	edit(http.StatusOK, "do", "follow")
	lines, _ := s.Outlined(t)
	assert.Equal(t, "2 Tyre pressure", lines[0])
	assert.Len(t, lines, 4)
	for _, wrong := range [][]string{{"do", "up", "key", "nothing"}, {"do", "words", "key", tyre, "value", "many"}, {"do", "rename", "key", tyre, "value", "…"}, {"do", "add", "value", strings.Repeat("x", 200)}, {"do", "fly", "key", tyre}} {
		edit(http.StatusUnprocessableEntity, wrong...)
	}
}

// Parts are hidden, shown, moved and added; a kind of page brings its sections; the brief's
// front and its length are typed, and what is none is refused and said.
func TestPartsKindsAndTheFront(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "brief"
	post := func(want int, path string, form ...string) string {
		t.Helper()
		code, page, _ := s.Post(t, s.Path("%s", path), true, form...)
		require.Equal(t, want, code, page)
		return page
	}
	md := func() string { _, md := s.Get(t, s.Path("/brief/as/md")); return md }
	require.Contains(t, md(), "## Terms")
	post(http.StatusOK, "/parts", "do", "hide", "part", "terms")
	assert.NotContains(t, md(), "## Terms")
	s.Post(t, s.Path("/undo"), true)
	assert.Contains(t, md(), "## Terms")
	post(http.StatusOK, "/parts", "do", "add", "title", "Approvals & law")
	post(http.StatusOK, "/brief/fields", "field", "part:1", "value", "Ask Ms. <Inkwell>", "was", "", "typed", "false")
	post(http.StatusOK, "/parts", "do", "up", "part", "own:1")
	assert.Contains(t, md(), "## Approvals & law\n\nAsk Ms. \\<Inkwell\\>")
	post(http.StatusOK, "/parts", "do", "remove", "part", "own:1")
	assert.NotContains(t, md(), "Inkwell")
	s.Post(t, s.Path("/undo"), true)
	assert.Contains(t, md(), "Inkwell", "nothing typed is lost")
	post(http.StatusUnprocessableEntity, "/parts", "do", "remove", "part", "terms")
	post(http.StatusUnprocessableEntity, "/parts", "do", "hide", "part", "nothing")

	post(http.StatusOK, "/template", "template", "comparison")
	lines, _ := s.Outlined(t)
	assert.Equal(t, []string{"2 At a glance", "2 Tyre pressure", "2 How we chose", "2 Which one for whom"}, lines)
	_, whole := s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, whole, "**Kind of page:** comparison\n")
	s.Post(t, s.Path("/undo"), true)
	lines, _ = s.Outlined(t)
	assert.Equal(t, []string{"2 Tyre pressure"}, lines, "all of it is one step")
	post(http.StatusUnprocessableEntity, "/template", "template", "pamphlet")

	for field, values := range map[string][2]string{"length": {"long", "900–1,200 words"}, "due": {"soon", "2026-12-24"}, "status": {"perhaps", "approved"}} {
		post(http.StatusUnprocessableEntity, "/brief/fields", "field", field, "value", values[0], "was", "", "typed", "false")
		post(http.StatusOK, "/brief/fields", "field", field, "value", values[1], "was", "", "typed", "false")
	}
	assert.Contains(t, md(), "900 to 1200 words, about 1050")
	assert.Contains(t, md(), "**Due:** 2026-12-24")
	post(http.StatusOK, "/own", "kind", "link", "text", "https://law.example/lights")
	assert.Contains(t, md(), "https://law.example/lights")
	post(http.StatusUnprocessableEntity, "/own", "kind", "link", "text", "javascript:alert(1)")
	for _, field := range []string{"outline", "parts", "kind", "heading:x"} {
		post(http.StatusUnprocessableEntity, "/brief/fields", "field", field, "value", "2 x", "was", "", "typed", "false")
	}
}
