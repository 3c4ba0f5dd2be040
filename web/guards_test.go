package web_test

import (
	"io"
	"net/http"
	"strings"
	"testing"

	"corpulan/web"
	"corpulan/web/kit"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A page elsewhere that gives its own name our address is refused, whatever it asks.
func TestOnlyOurNamesAreAnswered(t *testing.T) {
	s := webtest.WithField(t)
	ask := func(method, host, path string) int {
		req, err := http.NewRequestWithContext(t.Context(), method, s.URL+path, nil)
		require.NoError(t, err)
		req.Host = host
		resp, err := s.Client().Do(req)
		require.NoError(t, err)
		code, text := webtest.Body(t, resp)
		if code == http.StatusMisdirectedRequest {
			assert.NotContains(t, text, "winter")
		}
		return code
	}
	for _, host := range []string{"evil.example", "evil.example:8080", "127.0.0.1.evil.example", "localhost.evil.example", "10.0.0.1"} {
		assert.Equal(t, http.StatusMisdirectedRequest, ask(http.MethodGet, host, "/"), host)
		assert.Equal(t, http.StatusMisdirectedRequest, ask(http.MethodPost, host, s.Path("/choices")), host)
		assert.Equal(t, http.StatusOK, ask(http.MethodGet, host, "/healthz"), "whether it lives may be asked by any name")
	}
	for _, host := range []string{"localhost", "localhost:8080", "LOCALHOST:1", "127.0.0.1:80", "[::1]:80"} {
		assert.Equal(t, http.StatusOK, ask(http.MethodGet, host, "/"), host)
	}
}

func TestHeadAnswers(t *testing.T) {
	s := webtest.WithField(t)
	for _, path := range []string{"/", "/healthz", s.Path("/evidence"), s.Path("/brief/as/md"), s.Path("/events")} {
		resp, err := s.Client().Head(s.URL + path)
		require.NoError(t, err)
		code, text := webtest.Body(t, resp)
		assert.Equal(t, []any{http.StatusOK, ""}, []any{code, text}, path)
	}
}

// However large a body is said or turns out to be, and on whatever route.
func TestBodiesAreBounded(t *testing.T) {
	s := webtest.WithField(t)
	for _, path := range []string{"/studies", s.Path("/choices"), s.Path("/brief/fields"), s.Path("/kept"), s.Path("/pages"), s.Path("/hand-in"), s.Path("/undo"), "/nowhere"} {
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+path, io.LimitReader(zeros{}, 400<<20))
		require.NoError(t, err)
		req.ContentLength = 400 << 20
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		resp, err := s.Client().Do(req)
		if err != nil { // refused and closed while it was being sent
			continue
		}
		code, _ := webtest.Body(t, resp)
		assert.Equal(t, http.StatusRequestEntityTooLarge, code, path)
	}
	for _, path := range []string{s.Path("/choices"), s.Path("/brief/fields"), s.Path("/pages")} { // its length not said
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+path, io.MultiReader(strings.NewReader("addresses="), io.LimitReader(zeros{}, 3<<20)))
		require.NoError(t, err)
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		resp, err := s.Client().Do(req)
		if err != nil {
			continue
		}
		code, _ := webtest.Body(t, resp)
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
	s := webtest.WithField(t)
	code, text, _ := s.Post(t, s.Path("/brief/fields"), true, "field", "goal", "was", "", "value", "Sell\x00 \xff tyres")
	assert.Equal(t, http.StatusOK, code, text)
	_, page := s.Get(t, s.Path("/brief"))
	assert.Contains(t, page, "Sell \uFFFD tyres</textarea>")
	for path, pairs := range map[string][]string{
		"/choices":             {"kind", "term", "key", "a\x00b\xff", "text", "\x00", "state", "adopted"},
		"/results/1/kept":      {"kept", "false", "reason", "no\x00t \xffours"},
		"/pages":               {"addresses", "http://new.example/\x00a\xff"},
		"/evidence?filter=%00": nil,
	} {
		if pairs == nil {
			code, _ = s.Get(t, s.Path("%s", path))
		} else {
			code, _, _ = s.Post(t, s.Path("%s", path), true, pairs...)
		}
		assert.Less(t, code, 500, path)
	}
	code, _, _ = s.Post(t, "/studies", false, "keyword", "win\x00ter")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	for _, path := range []string{s.Path("/sources?kind=term&key=%%00%%ff"), "/?filter=%00%ff", s.Path("/evidence?tab=%%00&sort=%%ff&show=-5&from=99999999999999999999")} {
		code, _ := s.Get(t, path)
		assert.Less(t, code, 500, path)
	}
}

// The bookmarklet's address is the one the browser sees, a proxy before us included.
func TestTheSchemeBehindAProxy(t *testing.T) {
	s := webtest.WithField(t)
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+s.Path("/gather"), nil)
	require.NoError(t, err)
	req.Header.Set("X-Forwarded-Proto", "https")
	resp, err := s.Client().Do(req)
	require.NoError(t, err)
	_, text := webtest.Body(t, resp)
	assert.Contains(t, text, "const%20o=%27https://")
	assert.True(t, resp.Cookies()[0].Secure)
}

// A hundred kept pages: every list is light, the first screenful alone.
func TestListsOfAHundredPagesAreLight(t *testing.T) {
	s := hundred(t)
	for path, most := range map[string]int{"/gather": 300_000, "/field": 300_000, "/evidence": 300_000, "/evidence?tab=entities": 300_000, "/evidence?tab=questions": 300_000, "/evidence?tab=themes": 300_000, "/brief": 300_000} {
		code, text := s.Get(t, s.Path("%s", path))
		assert.Equal(t, http.StatusOK, code)
		assert.Less(t, len(text), most, path)
		t.Logf("%s: %d kB, %d elements", path, len(text)>>10, strings.Count(text, "<")/2)
	}
	_, first := s.Get(t, s.Path("/evidence"))
	assert.Equal(t, 60, strings.Count(first, "<tr data-row"))
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+s.Path("/evidence?tab=terms&from=60"), nil)
	require.NoError(t, err)
	req.Header.Set("HX-Request", "true")
	resp, err := s.Client().Do(req)
	require.NoError(t, err)
	_, more := webtest.Body(t, resp)
	assert.True(t, strings.HasPrefix(strings.TrimSpace(more), "<tr data-row"), "rows alone")
	// Sorted by a figure, whichever.
	for by, column := range map[string]string{"pages": "Pages", "total": "Uses", "median": "Uses per page", "name": "Term"} {
		code, text := s.Get(t, s.Path("/evidence?sort=%s&down=1", by))
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
			resp, err := s.Client().Get(s.URL + s.Path("/evidence"))
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
	assert.EqualValues(t, 1, s.Computed(), "computations")
}

// Options that are missing are named, each by its field.
func TestOptionsAreChecked(t *testing.T) {
	_, err := web.New(kit.Options{})
	for _, field := range []string{"Options.Store", "Options.Queue", "Options.Closing"} {
		assert.ErrorContains(t, err, field)
	}
}
