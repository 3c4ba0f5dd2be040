package metrics_test

import (
	"io"
	"net/http/httptest"
	"testing"
	"time"

	"corpulan/metrics"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"

	"github.com/prometheus/client_golang/prometheus/testutil/promlint"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// Prometheus finds what was counted, what waits and what the tables take; its own linter has
// nothing to say of ours.
func TestFigures(t *testing.T) {
	st, _ := storetest.Open(t)
	m := metrics.New(st)
	m.Request("/studies/:study/brief", "GET", 200, 20*time.Millisecond)
	m.Job("fetch", true, time.Second)
	m.Fetch("read")
	m.Fetch("read")
	p, err := st.EnsurePublication(t.Context(), "Quillfen Cycles", "")
	require.NoError(t, err)
	q, err := queue.New(st)
	require.NoError(t, err)
	require.NoError(t, study.For(st.In(p.ID), q, "x").Begin(t.Context(), &store.Study{Keyword: "tyres", Language: "en", Country: "gb", Depth: 10}, nil))
	get := func() string {
		w := httptest.NewRecorder()
		m.Handler().ServeHTTP(w, httptest.NewRequest("GET", "/metrics", nil))
		b, err := io.ReadAll(w.Body)
		require.NoError(t, err)
		return string(b)
	}
	text := get()
	for _, want := range []string{`corpulan_request_duration_seconds_bucket{method="GET",route="/studies/:study/brief",status="200",le="0.025"} 1`, `corpulan_job_duration_seconds_count{failed="true",kind="fetch"} 1`,
		`corpulan_fetches_total{outcome="read"} 2`, `corpulan_queue_jobs{kind="search",state="available"} 1`, `corpulan_table_bytes{table="captures"}`, `go_sql_open_connections{db_name="corpulan"}`, "process_resident_memory_bytes"} {
		assert.Contains(t, text, want)
	}
	w := httptest.NewRecorder()
	m.Handler().ServeHTTP(w, httptest.NewRequest("GET", "/metrics", nil))
	problems, err := promlint.New(w.Body).Lint()
	require.NoError(t, err)
	for _, p := range problems {
		assert.NotContains(t, p.Metric, "corpulan_", p.Text)
	}
	require.NoError(t, st.Close())
	assert.Contains(t, get(), `corpulan_fetches_total{outcome="read"} 2`, "without a database the rest is there")
}
