package study_test

import (
	"context"
	"fmt"
	"slices"
	"testing"
	"time"

	"corpulan/analysis"
	"corpulan/core/evidence"
	"corpulan/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// counting is an analyst that tells how often it computes, and what it asks for.
func counting(t *testing.T) (a *analysis.Analyst, computed *int, asked *[]int64) {
	t.Helper()
	computed, asked = new(int), new([]int64)
	a, err := analysis.NewAnalyst(func() { *computed++ }, func(_ context.Context, gathering int64) error {
		*asked = append(*asked, gathering)
		return nil
	}, analysis.Whole)
	require.NoError(t, err)
	return a, computed, asked
}

// What one process has computed serves every other, and the same process when it starts anew;
// what a person does makes it be computed again, and taken back, it is there still.
func TestEvidenceIsKept(t *testing.T) {
	d := newDesk(t)
	d.withPages("<h2>Ice</h2><p>"+sentence+"</p>", "<h2>Ice</h2><p>On ice a studded tyre grips.</p>", "<h2>Snow</h2><p>In snow nothing grips as the studded tyre does.</p>")
	first, computed, _ := counting(t)
	was, err := first.Findings(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	require.Equal(t, 1, *computed)
	require.Len(t, was.Evidence.Sources, 3)
	second, again, _ := counting(t)
	is, err := second.Findings(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	assert.Zero(t, *again)
	assert.Equal(t, was.Evidence, is.Evidence)
	assert.Equal(t, was.Brief, is.Brief)
	assert.Nil(t, is.Read)

	third := d.results()[2].ID
	for i, kept := range []bool{false, true, false} {
		_, err = d.me.Keep(t.Context(), d.study.ID, []int64{third}, kept, "")
		require.NoError(t, err)
		other, computed, _ := counting(t)
		an, err := other.Analyse(t.Context(), d.scope, d.study)
		require.NoError(t, err)
		assert.Len(t, an.Pages, len(an.Evidence.Sources))
		assert.Equal(t, map[bool]int{true: 3, false: 2}[kept], len(an.Evidence.Sources))
		assert.Equal(t, map[bool]int{true: 1, false: 0}[i == 0], *computed, "step %d", i)
	}
	// What no program can read counts for nothing.
	_, err = d.store.SQL().ExecContext(t.Context(), "update evidence set body = 'broken'")
	require.NoError(t, err)
	other, computed, _ := counting(t)
	an, err := other.Findings(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	assert.Len(t, an.Evidence.Sources, 2)
	assert.Equal(t, 1, *computed)
}

// No more than three are kept of a gathering, the newest; and none for ever.
func TestHowMuchEvidenceIsKept(t *testing.T) {
	d := newDesk(t)
	d.withPages("<p>" + sentence + "</p>")
	g := d.results()[0].GatheringID
	for i := range 5 {
		require.NoError(t, d.scope.KeepEvidence(t.Context(), store.Evidence{GatheringID: g, Digest: []byte(fmt.Sprint(i)), Basis: []byte("b"), Body: []byte("x")}))
	}
	kept := func() (list []string) {
		rows, err := d.store.SQL().QueryContext(t.Context(), "select convert_from(digest, 'UTF8') from evidence order by 1")
		require.NoError(t, err)
		defer rows.Close()
		for rows.Next() {
			var s string
			require.NoError(t, rows.Scan(&s))
			list = append(list, s)
		}
		require.NoError(t, rows.Err())
		return list
	}
	assert.Equal(t, []string{"2", "3", "4"}, kept())
	_, err := d.store.SQL().ExecContext(t.Context(), "update evidence set made_at = now() - interval '31 days' where digest <> '4'")
	require.NoError(t, err)
	require.NoError(t, d.store.ForgetEvidence(t.Context()))
	assert.Equal(t, []string{"4"}, kept())
}

// While pages arrive those who look get evidence of a moment ago, and ask for newer only when it
// is old; after the last page, too, where it takes long to make. Whoever wants all of it gets it.
func TestEvidenceOfAMomentAgo(t *testing.T) {
	d := newDesk(t)
	bodies := []string{"<h2>Ice</h2><p>" + sentence + "</p>", "<h2>Snow</h2><p>In deep snow a narrow wheel cuts through to the road, and a wide one floats.</p>",
		"<h2>Salt</h2><p>Salt eats chains: rinse and oil them in the evening, every week of the winter.</p>", "<h2>Light</h2><p>At four in the afternoon it is dark, so two lamps are on the bicycle and one on the rider.</p>"}
	d.withPages(bodies...)
	set := func(sql string, args ...any) {
		t.Helper()
		_, err := d.store.SQL().ExecContext(t.Context(), sql, args...)
		require.NoError(t, err)
	}
	touch := func() { set("update studies set change = change + 1 where id = $1", d.study.ID) }
	last := d.results()[3]
	set("update results set state = 'waiting' where id = $1", last.ID)
	set("update gatherings set state = 'fetching', finished_at = null where id = $1", last.GatheringID)
	a, computed, asked := counting(t)
	look := func() *analysis.Analysis {
		t.Helper()
		touch()
		an, err := a.Findings(t.Context(), d.scope, d.study)
		require.NoError(t, err)
		return an
	}
	assert.Len(t, look().Evidence.Sources, 3)
	assert.Equal(t, 1, *computed)

	set("update results set state = 'read' where id = $1", last.ID)
	an := look()
	assert.True(t, an.Provisional)
	assert.Len(t, an.Evidence.Sources, 3)
	assert.Equal(t, 4, an.Counting())
	assert.Empty(t, *asked, "it is new")
	whole, err := a.Analyse(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	assert.Len(t, whole.Pages, 3, "each count has its page")
	set("update evidence set made_at = made_at - interval '1 hour'")
	b, _, askedToo := counting(t)
	an, err = b.Findings(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	assert.True(t, an.Provisional)
	assert.Equal(t, []int64{last.GatheringID}, *askedToo)
	assert.Equal(t, 1, *computed)

	// Set aside by hand, a page is out at once.
	_, err = d.me.Keep(t.Context(), d.study.ID, []int64{d.results()[0].ID}, false, "")
	require.NoError(t, err)
	an = look()
	assert.Len(t, an.Evidence.Sources, 3)
	assert.False(t, slices.ContainsFunc(an.Evidence.Sources, func(s evidence.Source) bool { return s.Rank == 1 }))
	_, err = d.me.Keep(t.Context(), d.study.ID, []int64{d.results()[0].ID}, true, "")
	require.NoError(t, err)

	// The last page is in. What is quickly made is made; what takes long comes in a moment.
	set("update gatherings set state = 'done', finished_at = now() where id = $1", last.GatheringID)
	set("update evidence set took = $1", time.Second)
	set("delete from evidence where digest <> (select digest from evidence order by made_at limit 1)")
	c, computedLast, askedLast := counting(t)
	touch()
	an, err = c.Findings(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	assert.True(t, an.Provisional)
	assert.Len(t, an.Evidence.Sources, 3)
	assert.Equal(t, []int64{last.GatheringID}, *askedLast)
	e, computedWhole, _ := counting(t)
	whole, err = e.Analyse(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	assert.Len(t, whole.Evidence.Sources, 4)
	assert.Len(t, whole.Pages, 4)
	assert.Equal(t, 1, *computedWhole)
	set("delete from evidence where took <> $1", time.Second)
	worker, _, _ := counting(t)
	require.NoError(t, worker.Ahead(t.Context(), d.store, last.GatheringID))
	an, err = c.Findings(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	assert.False(t, an.Provisional)
	assert.Len(t, an.Evidence.Sources, 4)
	assert.Zero(t, *computedLast)
}
