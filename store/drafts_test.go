package store_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"

	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func edit(on int, author string, steps int) store.DraftEdit {
	e := store.DraftEdit{On: on, Client: author, Author: author, Document: []byte(fmt.Sprintf(`{"by":%q,"on":%d}`, author, on)), Words: 3}
	for i := range steps {
		e.Steps = append(e.Steps, json.RawMessage(fmt.Sprintf(`{"n":%d}`, on+i)))
	}
	return e
}

// Many write at once: every step is saved once, in one order, and nobody's is overwritten.
func TestManyWritersOfOneDraft(t *testing.T) {
	st, _ := storetest.Open(t)
	p := publication(t, st, "Writers")
	sc := st.In(p.ID)
	s, _ := study(t, sc)
	const writers, each = 6, 8
	var work sync.WaitGroup
	for w := range writers {
		work.Go(func() {
			d, err := sc.BeginDraft(t.Context(), s.ID, []byte(`{}`))
			if !assert.NoError(t, err) {
				return
			}
			for range each {
				for {
					_, err := sc.SaveDraft(t.Context(), s.ID, edit(d.Version, fmt.Sprint("w", w), 2))
					if err == nil {
						d.Version += 2
						break
					}
					if !assert.ErrorIs(t, err, store.ErrBehind) {
						return
					}
					if d, err = sc.Draft(t.Context(), s.ID); !assert.NoError(t, err) {
						return
					}
				}
			}
		})
	}
	work.Wait()
	d, err := sc.Draft(t.Context(), s.ID)
	require.NoError(t, err)
	assert.Equal(t, 2*writers*each, d.Version)
	steps, err := sc.Steps(t.Context(), d, 0)
	require.NoError(t, err)
	require.Len(t, steps, 2*writers*each)
	by := map[string]int{}
	for i, x := range steps {
		assert.Equal(t, i+1, x.Version)
		by[x.Client]++
	}
	for w := range writers {
		assert.Equal(t, 2*each, by[fmt.Sprint("w", w)])
	}
}

// A version is kept when somebody else goes on, once for a stretch of one author's, and the
// steps of long ago go.
func TestVersionsAreKeptAndStepsGo(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "Versions").ID)
	s, _ := study(t, sc)
	d, err := sc.BeginDraft(t.Context(), s.ID, []byte(`{}`))
	require.NoError(t, err)
	save := func(author string, steps int) {
		t.Helper()
		d, err = sc.SaveDraft(t.Context(), s.ID, edit(d.Version, author, steps))
		require.NoError(t, err)
	}
	versions := func() (authors []string) {
		list, err := sc.DraftVersions(t.Context(), d.ID, 100)
		require.NoError(t, err)
		for _, v := range list {
			assert.Empty(t, v.Document)
			authors = append(authors, v.Author)
		}
		return authors
	}
	save("ada", 1)
	save("ada", 1)
	assert.Empty(t, versions())
	save("wren", 1)
	assert.Equal(t, []string{"ada"}, versions())
	save("wren", 1)
	save("wren", 1)
	assert.Equal(t, []string{"ada"}, versions())
	save("ada", 1)
	assert.Equal(t, []string{"wren", "ada"}, versions())
	require.NoError(t, sc.KeepVersion(t.Context(), s.ID, store.DraftVersion{Document: []byte(`{"named":1}`), Author: "ada", Said: "A name"}))
	list, err := sc.DraftVersions(t.Context(), d.ID, 1)
	require.NoError(t, err)
	v, err := sc.DraftVersion(t.Context(), d.ID, list[0].ID)
	require.NoError(t, err)
	assert.JSONEq(t, `{"named":1}`, string(v.Document))
	_, err = st.In(publication(t, st, "Others").ID).DraftVersion(t.Context(), d.ID, list[0].ID)
	assert.True(t, errors.Is(err, store.ErrNotFound))

	save("ada", store.StepsKept)
	_, err = sc.Steps(t.Context(), d, 0)
	assert.ErrorIs(t, err, store.ErrBehind, "steps of long ago are not kept")
	steps, err := sc.Steps(t.Context(), d, d.Version-3)
	require.NoError(t, err)
	assert.Len(t, steps, 3)
	// And those of whole texts pasted over and over, by their size.
	whole := json.RawMessage(`"` + strings.Repeat("x", 1<<20) + `"`)
	for range 3 {
		e := edit(d.Version, "ada", 0)
		for range 25 {
			e.Steps = append(e.Steps, whole)
		}
		d, err = sc.SaveDraft(t.Context(), s.ID, e)
		require.NoError(t, err)
	}
	_, err = sc.Steps(t.Context(), d, d.Version-70)
	assert.ErrorIs(t, err, store.ErrBehind)
	steps, err = sc.Steps(t.Context(), d, d.Version-60)
	require.NoError(t, err)
	assert.Len(t, steps, 60)
	// The text goes with its study.
	var left int
	require.NoError(t, st.SQL().QueryRowContext(t.Context(), "with gone as (delete from studies where id = $1) select 0", s.ID).Scan(&left))
	require.NoError(t, st.SQL().QueryRowContext(t.Context(), "select (select count(*) from drafts) + (select count(*) from draft_steps) + (select count(*) from draft_versions)").Scan(&left))
	assert.Zero(t, left)
}
