package store_test

import (
	"testing"
	"time"

	"corpulan/core/reading"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The same bytes are stored once; old captures that no newest gathering shows give theirs up and
// keep what was read; bytes that nothing needs go.
func TestCapturesAreStoredOnceAndPruned(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx := t.Context()
	p, err := st.EnsurePublication(ctx, "one", "")
	require.NoError(t, err)
	sc := st.In(p.ID)
	s := store.Study{Keyword: "studded tyres", Language: "en", Country: "gb", Depth: 10}
	g, err := sc.CreateStudy(ctx, &s)
	require.NoError(t, err)
	capture := func(g *store.Gathering, body string, at time.Time) {
		t.Helper()
		require.NoError(t, st.SQL().QueryRowContext(ctx, "select 1").Err())
		_, err := st.Found(ctx, *g, []store.Result{{PublicationID: p.ID, StudyID: s.ID, GatheringID: g.ID, Rank: 1, URL: "http://a.example/", Host: "a.example", State: store.Waiting, Kept: true}}, nil, nil, nil)
		require.NoError(t, err)
		results, err := sc.Results(ctx, g.ID)
		require.NoError(t, err)
		c := &store.Capture{URL: "http://a.example/", FinalURL: "http://a.example/", Status: 200, Body: []byte(body), Size: int64(len(body)), Digest: []byte("digest of " + body), CapturedAt: at}
		require.NoError(t, st.KeepPage(ctx, results[0], c, &reading.Reading{Engine: reading.Engine}, ""))
	}
	again := func() *store.Gathering {
		t.Helper()
		g, fresh, err := sc.StartGathering(ctx, s.ID)
		require.NoError(t, err)
		require.True(t, fresh)
		return g
	}
	old := time.Now().AddDate(0, -4, 0)
	capture(g, "first", old)
	capture(again(), "second", old.Add(time.Hour))
	capture(again(), "second", old.Add(2*time.Hour))
	sizes := func() store.CaptureSizes {
		t.Helper()
		x, err := sc.CaptureSizes(ctx)
		require.NoError(t, err)
		return x
	}
	assert.Equal(t, store.CaptureSizes{Captures: 3, Bytes: 17, Stored: 11}, sizes())
	captures, bodies, err := st.Prune(ctx, 0)
	require.NoError(t, err)
	assert.Zero(t, captures+bodies, "for always")
	captures, bodies, err = st.Prune(ctx, 365*24*time.Hour)
	require.NoError(t, err)
	assert.Zero(t, captures+bodies, "not old enough")
	captures, bodies, err = st.Prune(ctx, 90*24*time.Hour)
	require.NoError(t, err)
	assert.EqualValues(t, 2, captures, "however old, what the newest gathering shows stays")
	assert.EqualValues(t, 1, bodies)
	assert.Equal(t, store.CaptureSizes{Captures: 3, Pruned: 2, Bytes: 6, Stored: 6}, sizes())
	_, err = sc.Capture(ctx, 1)
	assert.ErrorIs(t, err, store.ErrPruned)
	c, err := sc.Capture(ctx, 3)
	require.NoError(t, err)
	assert.Equal(t, "second", string(c.Body))
	n := 0
	require.NoError(t, st.SQL().QueryRowContext(ctx, "select count(*) from readings").Scan(&n))
	assert.Equal(t, 3, n, "what was read stays")
	_, err = st.NextOutdated(ctx, reading.Engine+1, 0)
	require.NoError(t, err)
	_, err = sc.MoveStudy(ctx, s.ID, func(now time.Time, was store.StudyPlace) store.StudyPlace {
		long := now.AddDate(0, -2, 0)
		return store.StudyPlace{DeletedAt: &long, Leaders: was.Leaders}
	})
	require.NoError(t, err)
	_, err = st.Purge(ctx, store.KeptDeleted)
	require.NoError(t, err)
	_, bodies, err = st.Prune(ctx, 0)
	require.NoError(t, err)
	assert.EqualValues(t, 1, bodies, "gone with their study")
}
