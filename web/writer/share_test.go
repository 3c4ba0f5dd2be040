package writer_test

import (
	"errors"
	"html"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"corpulan/account"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A link opens its brief, and nothing else: no other address leads anywhere from there, it is
// kept as a digest, and shut when it is revoked, expired, or the study deleted.
func TestALinkOpensOneBrief(t *testing.T) {
	s := webtest.WithField(t)
	path := s.Link(t, "remarks", "yes", "days", "30")
	w := s.Stranger(t)
	code, page := w.Get(t, path)
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "Tyre pressure")
	for _, hidden := range []string{"/studies/", `href="/"`, "Gather", "Evidence</a>", "captured"} {
		assert.NotContains(t, page, hidden)
	}
	resp, err := w.Browser.Get(s.URL + path)
	require.NoError(t, err)
	require.NoError(t, resp.Body.Close())
	assert.Equal(t, "same-origin", resp.Header.Get("Referrer-Policy"))
	assert.Equal(t, "no-store", resp.Header.Get("Cache-Control"))
	assert.Contains(t, resp.Header.Get("X-Robots-Tag"), "noindex")
	for _, format := range []string{"md", "docx", "pdf", "json"} {
		code, _ := w.Get(t, path+"/as/"+format)
		assert.Equal(t, http.StatusOK, code, format)
	}
	links, err := s.Scope.Links(t.Context(), s.Study.ID)
	require.NoError(t, err)
	require.Len(t, links, 1)
	assert.NotContains(t, path, string(links[0].Digest))
	assert.Equal(t, 2, links[0].Opened)
	for _, wrong := range []string{"/w/", "/w/x", path[:len(path)-1], path[:len(path)-1] + "_", path + "x", path + "/../../studies/1/brief", path + "/as/exe", path + "/share"} {
		code, page := w.Get(t, wrong)
		assert.Contains(t, []int{http.StatusNotFound, http.StatusTemporaryRedirect, http.StatusMovedPermanently}, code, wrong)
		assert.NotContains(t, page, "Tyre pressure")
	}
	code, _, _ = s.Post(t, s.Path("/share/%d/revoke", links[0].ID), false)
	require.Equal(t, http.StatusSeeOther, code)
	code, page = w.Get(t, path)
	assert.Equal(t, http.StatusNotFound, code)
	assert.Contains(t, page, "This link opens nothing.")
	code, _ = w.Get(t, path+"/as/md")
	assert.Equal(t, http.StatusNotFound, code)

	path = s.Link(t, "days", "")
	code, _ = w.Get(t, path)
	require.Equal(t, http.StatusOK, code)
	s.Post(t, s.Path("/delete"), true)
	code, _ = w.Get(t, path)
	assert.Equal(t, http.StatusNotFound, code, "its study is deleted")
	s.Post(t, s.Path("/bring-back"), true)
	code, _ = w.Get(t, path)
	assert.Equal(t, http.StatusOK, code)
	expired := time.Now().Add(-time.Minute)
	require.NoError(t, s.Scope.CreateLink(t.Context(), &store.ShareLink{StudyID: s.Study.ID, Digest: []byte("d"), Name: "x", ExpiresAt: &expired}))
	_, err = s.Store.LinkBy(t.Context(), []byte("d"))
	assert.ErrorIs(t, err, store.ErrNotFound)
	for _, wrong := range [][]string{{"name", ""}, {"name", "x", "days", "-1"}, {"name", "x", "days", "many"}, {"name", "x", "password", "short"}} {
		code, page, _ := s.Post(t, s.Path("/share"), false, wrong...)
		assert.Equal(t, http.StatusUnprocessableEntity, code)
		assert.Contains(t, page, `role="alert"`)
	}
	other := s.Store.In(s.Study.PublicationID + 1)
	list, err := other.Links(t.Context(), s.Study.ID)
	require.NoError(t, err)
	assert.Empty(t, list)
	assert.ErrorIs(t, other.RevokeLink(t.Context(), s.Study.ID, links[0].ID), store.ErrNotFound)
}

// A password stands before the brief and its files; guesses are counted and slowed down; what
// a browser keeps of it opens no other link.
// Whoever writes by a link without end is told to wait; another link is not.
func TestALinkThatIsWrittenByTooOften(t *testing.T) {
	s := webtest.WithField(t)
	busy, other := s.Link(t, "remarks", "yes"), s.Link(t, "remarks", "yes")
	w := s.Stranger(t)
	code := 0
	for range 2000 {
		if code, _, _ = w.Post(t, busy+"/ticks", false, "line", "x"); code == http.StatusTooManyRequests {
			break
		}
	}
	require.Equal(t, http.StatusTooManyRequests, code)
	code, _ = w.Get(t, busy)
	assert.Equal(t, http.StatusOK, code, "it is read all the while")
	code, _, _ = w.Post(t, other+"/ticks", false, "line", "x")
	assert.NotEqual(t, http.StatusTooManyRequests, code)
}

func TestALinksPassword(t *testing.T) {
	s := webtest.WithField(t)
	path := s.Link(t, "password", "correct horse")
	w := s.Stranger(t)
	code, page := w.Get(t, path)
	require.Equal(t, http.StatusOK, code)
	assert.NotContains(t, page, "Tyre pressure")
	code, _ = w.Get(t, path+"/as/md")
	assert.Equal(t, http.StatusForbidden, code)
	code, _, _ = w.Post(t, path+"/password", false, "password", "wrong horse")
	assert.Equal(t, http.StatusForbidden, code)
	code, _, _ = w.Post(t, path+"/password", false, "password", "correct horse")
	require.Equal(t, http.StatusSeeOther, code)
	_, page = w.Get(t, path)
	assert.Contains(t, page, "Tyre pressure")
	_, page = s.Stranger(t).Get(t, path)
	assert.NotContains(t, page, "Tyre pressure")

	links, err := s.Scope.Links(t.Context(), s.Study.ID)
	require.NoError(t, err)
	l := links[0]
	assert.NotContains(t, l.Password, "horse")
	now := time.Now()
	var wrong, soon atomic.Int64
	var all sync.WaitGroup
	for range 20 { // at once
		all.Go(func() {
			switch err := study.CheckPassword(t.Context(), s.Store, l, "guess", "10.0.0.1", now); {
			case errors.Is(err, study.ErrWrongPassword):
				wrong.Add(1)
			case errors.Is(err, account.ErrTooSoon):
				soon.Add(1)
			}
		})
	}
	all.Wait()
	assert.Equal(t, []int64{5, 15}, []int64{wrong.Load(), soon.Load()}, "guessing at once gives no more guesses")
	assert.ErrorIs(t, study.CheckPassword(t.Context(), s.Store, l, "correct horse", "10.0.0.1", now), account.ErrTooSoon)
	assert.NoError(t, study.CheckPassword(t.Context(), s.Store, l, "correct horse", "10.0.0.1", now.Add(time.Minute)), "it shuts nobody out for good")
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
	s := webtest.WithField(t)
	s.Place = "brief"
	path := s.Link(t, "remarks", "yes")
	w := s.Stranger(t)
	_, page := w.Get(t, path)
	line := html.UnescapeString(webtest.Between(page, `<input type="hidden" name="line" value="theme `, `"`)[0])
	line = "theme " + line
	code, page := w.Get(t, path+"?remark="+strings.ReplaceAll(line, " ", "+"))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "<textarea")
	code, _, _ = w.Post(t, path+"/remarks", false, "line", line, "author", "Wren <W>", "body", "Is 10 psi <right>?")
	require.Equal(t, http.StatusSeeOther, code)
	_, page = w.Get(t, path)
	assert.Contains(t, page, "Is 10 psi &lt;right&gt;?")
	assert.Contains(t, page, "Wren &lt;W&gt;")
	_, doc := s.Get(t, s.Path("/brief"))
	assert.Contains(t, doc, "Is 10 psi &lt;right&gt;?")
	assert.Contains(t, doc, "on “Tyre pressure”")
	remarks, err := s.Scope.Remarks(t.Context(), s.Study.ID)
	require.NoError(t, err)
	require.Len(t, remarks, 1)
	code, doc, _ = s.Post(t, s.Path("/remarks/%d", remarks[0].ID), true, "body", "Yes, rank 2.", "settle", "yes")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, doc, "Yes, rank 2.")
	_, page = w.Get(t, path)
	assert.Contains(t, page, "Yes, rank 2.")
	assert.Contains(t, page, "settled")
	code, _, _ = s.Post(t, s.Path("/remarks/999"), true, "body", "x")
	assert.Equal(t, http.StatusNotFound, code)

	code, progress, _ := w.Post(t, path+"/ticks", true, "line", line, "done", "yes")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, progress, "1 of ")
	_, page = w.Get(t, path)
	assert.Contains(t, page, " checked")
	w.Post(t, path+"/ticks", true, "line", line)
	_, page = w.Get(t, path)
	assert.NotContains(t, page, " checked")

	for _, wrong := range [][]string{{"line", line, "body", " "}, {"line", "theme nothing", "body", "x"}, {"line", line, "body", strings.Repeat("x", 5000)}} {
		code, page, _ := w.Post(t, path+"/remarks", false, wrong...)
		assert.Equal(t, http.StatusUnprocessableEntity, code)
		assert.Contains(t, page, "Back to the brief")
	}
	code, _, _ = w.Post(t, path+"/ticks", true, "line", "theme nothing", "done", "yes")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	reading := s.Link(t)
	_, page = w.Get(t, reading)
	assert.NotContains(t, page, `type="checkbox"`)
	code, _, _ = w.Post(t, reading+"/remarks", false, "line", line, "body", "x")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	code, _, _ = w.Post(t, reading+"/ticks", true, "line", line, "done", "yes")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}
