package brief_test

import (
	"html"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/web/webtest"
)

// What stands in a captured page is cut with its source, and goes with the brief in every
// format; what does not is refused.
func TestCuttings(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "brief"
	cut := func(want int, form ...string) string {
		t.Helper()
		code, page, _ := s.Post(t, s.Path("/cuttings"), true, form...)
		require.Equal(t, want, code, page)
		return page
	}
	page := cut(http.StatusOK, "rank", "2", "text", "…the tyre pressure by 10 psi when it")
	assert.Contains(t, page, "Lower the tyre pressure by 10 psi when it freezes.", "the sentence is kept whole")
	cut(http.StatusOK, "rank", "2", "text", "Lower the tyre pressure by 10 psi when it freezes.")
	for _, wrong := range [][]string{{"rank", "2", "text", "Nobody has written this."}, {"rank", "9", "text", "Lower the tyre"}, {"rank", "4", "text", "x"}, {"rank", "2", "text", " … "}, {"kind", "fact", "key", "nothing"}, {"kind", "question", "key", "nothing"}} {
		cut(http.StatusUnprocessableEntity, wrong...)
	}
	_, doc := s.Get(t, s.Path("/brief"))
	page = cut(http.StatusOK, "kind", "question", "key", html.UnescapeString(webtest.Between(doc, `data-row="question `, `"`)[0]))
	assert.Contains(t, page, "the results page of")
	ids := webtest.Between(page, `/cuttings/`, `"`)
	require.NotEmpty(t, ids)
	id := ids[0]
	edit := func(form ...string) string {
		t.Helper()
		code, page, _ := s.Post(t, s.Path("/cuttings/%s", id), true, form...)
		require.Equal(t, http.StatusOK, code, page)
		return page
	}
	lines, keys := s.Outlined(t)
	require.NotEmpty(t, lines)
	page = edit("do", "place", "section", keys["Tyre pressure"])
	assert.Contains(t, page, "under “Tyre pressure”")
	s.Post(t, s.Path("/brief/fields"), true, "field", "cutting_note:"+id, "value", "Ask <Wren>", "was", "", "typed", "false")
	for format, want := range map[string]string{"md": `Ask \<Wren\>`, "html": "Ask &lt;Wren&gt;", "json": `"note": "Ask <Wren>"`, "prompt": "Ask <Wren>"} {
		_, doc := s.Get(t, s.Path("/brief/as/%s", format))
		assert.Contains(t, doc, want, format)
		assert.Contains(t, doc, "glasses fogging", format)
	}
	edit("do", "remove")
	_, md := s.Get(t, s.Path("/brief/as/md"))
	assert.NotContains(t, md, "Wren")
	s.Post(t, s.Path("/undo"), true)
	_, md = s.Get(t, s.Path("/brief/as/md"))
	assert.Contains(t, md, "Wren", "nothing typed is lost")
	code, _, _ := s.Post(t, s.Path("/cuttings/none"), true, "do", "remove")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	code, _, _ = s.Post(t, s.Path("/cuttings/%s", id), true, "do", "place", "section", "nowhere")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	code, _, _ = s.Post(t, s.Path("/brief/fields"), true, "field", "cutting:"+id, "value", "{}", "was", "", "typed", "false")
	assert.Equal(t, http.StatusUnprocessableEntity, code, "a cutting is not typed")
}

// The drawer finds findings and sentences by words, and offers what is not in the brief.
func TestTheDrawer(t *testing.T) {
	s := webtest.WithField(t)
	code, page := s.Get(t, s.Path("/drawer"))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "What several pages have")
	_, page = s.Get(t, s.Path("/drawer?q=bar+mitts"))
	assert.Contains(t, page, "bar mitts")
	assert.Contains(t, page, "data-cut=")
	assert.GreaterOrEqual(t, strings.Count(page, "data-cut-row"), 3)
	_, page = s.Get(t, s.Path("/drawer?theme=tyre+pressur"))
	assert.Contains(t, page, "Lower the tyre pressure by 10 psi when it freezes.", "all passages of a theme")
	assert.Contains(t, page, `<option value="tyre pressur" selected>`)
	assert.NotContains(t, page, "bar mitts keep your hands warm", "of that theme alone")
	_, page = s.Get(t, s.Path("/drawer?q=%s", "%3Cscript%3Ezebra"))
	assert.Contains(t, page, "Nothing of the evidence")
	assert.NotContains(t, page, "<script>zebra")
}
