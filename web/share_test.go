package web_test

import (
	"errors"
	"html"
	"net/http"
	"net/http/cookiejar"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// stranger is the same site in a browser of its own.
func (s *site) stranger(t *testing.T) *site {
	t.Helper()
	other := *s
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	client := *s.Client()
	client.Jar = jar
	other.client = &client
	return &other
}

// link makes a link to the brief and gives its path.
func (s *site) link(t *testing.T, form ...string) string {
	t.Helper()
	code, page, _ := s.post(t, s.path("/share"), false, append([]string{"name", "Wren"}, form...)...)
	require.Equal(t, http.StatusOK, code, page)
	address := between(page, `<input readonly value="`, `"`)[0]
	require.True(t, strings.HasPrefix(address, s.URL+"/w/"), address)
	token := strings.TrimPrefix(address, s.URL+"/w/")
	assert.Len(t, token, 43, "256 bits in base64")
	_, again := s.get(t, s.path("/share"))
	assert.NotContains(t, again, token, "it is shown once")
	return "/w/" + token
}

// A link opens its brief, and nothing else: no other address leads anywhere from there, it is
// kept as a digest, and shut when it is revoked, expired, or the study deleted.
func TestALinkOpensOneBrief(t *testing.T) {
	s := withField(t)
	path := s.link(t, "remarks", "yes", "days", "30")
	w := s.stranger(t)
	code, page := w.get(t, path)
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "Tyre pressure")
	for _, hidden := range []string{"/studies/", `href="/"`, "Gather", "Evidence</a>", "captured"} {
		assert.NotContains(t, page, hidden)
	}
	resp, err := w.client.Get(s.URL + path)
	require.NoError(t, err)
	require.NoError(t, resp.Body.Close())
	assert.Equal(t, "same-origin", resp.Header.Get("Referrer-Policy"))
	assert.Equal(t, "no-store", resp.Header.Get("Cache-Control"))
	assert.Contains(t, resp.Header.Get("X-Robots-Tag"), "noindex")
	for _, format := range []string{"md", "docx", "pdf", "json"} {
		code, _ := w.get(t, path+"/as/"+format)
		assert.Equal(t, http.StatusOK, code, format)
	}
	links, err := s.scope.Links(t.Context(), s.study.ID)
	require.NoError(t, err)
	require.Len(t, links, 1)
	assert.NotContains(t, path, string(links[0].Digest))
	assert.Equal(t, 2, links[0].Opened)
	for _, wrong := range []string{"/w/", "/w/x", path[:len(path)-1], path[:len(path)-1] + "_", path + "x", path + "/../../studies/1/brief", path + "/as/exe", path + "/share"} {
		code, page := w.get(t, wrong)
		assert.Contains(t, []int{http.StatusNotFound, http.StatusTemporaryRedirect, http.StatusMovedPermanently}, code, wrong)
		assert.NotContains(t, page, "Tyre pressure")
	}
	code, _, _ = s.post(t, s.path("/share/%d/revoke", links[0].ID), false)
	require.Equal(t, http.StatusSeeOther, code)
	code, page = w.get(t, path)
	assert.Equal(t, http.StatusNotFound, code)
	assert.Contains(t, page, "This link opens nothing.")
	code, _ = w.get(t, path+"/as/md")
	assert.Equal(t, http.StatusNotFound, code)

	path = s.link(t, "days", "")
	code, _ = w.get(t, path)
	require.Equal(t, http.StatusOK, code)
	s.post(t, s.path("/delete"), true)
	code, _ = w.get(t, path)
	assert.Equal(t, http.StatusNotFound, code, "its study is deleted")
	s.post(t, s.path("/bring-back"), true)
	code, _ = w.get(t, path)
	assert.Equal(t, http.StatusOK, code)
	expired := time.Now().Add(-time.Minute)
	require.NoError(t, s.scope.CreateLink(t.Context(), &store.ShareLink{StudyID: s.study.ID, Digest: []byte("d"), Name: "x", ExpiresAt: &expired}))
	_, err = s.store.LinkBy(t.Context(), []byte("d"))
	assert.ErrorIs(t, err, store.ErrNotFound)
	for _, wrong := range [][]string{{"name", ""}, {"name", "x", "days", "-1"}, {"name", "x", "days", "many"}, {"name", "x", "password", "short"}} {
		code, page, _ := s.post(t, s.path("/share"), false, wrong...)
		assert.Equal(t, http.StatusUnprocessableEntity, code)
		assert.Contains(t, page, `role="alert"`)
	}
	other := s.store.In(s.study.PublicationID + 1)
	list, err := other.Links(t.Context(), s.study.ID)
	require.NoError(t, err)
	assert.Empty(t, list)
	assert.ErrorIs(t, other.RevokeLink(t.Context(), s.study.ID, links[0].ID), store.ErrNotFound)
}

// A password stands before the brief and its files; guesses are counted and slowed down; what
// a browser keeps of it opens no other link.
func TestALinksPassword(t *testing.T) {
	s := withField(t)
	path := s.link(t, "password", "correct horse")
	w := s.stranger(t)
	code, page := w.get(t, path)
	require.Equal(t, http.StatusOK, code)
	assert.NotContains(t, page, "Tyre pressure")
	code, _ = w.get(t, path+"/as/md")
	assert.Equal(t, http.StatusForbidden, code)
	code, _, _ = w.post(t, path+"/password", false, "password", "wrong horse")
	assert.Equal(t, http.StatusForbidden, code)
	code, _, _ = w.post(t, path+"/password", false, "password", "correct horse")
	require.Equal(t, http.StatusSeeOther, code)
	_, page = w.get(t, path)
	assert.Contains(t, page, "Tyre pressure")
	_, page = s.stranger(t).get(t, path)
	assert.NotContains(t, page, "Tyre pressure")

	links, err := s.scope.Links(t.Context(), s.study.ID)
	require.NoError(t, err)
	l := links[0]
	assert.NotContains(t, l.Password, "horse")
	now := time.Now()
	var wrong, soon atomic.Int64
	var all sync.WaitGroup
	for range 20 { // at once
		all.Go(func() {
			switch err := study.CheckPassword(t.Context(), s.store, l, "guess", now); {
			case errors.Is(err, study.ErrWrongPassword):
				wrong.Add(1)
			case errors.Is(err, study.ErrTooSoon):
				soon.Add(1)
			}
		})
	}
	all.Wait()
	assert.Equal(t, []int64{5, 15}, []int64{wrong.Load(), soon.Load()}, "guessing at once gives no more guesses")
	assert.ErrorIs(t, study.CheckPassword(t.Context(), s.store, l, "correct horse", now), study.ErrTooSoon)
	assert.NoError(t, study.CheckPassword(t.Context(), s.store, l, "correct horse", now.Add(time.Minute)), "it shuts nobody out for good")
	token := strings.TrimPrefix(path, "/w/")
	pass := study.Pass(l, token)
	assert.True(t, study.HasPass(l, token, pass))
	assert.False(t, study.HasPass(l, token+"x", pass))
	l.Password = "another"
	assert.False(t, study.HasPass(l, token, pass))
}

// Remarks are made on any line, shown in the brief, answered and settled there; lines are
// ticked; a link for reading only does neither.
func TestRemarksAndTicks(t *testing.T) {
	s := withField(t)
	s.place = "brief"
	path := s.link(t, "remarks", "yes")
	w := s.stranger(t)
	_, page := w.get(t, path)
	line := html.UnescapeString(between(page, `<input type="hidden" name="line" value="theme `, `"`)[0])
	line = "theme " + line
	code, page := w.get(t, path+"?remark="+strings.ReplaceAll(line, " ", "+"))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "<textarea")
	code, _, _ = w.post(t, path+"/remarks", false, "line", line, "author", "Wren <W>", "body", "Is 10 psi <right>?")
	require.Equal(t, http.StatusSeeOther, code)
	_, page = w.get(t, path)
	assert.Contains(t, page, "Is 10 psi &lt;right&gt;?")
	assert.Contains(t, page, "Wren &lt;W&gt;")
	_, doc := s.get(t, s.path("/brief"))
	assert.Contains(t, doc, "Is 10 psi &lt;right&gt;?")
	assert.Contains(t, doc, "on “Tyre pressure”")
	remarks, err := s.scope.Remarks(t.Context(), s.study.ID)
	require.NoError(t, err)
	require.Len(t, remarks, 1)
	code, doc, _ = s.post(t, s.path("/remarks/%d", remarks[0].ID), true, "body", "Yes, rank 2.", "settle", "yes")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, doc, "Yes, rank 2.")
	_, page = w.get(t, path)
	assert.Contains(t, page, "Yes, rank 2.")
	assert.Contains(t, page, "settled")
	code, _, _ = s.post(t, s.path("/remarks/999"), true, "body", "x")
	assert.Equal(t, http.StatusNotFound, code)

	code, progress, _ := w.post(t, path+"/ticks", true, "line", line, "done", "yes")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, progress, "1 of ")
	_, page = w.get(t, path)
	assert.Contains(t, page, " checked")
	w.post(t, path+"/ticks", true, "line", line)
	_, page = w.get(t, path)
	assert.NotContains(t, page, " checked")

	for _, wrong := range [][]string{{"line", line, "body", " "}, {"line", "theme nothing", "body", "x"}, {"line", line, "body", strings.Repeat("x", 5000)}} {
		code, page, _ := w.post(t, path+"/remarks", false, wrong...)
		assert.Equal(t, http.StatusUnprocessableEntity, code)
		assert.Contains(t, page, "Back to the brief")
	}
	code, _, _ = w.post(t, path+"/ticks", true, "line", "theme nothing", "done", "yes")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	reading := s.link(t)
	_, page = w.get(t, reading)
	assert.NotContains(t, page, `type="checkbox"`)
	code, _, _ = w.post(t, reading+"/remarks", false, "line", line, "body", "x")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	code, _, _ = w.post(t, reading+"/ticks", true, "line", line, "done", "yes")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}
