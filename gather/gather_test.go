package gather

import (
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/andybalholm/brotli"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// faulty is a site that does what sites do wrong.
func faulty(t *testing.T) *httptest.Server {
	t.Helper()
	mux := http.NewServeMux()
	status := func(code int) http.HandlerFunc {
		return func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(code) }
	}
	for _, code := range []int{401, 403, 404, 410, 429, 451, 500, 503} {
		mux.HandleFunc(fmt.Sprintf("/%d", code), status(code))
	}
	mux.HandleFunc("/robots.txt", func(w http.ResponseWriter, _ *http.Request) {
		fmt.Fprint(w, "User-agent: *\nDisallow: /members\n\nUser-agent: corpulan\nDisallow: /private\nAllow: /private/shown\n")
	})
	mux.HandleFunc("/later", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Retry-After", "3600")
		w.WriteHeader(http.StatusServiceUnavailable)
	})
	var seen sync.Map
	mux.HandleFunc("/second-time", func(w http.ResponseWriter, r *http.Request) {
		if _, again := seen.LoadOrStore(r.RemoteAddr+r.URL.RawQuery, true); !again {
			w.WriteHeader(http.StatusInternalServerError)
			return
		}
		w.Header().Set("Content-Type", "text/html")
		fmt.Fprint(w, "<h1>Second time</h1>")
	})
	mux.HandleFunc("/brotli", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		w.Header().Set("Content-Encoding", "br")
		z := brotli.NewWriter(w)
		_, _ = z.Write([]byte("<h1>Brotli</h1>"))
		_ = z.Close()
	})
	mux.HandleFunc("/bomb", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		w.Header().Set("Content-Encoding", "gzip")
		z := gzip.NewWriter(w)
		for range 4096 {
			_, _ = z.Write(make([]byte, 4096))
		}
		_ = z.Close()
	})
	for _, path := range []string{"/private/secret", "/private/shown", "/members"} {
		mux.HandleFunc(path, func(w http.ResponseWriter, _ *http.Request) { fmt.Fprint(w, "<h1>In</h1>") })
	}
	mux.HandleFunc("/ok", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		fmt.Fprint(w, "<h1>Fine</h1>")
	})
	mux.HandleFunc("/moved", func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, "/ok", http.StatusMovedPermanently) })
	mux.HandleFunc("/loop", func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, "/loop2", http.StatusFound) })
	mux.HandleFunc("/loop2", func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, "/loop", http.StatusFound) })
	mux.HandleFunc("/big", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		for range 3000 {
			if _, err := w.Write([]byte(strings.Repeat("x", 1024))); err != nil {
				return
			}
		}
	})
	mux.HandleFunc("/pdf", func(w http.ResponseWriter, _ *http.Request) { w.Header().Set("Content-Type", "application/pdf") })
	mux.HandleFunc("/png", func(w http.ResponseWriter, _ *http.Request) { w.Header().Set("Content-Type", "image/png") })
	mux.HandleFunc("/hang", func(_ http.ResponseWriter, r *http.Request) { <-r.Context().Done() })
	mux.HandleFunc("/drip", func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		for r.Context().Err() == nil {
			fmt.Fprint(w, ".")
			w.(http.Flusher).Flush()
			select {
			case <-r.Context().Done():
			case <-time.After(20 * time.Millisecond):
			}
		}
	})
	srv := httptest.NewServer(mux)
	t.Cleanup(srv.Close)
	return srv
}

func TestEveryFaultHasItsCode(t *testing.T) {
	srv := faulty(t)
	limits := Limits{Time: 20 * time.Second, Size: 1 << 20, Redirects: 5, Tries: 1, Wait: time.Millisecond}
	f := NewFetcher(limits, Guard{AllowPrivate: true}.Dial)
	limits.Time = 300 * time.Millisecond
	impatient := NewFetcher(limits, Guard{AllowPrivate: true}.Dial)
	for path, want := range map[string]Code{
		"/401": Refused, "/403": Refused, "/451": Refused, "/429": Busy, "/later": Busy, "/404": Missing, "/410": Missing, "/500": SiteError, "/503": SiteError,
		"/loop": RedirectLoop, "/big": TooLarge, "/bomb": TooLarge, "/private/secret": Robots, "/pdf": NotAPage, "/png": NotAPage, "/hang": TimedOut, "/drip": TimedOut,
	} {
		by := f
		if want == TimedOut { // only these are to run out of time, however slow the machine
			by = impatient
		}
		_, err := by.Fetch(t.Context(), srv.URL+path)
		var failure *Failure
		require.ErrorAs(t, err, &failure, path)
		assert.Equal(t, want, failure.Code, path)
		assert.True(t, strings.HasSuffix(failure.Reason.String(), "."), "a sentence for a person: %q", failure.Reason)
	}
	for address, want := range map[string]Code{"": BadAddress, "ftp://a.example/": BadAddress, "http://": BadAddress, "mailto:a@b": BadAddress, "http://127.0.0.1:1/": Unreachable} {
		_, err := f.Fetch(t.Context(), address)
		var failure *Failure
		require.ErrorAs(t, err, &failure, address)
		assert.Equal(t, want, failure.Code, address)
	}
	for path, want := range map[string]string{"/second-time": "<h1>Second time</h1>", "/brotli": "<h1>Brotli</h1>", "/private/shown": "<h1>In</h1>", "/members": "<h1>In</h1>"} {
		p, err := f.Fetch(t.Context(), srv.URL+path)
		require.NoError(t, err, path)
		assert.Equal(t, want, string(p.Body), path)
	}
	p, err := f.Fetch(t.Context(), srv.URL+"/moved")
	require.NoError(t, err)
	assert.Equal(t, srv.URL+"/ok", p.FinalURL)
	assert.Equal(t, "<h1>Fine</h1>", string(p.Body))
	assert.NotZero(t, p.Digest)
}

func TestRetryAfter(t *testing.T) {
	now := time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC)
	for value, want := range map[string]time.Duration{"": 0, "7": 7 * time.Second, "-3": 0, "soon": 0, "Tue, 24 Nov 2026 12:00:30 GMT": 30 * time.Second, "Tue, 24 Nov 2020 12:00:30 GMT": 0} {
		assert.Equal(t, want, retryAfter(value, now), value)
	}
}

// RFC 9309: no robots.txt (4xx) allows everything, one that cannot be had (5xx)
// nothing; the group of our own name counts before the general one.
func TestRobots(t *testing.T) {
	for name, c := range map[string]struct {
		status  int
		body    string
		allowed bool
	}{
		"none": {404, "", true}, "forbidden to read": {403, "", true}, "broken": {500, "", false}, "empty": {200, "", true},
		"all": {200, "User-agent: *\nDisallow: /", false}, "others": {200, "User-agent: other\nDisallow: /", true},
		"ours": {200, "User-agent: Corpulan\nDisallow: /page\n", false}, "ours before all": {200, "User-agent: *\nDisallow: /\n\nUser-agent: corpulan\nAllow: /", true},
		"html instead": {200, "<html><body>Not found</body></html>", true},
	} {
		srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if r.URL.Path == "/robots.txt" {
				w.WriteHeader(c.status)
			}
			fmt.Fprint(w, c.body)
		}))
		f := NewFetcher(Limits{Time: 5 * time.Second, Size: 1 << 20, Redirects: 5}, Guard{AllowPrivate: true}.Dial)
		_, err := f.Fetch(t.Context(), srv.URL+"/page")
		srv.Close()
		if c.allowed {
			assert.NoError(t, err, name)
			continue
		}
		var failure *Failure
		require.ErrorAs(t, err, &failure, name)
		assert.Equal(t, Robots, failure.Code, name)
	}
}

func TestACancelledFetchIsNoFailureOfThePage(t *testing.T) {
	srv := faulty(t)
	f := NewFetcher(DefaultLimits(), Guard{AllowPrivate: true}.Dial)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err := f.Fetch(ctx, srv.URL+"/hang")
	assert.ErrorIs(t, err, context.Canceled)
	var failure *Failure
	assert.False(t, errors.As(err, &failure))
}

func TestOneRequestAtATimeToAHost(t *testing.T) {
	var now, most atomic.Int32
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		n := now.Add(1)
		for {
			m := most.Load()
			if n <= m || most.CompareAndSwap(m, n) {
				break
			}
		}
		fmt.Fprint(w, "<p>page</p>")
		now.Add(-1)
	}))
	defer srv.Close()
	f := NewFetcher(Limits{Time: 10 * time.Second, Size: 1 << 20}, Guard{AllowPrivate: true}.Dial)
	done := make(chan error)
	for range 12 {
		go func() {
			_, err := f.Fetch(t.Context(), srv.URL)
			done <- err
		}()
	}
	for range 12 {
		require.NoError(t, <-done)
	}
	assert.EqualValues(t, 1, most.Load())
}

func TestGuard(t *testing.T) {
	for address, public := range map[string]bool{
		"127.0.0.1:80": false, "10.1.2.3:80": false, "192.168.0.1:80": false, "172.16.0.1:80": false, "169.254.169.254:80": false, "0.0.0.0:80": false, "100.64.0.1:80": false,
		"[::1]:80": false, "[fe80::1]:80": false, "[fd00::1]:80": false, "[::ffff:127.0.0.1]:80": false, "[64:ff9b::7f00:1]:80": false, "[2002:7f00:1::]:80": false, "224.0.0.1:80": false,
		"192.88.99.1:80": true, "8.8.8.8:80": true, "[2606:4700::1]:443": true,
	} {
		assert.Equal(t, public, Guard{}.check(address) == nil, address)
		assert.NoError(t, Guard{AllowPrivate: true}.check(address), address)
	}
	// At dial time, so that a name or a redirect that leads inside is refused too.
	srv := faulty(t)
	f := NewFetcher(DefaultLimits(), Guard{}.Dial)
	for _, address := range []string{srv.URL + "/ok", strings.Replace(srv.URL, "127.0.0.1", "localhost", 1) + "/ok"} {
		_, err := f.Fetch(t.Context(), address)
		var failure *Failure
		require.ErrorAs(t, err, &failure, address)
		assert.Equal(t, NotAllowed, failure.Code, address)
	}
	// Names of the simulated web lead to the stand-in, and nothing else does.
	host := strings.TrimPrefix(srv.URL, "http://")
	f = NewFetcher(DefaultLimits(), Guard{Simulated: host}.Dial)
	_, err := f.Fetch(t.Context(), "http://shop.example/ok")
	require.NoError(t, err)
	_, err = f.Fetch(t.Context(), srv.URL+"/ok")
	assert.Error(t, err)
	_, err = Guard{Simulated: host}.Dial(t.Context(), "tcp", "no-port")
	var addr *net.AddrError
	assert.ErrorAs(t, err, &addr)
}

func TestAPageSeenBeforeIsNotSentAgain(t *testing.T) {
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("ETag", `"v1"`)
		http.ServeContent(w, r, "x.html", time.Time{}, strings.NewReader("<h1>Page</h1>"))
	}))
	defer srv.Close()
	f := NewFetcher(Limits{Time: 5 * time.Second, Size: 1 << 20}, Guard{AllowPrivate: true}.Dial)
	first, err := f.Fetch(t.Context(), srv.URL)
	require.NoError(t, err)
	assert.False(t, first.NotModified())
	again, err := f.FetchAgain(t.Context(), srv.URL, SeenIn(first.Header))
	require.NoError(t, err)
	assert.True(t, again.NotModified())
	changed, err := f.FetchAgain(t.Context(), srv.URL, Seen{ETag: `"v0"`})
	require.NoError(t, err)
	assert.Equal(t, "<h1>Page</h1>", string(changed.Body))
}
