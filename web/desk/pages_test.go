package desk_test

import (
	"bytes"
	"mime/multipart"
	"net/http"
	"strings"
	"testing"

	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// begin posts the desk's form with saved pages, in their order: name, content, name, content.
func begin(t *testing.T, s *webtest.Site, keyword string, files ...string) (int, string, http.Header) {
	t.Helper()
	var form bytes.Buffer
	w := multipart.NewWriter(&form)
	for name, v := range map[string]string{"keyword": keyword, "language": "en", "country": "gb", "depth": "10"} {
		require.NoError(t, w.WriteField(name, v))
	}
	for i := 0; i < len(files); i += 2 {
		part, err := w.CreateFormFile("pages", files[i])
		require.NoError(t, err)
		_, err = part.Write([]byte(files[i+1]))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+"/studies", &form)
	require.NoError(t, err)
	req.Header.Set("Content-Type", w.FormDataContentType())
	client := *s.Client()
	client.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	resp, err := client.Do(req)
	require.NoError(t, err)
	code, text := webtest.Body(t, resp)
	return code, text, resp.Header
}

func pageOn(head, text string) string {
	return `<!doctype html><html lang="en"><head><title>Riding on ice</title>` + head + `</head><body><article><h1>Riding on ice</h1><h2>Tyres</h2><p>` + strings.Repeat(text+" ", 30) + ` A studded tyre grips on ice when it is colder than freezing, and is loud on a dry road.</p></article></body></html>`
}

// Pages alone are enough for a study: nobody is asked, nothing is fetched, and where a page is from stands in it, or nowhere.
func TestAStudyOfPages(t *testing.T) {
	s := webtest.NewSite(t, func(o *kit.Options) { o.NoEngine = true })
	_, desk := s.Get(t, "/")
	assert.Contains(t, desk, "There is no search engine to ask here")
	code, text, _ := s.Post(t, "/studies", false, "keyword", "riding on ice", "language", "en", "country", "gb", "depth", "10")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "No search engine is set here")
	assert.Contains(t, text, `value="riding on ice"`, "what was typed stays")

	one, two, three := pageOn(`<link rel="canonical" href="http://one.example/ice">`, "Brake early and lean less."), "<!-- saved from url=(0022)http://two.example/ice -->\n"+pageOn("", "Slow down before the bend."), pageOn("", "Nobody says where this is from.")
	code, text, _ = begin(t, s, "riding on ice", "a.html", one, "b.html", "\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "b.html")
	code, text, header := begin(t, s, "riding on ice", "a.html", one, "b.html", two, "a copy.html", one, "what we saved.html", three)
	require.Equal(t, http.StatusSeeOther, code, text)
	st, err := s.Scope.Study(t.Context(), 1)
	require.NoError(t, err)
	assert.Equal(t, "/studies/1/gather", header.Get("Location"))
	g, err := s.Scope.LatestGathering(t.Context(), st.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Done, g.State)
	results, err := s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	var urls []string
	for i, r := range results {
		assert.Equal(t, store.Read, r.State, r.URL)
		assert.Equal(t, i+1, r.Rank)
		urls = append(urls, r.URL)
	}
	assert.Equal(t, []string{"http://one.example/ice", "http://two.example/ice", "http://no-address.invalid/what%20we%20saved"}, urls)
	_, evidence := s.Get(t, "/studies/1/evidence")
	assert.Contains(t, evidence, "studded tyre")
}
