package webtest

import (
	"bytes"
	"crypto/sha256"
	"encoding/csv"
	"encoding/json"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/cookiejar"
	"slices"
	"strings"
	"testing"
	"time"

	"corpulan/core/reading"
	"corpulan/formats/saved"
	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
)

// GroupOf says in which group a keyword is.
func (s *Site) GroupOf(t *testing.T, keyword string) string {
	t.Helper()
	code, text := s.Get(t, "/demand/1/as/csv")
	require.Equal(t, http.StatusOK, code)
	rows, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(text, "\ufeff"))).ReadAll()
	require.NoError(t, err)
	for _, cells := range rows {
		if cells[1] == keyword {
			return cells[0]
		}
	}
	return ""
}

func (s *Site) Get3(t *testing.T, path string) (int, string, http.Header) {
	t.Helper()
	resp, err := s.Browser.Get(s.URL + path)
	require.NoError(t, err)
	code, text := Body(t, resp)
	return code, text, resp.Header
}

// Send posts JSON as the editor does.
func (s *Site) Send(t testing.TB, path string, body any) (int, map[string]any) {
	t.Helper()
	b, ok := body.(string)
	if !ok {
		raw, err := json.Marshal(body)
		require.NoError(t, err)
		b = string(raw)
	}
	resp, err := s.Browser.Post(s.URL+path, "application/json", strings.NewReader(b))
	require.NoError(t, err)
	defer resp.Body.Close()
	raw, err := io.ReadAll(resp.Body)
	require.NoError(t, err)
	var out map[string]any
	if json.Unmarshal(raw, &out) != nil {
		out = map[string]any{"text": string(raw)}
	}
	return resp.StatusCode, out
}

func (s *Site) Gathering(t *testing.T) int64 {
	t.Helper()
	g, err := s.Scope.LatestGathering(t.Context(), s.Study.ID)
	require.NoError(t, err)
	return g.ID
}

// Upload hands files in as a browser would.
func (s *Site) Upload(t *testing.T, path string, fields map[string]string, files map[string]string) (int, string) {
	t.Helper()
	var form bytes.Buffer
	w := multipart.NewWriter(&form)
	for name, v := range fields {
		require.NoError(t, w.WriteField(name, v))
	}
	for name, content := range files {
		part, err := w.CreateFormFile("file", name)
		require.NoError(t, err)
		_, err = part.Write([]byte(content))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+path, &form)
	require.NoError(t, err)
	req.Header.Set("Content-Type", w.FormDataContentType())
	req.Header.Set("HX-Request", "true")
	req.Header.Set("X-Place", "gather")
	resp, err := s.Client().Do(req)
	require.NoError(t, err)
	return Body(t, resp)
}

// In asks for a page as a browser of some languages does.
func (s *Site) In(t *testing.T, languages, path string) (int, string) {
	t.Helper()
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+path, nil)
	require.NoError(t, err)
	req.Header.Set("Accept-Language", languages)
	resp, err := s.Browser.Do(req)
	require.NoError(t, err)
	return Body(t, resp)
}

// GatheredAgain gathers the study of withField a second time: ranks have turned round, every
// page has a section on gritting, and one sentence is worded otherwise.
func (s *Site) GatheredAgain(t *testing.T) {
	t.Helper()
	code, _, _ := s.Post(t, s.Path("/gather"), false)
	require.Equal(t, http.StatusSeeOther, code)
	g, err := s.Scope.LatestGathering(t.Context(), s.Study.ID)
	require.NoError(t, err)
	was, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	var results []store.Result
	for i := range 3 {
		r := was[2-i]
		results = append(results, store.Result{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: i + 1, URL: r.URL, Host: r.Host, Title: r.Title, State: store.Waiting, Kept: true})
	}
	_, err = s.Store.Found(t.Context(), g, results, []string{"How do I stop my glasses fogging?", "Where is it <gritted>?"}, []string{"winter tyres"}, nil)
	require.NoError(t, err)
	results, err = s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	for _, r := range results {
		at := slices.IndexFunc(was, func(w store.Result) bool { return w.URL == r.URL })
		if r.Added || at > 2 {
			continue
		}
		c, err := s.Scope.Capture(t.Context(), *was[at].CaptureID)
		require.NoError(t, err)
		page, err := study.PageOf(c)
		require.NoError(t, err)
		body := strings.Replace(string(page.Body), "<pre>", "<h2>The gritting map</h2><p>The gritting map is drawn anew each day. Ask for the gritting map.</p><pre>", 1)
		body = strings.Replace(body, "by 10 psi", "by 15 psi", 1)
		doc, err := reading.Read(reading.Page{URL: r.URL, Body: []byte(body)})
		require.NoError(t, err)
		c2, err := study.CaptureOf(&saved.Fetched{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte(body), Digest: sha256.Sum256([]byte(body)), At: time.Now()})
		require.NoError(t, err)
		require.NoError(t, s.Store.KeepPage(t.Context(), r, c2, doc, ""))
	}
}

// Outlined is the outline of a site's brief as its page shows it: a line for each section, its
// level and heading.
func (s *Site) Outlined(t *testing.T) (lines []string, keys map[string]string) {
	t.Helper()
	_, doc := s.Get(t, s.Path("/brief"))
	keys = map[string]string{}
	for _, li := range strings.Split(doc, `<li class="out lv`)[1:] {
		heading := html.UnescapeString(Between(li, `<span class="out-heading">`, "</span>")[0])
		lines = append(lines, li[:1]+" "+heading)
		keys[heading] = html.UnescapeString(Between(li, `data-section="`, `"`)[0])
	}
	return lines, keys
}

// Stranger is the same site in a browser of its own.
func (s *Site) Stranger(t *testing.T) *Site {
	t.Helper()
	other := *s
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	client := *s.Client()
	client.Jar = jar
	other.Browser = &client
	return &other
}

// Link makes a link to the brief and gives its path.
func (s *Site) Link(t *testing.T, form ...string) string {
	t.Helper()
	code, page, _ := s.Post(t, s.Path("/share"), false, append([]string{"name", "Wren"}, form...)...)
	require.Equal(t, http.StatusOK, code, page)
	address := Between(page, `<input readonly value="`, `"`)[0]
	require.True(t, strings.HasPrefix(address, s.URL+"/w/"), address)
	token := strings.TrimPrefix(address, s.URL+"/w/")
	assert.Len(t, token, 43, "256 bits in base64")
	_, again := s.Get(t, s.Path("/share"))
	assert.NotContains(t, again, token, "it is shown once")
	return "/w/" + token
}

// Propose sets a page aside as the program does, unless a person has decided.
func (s *Site) Propose(t *testing.T, result int64, reason string) {
	t.Helper()
	_, err := s.Store.SQL().ExecContext(t.Context(), "with r as (update results set kept = false, reason = $2 where id = $1 and not decided) update studies set change = change + 1", result, reason)
	require.NoError(t, err)
}

// Between gives what stands between two marks, each time.
func Between(s, from, to string) (list []string) {
	for {
		_, rest, ok := strings.Cut(s, from)
		if !ok {
			return list
		}
		var found string
		if found, s, ok = strings.Cut(rest, to); !ok {
			return list
		}
		list = append(list, found)
	}
}
