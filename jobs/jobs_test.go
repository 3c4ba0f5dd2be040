package jobs_test

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/localpg"
	"corpulan/queue"
	"corpulan/search"
	"corpulan/standin"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// bench is a store with workers on it.
type bench struct {
	store *store.Store
	queue *queue.Queue
	scope store.Scope
}

func newBench(t testing.TB, provider search.Provider, fetcher *gather.Fetcher) bench {
	t.Helper()
	st, url := storetest.Open(t)
	return benchOn(t, st, url, provider, fetcher)
}

func benchOn(t testing.TB, st *store.Store, url string, provider search.Provider, fetcher *gather.Fetcher) bench {
	t.Helper()
	return benchWith(t, st, jobs.Config{URL: url, Provider: provider, Fetcher: fetcher, Count: 12})
}

func benchWith(t testing.TB, st *store.Store, c jobs.Config) bench {
	t.Helper()
	q, err := queue.New(st)
	require.NoError(t, err)
	p, err := st.EnsurePublication(t.Context(), "Quillfen Cycles", "")
	require.NoError(t, err)
	c.Store = st
	w, err := jobs.StartWorkers(t.Context(), c)
	require.NoError(t, err)
	t.Cleanup(func() {
		ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
		defer cancel()
		assert.NoError(t, w.Stop(ctx))
	})
	return bench{st, q, st.In(p.ID)}
}

// gather runs a gathering and waits for its end.
func (b bench) gather(t testing.TB, keyword string) (store.Gathering, []store.Result) {
	t.Helper()
	return b.ended(t, b.begin(t, keyword).ID)
}

func (b bench) begin(t testing.TB, keyword string) store.Study {
	t.Helper()
	st := store.Study{Keyword: keyword, Language: "en", Country: "gb", Depth: 100}
	require.NoError(t, study.For(b.scope, b.queue, "test").Begin(t.Context(), &st, nil))
	return st
}

func (b bench) ended(t testing.TB, id int64) (store.Gathering, []store.Result) {
	t.Helper()
	var g store.Gathering
	require.Eventually(t, func() bool {
		var err error
		g, err = b.scope.LatestGathering(t.Context(), id)
		return err == nil && (g.State == store.Done || g.State == store.Failed)
	}, 60*time.Second, 5*time.Millisecond)
	results, err := b.scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	return g, results
}

func TestAWholeGathering(t *testing.T) {
	web, err := standin.Start(0)
	require.NoError(t, err)
	defer func() { _ = web.Stop(t.Context()) }()
	b := newBench(t, search.OpenSearch{Template: web.SearchTemplate(), Client: http.DefaultClient},
		gather.NewFetcher(gather.DefaultLimits(), gather.Guard{Simulated: web.Address()}.Dial))
	g, results := b.gather(t, "winter bike commuting")
	assert.Equal(t, store.Done, g.State)
	require.Len(t, results, 15)
	aside := map[string]string{}
	for i, r := range results {
		assert.Equal(t, i+1, r.Rank)
		if r.State == store.Failed {
			assert.Equal(t, "saltmarshbikes.example", r.Host)
			assert.Equal(t, string(gather.Refused), r.FailureCode)
			assert.Contains(t, r.Failure.Message().String(), "403")
			continue
		}
		require.Equal(t, store.Read, r.State, r.URL)
		c, err := b.scope.Capture(t.Context(), *r.CaptureID)
		require.NoError(t, err)
		assert.NotEmpty(t, c.Body)
		assert.Len(t, c.Digest, 32)
		assert.Contains(t, c.Headers.Data(), "Content-Type")
		page, err := study.PageOf(c)
		require.NoError(t, err)
		assert.Equal(t, c.Digest, page.Digest[:], "the bytes are as they were fetched")
		if !r.Kept {
			aside[r.Host] = r.Reason.Message().String()
		}
	}
	assert.Len(t, aside, 4, "home page, forum, video and thin page: %v", aside)
	readings, err := b.scope.Readings(t.Context(), []int64{*results[0].ReadingID})
	require.NoError(t, err)
	assert.Equal(t, "Winter bike commuting: the complete guide | Northlane", readings[*results[0].ReadingID].Title)

	// Gathered again, pages that have not changed are not sent or read again.
	require.NoError(t, study.For(b.scope, b.queue, "test").Again(t.Context(), g.StudyID))
	require.Eventually(t, func() bool {
		g2, err := b.scope.LatestGathering(t.Context(), g.StudyID)
		return err == nil && g2.ID != g.ID && g2.State == store.Done
	}, 30*time.Second, 10*time.Millisecond)
	g2, err := b.scope.LatestGathering(t.Context(), g.StudyID)
	require.NoError(t, err)
	again, err := b.scope.Results(t.Context(), g2.ID)
	require.NoError(t, err)
	for i, r := range again {
		assert.Equal(t, results[i].CaptureID, r.CaptureID, r.URL)
		assert.Equal(t, results[i].Kept, r.Kept, r.URL)
	}
}

// provider answers with what a test wants.
type provider func() (*search.Results, error)

func (p provider) Search(context.Context, search.Query) (*search.Results, error) { return p() }

func TestGatheringsThatCannotBegin(t *testing.T) {
	for name, c := range map[string]struct {
		provider provider
		want     string
	}{
		"no results":    {func() (*search.Results, error) { return &search.Results{}, nil }, "no results for “winter”"},
		"engine broken": {func() (*search.Results, error) { return nil, errors.New("asking the search engine: it answered 502") }, "Asking the search engine: it answered 502."},
	} {
		t.Run(name, func(t *testing.T) {
			b := newBench(t, c.provider, gather.NewFetcher(gather.DefaultLimits(), gather.Guard{}.Dial))
			g, results := b.gather(t, "winter")
			assert.Equal(t, store.Failed, g.State)
			assert.Contains(t, g.Failure.Message().String(), c.want)
			assert.Empty(t, results)
		})
	}
}

func TestAllPagesFailing(t *testing.T) {
	items := []search.Item{{Rank: 1, URL: "http://127.0.0.1:9/a", Title: "Inside"}, {Rank: 2, URL: "http://10.0.0.1/b", Title: "Private"}, {Rank: 3, URL: "not an address"}}
	b := newBench(t, provider(func() (*search.Results, error) { return &search.Results{Items: items}, nil }), gather.NewFetcher(gather.DefaultLimits(), gather.Guard{}.Dial))
	g, results := b.gather(t, "winter")
	assert.Equal(t, store.Done, g.State, "it ends all the same")
	require.Len(t, results, 3)
	for i, code := range []gather.Code{gather.NotAllowed, gather.NotAllowed, gather.BadAddress} {
		assert.Equal(t, store.Failed, results[i].State)
		assert.Equal(t, string(code), results[i].FailureCode)
		assert.NotEmpty(t, results[i].Failure)
	}
}

// The fault site turns into clear rows: every page with its outcome, and none
// holds up the others for longer than its own time.
func TestTheFaultSite(t *testing.T) {
	web, err := standin.Start(0)
	require.NoError(t, err)
	defer func() { _ = web.Stop(context.Background()) }()
	limits := gather.Limits{Time: 2 * time.Second, Size: 1 << 19, Redirects: 5, Tries: 2, Wait: 5 * time.Millisecond}
	b := newBench(t, search.OpenSearch{Template: web.SearchTemplate(), Client: http.DefaultClient}, gather.NewFetcher(limits, gather.Guard{Simulated: web.Address()}.Dial))
	g, results := b.gather(t, "the fault site")
	assert.Equal(t, store.Done, g.State)
	want := map[string]string{"/hang": "timed-out", "/drip": "timed-out", "/loop": "redirect-loop", "/refused": "refused", "/missing": "missing", "/busy": "busy", "/huge": "too-large",
		"/robots/page": "robots", "/pdf": "not-a-page", "/inside": "not-allowed", "/page": "unreachable"}
	other := "About something else: it has none of the words of “the fault site”"
	aside := map[string]string{"/script-only": "Not the content: it needs JavaScript to be shown", "/copy": other, "/journal/frost-and-the-daily-ride": other}
	for _, r := range results {
		u, err := url.Parse(r.URL)
		require.NoError(t, err)
		if code, fails := want[u.Path]; fails {
			assert.Equal(t, store.Failed, r.State, r.URL)
			assert.Equal(t, code, r.FailureCode, "%s: %s", r.URL, r.Failure)
			continue
		}
		require.Equal(t, store.Read, r.State, "%s: %s", r.URL, r.Failure)
		assert.Equal(t, aside[u.Path], r.Reason.Message().String(), r.URL)
		if u.Path == "/charset" {
			readings, err := b.scope.Readings(t.Context(), []int64{*r.ReadingID})
			require.NoError(t, err)
			assert.Contains(t, readings[*r.ReadingID].Text(), "Größe")
		}
	}
}

// The database is stopped and started again in mid-gathering: nothing is lost.
func TestTheDatabaseGoesAwayForAWhile(t *testing.T) {
	dir, err := localpg.TempDir()
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	cluster, err := localpg.Start(t.Context(), filepath.Join(dir, "data"), "fsync=off")
	require.NoError(t, err)
	t.Cleanup(func() { _ = cluster.Stop() })
	address, err := cluster.EnsureDatabase(t.Context(), "corpulan")
	require.NoError(t, err)
	require.NoError(t, store.Migrate(t.Context(), address))
	st, err := store.Open(t.Context(), address, nil, 0)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	web, err := standin.Start(1500 * time.Millisecond)
	require.NoError(t, err)
	defer func() { _ = web.Stop(context.Background()) }()
	b := benchOn(t, st, address, search.OpenSearch{Template: web.SearchTemplate(), Client: http.DefaultClient},
		gather.NewFetcher(gather.DefaultLimits(), gather.Guard{Simulated: web.Address()}.Dial))
	begun := b.begin(t, "winter bike commuting")
	require.Eventually(t, func() bool {
		g, err := b.scope.LatestGathering(t.Context(), begun.ID)
		if err != nil || g.State != store.Fetching {
			return false
		}
		results, err := b.scope.Results(t.Context(), g.ID)
		return err == nil && slices.ContainsFunc(results, func(r store.Result) bool { return r.State == store.Read })
	}, 30*time.Second, 5*time.Millisecond)
	require.NoError(t, cluster.Restart(t.Context(), 2*time.Second))
	g, results := b.ended(t, begun.ID)
	assert.Equal(t, store.Done, g.State)
	read := 0
	for _, r := range results {
		if r.State == store.Read {
			read++
		}
	}
	assert.Equal(t, 14, read)
	captures := 0
	require.NoError(t, st.SQL().QueryRowContext(t.Context(), "select count(*) from captures").Scan(&captures))
	assert.Equal(t, 14, captures, "each page once")
}

// slowWeb gives each page after a delay, on a number of hosts of the simulated web.
func slowWeb(b testing.TB, delay time.Duration, pages, hosts int) (search.Provider, *gather.Fetcher) {
	article, err := os.ReadFile("../standin/sites/northlane.example/guides/winter-bike-commuting.html")
	require.NoError(b, err)
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/robots.txt" {
			http.NotFound(w, r)
			return
		}
		time.Sleep(delay)
		w.Header().Set("Content-Type", "text/html")
		_, _ = fmt.Fprintf(w, "%s<p>%s</p>", article, r.URL.Path)
	}))
	b.Cleanup(srv.Close)
	var res search.Results
	for i := range pages {
		res.Items = append(res.Items, search.Item{Rank: i + 1, URL: fmt.Sprintf("http://h%d.example/p%d", i%hosts, i)})
	}
	return provider(func() (*search.Results, error) { return &res, nil }),
		gather.NewFetcher(gather.DefaultLimits(), gather.Guard{Simulated: strings.TrimPrefix(srv.URL, "http://")}.Dial)
}

// BenchmarkGather20 gathers 20 pages that take 200 ms each, on 12 hosts; the
// budget is 2 s. Of it 700 ms are the two turns of a host with its delay.
func BenchmarkGather20(b *testing.B) {
	p, f := slowWeb(b, 200*time.Millisecond, 20, 12)
	bench := newBench(b, p, f)
	for b.Loop() {
		bench.gather(b, "winter")
	}
}

// BenchmarkGather100 gathers 100 pages that take 200 ms each, on 60 hosts; the
// budget is 10 s.
func BenchmarkGather100(b *testing.B) {
	p, f := slowWeb(b, 200*time.Millisecond, 100, 60)
	bench := newBench(b, p, f)
	for b.Loop() {
		bench.gather(b, "winter")
	}
}

// A configuration that cannot work is refused, each field by its name.
func TestConfigIsChecked(t *testing.T) {
	_, err := jobs.StartWorkers(t.Context(), jobs.Config{Count: -1})
	for _, field := range []string{"Config.Store", "Config.URL", "Config.Provider", "Config.Fetcher", "Config.Count is -1"} {
		assert.ErrorContains(t, err, field)
	}
}
