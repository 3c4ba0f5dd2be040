// Package webtest is the interface on a real database, for the tests of all places: a site with one study
// (site.go), a house of several people (house.go), what is done there (act.go, list.go).
package webtest

import (
	"cmp"
	"context"
	"crypto/sha256"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"corpulan/account"
	"corpulan/analysis"
	"corpulan/core/reading"
	"corpulan/formats/saved"
	_ "corpulan/lists" // the word lists that lie beside the program
	"corpulan/queue"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"
	"corpulan/web"
	"corpulan/web/kit"

	"github.com/stretchr/testify/require"
)

// Site is the interface on a real database, without workers.
type Site struct {
	*httptest.Server
	Store *store.Store
	Scope store.Scope
	Study store.Study
	Place string // of the page that posts; Gather if empty

	Browser *http.Client  // a browser
	role    *atomic.Value // of who asks

	computations *atomic.Int64
	log          *said
}

// said is what the server wrote to its log.
type said struct {
	mu sync.Mutex
	b  strings.Builder
}

func (s *said) Write(b []byte) (int, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.b.Write(b)
}

// Logged is what the server wrote to its log so far.
func (s *Site) Logged() string {
	s.log.mu.Lock()
	defer s.log.mu.Unlock()
	return s.log.b.String()
}

// As makes whoever asks a member of another role.
func (s *Site) As(role store.Role) { s.role.Store(role) }

// Computed is how often evidence was computed.
func (s *Site) Computed() int64 { return s.computations.Load() }

// Sealed gives an interface a secret to seal with.
func Sealed(t testing.TB) func(*kit.Options) {
	t.Helper()
	s, err := account.NewSealer([]byte(account.NewSecret()))
	require.NoError(t, err)
	return func(o *kit.Options) { o.Sealer = s }
}

func NewSite(t testing.TB, more ...func(*kit.Options)) *Site {
	t.Helper()
	st, _ := storetest.Open(t)
	q, err := queue.New(st)
	require.NoError(t, err)
	p, err := st.EnsurePublication(t.Context(), "Quillfen Cycles", "")
	require.NoError(t, err)
	closing, stop := context.WithCancel(context.Background())
	n, log, role := new(atomic.Int64), new(said), new(atomic.Value)
	role.Store(store.Owner)
	analyst, err := analysis.NewAnalyst(func() { n.Add(1) }, q.Evidence, analysis.Whole)
	require.NoError(t, err)
	o := kit.Options{Store: st, Queue: q, Visitor: func(*http.Request) (*account.Visitor, error) {
		now, err := st.In(p.ID).Publication(context.Background())
		return &account.Visitor{Publication: now, Role: role.Load().(store.Role)}, err
	}, Closing: closing, Log: slog.New(slog.NewTextHandler(log, nil)), Analyst: analyst}
	for _, f := range more {
		f(&o)
	}
	h, err := web.New(o)
	require.NoError(t, err)
	srv := httptest.NewServer(h)
	t.Cleanup(func() { stop(); srv.Close() })
	jar, err := cookiejar.New(nil) // what is undone is what the same browser did
	require.NoError(t, err)
	srv.Client().Jar = jar
	srv.Client().CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	return &Site{Server: srv, Store: st, Scope: st.In(p.ID), role: role, computations: n, log: log, Browser: srv.Client()}
}

// WithField gives the site a gathered study of three pages, and one that failed.
func WithField(t *testing.T) *Site {
	t.Helper()
	s := Arriving(t, 3)
	s.LastFails(t)
	return s
}

// Arriving gives the site a study of which some pages have come, and one has not.
func Arriving(t *testing.T, pages int) *Site {
	t.Helper()
	var bodies []string
	for i := range pages {
		bodies = append(bodies, `<html lang="en"><body><article><h1>Winter riding</h1><p>Photo: Ada Holm</p><p>`+strings.Repeat("A studded tyre grips on ice, and bar mitts keep your hands warm in frost. ", 4+i)+`</p><h2>Tyre pressure</h2><p>`+
			strings.Repeat("Lower the tyre pressure by 10 psi when it freezes. ", 3+i)+`</p><pre>`+differs(i)+`</pre><script>alert("captured")</script></article>`)
	}
	return WithPages(t, "winter riding", bodies...)
}

// WithPages gives the site a study of these pages, in rank order, and of one that has not come.
func WithPages(t *testing.T, keyword string, bodies ...string) *Site {
	t.Helper()
	s := NewSite(t)
	s.Study = store.Study{Keyword: keyword, Language: "en", Country: "gb", Depth: 10}
	g, err := s.Scope.CreateStudy(t.Context(), &s.Study)
	require.NoError(t, err)
	var results []store.Result
	for i := range len(bodies) + 1 {
		results = append(results, store.Result{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: i + 1,
			URL: fmt.Sprintf("http://s%d.example/p", i+1), Host: fmt.Sprintf("s%d.example", i+1), Title: fmt.Sprintf("Page %d <b>", i+1), State: store.Waiting, Kept: true})
	}
	_, err = s.Store.Found(t.Context(), *g, results, []string{"How do I stop my glasses fogging?"}, []string{"winter tyres"}, nil)
	require.NoError(t, err)
	results, err = s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	for i, r := range results[:len(bodies)] {
		body := bodies[i]
		doc, err := reading.Read(reading.Page{URL: r.URL, Body: []byte(body)})
		require.NoError(t, err)
		c, err := study.CaptureOf(&saved.Fetched{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte(body), Digest: sha256.Sum256([]byte(body)), At: time.Now()})
		require.NoError(t, err)
		require.NoError(t, s.Store.KeepPage(t.Context(), r, c, doc, ""))
	}
	return s
}

// LastFails has the last page of the study's gathering fail, which ends it.
func (s *Site) LastFails(t *testing.T) {
	t.Helper()
	g, err := s.Scope.LatestGathering(t.Context(), s.Study.ID)
	require.NoError(t, err)
	results, err := s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	require.NoError(t, s.Store.FailPage(t.Context(), results[len(results)-1], "refused", "The site refuses to give the page (403)."))
}

// differs is text that no other page has, so that none is taken for a copy.
func differs(i int) string {
	var b strings.Builder
	for k := range 80 {
		fmt.Fprintf(&b, "only%dhere%d ", i, k)
	}
	return b.String()
}

func (s *Site) Get(t *testing.T, path string) (int, string) {
	t.Helper()
	resp, err := s.Browser.Get(s.URL + path)
	require.NoError(t, err)
	return Body(t, resp)
}

func (s *Site) Post(t *testing.T, path string, htmx bool, pairs ...string) (int, string, http.Header) {
	t.Helper()
	form := url.Values{}
	for i := 0; i < len(pairs); i += 2 {
		form.Add(pairs[i], pairs[i+1])
	}
	req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+path, strings.NewReader(form.Encode()))
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	if htmx {
		req.Header.Set("HX-Request", "true")
		req.Header.Set("X-Place", cmp.Or(s.Place, "gather"))
	}
	resp, err := s.Browser.Do(req)
	require.NoError(t, err)
	code, text := Body(t, resp)
	return code, text, resp.Header
}

func Body(t *testing.T, resp *http.Response) (int, string) {
	t.Helper()
	defer resp.Body.Close()
	b, err := io.ReadAll(resp.Body)
	require.NoError(t, err)
	return resp.StatusCode, string(b)
}

func (s *Site) Path(format string, args ...any) string {
	return fmt.Sprintf("/studies/%d", s.Study.ID) + fmt.Sprintf(format, args...)
}

// Bare is the interface over nothing, for what needs no request.
func Bare(t *testing.T) *kit.Kit {
	t.Helper()
	k, err := web.New(kit.Options{Store: &store.Store{}, Queue: &queue.Queue{}, Closing: t.Context(), Log: slog.Default()})
	require.NoError(t, err)
	return k
}

func (s *said) String() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.b.String()
}
