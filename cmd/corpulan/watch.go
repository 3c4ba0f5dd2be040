package main

import (
	"context"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/http/pprof"
	"time"

	"corpulan/metrics"
)

// watched opens the ports at which an operator's programs find figures and profiles, where the
// settings name them; quit shuts them. They are apart from the interface, so that no proxy
// leads there by mistake.
func watched(ctx context.Context, s settings, figures *metrics.Metrics, log *slog.Logger) (quit func(), err error) {
	var servers []*http.Server
	quit = func() {
		for _, x := range servers {
			_ = x.Close() // nobody waits for these
		}
	}
	open := func(at string, handler http.Handler) error {
		l, err := new(net.ListenConfig).Listen(ctx, "tcp", at)
		if err != nil {
			return fmt.Errorf("%s cannot be listened on: %w", at, err)
		}
		x := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn)}
		servers = append(servers, x)
		go func() { _ = x.Serve(l) }() // ends with quit
		return nil
	}
	if s.metrics != "" {
		mux := http.NewServeMux()
		mux.Handle("/metrics", figures.Handler())
		if err := open(s.metrics, mux); err != nil {
			quit()
			return nil, err
		}
	}
	if s.pprof != "" {
		mux := http.NewServeMux()
		mux.HandleFunc("/debug/pprof/", pprof.Index)
		mux.HandleFunc("/debug/pprof/cmdline", pprof.Cmdline)
		mux.HandleFunc("/debug/pprof/profile", pprof.Profile)
		mux.HandleFunc("/debug/pprof/symbol", pprof.Symbol)
		mux.HandleFunc("/debug/pprof/trace", pprof.Trace)
		if err := open(s.pprof, mux); err != nil {
			quit()
			return nil, err
		}
	}
	return quit, nil
}
