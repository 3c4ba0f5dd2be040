package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"strings"
	"time"

	"corpulan/account"
	"corpulan/analysis"
	"corpulan/formats/handed"
	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/metrics"
	"corpulan/queue"
	"corpulan/search"
	"corpulan/store"
	"corpulan/web"
	"corpulan/web/kit"
	"corpulan/words"
)

func runServe(ctx context.Context, args []string, std stdio) error {
	s, rest, err := parseSettings("serve", args)
	if err != nil {
		return err
	}
	if len(rest) > 0 {
		return fmt.Errorf("%w: what is %q?", errUse, rest[0])
	}
	callConnections("corpulan serve")
	return serve(ctx, s, std, func(address string) { fmt.Fprintf(std.out, "Corpulan is at %s\n", address) })
}

// runWork shares the queue with any number of other processes, on any machine
// that reaches the database.
func runWork(ctx context.Context, args []string, std stdio) error {
	s, rest, err := parseSettings("work", args)
	if err != nil {
		return err
	}
	if len(rest) > 0 {
		return fmt.Errorf("%w: what is %q?", errUse, rest[0])
	}
	if s.workers == 0 {
		return fmt.Errorf("%w: --workers must be at least 1", errUse)
	}
	if _, err := listsBeside(s.lists); err != nil {
		return err
	}
	reader, err := handedIn(s)
	if err != nil {
		return err
	}
	log := s.logger(std.err)
	giveWay()
	callConnections("corpulan work")
	st, err := openStore(ctx, s, log)
	if err != nil {
		return err
	}
	defer st.Close()
	figures := metrics.New(st)
	quit, err := watched(ctx, s, figures, log)
	if err != nil {
		return err
	}
	defer quit()
	stop, err := startWorkers(ctx, s, st, nil, reader, log, figures)
	if err != nil {
		return err
	}
	defer stop()
	fmt.Fprintf(std.out, "Working on the queue, %d jobs at once\n", s.workers)
	<-ctx.Done()
	return nil
}

// callConnections says what this process is called in the database's list of connections
// (pg_stat_activity), where the environment does not.
func callConnections(name string) {
	if os.Getenv("PGAPPNAME") == "" {
		_ = os.Setenv("PGAPPNAME", name)
	}
}

// filesAtOnce is how many files that were handed in are read at once. Our own: each may take one core
// and maxMemory of package handed.
const filesAtOnce = 3

// handedIn reads what is handed in, by this program.
func handedIn(s settings) (*handed.Reader, error) {
	program, err := os.Executable()
	if err != nil {
		return nil, fmt.Errorf("finding this program, which reads what is handed in: %w", err)
	}
	return handed.New(program, s.lists, filesAtOnce), nil
}

// openStore brings the schema up to this program and opens the database.
func openStore(ctx context.Context, s settings, log *slog.Logger) (*store.Store, error) {
	if err := store.Migrate(ctx, s.database); err != nil {
		return nil, err
	}
	return store.Open(ctx, s.database, log, s.connections)
}

// runMigrate brings the database up to this program, for who wants that done before the
// processes start; they would do it themselves.
func runMigrate(ctx context.Context, args []string, std stdio) error {
	s, rest, err := parseSettings("migrate", args)
	if err != nil {
		return err
	}
	if len(rest) > 0 {
		return fmt.Errorf("%w: what is %q?", errUse, rest[0])
	}
	if err := store.Migrate(ctx, s.database); err != nil {
		return err
	}
	_, err = fmt.Fprintln(std.out, "The database is up to this program")
	return err
}

// startWorkers begins to work on the queue; the function it returns ends that.
func startWorkers(ctx context.Context, s settings, st *store.Store, analyst *analysis.Analyst, reader *handed.Reader, log *slog.Logger, figures *metrics.Metrics) (stop func(), err error) {
	if s.workers == 0 {
		return func() {}, nil
	}
	guard := gather.Guard{Simulated: s.simulated}
	var keywords search.KeywordService
	if s.keywords != "" {
		keywords = search.KeywordsByHTTP{Address: s.keywords, Client: &http.Client{Timeout: 20 * time.Second}}
	}
	sealer, err := s.sealer()
	if err != nil {
		return nil, err
	}
	var post *jobs.Post
	if s.mail != "" {
		all, err := words.All()
		if err != nil {
			return nil, err
		}
		post = &jobs.Post{Words: all, Server: s.mail, User: s.mailUser, Password: s.mailPassword, From: s.mailFrom, Address: s.address}
	}
	workers, err := jobs.StartWorkers(ctx, jobs.Config{Sealer: sealer, Analyst: analyst, Reader: reader, Post: post, Dial: guard.Dial, Keep: s.keepCaptures, Observe: figures.Job, Fetched: figures.Fetch, Store: st, URL: s.database, Count: s.workers, Keywords: keywords, Pause: s.pause,
		Provider: search.OpenSearch{Template: s.search, Suggest: s.suggest, Client: &http.Client{Timeout: 20 * time.Second}},
		Fetcher:  gather.NewFetcher(gather.DefaultLimits(), guard.Dial), Log: log})
	if err != nil {
		return nil, err
	}
	return func() {
		ending, cancel := context.WithTimeout(context.WithoutCancel(ctx), kit.Shutdown)
		defer cancel()
		if err := workers.Stop(ending); err != nil {
			log.Error("stopping the workers", "error", err)
		}
	}, nil
}

// firstAccount prints the link by which the first owner makes an account, where nobody has one.
func firstAccount(ctx context.Context, st *store.Store, p store.Publication, at string, std stdio) error {
	any, err := st.AnyPeople(ctx)
	if err != nil || any {
		return err
	}
	token, err := account.Invite(ctx, st, "", p.ID, store.Owner, 0)
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(std.out, "Nobody has an account yet. The first owner makes theirs, once and within a week, at\n  %sjoin/%s\n", at, token)
	return err
}

// serve runs the workers and the interface until ctx ends.
func serve(ctx context.Context, s settings, std stdio, ready func(address string)) error {
	lists, err := listsBeside(s.lists)
	if err != nil {
		return err
	}
	reader, err := handedIn(s)
	if err != nil {
		return err
	}
	log := s.logger(std.err)
	st, err := openStore(ctx, s, log)
	if err != nil {
		return err
	}
	defer st.Close()
	publication, err := st.EnsurePublication(ctx, s.publication, "")
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
	figures := metrics.New(st)
	quit, err := watched(ctx, s, figures, log)
	if err != nil {
		return err
	}
	defer quit()
	analyst, err := analysis.NewAnalyst(nil, q.Evidence, analysis.Whole)
	if err != nil {
		return err
	}
	stopWorkers, err := startWorkers(ctx, s, st, analyst, reader, log, figures)
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
	sealer, err := s.sealer()
	if err != nil {
		return err
	}
	var openID *kit.OpenID
	if s.openIDIssuer != "" {
		openID = &kit.OpenID{Issuer: s.openIDIssuer, ClientID: s.openIDClient, Secret: s.openIDPassword, Name: s.openIDName, Address: s.address}
	}
	handler, err := web.New(kit.Options{NoEngine: s.search == "", Lists: lists, Store: st, Queue: q, Analyst: analyst, Reader: reader, SignInAs: signInAs, Observe: figures.Request, Sealer: sealer, OpenID: openID, Proxies: listOf(s.proxies), Log: log, Closing: ctx, Hosts: s.hostNames(), Demo: s.simulated != "", Samples: s.samples, Extras: s.extras, Again: s.again})
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
	at := "http://" + strings.NewReplacer("127.0.0.1", "localhost", "0.0.0.0", "localhost", "[::]", "localhost").Replace(listener.Addr().String()) + "/"
	from := at
	if s.address != "" {
		from = strings.TrimRight(s.address, "/") + "/"
	}
	if err := firstAccount(ctx, st, publication, from, std); err != nil {
		return err
	}
	ready(at)
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	stop, cancel := context.WithTimeout(context.WithoutCancel(ctx), kit.Shutdown)
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
