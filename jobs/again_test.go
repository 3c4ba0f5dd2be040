package jobs_test

import (
	"net/http"
	"net/http/httptest"
	"slices"
	"sync"
	"testing"
	"time"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/gather"
	"corpulan/search"
	"corpulan/standin"
	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A study is gathered again when its time has come, once; what moved is told, the brief that
// somebody has worked on stands, and what is proposed to it is taken over and taken back.
func TestAStudyReturns(t *testing.T) {
	web, err := standin.Start(0)
	require.NoError(t, err)
	defer func() { _ = web.Stop(t.Context()) }()
	b := newBench(t, search.OpenSearch{Template: web.SearchTemplate(), Client: http.DefaultClient}, gather.NewFetcher(gather.DefaultLimits(), gather.Guard{Simulated: web.Address()}.Dial))
	ctx := t.Context()
	_, err = b.scope.EditPublication(ctx, func(address *string, _ *store.Settings) error { *address = standin.OwnSite; return nil })
	require.NoError(t, err)
	g, _ := b.gather(t, "studded bike tyres")
	analyst, err := analysis.NewAnalyst(nil, nil, analysis.Whole)
	require.NoError(t, err)
	do := study.For(b.scope, b.queue, "me").With(analyst)
	now := func() *analysis.Analysis {
		t.Helper()
		st, err := b.scope.Study(ctx, g.StudyID)
		require.NoError(t, err)
		an, err := analyst.Analyse(ctx, b.scope, st)
		require.NoError(t, err)
		return an
	}
	was := now()
	term := was.Brief.Terms[0]
	_, err = do.Choose(ctx, g.StudyID, brief.Mark{Kind: brief.TermKind, Key: term.Key, Text: term.Term, State: brief.Adopted})
	require.NoError(t, err)
	was = now()

	_, err = do.GatherBy(ctx, g.StudyID, "hourly")
	require.ErrorIs(t, err, study.ErrNoInterval)
	_, err = do.GatherBy(ctx, g.StudyID, store.Weekly)
	require.NoError(t, err)
	due, err := b.store.TakeDue(ctx, time.Now().AddDate(0, 0, 6), 10)
	require.NoError(t, err)
	assert.Empty(t, due, "it is not a week yet")
	web.MoveOn("studded bike tyres")
	due, err = b.store.TakeDue(ctx, time.Now().AddDate(0, 0, 8), 10)
	require.NoError(t, err)
	require.Len(t, due, 1)
	twice, err := b.store.TakeDue(ctx, time.Now().AddDate(0, 0, 8), 10)
	require.NoError(t, err)
	assert.Empty(t, twice, "once a week")
	require.NoError(t, do.AgainByItself(ctx, due[0].ID))
	require.Eventually(t, func() bool {
		g2, err := b.scope.LatestGathering(ctx, g.StudyID)
		return err == nil && g2.ID != g.ID && g2.State == store.Done
	}, 30*time.Second, 10*time.Millisecond)
	g2, err := b.scope.LatestGathering(ctx, g.StudyID)
	require.NoError(t, err)
	assert.True(t, g2.Scheduled)
	require.NotNil(t, g2.Place)
	assert.Equal(t, 4, *g2.Place)
	assert.Equal(t, store.Moved{New: 2, Gone: 2, Up: 2, Down: 8}, g2.Moved.Data())
	positions, err := b.scope.Positions(ctx)
	require.NoError(t, err)
	require.Len(t, positions, 2)
	assert.Equal(t, []int{0, 4}, []int{positions[0].Place, positions[1].Place})

	an := now()
	m, err := analyst.Since(ctx, b.scope, an)
	require.NoError(t, err)
	assert.Equal(t, change.New, m.Ranks[slices.IndexFunc(m.Ranks, func(p change.Place) bool { return p.URL == standin.OwnSite+"/advice/tyres-for-cold-roads" })].How)
	assert.Contains(t, m.Asked.New, "Are studded bike tyres legal?")
	lab := slices.IndexFunc(m.Pages, func(p change.PageChange) bool { return p.After == 1 })
	assert.Contains(t, m.Pages[lab].Added, "What worn studs cost in grip")
	assert.Contains(t, m.Pages[lab].Cut, "Noise")

	assert.ElementsMatch(t, keysOf(was.Brief), keysOf(an.Brief), "the brief stands")
	lines, _, err := b.scope.Ledger(ctx, store.LedgerQuery{Moved: "stale", Most: 10})
	require.NoError(t, err)
	require.Len(t, lines, 1)
	assert.True(t, lines[0].Stands)
	assert.Equal(t, 4, lines[0].Place)
	for moved, n := range map[string]int{"lost": 0, "any": 1} {
		lines, _, err := b.scope.Ledger(ctx, store.LedgerQuery{Moved: moved, Most: 10})
		require.NoError(t, err)
		assert.Len(t, lines, n, moved)
	}

	proposed, err := analyst.Proposals(ctx, b.scope, an)
	require.NoError(t, err)
	i := slices.IndexFunc(proposed, func(p change.Proposal) bool { return p.Text == "When are studs worn?" })
	require.GreaterOrEqual(t, i, 0, "%+v", proposed)
	_, err = do.Settle(ctx, g.StudyID, []string{proposed[i].ID()}, true)
	require.NoError(t, err)
	assert.Contains(t, questionsOf(now().Brief), proposed[i].Text)
	_, err = do.Settle(ctx, g.StudyID, []string{"no such proposal"}, true)
	require.ErrorIs(t, err, study.ErrNotProposed)
	_, err = do.Undo(ctx, g.StudyID)
	require.NoError(t, err)
	assert.NotContains(t, questionsOf(now().Brief), proposed[i].Text)
	_, err = do.Settle(ctx, g.StudyID, nil, true)
	require.NoError(t, err)
	an = now()
	assert.Nil(t, an.Saved.Choices.Data().Stands, "nothing is left to decide")
	assert.Equal(t, brief.Adopted, an.Choices.State(brief.TermKind, term.Key), "what a person decided stays")
}

// A page that another study of the publication captured lately is not fetched again, until
// somebody gathers again; it stays when the other study goes.
func TestAPageIsFetchedOnceForAPublication(t *testing.T) {
	web, err := standin.Start(0)
	require.NoError(t, err)
	defer func() { _ = web.Stop(t.Context()) }()
	asked := map[string]int{}
	var mu sync.Mutex
	front := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		mu.Lock()
		asked[r.Host+r.URL.Path]++
		mu.Unlock()
		web.ServeHTTP(w, r)
	}))
	defer front.Close()
	b := newBench(t, search.OpenSearch{Template: web.SearchTemplate(), Client: http.DefaultClient}, gather.NewFetcher(gather.DefaultLimits(), gather.Guard{Simulated: front.Listener.Addr().String()}.Dial))
	const page = "northlane.example/guides/winter-bike-commuting"
	first, _ := b.gather(t, "winter bike commuting")
	second, results := b.gather(t, "studded bike tyres")
	assert.Equal(t, 1, asked[page])
	i := slices.IndexFunc(results, func(r store.Result) bool { return r.URL == "http://"+page })
	require.GreaterOrEqual(t, i, 0)
	require.Equal(t, store.Read, results[i].State)
	c, err := b.scope.Capture(t.Context(), *results[i].CaptureID)
	require.NoError(t, err)
	assert.Equal(t, second.StudyID, c.StudyID, "it is this study's own")
	assert.NotEmpty(t, c.Body)
	require.NotEqual(t, first.StudyID, second.StudyID)
	require.NoError(t, study.For(b.scope, b.queue, "me").Again(t.Context(), second.StudyID))
	require.Eventually(t, func() bool {
		g, err := b.scope.LatestGathering(t.Context(), second.StudyID)
		return err == nil && g.ID != second.ID && g.State == store.Done
	}, 30*time.Second, 10*time.Millisecond)
	mu.Lock()
	defer mu.Unlock()
	assert.Equal(t, 2, asked[page], "asked for anew")
}

func keysOf(b brief.Brief) (list []string) {
	for _, t := range b.Terms {
		list = append(list, t.Key) // the commonest shape may be another
	}
	return list
}

func questionsOf(b brief.Brief) (list []string) {
	for _, q := range b.Questions {
		list = append(list, q.Text)
	}
	return list
}
