package store_test

import (
	"errors"
	"fmt"
	"slices"
	"testing"

	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func newList(t testing.TB, sc store.Scope) store.KeywordList {
	t.Helper()
	l := store.KeywordList{Language: "en", Country: "gb"}
	require.NoError(t, sc.CreateList(t.Context(), &l))
	return l
}

// Keywords are merged by spelling, come back as they were, and are seen by nobody else's
// publication.
func TestKeywordLists(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx := t.Context()
	sc, other := st.In(publication(t, st, "Lists").ID), st.In(publication(t, st, "Others").ID)
	l := newList(t, sc)
	first := []demand.Keyword{{Text: "Bar mitts", Volume: demand.Of(590), Trend: []demand.Figure{demand.Of(1), {}}}, {Text: "pogies"}}
	m, err := sc.PutKeywords(ctx, l.ID, first)
	require.NoError(t, err)
	assert.Equal(t, store.Merged{Fresh: 2}, m)
	m, err = sc.PutKeywords(ctx, l.ID, []demand.Keyword{{Text: "bar-mitts", Difficulty: demand.Of(31)}, {Text: "lobster gloves", Volume: demand.Of(900)}})
	require.NoError(t, err)
	assert.Equal(t, store.Merged{Fresh: 1, Known: 1}, m)
	got, err := sc.Keywords(ctx, l.ID)
	require.NoError(t, err)
	require.Len(t, got, 3)
	assert.Equal(t, "lobster gloves", got[0].Text, "the most searched first")
	assert.Equal(t, demand.Keyword{Text: "Bar mitts", Volume: demand.Of(590), Difficulty: demand.Of(31), Trend: first[0].Trend, Spellings: []string{"bar-mitts"}}, got[1])
	figures, err := sc.FiguresOf(ctx, "en", "gb", []string{"bar mitts", "nothing"})
	require.NoError(t, err)
	assert.Len(t, figures, 1)
	assert.Equal(t, demand.Of(590), figures["bar mitts"].Volume)
	mark, err := sc.DemandMark(ctx, "en", "gb")
	require.NoError(t, err)
	assert.Equal(t, fmt.Sprintf("%d.2", l.ID), mark)

	for name, see := range map[string]func() error{
		"list":   func() error { _, err := other.List(ctx, l.ID); return err },
		"width":  func() error { return other.SetWidth(ctx, l.ID, 1) },
		"delete": func() error { return other.DeleteList(ctx, l.ID, false) },
		"put":    func() error { _, err := other.PutKeywords(ctx, l.ID, first); return err },
		"work":   func() error { return other.EditWork(ctx, l.ID, func(*store.Work) error { return nil }) },
		"plan": func() error {
			_, err := store.EditPlan(ctx, other, store.Subject{List: l.ID}, "x", func(*store.ListPlan) (message.Message, error) { return "", nil })
			return err
		},
		"turn": func() error { _, err := other.TurnPlan(ctx, store.Subject{List: l.ID}, "x", false); return err },
	} {
		assert.ErrorIs(t, see(), store.ErrNotFound, name)
	}
	none, err := other.Keywords(ctx, l.ID)
	require.NoError(t, err)
	assert.Empty(t, none)
	figures, err = other.FiguresOf(ctx, "en", "gb", []string{"bar mitts"})
	require.NoError(t, err)
	assert.Empty(t, figures)

	require.NoError(t, sc.DeleteList(ctx, l.ID, false))
	lists, err := sc.Lists(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, lists)
	require.NoError(t, sc.DeleteList(ctx, l.ID, true))
	lists, err = sc.Lists(ctx, false)
	require.NoError(t, err)
	assert.Equal(t, 3, lists[0].Keywords)
	assert.InDelta(t, 1490, lists[0].Volume, 1e-9)
}

// What somebody did to a plan is undone and done again, step by step; not what another changed
// since.
func TestPlansAreUndone(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx := t.Context()
	sc := st.In(publication(t, st, "Plans").ID)
	of := store.Subject{List: newList(t, sc).ID}
	name := func(actor, to string) {
		_, err := store.EditPlan(ctx, sc, of, actor, func(p *store.ListPlan) (message.Message, error) { p.Name = to; return message.Of("named %s", to), nil })
		require.NoError(t, err)
	}
	now := func() string {
		l, err := sc.List(ctx, of.List)
		require.NoError(t, err)
		return l.Name()
	}
	turn := func(actor string, again bool) (message.Message, error) {
		c, err := sc.TurnPlan(ctx, of, actor, again)
		return c.Said.Message(), err
	}
	name("a", "one")
	name("a", "two")
	name("a", "three")
	for _, want := range []string{"two", "one"} {
		_, err := turn("a", false)
		require.NoError(t, err)
		assert.Equal(t, want, now())
	}
	said, err := turn("a", true)
	require.NoError(t, err)
	assert.Equal(t, "named two", said.String())
	assert.Equal(t, "two", now())
	name("b", "theirs")
	_, err = turn("a", false)
	assert.ErrorIs(t, err, store.ErrStale)
	assert.Equal(t, "theirs", now(), "and nothing is touched")
	_, err = turn("b", false)
	require.NoError(t, err)
	name("a", "four")
	_, err = turn("a", true)
	assert.ErrorIs(t, err, store.ErrNotFound, "after something new there is nothing to do again")
	broken := errors.New("no")
	_, err = store.EditPlan(ctx, sc, of, "a", func(p *store.ListPlan) (message.Message, error) { p.Name = "lost"; return "", broken })
	assert.ErrorIs(t, err, broken)
	assert.Equal(t, "four", now())
}

// Results are those of pages that were asked for, and of the latest gathering of a study of the
// same keyword, which goes before.
func TestResultsToCompareBy(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx := t.Context()
	sc := st.In(publication(t, st, "Results").ID)
	s, g := study(t, sc)
	for _, key := range []string{"bar mitts", demand.Same(s.Keyword)} {
		require.NoError(t, sc.KeepResultsPage(ctx, store.ResultsPage{Language: "en", Country: "gb", Key: key, Addresses: []string{"http://old.example/"}}))
		require.NoError(t, sc.KeepResultsPage(ctx, store.ResultsPage{Language: "en", Country: "gb", Key: key, Addresses: []string{"http://new.example/" + key[:1]}}))
	}
	gathered(t, st, g, "http://ranked.example/")
	got, err := sc.Ranked(ctx, "en", "gb", []string{"bar mitts", demand.Same(s.Keyword), "unknown"})
	require.NoError(t, err)
	assert.Equal(t, demand.Results{"bar mitts": {"http://new.example/b"}, demand.Same(s.Keyword): {"http://ranked.example/"}}, got)
	got, err = sc.Ranked(ctx, "de", "de", []string{"bar mitts"})
	require.NoError(t, err)
	assert.Empty(t, got)
}

// Five thousand keywords go in and come out.
func BenchmarkPut5000Keywords(b *testing.B) {
	st, _ := storetest.Open(b)
	sc := st.In(publication(b, st, "Many").ID)
	var list []demand.Keyword
	for i := range 5000 {
		list = append(list, demand.Keyword{Text: fmt.Sprintf("keyword number %d", i), Volume: demand.Of(float64(i)), Trend: slices.Repeat([]demand.Figure{demand.Of(10)}, 12)})
	}
	for b.Loop() {
		l := newList(b, sc)
		_, err := sc.PutKeywords(b.Context(), l.ID, list)
		require.NoError(b, err)
		_, err = sc.Keywords(b.Context(), l.ID)
		require.NoError(b, err)
	}
}
