package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"

	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/localpg"
	"corpulan/standin"
	"corpulan/store"
	"corpulan/web"
)

// settings of a running installation, from flags and the environment.
type settings struct {
	database  string // DATABASE_URL
	listen    string
	search    string // OpenSearch URL template
	suggest   string
	workers   int
	name      string // of the publication
	simulated string // address of the stand-in, in the demo and the tests only
}

// parseSettings reads what serve and work have in common.
func parseSettings(name string, args []string, more func(*flag.FlagSet, *settings)) (settings, error) {
	s := settings{database: os.Getenv("DATABASE_URL"), simulated: os.Getenv("CORPULAN_SIMULATED_WEB")}
	flags := flag.NewFlagSet(name, flag.ContinueOnError)
	flags.SetOutput(io.Discard)
	flags.StringVar(&s.search, "search", os.Getenv("CORPULAN_SEARCH"), "")
	flags.StringVar(&s.suggest, "suggest", os.Getenv("CORPULAN_SUGGEST"), "")
	flags.IntVar(&s.workers, "workers", 12, "")
	more(flags, &s)
	if err := flags.Parse(args); err != nil {
		return s, fmt.Errorf("%w: %v", errUse, err)
	}
	switch {
	case s.database == "":
		return s, fmt.Errorf("%w: DATABASE_URL names no database; `corpulan demo` brings its own", errUse)
	case s.search == "":
		return s, fmt.Errorf("%w: CORPULAN_SEARCH or --search must give the search engine's OpenSearch template", errUse)
	case s.workers < 0 || s.workers > 1000:
		return s, fmt.Errorf("%w: --workers is a number from 0 to 1000", errUse)
	}
	return s, nil
}

func runServe(ctx context.Context, args []string, std stdio) error {
	s, err := parseSettings("serve", args, func(flags *flag.FlagSet, s *settings) {
		flags.StringVar(&s.listen, "listen", "127.0.0.1:8080", "")
		flags.StringVar(&s.name, "publication", "Quillfen Cycles", "")
	})
	if err != nil {
		return err
	}
	if !loopback(s.listen) {
		return fmt.Errorf("%w: there is no sign-in yet, so --listen must be a loopback address, not %s", errUse, s.listen)
	}
	return serve(ctx, s, std, func(address string) { fmt.Fprintf(std.out, "Corpulan is at %s\n", address) })
}

// runWork shares the queue with any number of other processes, on any machine
// that reaches the database.
func runWork(ctx context.Context, args []string, std stdio) error {
	s, err := parseSettings("work", args, func(*flag.FlagSet, *settings) {})
	if err != nil {
		return err
	}
	if s.workers == 0 {
		return fmt.Errorf("%w: --workers must be at least 1", errUse)
	}
	st, err := openStore(ctx, s.database)
	if err != nil {
		return err
	}
	defer st.Close()
	stop, err := startWorkers(ctx, s, st, slog.New(slog.NewTextHandler(std.err, nil)))
	if err != nil {
		return err
	}
	defer stop()
	fmt.Fprintf(std.out, "Working on the queue, %d jobs at once\n", s.workers)
	<-ctx.Done()
	return nil
}

// openStore brings the schema up to this program and opens the database.
func openStore(ctx context.Context, url string) (*store.Store, error) {
	if err := store.Migrate(ctx, url); err != nil {
		return nil, err
	}
	return store.Open(ctx, url)
}

// startWorkers begins to work on the queue; the function it returns ends that.
func startWorkers(ctx context.Context, s settings, st *store.Store, log *slog.Logger) (stop func(), err error) {
	if s.workers == 0 {
		return func() {}, nil
	}
	guard := gather.Guard{Simulated: s.simulated}
	workers, err := jobs.StartWorkers(ctx, jobs.Config{Store: st, URL: s.database, Count: s.workers,
		Provider: gather.OpenSearch{Template: s.search, Suggest: s.suggest, Client: &http.Client{Timeout: 20 * time.Second}},
		Fetcher:  gather.NewFetcher(gather.DefaultLimits(), guard.Dial)})
	if err != nil {
		return nil, err
	}
	return func() {
		ending, cancel := context.WithTimeout(context.WithoutCancel(ctx), web.Shutdown)
		defer cancel()
		if err := workers.Stop(ending); err != nil {
			log.Error("stopping the workers", "error", err)
		}
	}, nil
}

func loopback(listen string) bool {
	host, _, err := net.SplitHostPort(listen)
	if err != nil {
		return false
	}
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}

// runDemo starts everything: a private PostgreSQL, the simulated search engine
// and web, the workers and the interface.
func runDemo(ctx context.Context, args []string, std stdio) error {
	flags := flag.NewFlagSet("demo", flag.ContinueOnError)
	flags.SetOutput(io.Discard)
	listen := flags.String("listen", "127.0.0.1:8080", "")
	reset := flags.Bool("reset", false, "")
	data := flags.String("data", dataFolder(), "")
	if err := flags.Parse(args); err != nil {
		return fmt.Errorf("%w: %v", errUse, err)
	}
	folder, err := filepath.Abs(*data)
	if err != nil {
		return err
	}
	if *reset {
		if err := os.RemoveAll(folder); err != nil {
			return fmt.Errorf("starting anew: %w", err)
		}
	}
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return fmt.Errorf("making the data folder: %w", err)
	}
	cluster, err := localpg.Start(ctx, filepath.Join(folder, "postgres"))
	if err != nil {
		return err
	}
	defer stopCluster(cluster, std)
	url, err := cluster.EnsureDatabase(ctx, "corpulan")
	if err != nil {
		return err
	}
	sim, err := standin.Start(1200 * time.Millisecond)
	if err != nil {
		return err
	}
	defer func() { _ = sim.Stop(context.WithoutCancel(ctx)) }()
	s := settings{database: url, listen: *listen, search: sim.SearchTemplate(), suggest: sim.SuggestTemplate(), workers: 12, name: "Quillfen Cycles", simulated: sim.Address()}
	return serve(ctx, s, std, func(address string) {
		fmt.Fprintf(std.out, "Corpulan's demo is at %s\nBegin with the keyword: winter bike commuting\nStop it with Ctrl-C; its data stay in %s\n", address, folder)
	})
}

// dataFolder is where the demo keeps its data: CORPULAN_DATA, or a folder of
// the project's own.
func dataFolder() string {
	if d := os.Getenv("CORPULAN_DATA"); d != "" {
		return d
	}
	return ".corpulan"
}

func stopCluster(c *localpg.Cluster, std stdio) {
	if err := c.Stop(); err != nil {
		fmt.Fprintln(std.err, "corpulan:", err)
	}
}

// serve runs the workers and the interface until ctx ends.
func serve(ctx context.Context, s settings, std stdio, ready func(address string)) error {
	log := slog.New(slog.NewTextHandler(std.err, nil))
	st, err := openStore(ctx, s.database)
	if err != nil {
		return err
	}
	defer st.Close()
	publication, err := st.EnsurePublication(ctx, s.name, "")
	if err != nil {
		return err
	}
	queue, err := jobs.NewQueue(st)
	if err != nil {
		return err
	}
	stopWorkers, err := startWorkers(ctx, s, st, log)
	if err != nil {
		return err
	}
	defer stopWorkers()
	handler, err := web.Handler(web.Options{Store: st, Queue: queue, Publication: publication, Log: log, Closing: ctx})
	if err != nil {
		return err
	}
	listener, err := net.Listen("tcp", s.listen)
	if err != nil {
		return fmt.Errorf("%s cannot be listened on: %w; choose another with --listen", s.listen, err)
	}
	server := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn)}
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	ready("http://" + strings.Replace(listener.Addr().String(), "127.0.0.1", "localhost", 1) + "/")
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	stop, cancel := context.WithTimeout(context.WithoutCancel(ctx), web.Shutdown)
	defer cancel()
	if err := server.Shutdown(stop); err != nil && !errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return nil
}

// version is set by the build: -ldflags "-X main.version=...".
var version = "development"

func runVersion(_ context.Context, _ []string, std stdio) error {
	_, err := fmt.Fprintln(std.out, "corpulan", version)
	return err
}
