package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"strings"
	"time"

	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web"
)

// settings of a running installation, from flags and the environment.
type settings struct {
	database  string // DATABASE_URL
	listen    string
	search    string // OpenSearch URL template
	suggest   string
	keywords  string        // address of a keyword service; empty for none
	pause     time.Duration // between questions about keywords
	workers   int
	name      string // of the publication
	hosts     string // names the server answers for, set apart by commas
	proxies   string // networks whose word on where a request comes from is taken, set apart by commas
	samples   []web.Sample
	simulated string // address of the stand-in, in the demo and the tests only

	// furnish fills a publication that is new; nil for nothing.
	furnish func(context.Context, *store.Store, *queue.Queue, store.Publication) error
	// visitor finds the person as whom everybody is signed in at once; nil where people sign in.
	visitor func(context.Context, *store.Store, store.Publication) (int64, error)
}

// parseSettings reads what serve and work have in common.
func parseSettings(name string, args []string, more func(*flag.FlagSet, *settings)) (settings, error) {
	s := settings{database: os.Getenv("DATABASE_URL"), simulated: os.Getenv("CORPULAN_SIMULATED_WEB")}
	flags := newFlags(name)
	flags.StringVar(&s.search, "search", os.Getenv("CORPULAN_SEARCH"), "")
	flags.StringVar(&s.suggest, "suggest", os.Getenv("CORPULAN_SUGGEST"), "")
	flags.StringVar(&s.keywords, "keywords", os.Getenv("CORPULAN_KEYWORDS"), "")
	flags.DurationVar(&s.pause, "pause", time.Second, "")
	flags.IntVar(&s.workers, "workers", 12, "")
	more(flags, &s)
	if err := parse(flags, args); err != nil {
		return s, err
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
		flags.StringVar(&s.hosts, "hosts", os.Getenv("CORPULAN_HOSTS"), "")
		flags.StringVar(&s.proxies, "proxies", os.Getenv("CORPULAN_PROXIES"), "")
	})
	if err != nil {
		return err
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
	log := slog.New(slog.NewTextHandler(std.err, nil))
	st, err := openStore(ctx, s.database, log)
	if err != nil {
		return err
	}
	defer st.Close()
	stop, err := startWorkers(ctx, s, st, log)
	if err != nil {
		return err
	}
	defer stop()
	fmt.Fprintf(std.out, "Working on the queue, %d jobs at once\n", s.workers)
	<-ctx.Done()
	return nil
}

// openStore brings the schema up to this program and opens the database.
func openStore(ctx context.Context, url string, log *slog.Logger) (*store.Store, error) {
	if err := store.Migrate(ctx, url); err != nil {
		return nil, err
	}
	return store.Open(ctx, url, log)
}

// startWorkers begins to work on the queue; the function it returns ends that.
func startWorkers(ctx context.Context, s settings, st *store.Store, log *slog.Logger) (stop func(), err error) {
	if s.workers == 0 {
		return func() {}, nil
	}
	guard := gather.Guard{Simulated: s.simulated}
	var keywords gather.KeywordService
	if s.keywords != "" {
		keywords = gather.KeywordsByHTTP{Address: s.keywords, Client: &http.Client{Timeout: 20 * time.Second}}
	}
	workers, err := jobs.StartWorkers(ctx, jobs.Config{Store: st, URL: s.database, Count: s.workers, Keywords: keywords, Pause: s.pause,
		Provider: gather.OpenSearch{Template: s.search, Suggest: s.suggest, Client: &http.Client{Timeout: 20 * time.Second}},
		Fetcher:  gather.NewFetcher(gather.DefaultLimits(), guard.Dial), Log: log})
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

// hostNames are the names the server answers for: those given, and those of
// this machine for itself.
func (s settings) hostNames() []string {
	names := []string{"localhost", "127.0.0.1", "::1"}
	if host, _, err := net.SplitHostPort(s.listen); err == nil && host != "" {
		names = append(names, host)
	}
	return append(names, listOf(s.hosts)...)
}

// listOf are the parts of a setting that are set apart by commas.
func listOf(setting string) (list []string) {
	for part := range strings.SplitSeq(setting, ",") {
		if part = strings.TrimSpace(part); part != "" {
			list = append(list, part)
		}
	}
	return list
}

// firstAccount prints the link by which the first owner makes an account, where nobody has one.
func firstAccount(ctx context.Context, st *store.Store, p store.Publication, at string, std stdio) error {
	any, err := st.AnyPeople(ctx)
	if err != nil || any {
		return err
	}
	token, err := study.Invite(ctx, st, "", p.ID, store.Owner, 0)
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(std.out, "Nobody has an account yet. The first owner makes theirs, once and within a week, at\n  %sjoin/%s\n", at, token)
	return err
}

func loopback(listen string) bool {
	host, _, err := net.SplitHostPort(listen)
	if err != nil {
		return false
	}
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}

// serve runs the workers and the interface until ctx ends.
func serve(ctx context.Context, s settings, std stdio, ready func(address string)) error {
	log := slog.New(slog.NewTextHandler(std.err, nil))
	st, err := openStore(ctx, s.database, log)
	if err != nil {
		return err
	}
	defer st.Close()
	publication, err := st.EnsurePublication(ctx, s.name, "")
	if err != nil {
		return err
	}
	q, err := queue.New(st)
	if err != nil {
		return err
	}
	if s.furnish != nil {
		if err := s.furnish(ctx, st, q, publication); err != nil {
			return err
		}
	}
	stopWorkers, err := startWorkers(ctx, s, st, log)
	if err != nil {
		return err
	}
	defer stopWorkers()
	var signInAs int64
	if s.visitor != nil {
		if signInAs, err = s.visitor(ctx, st, publication); err != nil {
			return err
		}
	}
	handler, err := web.Handler(web.Options{Store: st, Queue: q, SignInAs: signInAs, Proxies: listOf(s.proxies), Log: log, Closing: ctx, Hosts: s.hostNames(), Demo: s.simulated != "", Samples: s.samples})
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
	at := "http://" + strings.Replace(listener.Addr().String(), "127.0.0.1", "localhost", 1) + "/"
	if err := firstAccount(ctx, st, publication, at, std); err != nil {
		return err
	}
	ready(at)
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
