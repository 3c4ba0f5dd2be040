package jobs_test

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"corpulan/core/demand"
	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/queue"
	"corpulan/search"
	"corpulan/standin"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// demandBench is a bench whose workers ask a search engine and a keyword service.
func demandBench(t *testing.T, p search.Provider, k search.KeywordService) bench {
	t.Helper()
	st, url := storetest.Open(t)
	return benchWith(t, st, jobs.Config{URL: url, Provider: p, Keywords: k, Fetcher: gather.NewFetcher(gather.DefaultLimits(), gather.Guard{}.Dial), Count: 4})
}

// worked waits until nothing is done to a list any more.
func (b bench) worked(t *testing.T, list int64) store.Work {
	t.Helper()
	var w store.Work
	require.Eventually(t, func() bool {
		l, err := b.scope.List(t.Context(), list)
		require.NoError(t, err)
		w = l.Work.Data()
		return !w.Running
	}, 60*time.Second, 10*time.Millisecond)
	return w
}

func (b bench) texts(t *testing.T, list int64) (out []string) {
	t.Helper()
	keywords, err := b.scope.Keywords(t.Context(), list)
	require.NoError(t, err)
	for _, k := range keywords {
		out = append(out, k.Text)
	}
	return out
}

// From a seed, with the stand-in's services: what people search around it, with figures and
// results, in as many steps as asked for.
func TestFromSeeds(t *testing.T) {
	sim, err := standin.Start(0)
	require.NoError(t, err)
	t.Cleanup(func() { _ = sim.Stop(t.Context()) })
	b := demandBench(t, search.OpenSearch{Template: sim.SearchTemplate(), Suggest: sim.SuggestTemplate(), Client: http.DefaultClient}, search.KeywordsByHTTP{Address: sim.KeywordService(), Client: http.DefaultClient})
	do, ctx := study.For(b.scope, b.queue, "test"), t.Context()
	l, err := do.NewList(ctx, "Gloves", "en", "gb")
	require.NoError(t, err)
	require.NoError(t, do.FromSeeds(ctx, l.ID, []string{"winter cycling gloves"}, 1, 100, false))
	w := b.worked(t, l.ID)
	assert.Empty(t, w.Problem)
	one := b.texts(t, l.ID)
	assert.Contains(t, one, "waterproof winter cycling gloves", "completions")
	assert.Contains(t, one, "bar mitts for winter", "related searches")
	assert.Contains(t, one, "lobster gloves cycling")
	assert.NotContains(t, one, "christmas lights")
	keywords, err := b.scope.Keywords(ctx, l.ID)
	require.NoError(t, err)
	i := slices.IndexFunc(keywords, func(k demand.Keyword) bool { return k.Text == "bar mitts for winter" })
	assert.Equal(t, demand.Of(590), keywords[i].Volume)
	assert.Equal(t, "2026-10", keywords[i].Until)
	known, err := b.scope.Ranked(ctx, "en", "gb", []string{"winter cycling gloves"})
	require.NoError(t, err)
	assert.Len(t, known["winter cycling gloves"], 10, "results of what was asked are known")
	require.NoError(t, do.FromSeeds(ctx, l.ID, []string{"winter cycling gloves"}, 2, 400, true))
	b.worked(t, l.ID)
	assert.Greater(t, len(b.texts(t, l.ID)), len(one), "a step farther there is more")
	require.NoError(t, do.AskResults(ctx, l.ID, 3))
	assert.Equal(t, 3, b.worked(t, l.ID).Done)
}

// asking is a search engine that counts what it is asked, and may stand still.
type asking struct {
	mu    sync.Mutex
	asked []string
	wait  chan struct{} // nil, or what each question waits for
	fail  error
}

func (a *asking) Search(ctx context.Context, q search.Query) (*search.Results, error) {
	a.mu.Lock()
	a.asked = append(a.asked, q.Keyword)
	a.mu.Unlock()
	if a.wait != nil {
		select {
		case <-a.wait:
		case <-ctx.Done():
			return nil, ctx.Err()
		}
	}
	return &search.Results{Items: []search.Item{{Rank: 1, URL: "http://a.example/" + fmt.Sprint(len(q.Keyword))}}}, a.fail
}

func (a *asking) times() int {
	a.mu.Lock()
	defer a.mu.Unlock()
	return len(a.asked)
}

// Questions keep to their number, go by volume, are asked once, and can be stopped; one thing is
// done to a list at a time; a service that fails says why, and what it had brought stays.
func TestAskingIsBounded(t *testing.T) {
	engine := &asking{wait: make(chan struct{})}
	b := demandBench(t, engine, nil)
	do, ctx := study.For(b.scope, b.queue, "test"), t.Context()
	l, err := do.NewList(ctx, "x", "en", "gb")
	require.NoError(t, err)
	var list []demand.Keyword
	for i := range 30 {
		list = append(list, demand.Keyword{Text: fmt.Sprintf("keyword %d", i), Volume: demand.Of(float64(i))})
	}
	_, err = b.scope.PutKeywords(ctx, l.ID, list)
	require.NoError(t, err)
	require.NoError(t, do.AskResults(ctx, l.ID, 5))
	assert.ErrorIs(t, do.AskResults(ctx, l.ID, 5), study.ErrBusy)
	for range 5 {
		engine.wait <- struct{}{}
	}
	assert.Equal(t, store.Work{Kind: queue.AskResults, Done: 5, Of: 5}, without(b.worked(t, l.ID)))
	assert.Equal(t, []string{"keyword 29", "keyword 28", "keyword 27", "keyword 26", "keyword 25"}, engine.asked)
	require.NoError(t, do.AskResults(ctx, l.ID, 20))
	engine.wait <- struct{}{}
	require.NoError(t, do.StopWork(ctx, l.ID))
	close(engine.wait)
	w := b.worked(t, l.ID)
	assert.True(t, w.Stop)
	assert.Less(t, engine.times(), 10, "the others were not asked")
	assert.Equal(t, "keyword 24", engine.asked[5], "what is known is not asked again")
	engine.fail = errors.New("it answered 429 Too Many Requests")
	require.NoError(t, do.AskResults(ctx, l.ID, 20))
	assert.Contains(t, b.worked(t, l.ID).Problem.Message().String(), "429")
	require.NoError(t, do.AskFigures(ctx, l.ID))
	assert.Empty(t, b.worked(t, l.ID).Problem, "all are known")
	_, err = b.scope.PutKeywords(ctx, l.ID, []demand.Keyword{{Text: "of unknown volume"}})
	require.NoError(t, err)
	require.NoError(t, do.AskFigures(ctx, l.ID))
	assert.Contains(t, b.worked(t, l.ID).Problem.Message().String(), "No keyword service is configured")
}

func without(w store.Work) store.Work {
	w.At = time.Time{}
	return w
}

// A long table is read in the background, and all of it.
func TestALongTable(t *testing.T) {
	b := demandBench(t, &asking{}, nil)
	do, ctx := study.For(b.scope, b.queue, "test"), t.Context()
	l, err := do.NewList(ctx, "long", "en", "gb")
	require.NoError(t, err)
	rows := [][]string{{"Keyword", "Volume"}}
	for i := range 12_000 {
		rows = append(rows, []string{fmt.Sprintf("keyword number%d", i), fmt.Sprint(i)})
	}
	said, asks, err := do.TakeTable(ctx, l.ID, study.Table{Name: "long.csv", Rows: rows})
	require.NoError(t, err)
	assert.False(t, asks)
	assert.Contains(t, said.String(), "12001 rows are being read")
	w := b.worked(t, l.ID)
	assert.Empty(t, w.Problem)
	assert.Equal(t, 12_000, w.Fresh)
	assert.Len(t, b.texts(t, l.ID), 12_000)
	f, err := b.scope.FileSaid(ctx, l.ID)
	require.NoError(t, err)
	assert.Equal(t, "12000 keywords are new.", f.Said.Message().String())
}

// What a keyword service may answer.
func TestAKeywordService(t *testing.T) {
	answer, status := "", http.StatusOK
	var got string
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		b := new(strings.Builder)
		_, _ = fmt.Fprint(b, r.Method, " ", r.Header.Get("Content-Type"))
		got = b.String()
		w.WriteHeader(status)
		_, _ = w.Write([]byte(answer))
	}))
	t.Cleanup(srv.Close)
	ask := func() ([]demand.Keyword, error) {
		return search.KeywordsByHTTP{Address: srv.URL + "/?key=secret", Client: srv.Client()}.Figures(t.Context(), "en", "gb", []string{"a"})
	}
	answer = `{"keywords":[{"keyword":" A b ","volume":5,"difficulty":120,"cost":null,"competition":0.5,"months":[1,null],"until":"2026-10"},{"keyword":"unknown","volume":null},{"keyword":"","volume":3}]}`
	list, err := ask()
	require.NoError(t, err)
	assert.Equal(t, "POST application/json", got)
	assert.Equal(t, []demand.Keyword{{Text: "A b", Volume: demand.Of(5), Competition: demand.Of(0.5), Trend: []demand.Figure{demand.Of(1), {}}, Until: "2026-10"}}, list)
	for _, bad := range []string{"", "[]", "{}", "<html>", `{"keywords":[{"volume":"many"}]}`} {
		answer = bad
		_, err := ask()
		assert.Error(t, err, bad)
	}
	status = http.StatusPaymentRequired
	_, err = ask()
	assert.ErrorContains(t, err, "402")
	srv.Close()
	_, err = ask()
	assert.Error(t, err)
	assert.NotContains(t, err.Error(), "secret")
}
