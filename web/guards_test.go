package web_test

import (
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"corpulan/web"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A page elsewhere that gives its own name our address is refused, whatever it asks.
func TestOnlyOurNamesAreAnswered(t *testing.T) {
	s := withField(t)
	ask := func(method, host, path string) int {
		req, err := http.NewRequestWithContext(t.Context(), method, s.URL+path, nil)
		require.NoError(t, err)
		req.Host = host
		resp, err := s.Client().Do(req)
		require.NoError(t, err)
		code, text := body(t, resp)
		if code == http.StatusMisdirectedRequest {
			assert.NotContains(t, text, "winter")
		}
		return code
	}
	for _, host := range []string{"evil.example", "evil.example:8080", "127.0.0.1.evil.example", "localhost.evil.example", "10.0.0.1"} {
		assert.Equal(t, http.StatusMisdirectedRequest, ask(http.MethodGet, host, "/"), host)
		assert.Equal(t, http.StatusMisdirectedRequest, ask(http.MethodPost, host, s.path("/choices")), host)
		assert.Equal(t, http.StatusOK, ask(http.MethodGet, host, "/healthz"), "whether it lives may be asked by any name")
	}
	for _, host := range []string{"localhost", "localhost:8080", "LOCALHOST:1", "127.0.0.1:80", "[::1]:80"} {
		assert.Equal(t, http.StatusOK, ask(http.MethodGet, host, "/"), host)
	}
}

func TestHeadAnswers(t *testing.T) {
	s := withField(t)
	for _, path := range []string{"/", "/healthz", s.path("/evidence"), s.path("/brief/as/md"), s.path("/events")} {
		resp, err := s.Client().Head(s.URL + path)
		require.NoError(t, err)
		code, text := body(t, resp)
		assert.Equal(t, []any{http.StatusOK, ""}, []any{code, text}, path)
	}
}

// However large a body is said or turns out to be, and on whatever route.
func TestBodiesAreBounded(t *testing.T) {
	s := withField(t)
	for _, path := range []string{"/studies", s.path("/choices"), s.path("/brief/fields"), s.path("/kept"), s.path("/pages"), s.path("/hand-in"), s.path("/undo"), "/nowhere"} {
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+path, io.LimitReader(zeros{}, 400<<20))
		require.NoError(t, err)
		req.ContentLength = 400 << 20
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		resp, err := s.Client().Do(req)
		if err != nil { // refused and closed while it was being sent
			continue
		}
		code, _ := body(t, resp)
		assert.Equal(t, http.StatusRequestEntityTooLarge, code, path)
	}
	for _, path := range []string{s.path("/choices"), s.path("/brief/fields"), s.path("/pages")} { // its length not said
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+path, io.MultiReader(strings.NewReader("addresses="), io.LimitReader(zeros{}, 3<<20)))
		require.NoError(t, err)
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		resp, err := s.Client().Do(req)
		if err != nil {
			continue
		}
		code, _ := body(t, resp)
		assert.GreaterOrEqual(t, code, 400, path)
	}
}

type zeros struct{}

func (zeros) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = 'x'
	}
	return len(p), nil
}

// NUL and broken UTF-8 in what is typed are taken out, and nothing fails by them.
func TestBadBytesInForms(t *testing.T) {
	s := withField(t)
	code, text, _ := s.post(t, s.path("/brief/fields"), true, "field", "goal", "was", "", "value", "Sell\x00 \xff tyres")
	assert.Equal(t, http.StatusOK, code, text)
	_, page := s.get(t, s.path("/brief"))
	assert.Contains(t, page, "Sell \uFFFD tyres</textarea>")
	for path, pairs := range map[string][]string{
		"/choices":             {"kind", "term", "key", "a\x00b\xff", "text", "\x00", "state", "adopted"},
		"/results/1/kept":      {"kept", "false", "reason", "no\x00t \xffours"},
		"/pages":               {"addresses", "http://new.example/\x00a\xff"},
		"/evidence?filter=%00": nil,
	} {
		if pairs == nil {
			code, _ = s.get(t, s.path("%s", path))
		} else {
			code, _, _ = s.post(t, s.path("%s", path), true, pairs...)
		}
		assert.Less(t, code, 500, path)
	}
	code, _, _ = s.post(t, "/studies", false, "keyword", "win\x00ter")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	for _, path := range []string{s.path("/sources?kind=term&key=%%00%%ff"), "/?filter=%00%ff", s.path("/evidence?tab=%%00&sort=%%ff&show=-5&from=99999999999999999999")} {
		code, _ := s.get(t, path)
		assert.Less(t, code, 500, path)
	}
}

// The bookmarklet's address is the one the browser sees, a proxy before us included.
func TestTheSchemeBehindAProxy(t *testing.T) {
	s := withField(t)
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+s.path("/gather"), nil)
	require.NoError(t, err)
	req.Header.Set("X-Forwarded-Proto", "https")
	resp, err := s.Client().Do(req)
	require.NoError(t, err)
	_, text := body(t, resp)
	assert.Contains(t, text, "const%20o=%27https://")
	assert.True(t, resp.Cookies()[0].Secure)
}

// A WARC of many pages handed in at one row gives that row its own page, or none.
func TestAWARCOfManyPagesAtOneRow(t *testing.T) {
	s := withField(t)
	results, err := s.scope.Results(t.Context(), 1)
	require.NoError(t, err)
	warc := func(urls ...string) string {
		var b strings.Builder
		for _, u := range urls {
			page := strings.ReplaceAll(handedIn, "Handed in", "Page of "+u)
			fmt.Fprintf(&b, "WARC/1.1\r\nWARC-Type: resource\r\nWARC-Target-URI: %s\r\nContent-Type: text/html\r\nContent-Length: %d\r\n\r\n%s\r\n\r\n", u, len(page), page)
		}
		return b.String()
	}
	row := s.path("/results/%d/hand-in", results[3].ID)
	code, text := s.upload(t, row, nil, map[string]string{"many.warc": warc("http://s1.example/p", results[3].URL, "http://elsewhere.example/")})
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "1 page taken in.")
	now, err := s.scope.Results(t.Context(), 1)
	require.NoError(t, err)
	docs, err := s.scope.Readings(t.Context(), []int64{*now[3].ReadingID})
	require.NoError(t, err)
	assert.Equal(t, "Page of "+results[3].URL, docs[*now[3].ReadingID].Title)
	assert.Equal(t, now[0].CaptureID, results[0].CaptureID, "other rows are left alone")
	code, text = s.upload(t, row, nil, map[string]string{"others.warc": warc("http://s1.example/p", "http://elsewhere.example/")})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "none of them is the page of this row")
}

// A hundred kept pages: every list is light, the first screenful alone.
func TestListsOfAHundredPagesAreLight(t *testing.T) {
	s := hundred(t)
	for path, most := range map[string]int{"/gather": 300_000, "/field": 300_000, "/evidence": 300_000, "/evidence?tab=entities": 300_000, "/evidence?tab=questions": 300_000, "/evidence?tab=themes": 300_000, "/brief": 300_000} {
		code, text := s.get(t, s.path("%s", path))
		assert.Equal(t, http.StatusOK, code)
		assert.Less(t, len(text), most, path)
		t.Logf("%s: %d kB, %d elements", path, len(text)>>10, strings.Count(text, "<")/2)
	}
	_, first := s.get(t, s.path("/evidence"))
	assert.Equal(t, 60, strings.Count(first, "<tr data-row"))
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+s.path("/evidence?tab=terms&from=60"), nil)
	require.NoError(t, err)
	req.Header.Set("HX-Request", "true")
	resp, err := s.Client().Do(req)
	require.NoError(t, err)
	_, more := body(t, resp)
	assert.True(t, strings.HasPrefix(strings.TrimSpace(more), "<tr data-row"), "rows alone")
	// Sorted by a figure, whichever.
	for by, column := range map[string]string{"pages": "Pages", "total": "Uses", "median": "Uses per page", "name": "Term"} {
		code, text := s.get(t, s.path("/evidence?sort=%s&down=1", by))
		assert.Equal(t, http.StatusOK, code)
		assert.Regexp(t, `aria-sort="descending"[^>]*>.*>`+column+`<`, text)
	}
}

// The same evidence is computed once for all who wait for it.
func TestEvidenceIsComputedOnce(t *testing.T) {
	s := hundred(t)
	done := make(chan int, 30)
	for range 30 {
		go func() {
			resp, err := s.Client().Get(s.URL + s.path("/evidence"))
			if err != nil {
				done <- 0
				return
			}
			_, _ = io.Copy(io.Discard, resp.Body)
			resp.Body.Close()
			done <- resp.StatusCode
		}()
	}
	for range 30 {
		assert.Equal(t, http.StatusOK, <-done)
	}
	assert.EqualValues(t, 1, s.computed(), "computations")
}

// Options that are missing are named, each by its field.
func TestOptionsAreChecked(t *testing.T) {
	_, err := web.Handler(web.Options{})
	for _, field := range []string{"Options.Store", "Options.Queue", "Options.Closing"} {
		assert.ErrorContains(t, err, field)
	}
}
