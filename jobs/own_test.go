package jobs_test

import (
	"net/http"
	"testing"
	"time"

	"corpulan/analysis"
	"corpulan/gather"
	"corpulan/search"
	"corpulan/standin"
	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A publication's own pages: its list is read from robots.txt on, its pages are fetched and
// read, and a study's brief links to them; what cannot be had says why, and is tried again.
func TestOwnPages(t *testing.T) {
	sim, err := standin.Start(0)
	require.NoError(t, err)
	t.Cleanup(func() { _ = sim.Stop(t.Context()) })
	limits := gather.DefaultLimits()
	limits.Delay = 0
	b := newBench(t, search.OpenSearch{Template: sim.SearchTemplate(), Client: http.DefaultClient}, gather.NewFetcher(limits, gather.Guard{Simulated: sim.Address()}.Dial))
	ctx, do := t.Context(), study.For(b.scope, b.queue, "test")
	p, err := b.scope.Publication(ctx)
	require.NoError(t, err)
	_, _, err = do.AddOwnPages(ctx, p.ID, []store.OwnPage{{URL: standin.OwnSite + "/gone"}})
	require.NoError(t, err)
	require.NoError(t, do.ReadSitemap(ctx, p.ID, standin.OwnSite))
	settled := func() (counts store.OwnCounts) {
		require.Eventually(t, func() bool {
			p, err := b.scope.Publication(ctx)
			require.NoError(t, err)
			_, counts, err = b.scope.OwnPages(ctx, "", 0, 1)
			require.NoError(t, err)
			return p.Settings.Data().Sitemap.Done && counts.Waiting == 0
		}, 60*time.Second, 10*time.Millisecond)
		return counts
	}
	counts := settled()
	assert.Equal(t, store.OwnCounts{All: 15, Read: 14, Failed: 1}, counts)
	list, _, err := b.scope.OwnPages(ctx, "GONE", 0, 10)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Contains(t, list[0].Failure.Message().String(), "404")
	n, err := do.ReadOwnAgain(ctx, p.ID)
	require.NoError(t, err)
	assert.EqualValues(t, 1, n)
	assert.Equal(t, 1, settled().Failed)

	analyst, err := analysis.NewAnalyst(nil, nil, analysis.Whole)
	require.NoError(t, err)
	briefOf := func(keyword string) *analysis.Analysis {
		_, results := b.gather(t, keyword)
		require.NotEmpty(t, results)
		st, err := b.scope.Like(ctx, keyword, "en", "gb")
		require.NoError(t, err)
		an, err := analyst.Analyse(ctx, b.scope, st)
		require.NoError(t, err)
		return an
	}
	an := briefOf("winter bike commuting")
	require.NotEmpty(t, an.Brief.Links.Inward)
	assert.Equal(t, standin.OwnSite+"/advice/tyres-for-cold-roads", an.Brief.Links.Inward[0].URL)
	assert.LessOrEqual(t, len(an.Brief.Links.Inward), an.Brief.Links.InwardWanted[1])
	require.NotEmpty(t, an.Brief.Links.From)
	for _, l := range an.Brief.Links.From {
		assert.Contains(t, l.Sentence, l.Anchor)
	}
	assert.Empty(t, an.Brief.Links.Rivals)
	rivals := briefOf("storing a bike over winter").Brief.Links.Rivals
	require.Len(t, rivals, 1)
	assert.Equal(t, standin.OwnSite+"/advice/winter-bike-storage", rivals[0].URL)

	require.NoError(t, b.scope.RemoveOwn(ctx, 0))
	an, err = analyst.Analyse(ctx, b.scope, an.Study)
	require.NoError(t, err)
	assert.Empty(t, an.Brief.Links.Inward, "what is forgotten is linked no more")
	other := b.store.In(p.ID + 1)
	_, counts, err = other.OwnPages(ctx, "", 0, 10)
	require.NoError(t, err)
	assert.Zero(t, counts.All)
}

// A list without end is cut, and a page that is said to have changed is read again.
func TestOwnPagesAreBounded(t *testing.T) {
	b := newBench(t, items(), site(t, func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusNotFound) }))
	ctx := t.Context()
	var many []store.OwnPage
	for i := range store.MaxOwn + 50 {
		many = append(many, store.OwnPage{URL: "http://a.example/" + time.Duration(i).String(), Changed: "2026-01-01"})
	}
	fresh, left, err := b.scope.AddOwn(ctx, many)
	require.NoError(t, err)
	assert.Equal(t, []int{store.MaxOwn, 50}, []int{fresh, left})
	fresh, left, err = b.scope.AddOwn(ctx, many[:3])
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0}, []int{fresh, left}, "they are known")
	many[0].Changed = "2026-02-01"
	fresh, _, err = b.scope.AddOwn(ctx, many[:3])
	require.NoError(t, err)
	assert.Equal(t, 1, fresh)
}
