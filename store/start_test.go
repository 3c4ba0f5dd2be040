package store_test

import (
	"os"
	"strings"
	"sync"
	"testing"

	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Processes that begin at once on an empty database migrate it once and make one
// publication.
func TestManyProcessesOnAnEmptyDatabase(t *testing.T) {
	admin := os.Getenv("CORPULAN_TEST_PG")
	conn, err := pgx.Connect(t.Context(), admin)
	require.NoError(t, err)
	defer conn.Close(t.Context())
	for _, sql := range []string{"drop database if exists at_once with (force)", "create database at_once"} {
		_, err = conn.Exec(t.Context(), sql)
		require.NoError(t, err)
	}
	url := strings.Replace(admin, "/postgres?", "/at_once?", 1)
	var wg sync.WaitGroup
	ids := make(chan int64, 6)
	for range 6 {
		wg.Go(func() {
			if !assert.NoError(t, store.Migrate(t.Context(), url)) {
				return
			}
			st, err := store.Open(t.Context(), url, nil, 0)
			if !assert.NoError(t, err) {
				return
			}
			defer st.Close()
			p, err := st.EnsurePublication(t.Context(), "Quillfen Cycles", "")
			assert.NoError(t, err)
			ids <- p.ID
		})
	}
	wg.Wait()
	close(ids)
	first := <-ids
	assert.NotZero(t, first)
	for id := range ids {
		assert.Equal(t, first, id, "they share one publication")
	}
}

// The desk reads a screenful however many studies there are.
func TestTheLedgerReadsAScreenful(t *testing.T) {
	st, _ := storetest.Open(t)
	p := publication(t, st, "One")
	_, err := st.SQL().ExecContext(t.Context(), `insert into studies (publication_id, keyword, language, country, depth, created_at)
		select $1, 'winter ' || n, 'en', 'gb', 10, now() + n * interval '1 second' from generate_series(1, 5000) n`, p.ID)
	require.NoError(t, err)
	lines, counts, err := st.In(p.ID).Ledger(t.Context(), store.LedgerQuery{Most: 100})
	require.NoError(t, err)
	require.Len(t, lines, 100)
	assert.Equal(t, "winter 5000", lines[0].Keyword)
	assert.Equal(t, 5000, counts[store.OnDesk])
	lines, counts, err = st.In(p.ID).Ledger(t.Context(), store.LedgerQuery{Filter: "WINTER 42", From: 100, Most: 100})
	require.NoError(t, err)
	assert.Equal(t, 111, counts[store.OnDesk])
	assert.Len(t, lines, 11)
	lines, _, err = st.In(p.ID).Ledger(t.Context(), store.LedgerQuery{Filter: "%", Most: 100})
	require.NoError(t, err)
	assert.Empty(t, lines, "a filter is text, not a pattern")
}

// BenchmarkLedger is the desk of 5,000 studies; the budget is 50 ms.
func BenchmarkLedger(b *testing.B) {
	st, _ := storetest.Open(b)
	p, err := st.EnsurePublication(b.Context(), "One", "")
	require.NoError(b, err)
	for _, sql := range []string{
		`insert into studies (publication_id, keyword, language, country, depth, created_at) select 1, 'winter ' || n, 'en', 'gb', 10, now() + n * interval '1 second' from generate_series(1, 5000) n`,
		`insert into gatherings (publication_id, study_id, state) select 1, id, 'done' from studies`,
		`insert into briefs (publication_id, study_id) select 1, id from studies`,
		`insert into results (publication_id, study_id, gathering_id, rank, url, host, state) select 1, study_id, id, n, 'http://a.example/' || n, 'a.example', 'read' from gatherings, generate_series(1, 20) n`,
		`analyze`,
	} {
		_, err := st.SQL().ExecContext(b.Context(), sql)
		require.NoError(b, err)
	}
	for b.Loop() {
		lines, _, err := st.In(p.ID).Ledger(b.Context(), store.LedgerQuery{Most: 100})
		require.NoError(b, err)
		require.Len(b, lines, 100)
	}
}
