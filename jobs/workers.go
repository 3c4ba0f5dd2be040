package jobs

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"strings"
	"sync"
	"time"

	"corpulan/account"
	"corpulan/analysis"
	"corpulan/formats/handed"
	"corpulan/gather"
	"corpulan/queue"
	"corpulan/search"
	"corpulan/store"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivertype"
)

// How a worker process shows that it lives, and after how long a silent one's
// jobs go to another.
const (
	beatEvery   = time.Second
	silentAfter = 6 * time.Second
)

// Config is what workers need.
type Config struct {
	Store    *store.Store
	URL      string // of the database
	Provider search.Provider
	Fetcher  *gather.Fetcher
	Keywords search.KeywordService // nil for none
	Pause    time.Duration         // between questions to the search engine about keywords
	Post     *Post                 // nil for no mail
	Keep     time.Duration         // how long captures keep their bytes that no newest gathering shows; 0 for always
	Sealer   *account.Sealer       // nil where nothing is sealed
	Analyst  *analysis.Analyst     // shared with the interface of the same process; nil for one of its own
	// Dial connects to addresses that people name; nothing private where it is nil.
	Dial    func(ctx context.Context, network, address string) (net.Conn, error)
	Reader  *handed.Reader                                     // of texts that were brought; nil reads in this process
	Count   int                                                // jobs at once
	Observe func(kind string, failed bool, took time.Duration) // called with each job; nil for none
	Fetched func(outcome string)                               // called with each page; nil for none
	Log     *slog.Logger                                       // the store's where none is given
}

// validate names every field that workers cannot do with.
func (c Config) validate() error {
	var wrong []error
	if c.Store == nil {
		wrong = append(wrong, errors.New("jobs: Config.Store is missing"))
	}
	if c.URL == "" {
		wrong = append(wrong, errors.New("jobs: Config.URL is missing"))
	}
	if c.Provider == nil {
		wrong = append(wrong, errors.New("jobs: Config.Provider is missing"))
	}
	if c.Fetcher == nil {
		wrong = append(wrong, errors.New("jobs: Config.Fetcher is missing"))
	}
	if c.Count < 1 || c.Count > river.QueueNumWorkersMax {
		wrong = append(wrong, fmt.Errorf("jobs: Config.Count is %d, and must be between 1 and %d", c.Count, river.QueueNumWorkersMax))
	}
	return errors.Join(wrong...)
}

// Workers run jobs until they are stopped.
type Workers struct {
	client *river.Client[pgx.Tx]
	pool   *pgxpool.Pool
	store  *store.Store
	queue  *queue.Queue
	id     string
	quit   context.CancelFunc
	beats  sync.WaitGroup
}

// StartWorkers begins to work on the queue.
func StartWorkers(ctx context.Context, c Config) (*Workers, error) {
	if err := c.validate(); err != nil {
		return nil, err
	}
	if c.Log == nil {
		c.Log = c.Store.Log()
	}
	host, _ := os.Hostname()
	w := &Workers{store: c.Store, id: fmt.Sprintf("%s-%d-%s", strings.ReplaceAll(host, "/", "-"), os.Getpid(), rand.Text()[:8])}
	if err := c.Store.Beat(ctx, w.id); err != nil { // before the first job, or it would count as an orphan's
		return nil, fmt.Errorf("announcing the workers: %w", err)
	}
	pool, err := pgxpool.New(ctx, c.URL)
	if err != nil {
		return nil, fmt.Errorf("connecting the workers: %w", err)
	}
	w.pool = pool
	q, err := queue.New(c.Store)
	w.queue = q
	if err != nil {
		pool.Close()
		return nil, err
	}
	workers := river.NewWorkers()
	out := outward(c.Dial)
	whom := services{store: c.Store, provider: c.Provider, keywords: c.Keywords, sealer: c.Sealer, client: out}
	river.AddWorker(workers, &searcher{store: c.Store, queue: q, services: whom, log: c.Log})
	polite, pace := c.Fetcher.Through(&hostGate{store: c.Store, worker: w.id}), newTurns()
	river.AddWorker(workers, &fetcher{store: c.Store, queue: q, fetcher: polite, worker: w.id, log: c.Log, turns: pace, fetched: c.Fetched})
	river.AddWorker(workers, &sitemapper{store: c.Store, queue: q, fetcher: polite, reader: c.Reader, log: c.Log})
	river.AddWorker(workers, &ownReader{store: c.Store, fetcher: polite, worker: w.id, log: c.Log, turns: pace})
	river.AddWorker(workers, &demander{store: c.Store, services: whom, pause: c.Pause, log: c.Log})
	river.AddWorker(workers, &rereader{store: c.Store, reader: c.Reader, log: c.Log})
	river.AddWorker(workers, &mailer{store: c.Store, post: c.Post, log: c.Log})
	river.AddWorker(workers, &accountMailer{store: c.Store, queue: q})
	river.AddWorker(workers, &dueTeller{store: c.Store, queue: q})
	analyst := c.Analyst
	if analyst == nil {
		if analyst, err = analysis.NewAnalyst(nil, q.Evidence, analysis.OfWorkers); err != nil {
			pool.Close()
			return nil, err
		}
	}
	river.AddWorker(workers, &computer{store: c.Store, analyst: analyst})
	river.AddWorker(workers, &againer{store: c.Store, queue: q, analyst: analyst, log: c.Log})
	river.AddWorker(workers, &deliverer{store: c.Store, sealer: c.Sealer, client: out, log: c.Log})
	river.AddWorker(workers, &purger{store: c.Store, kept: c.Keep, log: c.Log})
	if err := q.Reread(ctx); err != nil {
		pool.Close()
		return nil, fmt.Errorf("asking for older readings to be made again: %w", err)
	}
	w.client, err = river.NewClient(riverpgxv5.New(pool), &river.Config{
		ID:                w.id,
		Queues:            map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: c.Count}, queue.Computing: {MaxWorkers: 1}},
		Workers:           workers,
		FetchCooldown:     20 * time.Millisecond,
		FetchPollInterval: 250 * time.Millisecond,
		JobTimeout:        -1, // a host may have many pages; each fetch has its own limit
		Logger:            queue.Quiet(c.Log),
		Middleware:        []rivertype.Middleware{observed(c.Observe)},
		PeriodicJobs: []*river.PeriodicJob{river.NewPeriodicJob(river.PeriodicInterval(purgeEvery),
			func() (river.JobArgs, *river.InsertOpts) { return queue.PurgeArgs{}, nil }, &river.PeriodicJobOpts{RunOnStart: true}),
			river.NewPeriodicJob(river.PeriodicInterval(accountMailEvery),
				func() (river.JobArgs, *river.InsertOpts) { return queue.AccountMailArgs{}, nil }, &river.PeriodicJobOpts{RunOnStart: true}),
			river.NewPeriodicJob(river.PeriodicInterval(dueEvery),
				func() (river.JobArgs, *river.InsertOpts) { return queue.DueArgs{}, nil }, &river.PeriodicJobOpts{RunOnStart: true}),
			river.NewPeriodicJob(river.PeriodicInterval(againEvery),
				func() (river.JobArgs, *river.InsertOpts) { return queue.AgainArgs{}, nil }, &river.PeriodicJobOpts{RunOnStart: true})},
	})
	if err == nil {
		err = w.client.Start(context.WithoutCancel(ctx)) // Stop ends it in good order
	}
	if err != nil {
		pool.Close()
		return nil, fmt.Errorf("starting the workers: %w", err)
	}
	beating, quit := context.WithCancel(context.WithoutCancel(ctx))
	w.quit = quit
	w.beats.Go(func() { w.beat(beating) })
	return w, nil
}

// observed tells those who watch how long each job took.
func observed(observe func(kind string, failed bool, took time.Duration)) rivertype.Middleware {
	return river.WorkerMiddlewareFunc(func(ctx context.Context, job *rivertype.JobRow, work func(context.Context) error) error {
		began := time.Now()
		err := work(ctx)
		if observe != nil {
			observe(job.Kind, err != nil && !errors.Is(err, &river.JobSnoozeError{}), time.Since(began))
		}
		return err
	})
}

// soon is when a job that failed is run again: what fails it is nearly always
// the database, away for a moment. The queue's own rule would wait a minute by
// the third time.
func soon(attempt int) time.Time {
	return time.Now().Add(min(time.Duration(attempt)*time.Second, 10*time.Second))
}

// beat says that this process lives, and looks for jobs of those that do not.
// Errors are passed over: the database may be away for a while.
func (w *Workers) beat(ctx context.Context) {
	tick := time.NewTicker(beatEvery)
	defer tick.Stop()
	p := pulse{last: time.Now()}
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
		err := w.store.Beat(ctx, w.id)
		if p.judges(err == nil, time.Now()) {
			_, _ = w.store.FreeOrphans(ctx, silentAfter)
		}
		if err == nil {
			_ = w.queue.Deliver(ctx, w.store, maxOutbox)
		}
	}
}

// pulse tells whether this process may call others silent. After the database was away nobody
// has beaten for a while; and where this process was late itself, others of its machine were
// kept waiting as well. Then they are given time first.
type pulse struct {
	last time.Time // of the beat before
	fine int       // beats in a row, each in time
}

func (p *pulse) judges(beaten bool, now time.Time) bool {
	late := now.Sub(p.last) > silentAfter/2
	p.last = now
	if !beaten || late {
		p.fine = 0
		return false
	}
	p.fine++
	return time.Duration(p.fine)*beatEvery > silentAfter/2
}

// Stop lets running jobs finish until ctx ends, then cancels them; what they
// had not done stays on the queue.
func (w *Workers) Stop(ctx context.Context) error {
	err := w.client.Stop(ctx)
	if errors.Is(err, context.DeadlineExceeded) {
		hard, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer cancel()
		err = w.client.StopAndCancel(hard)
	}
	w.quit()
	w.beats.Wait()
	leaving, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Second)
	defer cancel()
	_ = w.store.Leave(leaving, w.id) // else its silence tells
	w.pool.Close()
	return err
}
