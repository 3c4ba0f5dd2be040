// Package metrics counts what an operator watches, for Prometheus: requests by route, jobs by
// kind, fetches by how they ended, what waits on the queue, and the connections to the database.
package metrics

import (
	"context"
	"net/http"
	"strconv"
	"time"

	"corpulan/store"

	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// Metrics are the figures of one process.
type Metrics struct {
	registry *prometheus.Registry
	requests *prometheus.HistogramVec
	jobs     *prometheus.HistogramVec
	fetches  *prometheus.CounterVec
}

// New makes the figures of a process on a database.
func New(st *store.Store) *Metrics {
	m := &Metrics{registry: prometheus.NewRegistry(),
		requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{Namespace: "corpulan", Name: "request_duration_seconds", Help: "How long requests took, by route. Event streams are left out.",
			Buckets: []float64{.005, .01, .025, .05, .1, .25, .5, 1, 2.5, 5, 10}}, []string{"route", "method", "status"}),
		jobs: prometheus.NewHistogramVec(prometheus.HistogramOpts{Namespace: "corpulan", Name: "job_duration_seconds", Help: "How long jobs took, by kind and whether they failed.",
			Buckets: []float64{.01, .1, .5, 1, 5, 15, 60, 300}}, []string{"kind", "failed"}),
		fetches: prometheus.NewCounterVec(prometheus.CounterOpts{Namespace: "corpulan", Name: "fetches_total", Help: "Pages fetched, by how that ended: read, or the code of the failure."}, []string{"outcome"}),
	}
	m.registry.MustRegister(m.requests, m.jobs, m.fetches, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		collectors.NewDBStatsCollector(st.SQL(), "corpulan"), &queue{st})
	return m
}

// Request counts a request that was answered.
func (m *Metrics) Request(route, method string, status int, took time.Duration) {
	m.requests.WithLabelValues(route, method, strconv.Itoa(status)).Observe(took.Seconds())
}

// Job counts a job that was worked on.
func (m *Metrics) Job(kind string, failed bool, took time.Duration) {
	m.jobs.WithLabelValues(kind, strconv.FormatBool(failed)).Observe(took.Seconds())
}

// Fetch counts a page that was fetched.
func (m *Metrics) Fetch(outcome string) { m.fetches.WithLabelValues(outcome).Inc() }

// Handler answers Prometheus.
func (m *Metrics) Handler() http.Handler {
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{ErrorHandling: promhttp.ContinueOnError})
}

// queue asks the database what waits, each time Prometheus comes.
type queue struct{ store *store.Store }

var (
	jobsWaiting = prometheus.NewDesc("corpulan_queue_jobs", "Jobs on the queue, by kind and state.", []string{"kind", "state"}, nil)
	tableBytes  = prometheus.NewDesc("corpulan_table_bytes", "What tables take on disk, with their indexes.", []string{"table"}, nil)
)

// asks is how long the database may take for these figures.
const asks = 5 * time.Second

// Describe implements prometheus.Collector.
func (q *queue) Describe(to chan<- *prometheus.Desc) { to <- jobsWaiting; to <- tableBytes }

// Collect implements prometheus.Collector.
func (q *queue) Collect(to chan<- prometheus.Metric) {
	ctx, cancel := context.WithTimeout(context.Background(), asks)
	defer cancel()
	counts, err := q.store.QueueCounts(ctx)
	if err != nil {
		to <- prometheus.NewInvalidMetric(jobsWaiting, err)
	}
	for _, c := range counts {
		to <- prometheus.MustNewConstMetric(jobsWaiting, prometheus.GaugeValue, float64(c.Jobs), c.Kind, c.State)
	}
	sizes, err := q.store.Sizes(ctx)
	if err != nil {
		to <- prometheus.NewInvalidMetric(tableBytes, err)
	}
	for table, n := range sizes {
		to <- prometheus.MustNewConstMetric(tableBytes, prometheus.GaugeValue, float64(n), table)
	}
}
