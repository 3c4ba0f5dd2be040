package store_test

import (
	"fmt"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// begun is a study of a publication, with its first gathering.
func begun(t *testing.T) (*store.Store, store.Scope, store.Study, *store.Gathering) {
	t.Helper()
	st, _ := storetest.Open(t)
	p, err := st.EnsurePublication(t.Context(), "one", "")
	require.NoError(t, err)
	s := store.Study{Keyword: "studded tyres", Language: "en", Country: "gb", Depth: 100}
	g, err := st.In(p.ID).CreateStudy(t.Context(), &s)
	require.NoError(t, err)
	return st, st.In(p.ID), s, g
}

// The same bytes are stored once; old captures that no newest gathering shows give theirs up and
// keep what was read; bytes that nothing needs go.
func TestCapturesAreStoredOnceAndPruned(t *testing.T) {
	ctx := t.Context()
	st, sc, s, g := begun(t)
	capture := func(g *store.Gathering, body string, at time.Time) {
		t.Helper()
		require.NoError(t, st.SQL().QueryRowContext(ctx, "select 1").Err())
		_, err := st.Found(ctx, *g, []store.Result{{PublicationID: g.PublicationID, StudyID: s.ID, GatheringID: g.ID, Rank: 1, URL: "http://a.example/", Host: "a.example", State: store.Waiting, Kept: true}}, nil, nil, nil)
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

// Bytes that a page comes to need while pruning takes them away are there in the end: the page is
// kept with them, whichever of the two was first.
func TestBytesThatAreNeededWhileTheyGo(t *testing.T) {
	ctx := t.Context()
	st, sc, s, g := begun(t)
	const pages = 60
	var found []store.Result
	for i := range pages {
		found = append(found, store.Result{PublicationID: g.PublicationID, StudyID: s.ID, GatheringID: g.ID, Rank: i + 1, URL: fmt.Sprintf("http://a.example/%d", i), Host: "a.example", State: store.Waiting, Kept: true})
	}
	_, err := st.Found(ctx, *g, found, nil, nil, nil)
	require.NoError(t, err)
	results, err := sc.Results(ctx, g.ID)
	require.NoError(t, err)
	stop, pruned := make(chan struct{}), make(chan int64)
	var passes atomic.Int64
	go func() { // ends with stop
		var n int64
		for {
			select {
			case <-stop:
				pruned <- n
				return
			default:
			}
			_, bodies, _ := st.Prune(ctx, 0) // refused where a page was first: it comes again
			n += bodies
			passes.Add(1)
		}
	}()
	for _, r := range results {
		body := []byte(fmt.Sprintf("page %d", r.Rank%5))
		// Bytes that nothing needs at this moment.
		_, err := st.SQL().ExecContext(ctx, "insert into bodies (digest, body, size) values ($1, $2, 6) on conflict do nothing", body, body)
		require.NoError(t, err)
		if r.Rank%5 == 0 { // long enough for them to go; else both happen at once
			since := passes.Load()
			require.Eventually(t, func() bool { return passes.Load() > since+1 }, 30*time.Second, time.Millisecond)
		}
		c := &store.Capture{URL: r.URL, FinalURL: r.URL, Status: 200, Body: body, Size: int64(len(body)), Digest: body}
		require.NoError(t, st.KeepPage(ctx, r, c, &reading.Reading{Engine: reading.Engine}, ""))
		_, err = st.SQL().ExecContext(ctx, "update captures set digest = null, pruned_at = now() where id % 2 = 0 and pruned_at is null")
		require.NoError(t, err)
	}
	close(stop)
	assert.Positive(t, <-pruned, "some went meanwhile")
	missing := 0
	require.NoError(t, st.SQL().QueryRowContext(ctx, "select count(*) from captures c where c.pruned_at is null and not exists (select 1 from bodies b where b.digest = c.digest)").Scan(&missing))
	assert.Zero(t, missing)
	var kept int
	require.NoError(t, st.SQL().QueryRowContext(ctx, "select count(*) from captures").Scan(&kept))
	assert.Equal(t, pages, kept)
}

// Outlines and summaries say what the readings they are of say.
func TestPartsOfReadings(t *testing.T) {
	ctx := t.Context()
	st, sc, s, g := begun(t)
	whole, err := reading.Read(reading.Page{URL: "http://a.example/", Body: []byte("<html lang=en><title>Seven studded tyres</title><meta property='article:published_time' content='2026-10-01'><article><h1>Seven studded tyres</h1><p>" +
		strings.Repeat("A studded tyre grips on black ice. ", 20) + "</p><h2>Ice</h2><p>It grips.</p><h3>Snow</h3><p>It grips there, too.</p></article>")})
	require.NoError(t, err)
	docs := []*reading.Reading{whole, {Engine: 3, Title: "Nothing of it"}}
	_, err = st.Found(ctx, *g, []store.Result{{PublicationID: g.PublicationID, StudyID: s.ID, GatheringID: g.ID, Rank: 1, URL: "http://a.example/", Host: "a.example", State: store.Waiting, Kept: true}, {PublicationID: g.PublicationID, StudyID: s.ID, GatheringID: g.ID, Rank: 2, URL: "http://b.example/", Host: "b.example", State: store.Waiting, Kept: true}}, nil, nil, nil)
	require.NoError(t, err)
	results, err := sc.Results(ctx, g.ID)
	require.NoError(t, err)
	for i, r := range results {
		require.NoError(t, st.KeepPage(ctx, r, &store.Capture{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte("x"), Digest: []byte("x")}, docs[i], ""))
	}
	results, err = sc.Results(ctx, g.ID)
	require.NoError(t, err)
	ids := []int64{*results[0].ReadingID, *results[1].ReadingID}
	outlines, err := sc.Outlines(ctx, ids)
	require.NoError(t, err)
	summaries, err := sc.Summaries(ctx, ids)
	require.NoError(t, err)
	require.Len(t, outlines, 2)
	require.Len(t, summaries, 2)
	readings, err := sc.Readings(ctx, ids)
	require.NoError(t, err)
	for _, x := range summaries {
		r, o := readings[x.ID], outlines[x.ID]
		assert.Equal(t, []any{r.Title, r.Published, r.Kind, r.Counts.Words, len(r.Headings), len(r.Struck)}, []any{x.Title, x.Published, x.Kind, x.Words, x.Headings, x.Struck})
		assert.Equal(t, r.KindSignals, []message.Kept(x.KindSignals))
		assert.ElementsMatch(t, r.Flags, []message.Kept(x.Flags))
		assert.Equal(t, []any{r.Engine, r.Title, r.Kind, r.Counts}, []any{o.Engine, o.Title, o.Kind, o.Counts})
		require.Len(t, o.Sections, len(r.Sections))
		for i, section := range r.Sections {
			section.Text, section.Lines = "", ""
			assert.Equal(t, section, o.Sections[i])
		}
	}
	other, err := st.EnsurePublication(ctx, "two", "")
	require.NoError(t, err)
	outlines, err = st.In(other.ID).Outlines(ctx, ids)
	require.NoError(t, err)
	assert.Empty(t, outlines)
	summaries, err = st.In(other.ID).Summaries(ctx, ids)
	require.NoError(t, err)
	assert.Empty(t, summaries)
}
