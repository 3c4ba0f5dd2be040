package store_test

import (
	"context"
	"fmt"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"corpulan/core/brief"
	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMain(m *testing.M) { storetest.Main(m) }

func publication(t testing.TB, st *store.Store, name string) store.Publication {
	t.Helper()
	p, err := st.EnsurePublication(t.Context(), name, "")
	require.NoError(t, err)
	return p
}

func study(t *testing.T, sc store.Scope) (store.Study, store.Gathering) {
	t.Helper()
	s := store.Study{Keyword: "winter", Language: "en", Country: "gb", Depth: 10}
	g, err := sc.CreateStudy(t.Context(), &s)
	require.NoError(t, err)
	return s, *g
}

func gathered(t *testing.T, st *store.Store, g store.Gathering, urls ...string) []store.Result {
	t.Helper()
	var results []store.Result
	for i, u := range urls {
		results = append(results, store.Result{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: i + 1, URL: u, Host: "a.example", State: store.Waiting, Kept: true})
	}
	_, err := st.Found(t.Context(), g, results, []string{"Why?"}, nil, nil)
	require.NoError(t, err)
	list, err := st.In(g.PublicationID).Results(t.Context(), g.ID)
	require.NoError(t, err)
	require.Len(t, list, len(urls))
	return list
}

func keep(t *testing.T, st *store.Store, r store.Result, setAside message.Message) {
	t.Helper()
	err := st.KeepPage(t.Context(), r, &store.Capture{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte("x"), Digest: []byte("y"),
		Headers: store.NewJSONType(map[string][]string{"Server": {"s"}})}, &reading.Reading{Engine: 1, Title: "T"}, setAside)
	require.NoError(t, err)
}

func setKept(t *testing.T, sc store.Scope, study, result int64, kept bool, reason message.Message) {
	t.Helper()
	_, err := sc.SetKept(t.Context(), study, []int64{result}, kept, reason)
	require.NoError(t, err)
}

func TestAGatheringEndsWithItsLastPage(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	s, g := study(t, sc)
	results := gathered(t, st, g, "http://a.example/1", "http://a.example/2")
	latest := func() store.Gathering {
		g, err := sc.LatestGathering(t.Context(), s.ID)
		require.NoError(t, err)
		return g
	}
	assert.Equal(t, store.Fetching, latest().State)
	before, _, err := sc.Change(t.Context(), s.ID)
	require.NoError(t, err)
	keep(t, st, results[0], "")
	after, _, err := sc.Change(t.Context(), s.ID)
	require.NoError(t, err)
	assert.Greater(t, after, before, "whoever waits sees the page arrive")
	assert.Equal(t, store.Fetching, latest().State)
	next, err := st.NextUnfetched(t.Context(), g.ID, "a.example", 0)
	require.NoError(t, err)
	assert.Equal(t, 2, next.Rank)
	_, err = st.NextUnfetched(t.Context(), g.ID, "a.example", 2)
	assert.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, st.FailPage(t.Context(), results[1], "missing", "It is gone."))
	assert.Equal(t, store.Done, latest().State)
	assert.NotNil(t, latest().FinishedAt)
	assert.Equal(t, []string{"Why?"}, []string(latest().Asked))
	lines, _, err := sc.Ledger(t.Context(), store.LedgerQuery{Most: 10})
	require.NoError(t, err)
	require.Len(t, lines, 1)
	assert.Equal(t, []int{2, 1, 1, 1, 0}, []int{lines[0].Results, lines[0].Pages, lines[0].Failures, lines[0].KeptPages, lines[0].Revision})
}

// Nobody can see a gathering done whose near-duplicates are not proposed yet.
func TestTheLastPageBringsTheDuplicates(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	_, g := study(t, sc)
	results := gathered(t, st, g, "http://a.example/1", "http://b.example/2", "http://c.example/3")
	sketches := [][]uint64{{1, 2, 3, 4}, {9, 8, 7, 6}, {1, 2, 3, 4}}
	for i, r := range results {
		require.NoError(t, st.KeepPage(t.Context(), r, &store.Capture{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte("x"), Digest: []byte("y")},
			&reading.Reading{Engine: 1, Title: "T", Sketch: sketches[i]}, ""))
		if i == 1 {
			before, err := sc.Results(t.Context(), g.ID)
			require.NoError(t, err)
			assert.True(t, before[0].Kept && before[1].Kept)
		}
	}
	after, err := sc.Results(t.Context(), g.ID)
	require.NoError(t, err)
	assert.Equal(t, []bool{true, true, false}, []bool{after[0].Kept, after[1].Kept, after[2].Kept})
	assert.Equal(t, "Nearly the same text as rank 1", after[2].Reason.Message().String())
	assert.False(t, after[2].Decided, "it is only proposed")
}

func TestResultsComeOnce(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	_, g := study(t, sc)
	gathered(t, st, g, "http://a.example/1", "http://a.example/2")
	gathered(t, st, g, "http://a.example/1", "http://a.example/2") // a second attempt of the same job
}

func TestAPersonsDecisionStays(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	s, g := study(t, sc)
	results := gathered(t, st, g, "http://a.example/1", "http://a.example/2")
	keep(t, st, results[0], "A forum")
	r, err := sc.Result(t.Context(), s.ID, results[0].ID)
	require.NoError(t, err)
	assert.Equal(t, []any{false, "A forum"}, []any{r.Kept, r.Reason.Message().String()})
	setKept(t, sc, s.ID, r.ID, true, "ignored")
	r, err = sc.Result(t.Context(), s.ID, r.ID)
	require.NoError(t, err)
	assert.Equal(t, []any{true, "", true}, []any{r.Kept, r.Reason.Message().String(), r.Decided})
	keep(t, st, r, "A forum") // read again by a newer engine
	r, err = sc.Result(t.Context(), s.ID, r.ID)
	require.NoError(t, err)
	assert.True(t, r.Kept)
}

// Gathered again, a page stays as a person left it; what was only proposed is
// proposed anew.
func TestDecisionsOutliveAGathering(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	s, g := study(t, sc)
	urls := []string{"http://a.example/1", "http://a.example/2", "http://a.example/3"}
	first := gathered(t, st, g, urls...)
	keep(t, st, first[0], "")
	keep(t, st, first[1], "A forum")
	keep(t, st, first[2], "A forum")
	setKept(t, sc, s.ID, first[0].ID, false, "Our rival's")
	setKept(t, sc, s.ID, first[1].ID, true, "")
	again, _, err := sc.StartGathering(t.Context(), s.ID)
	require.NoError(t, err)
	for i, r := range gathered(t, st, *again, urls...) {
		keep(t, st, r, map[bool]message.Message{true: "", false: "A forum"}[i == 0])
	}
	second, err := sc.Results(t.Context(), again.ID)
	require.NoError(t, err)
	assert.Equal(t, []any{false, "Our rival's", true}, []any{second[0].Kept, second[0].Reason.Message().String(), second[0].Decided})
	assert.Equal(t, []any{true, "", true}, []any{second[1].Kept, second[1].Reason.Message().String(), second[1].Decided})
	assert.Equal(t, []any{false, "A forum", false}, []any{second[2].Kept, second[2].Reason.Message().String(), second[2].Decided})
}

// A new gathering takes over the pages that a person added and the sources a
// person handed in, and asks for everything else afresh.
func TestWhatAPersonBroughtOutlivesAGathering(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	s, g := study(t, sc)
	first := gathered(t, st, g, "http://a.example/1", "http://a.example/2")
	_, _, err := sc.AddPages(t.Context(), s.ID, []string{"http://b.example/own"}, store.Ours)
	require.NoError(t, err)
	_, _, err = sc.AddPages(t.Context(), s.ID, []string{"http://b.example/more"}, store.InField)
	require.NoError(t, err)
	keep(t, st, first[0], "")
	doc := &reading.Reading{Engine: 1, Title: "Handed in"}
	_, err = sc.HandIn(t.Context(), s.ID, first[1].ID, "page.html", &store.Capture{URL: first[1].URL, FinalURL: first[1].URL, Body: []byte("x"), Digest: []byte("y")}, doc, "")
	require.NoError(t, err)
	require.NoError(t, sc.StopGathering(t.Context(), s.ID))

	again, _, err := sc.StartGathering(t.Context(), s.ID)
	require.NoError(t, err)
	for range 2 { // a second attempt of the same job changes nothing
		hosts, err := st.Found(t.Context(), *again, []store.Result{
			{PublicationID: again.PublicationID, StudyID: s.ID, GatheringID: again.ID, Rank: 1, URL: "http://a.example/2", Host: "a.example", State: store.Waiting, Kept: true},
			{PublicationID: again.PublicationID, StudyID: s.ID, GatheringID: again.ID, Rank: 2, URL: "http://a.example/1", Host: "a.example", State: store.Waiting, Kept: true},
		}, nil, nil, nil)
		require.NoError(t, err)
		assert.Equal(t, []string{"a.example", "b.example"}, hosts)
	}
	second, err := sc.Results(t.Context(), again.ID)
	require.NoError(t, err)
	type row struct {
		rank       int
		url        string
		state      store.State
		own, added bool
	}
	var rows []row
	for _, r := range second {
		rows = append(rows, row{r.Rank, r.URL, r.State, r.Own, r.Added})
	}
	assert.Equal(t, []row{
		{1, "http://a.example/2", store.Read, false, false},
		{2, "http://a.example/1", store.Waiting, false, false},
		{3, "http://b.example/own", store.Waiting, true, true},
		{4, "http://b.example/more", store.Waiting, false, true},
	}, rows)
	readings, err := sc.Readings(t.Context(), []int64{*second[0].ReadingID})
	require.NoError(t, err)
	assert.Equal(t, "Handed in", readings[*second[0].ReadingID].Title)
}

// A page that two workers fetched is kept once.
func TestAPageIsKeptOnce(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	s, g := study(t, sc)
	results := gathered(t, st, g, "http://a.example/1", "http://a.example/2")
	keep(t, st, results[0], "")
	first, err := sc.Result(t.Context(), s.ID, results[0].ID)
	require.NoError(t, err)
	keep(t, st, results[0], "")
	err = st.FailPage(t.Context(), results[0], "timed-out", "Too late.")
	require.NoError(t, err)
	second, err := sc.Result(t.Context(), s.ID, results[0].ID)
	require.NoError(t, err)
	assert.Equal(t, first, second)
	_, err = sc.Capture(t.Context(), *first.CaptureID+1)
	assert.ErrorIs(t, err, store.ErrNotFound, "no second capture")
}

func TestStopAndResume(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	s, g := study(t, sc)
	require.NoError(t, sc.StopGathering(t.Context(), s.ID))
	assert.ErrorIs(t, sc.StopGathering(t.Context(), s.ID), store.ErrConflict, "it is stopped already")
	_, hosts, err := sc.ResumeGathering(t.Context(), s.ID)
	require.NoError(t, err)
	assert.Empty(t, hosts, "the search itself is still to be made")
	results := gathered(t, st, g, "http://a.example/1", "http://a.example/2")
	require.NoError(t, sc.StopGathering(t.Context(), s.ID))
	_, err = st.NextUnfetched(t.Context(), g.ID, "a.example", 0)
	assert.ErrorIs(t, err, store.ErrNotFound, "nothing more is fetched")
	keep(t, st, results[0], "") // the page that was under way still arrives
	_, hosts, err = sc.ResumeGathering(t.Context(), s.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"a.example"}, hosts)
	next, err := st.NextUnfetched(t.Context(), g.ID, "a.example", 0)
	require.NoError(t, err)
	assert.Equal(t, 2, next.Rank)
}

func TestOrphansAreFreed(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx := t.Context()
	insert := func(worker string) {
		_, err := st.SQL().ExecContext(ctx, `insert into river_job (state, kind, args, max_attempts, attempt, attempted_by, attempted_at) values ('running', 'fetch', '{}', 5, 1, array[$1], now())`, worker)
		require.NoError(t, err)
	}
	require.NoError(t, st.Beat(ctx, "alive"))
	insert("alive")
	insert("gone")
	n, err := st.FreeOrphans(ctx, time.Minute)
	require.NoError(t, err)
	assert.EqualValues(t, 1, n)
	require.NoError(t, st.Leave(ctx, "alive"))
	n, err = st.FreeOrphans(ctx, time.Minute)
	require.NoError(t, err)
	assert.EqualValues(t, 1, n)
}

// Nothing of one publication can be reached from another.
func TestScopesAreApart(t *testing.T) {
	st, _ := storetest.Open(t)
	mine, theirs := st.In(publication(t, st, "Mine").ID), st.In(publication(t, st, "Theirs").ID)
	s, g := study(t, theirs)
	results := gathered(t, st, g, "http://a.example/1")
	keep(t, st, results[0], "")
	r, err := theirs.Result(t.Context(), s.ID, results[0].ID)
	require.NoError(t, err)
	ctx := t.Context()
	for name, call := range map[string]func() error{
		"study":     func() error { _, err := mine.Study(ctx, s.ID); return err },
		"change":    func() error { _, _, err := mine.Change(ctx, s.ID); return err },
		"gathering": func() error { _, err := mine.LatestGathering(ctx, s.ID); return err },
		"result":    func() error { _, err := mine.Result(ctx, s.ID, r.ID); return err },
		"keep":      func() error { _, err := mine.SetKept(ctx, s.ID, []int64{r.ID}, false, "no"); return err },
		"stop":      func() error { return mine.StopGathering(ctx, s.ID) },
		"resume":    func() error { _, _, err := mine.ResumeGathering(ctx, s.ID); return err },
		"retry":     func() error { _, _, err := mine.Retry(ctx, s.ID, r.ID); return err },
		"add": func() error {
			_, _, err := mine.AddPages(ctx, s.ID, []string{"http://b.example/"}, store.InField)
			return err
		},
		"hand in": func() error {
			_, err := mine.HandIn(ctx, s.ID, r.ID, "", &store.Capture{}, &reading.Reading{}, "")
			return err
		},
		"apply": func() error { _, err := mine.Apply(ctx, s.ID, store.By{}, store.Patch{}); return err },
		"shelve": func() error {
			_, err := mine.MoveStudy(ctx, s.ID, func(time.Time, store.StudyPlace) store.StudyPlace { return store.StudyPlace{} })
			return err
		},
		"teach": func() error {
			_, err := mine.Teach(ctx, s.ID, []store.LexiconEdit{{After: &house.Entry{Kind: house.Ignore, Term: "tyre"}}})
			return err
		},
		"newest":  func() error { _, err := mine.NewestChange(ctx, s.ID, "me", false); return err },
		"start":   func() error { _, _, err := mine.StartGathering(ctx, s.ID); return err },
		"capture": func() error { _, err := mine.Capture(ctx, *r.CaptureID); return err },
		"brief":   func() error { _, err := mine.Brief(ctx, s.ID); return err },
		"change brief": func() error {
			_, err := mine.EditBrief(ctx, s.ID, "me", func(brief.Choices) (message.Message, []brief.Edit, error) { t.Error("called"); return "", nil, nil })
			return err
		},
	} {
		assert.ErrorIs(t, call(), store.ErrNotFound, name)
	}
	readings, err := mine.Readings(ctx, []int64{*r.ReadingID})
	require.NoError(t, err)
	assert.Empty(t, readings)
	list, err := mine.Results(ctx, g.ID)
	require.NoError(t, err)
	assert.Empty(t, list)
	lines, _, err := mine.Ledger(ctx, store.LedgerQuery{Most: 10})
	require.NoError(t, err)
	assert.Empty(t, lines)
	revisions, err := mine.Revisions(ctx, s.ID, 0, 10)
	require.NoError(t, err)
	assert.Empty(t, revisions)
	_, err = mine.Revision(ctx, s.ID, 0)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

func TestBriefRevisions(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "One").ID)
	s, _ := study(t, sc)
	typed := func(v string) func(brief.Choices) (message.Message, []brief.Edit, error) {
		return func(c brief.Choices) (message.Message, []brief.Edit, error) {
			return message.Of("Typed %s", v), []brief.Edit{c.Write(brief.FieldGoal, &v, nil)}, nil
		}
	}
	b, err := sc.EditBrief(t.Context(), s.ID, "me", typed("first"))
	require.NoError(t, err)
	assert.Equal(t, 1, b.Revision)
	stale := brief.Edit{Key: brief.FieldGoal, After: new(string)}
	_, err = sc.EditBrief(t.Context(), s.ID, "me", func(brief.Choices) (message.Message, []brief.Edit, error) { return "", []brief.Edit{stale}, nil })
	assert.ErrorIs(t, err, brief.ErrStale)
	_, err = sc.EditBrief(t.Context(), s.ID, "me", typed("second"))
	require.NoError(t, err)
	b, err = sc.EditBrief(t.Context(), s.ID, "me", typed("second"))
	require.NoError(t, err)
	assert.Equal(t, 2, b.Revision, "what changes nothing makes no revision")
	revisions, err := sc.Revisions(t.Context(), s.ID, 0, 10)
	require.NoError(t, err)
	require.Len(t, revisions, 3, "the present one too")
	for i, said := range []string{"Typed second", "Typed first", ""} {
		assert.Equal(t, said, revisions[i].Said.Message().String())
		assert.Equal(t, 2-i, revisions[i].Revision)
		if i < 2 {
			assert.Equal(t, "me", revisions[i].Actor)
			assert.False(t, revisions[i].MadeAt.Before(revisions[i+1].MadeAt))
		}
	}
	older, err := sc.Revisions(t.Context(), s.ID, 1, 1)
	require.NoError(t, err)
	require.Len(t, older, 1)
	assert.Equal(t, 1, older[0].Revision)
	for number, text := range []string{"", "first", "second"} {
		r, err := sc.Revision(t.Context(), s.ID, number)
		require.NoError(t, err)
		assert.Equal(t, text, r.Choices.Data().Typed[brief.FieldGoal], "nothing typed is lost")
	}
	_, err = sc.Revision(t.Context(), s.ID, 3)
	assert.ErrorIs(t, err, store.ErrNotFound)
	b, err = sc.Brief(t.Context(), s.ID)
	require.NoError(t, err)
	assert.Equal(t, "second", b.Choices.Data().Typed[brief.FieldGoal])
}

func TestOpenSaysWhatIsWrong(t *testing.T) {
	_, err := store.Open(t.Context(), "postgres://nobody@127.0.0.1:1/none?sslmode=disable&connect_timeout=1", nil, 0)
	assert.ErrorContains(t, err, "connecting to the database")
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	assert.Error(t, store.Migrate(ctx, storetest.URL(t)))
}

// However many reach for a host at once, one has it.
func TestAHostIsHeldByOne(t *testing.T) {
	st, _ := storetest.Open(t)
	var inside atomic.Int32
	var tries sync.WaitGroup
	for i := range 12 {
		tries.Go(func() {
			holder := fmt.Sprintf("worker/%d", i)
			for range 60 {
				wait, err := st.HoldHost(t.Context(), "one.example", holder, time.Minute)
				if !assert.NoError(t, err) || wait > 0 {
					continue
				}
				assert.EqualValues(t, 1, inside.Add(1), "somebody else has it")
				assert.NoError(t, st.Ready(t.Context())) // takes a while
				inside.Add(-1)
				assert.NoError(t, st.FreeHost(t.Context(), "one.example", holder, 0))
			}
		})
	}
	tries.Wait()
}
