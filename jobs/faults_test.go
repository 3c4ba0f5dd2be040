package jobs_test

import (
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/search"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// site is a simulated site that answers by path.
func site(t *testing.T, answer http.HandlerFunc) *gather.Fetcher {
	t.Helper()
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/robots.txt" {
			http.NotFound(w, r)
			return
		}
		answer(w, r)
	}))
	t.Cleanup(srv.Close)
	limits := gather.DefaultLimits()
	limits.Delay = 0
	return gather.NewFetcher(limits, gather.Guard{Simulated: strings.TrimPrefix(srv.URL, "http://")}.Dial)
}

func items(urls ...string) provider {
	return func() (*search.Results, error) {
		res := &search.Results{Asked: []string{"Why\x00 NUL?"}, Suggestions: []string{"bad \xff bytes"}}
		for i, u := range urls {
			res.Items = append(res.Items, search.Item{Rank: i + 1, URL: u, Title: "A\x00 title \xff"})
		}
		return res, nil
	}
}

const prose = "<article><h1>Winter</h1><p>The studded tyre grips on ice, and mitts keep the hands warm in frost and snow on every ride to work."

// Bytes that no database takes, in every place they can come from: each page is
// kept with the rest of its text, and none holds up its host.
func TestBadBytesStopNothing(t *testing.T) {
	f := site(t, func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		switch r.URL.Path {
		case "/json":
			fmt.Fprint(w, `<script type="application/ld+json">{"@type":"FAQPage","mainEntity":[{"@type":"Question","name":"Why \u0000 so?","acceptedAnswer":{"text":"\u0000Because."}}]}</script>`+prose)
		case "/charset":
			w.Header().Set("Content-Type", "text/html; charset=\xff")
			fmt.Fprint(w, prose)
		case "/redirect":
			w.Header().Set("Location", "/after?q=\xff")
			w.WriteHeader(http.StatusFound)
		case "/header":
			w.Header().Set("X-Odd", "\xff\xfe")
			fmt.Fprint(w, prose)
		case "/nul":
			fmt.Fprint(w, "<title>A \x00 title</title>"+prose+"\x00 and \xff on")
		default:
			fmt.Fprint(w, prose)
		}
	})
	var urls []string
	for _, p := range []string{"json", "charset", "redirect", "header", "nul", "last"} {
		urls = append(urls, "http://one.example/"+p)
	}
	b := newBench(t, items(urls...), f)
	g, results := b.gather(t, "winter")
	assert.Equal(t, store.Done, g.State)
	assert.Equal(t, []string{"Why NUL?", "bad \uFFFD bytes"}, []string{g.Asked[0], g.Suggestions[0]})
	require.Len(t, results, 6)
	for _, r := range results {
		assert.Equal(t, store.Read, r.State, "%s: %s", r.URL, r.Failure)
		assert.Equal(t, "A title \uFFFD", r.Title)
	}
	docs, err := b.scope.Readings(t.Context(), []int64{*results[0].ReadingID})
	require.NoError(t, err)
	assert.Equal(t, "Because.", docs[*results[0].ReadingID].FAQ[0].Answer)
}

// A page that loses every worker it is given to is given up, the others of its
// host are not, and no attempt is forgotten.
func TestAPageThatKillsItsWorkers(t *testing.T) {
	st, url := storetest.Open(t)
	ctx := t.Context()
	f := site(t, func(w http.ResponseWriter, r *http.Request) { fmt.Fprint(w, prose, r.URL.Path) })
	provider := items("http://one.example/poison", "http://one.example/fine")
	var results []store.Result
	t.Run("gathered", func(t *testing.T) { _, results = benchOn(t, st, url, provider, f).gather(t, "winter") })
	// As it is when no worker is left, and three were killed one after another while
	// they had the first page.
	for _, sql := range []string{
		`update results set state = case rank when 1 then 'fetching' else 'waiting' end, capture_id = null, reading_id = null`,
		`update gatherings set state = 'fetching'`, `delete from workers`,
	} {
		_, err := st.SQL().ExecContext(ctx, sql)
		require.NoError(t, err)
	}
	attempts := func() (n int) {
		require.NoError(t, st.SQL().QueryRowContext(ctx, `select max(attempt) from river_job where kind = 'fetch'`).Scan(&n))
		return n
	}
	before := attempts()
	for i := range store.MaxLosses {
		_, err := st.SQL().ExecContext(ctx, `update river_job set state = 'running', finalized_at = null, attempted_by = array[$1], attempt = attempt + 1 where kind = 'fetch'`, fmt.Sprint("gone", i))
		require.NoError(t, err)
		n, err := st.FreeOrphans(ctx, time.Minute)
		require.NoError(t, err)
		require.EqualValues(t, 1, n)
	}
	g, after := benchOn(t, st, url, provider, f).ended(t, results[0].StudyID)
	assert.Equal(t, store.Done, g.State)
	assert.Equal(t, []any{store.Failed, "internal"}, []any{after[0].State, after[0].FailureCode})
	assert.Contains(t, after[0].Failure.Message().String(), "stopped the program 3 times")
	assert.Equal(t, store.Read, after[1].State, after[1].Failure)
	assert.Greater(t, attempts(), before+2, "attempts are never taken back")
}

// Two worker processes, two gatherings and a redirect: one request at a time to
// a host all the same.
func TestOneRequestToAHostOverAllProcesses(t *testing.T) {
	var now, most atomic.Int32
	answer := func(w http.ResponseWriter, r *http.Request) {
		if r.Host == "elsewhere.example" {
			http.Redirect(w, r, "http://one.example"+r.URL.Path, http.StatusFound)
			return
		}
		n := now.Add(1)
		for m := most.Load(); n > m && !most.CompareAndSwap(m, n); m = most.Load() {
		}
		time.Sleep(30 * time.Millisecond)
		fmt.Fprint(w, prose, r.URL.Path)
		now.Add(-1)
	}
	st, url := storetest.Open(t)
	first := site(t, answer)
	b := benchOn(t, st, url, items("http://one.example/a", "http://one.example/b", "http://elsewhere.example/c", "http://elsewhere.example/d"), first)
	w, err := jobs.StartWorkers(t.Context(), jobs.Config{Store: st, URL: url, Provider: items("http://one.example/e", "http://elsewhere.example/f"), Fetcher: site(t, answer), Count: 6})
	require.NoError(t, err)
	t.Cleanup(func() {
		ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
		defer cancel()
		assert.NoError(t, w.Stop(ctx))
	})
	var begun []store.Study
	for i := range 4 {
		begun = append(begun, b.begin(t, fmt.Sprint("winter ", i)))
	}
	for _, s := range begun {
		_, results := b.ended(t, s.ID)
		for _, r := range results {
			assert.Equal(t, store.Read, r.State, "%s: %s", r.URL, r.Failure)
		}
	}
	assert.EqualValues(t, 1, most.Load())
}

// A killed job of any kind is freed, not only of those that were thought of.
func TestOrphansOfAnyKindAreFreed(t *testing.T) {
	st, _ := storetest.Open(t)
	_, err := st.SQL().ExecContext(t.Context(), `insert into river_job (state, kind, args, max_attempts, attempt, attempted_by, attempted_at) values ('running', 'reread', '{}', 5, 2, array['gone'], now())`)
	require.NoError(t, err)
	n, err := st.FreeOrphans(t.Context(), time.Minute)
	require.NoError(t, err)
	assert.EqualValues(t, 1, n)
	var attempt int
	require.NoError(t, st.SQL().QueryRowContext(t.Context(), `select attempt from river_job where state = 'available'`).Scan(&attempt))
	assert.Equal(t, 2, attempt)
}
