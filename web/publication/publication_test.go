package publication_test

import (
	"bytes"
	"mime/multipart"
	"net/http"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a publication says stands in its briefs until somebody types there; two people in one
// field do not overwrite each other.
func TestWhatAPublicationSays(t *testing.T) {
	s := webtest.WithField(t)
	say := func(want int, field, was, value string) string {
		t.Helper()
		code, page, _ := s.Post(t, "/publication/fields", true, "field", field, "was", was, "typed", "true", "value", value)
		require.Equal(t, want, code, page)
		return page
	}
	say(http.StatusOK, brief.FieldVoice, "", "Warm & <dry>.")
	say(http.StatusOK, "site", "", "https://quillfen.example")
	_, md := s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, md, `Warm \& \<dry\>.`)
	assert.Contains(t, md, "https://quillfen.example/winter-riding")
	_, page := s.Get(t, "/publication")
	assert.Contains(t, page, "Warm &amp; &lt;dry&gt;.")
	assert.Contains(t, say(http.StatusConflict, brief.FieldVoice, "", "Cold."), "data-conflict")
	say(http.StatusUnprocessableEntity, "site", "https://quillfen.example", "quillfen")
	say(http.StatusUnprocessableEntity, brief.FieldGoal, "", "x")
	say(http.StatusUnprocessableEntity, brief.FieldVoice, "Warm & <dry>.", strings.Repeat("x", 30_000))
	say(http.StatusOK, brief.FieldVoice, "Warm & <dry>.", "Warm and ") // a pause in mid-sentence
	say(http.StatusOK, brief.FieldVoice, "Warm and ", "Warm and dry.")
	say(http.StatusOK, brief.FieldVoice, "Warm and dry.", "")
	_, md = s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.NotContains(t, md, "Warm", "nothing is said that the field does not say")
}

// A brief is saved as a template, taken for another, and the template taken away again.
func TestOwnTemplates(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "brief"
	s.Post(t, s.Path("/outline"), true, "do", "add", "key", "", "value", "Our rule of thumb")
	s.Post(t, s.Path("/brief/fields"), true, "field", "notes", "value", "Ask the workshop.", "was", "", "typed", "false")
	code, _, _ := s.Post(t, s.Path("/template/save"), true, "name", "Workshop guide")
	require.Equal(t, http.StatusOK, code)
	_, page := s.Get(t, "/publication")
	assert.Contains(t, page, "Workshop guide")
	_, page = s.Get(t, s.Path("/brief"))
	key := webtest.Between(page, `<option value="own:`, `"`)[0]
	s.Post(t, s.Path("/undo"), true)
	s.Post(t, s.Path("/undo"), true)
	code, _, _ = s.Post(t, s.Path("/template"), true, "template", "own:"+key)
	require.Equal(t, http.StatusOK, code)
	_, md := s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, md, "Our rule of thumb")
	assert.Contains(t, md, "Ask the workshop.")
	assert.Contains(t, md, "**Kind of page:** Workshop guide")
	code, _, _ = s.Post(t, "/publication/templates/forget", false, "template", "own:"+key)
	require.Equal(t, http.StatusSeeOther, code)
	_, md = s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, md, "Our rule of thumb", "what was taken stays")
	code, _, _ = s.Post(t, "/publication/templates/forget", false, "template", "own:"+key)
	assert.Equal(t, http.StatusNotFound, code)
	code, _, _ = s.Post(t, "/publication/templates/forget", false, "template", "own:"+key, "back", "1")
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.Get(t, s.Path("/brief"))
	assert.Contains(t, page, `<option value="own:`+key, "it is there again")
	code, _, _ = s.Post(t, s.Path("/template/save"), true, "name", " ")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}

// Own pages come from a sitemap or a list; what is wrong with either is said, and a list whose
// addresses cannot be told asks for their column.
func TestOwnPagesPlace(t *testing.T) {
	s := webtest.NewSite(t)
	send := func(content string, fields ...string) (int, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		part, err := w.CreateFormFile("file", "own.csv")
		require.NoError(t, err)
		_, err = part.Write([]byte(content))
		require.NoError(t, err)
		for i := 0; i < len(fields); i += 2 {
			require.NoError(t, w.WriteField(fields[i], fields[i+1]))
		}
		require.NoError(t, w.Close())
		resp, err := s.Browser.Post(s.URL+"/publication/pages", w.FormDataContentType(), &b)
		require.NoError(t, err)
		return webtest.Body(t, resp)
	}
	code, page := send("url,title\nhttps://quillfen.example/a,A <b>\nhttps://quillfen.example/b,B\n")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "2 of 2 pages are new.")
	assert.Contains(t, page, "A &lt;b&gt;")
	_, page = s.Get(t, "/publication?filter=quillfen.example/b")
	assert.NotContains(t, page, "A &lt;b&gt;")
	code, page = send("mine,theirs\nquillfen.example,bike.shop\n")
	require.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "<option>")
	code, _ = send("nothing\n")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	code, page, _ = s.Post(t, "/publication/sitemap", false, "address", "quillfen")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "https://")
	code, _, _ = s.Post(t, "/publication/sitemap", false, "address", "https://quillfen.example")
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.Get(t, "/publication")
	assert.Contains(t, page, "Reading the list of https://quillfen.example")
	code, _, _ = s.Post(t, "/publication/pages/remove", false, "page", "0")
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.Get(t, "/publication")
	assert.Contains(t, page, "No own page is known yet.")
	code, _, _ = s.Post(t, "/publication/pages/remove", false, "page", "x")
	assert.Equal(t, http.StatusNotFound, code)
}
