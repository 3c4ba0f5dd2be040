package main

import (
	"fmt"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// simulated is a search engine and a web of as many pages as are wanted, on three
// to a host, no two alike and none the same at the next look.
type simulated struct {
	address  string
	server   *http.Server
	words    []string // of the demo's articles
	headings []string
	pages    int
}

func startWeb(pages int) (*simulated, error) {
	files, err := filepath.Glob("standin/sites/*/*/*.html")
	if err != nil || len(files) == 0 {
		return nil, fmt.Errorf("the demo's articles are not in standin/sites: %w", err)
	}
	w := &simulated{pages: pages}
	for _, f := range files {
		b, err := os.ReadFile(f)
		if err != nil {
			return nil, err
		}
		for line := range strings.Lines(string(b)) {
			line = strings.TrimSpace(line)
			if strings.HasPrefix(line, "<h2") {
				w.headings = append(w.headings, line)
			} else if text, ok := strings.CutPrefix(line, "<p>"); ok {
				w.words = append(w.words, strings.Fields(strings.TrimSuffix(text, "</p>"))...)
			}
		}
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	w.address = l.Addr().String()
	w.server = &http.Server{Handler: w, ReadHeaderTimeout: 5 * time.Second}
	go func() { _ = w.server.Serve(l) }() // ends with close
	return w, nil
}

func (w *simulated) close() { _ = w.server.Close() }

// paragraph is some sixty words in runs of three as people wrote them: the terms
// are the trade's, and no page is near another's copy.
func (w *simulated) paragraph() string {
	var b strings.Builder
	for range 20 {
		at := rand.IntN(len(w.words) - 3)
		b.WriteString(strings.Join(w.words[at:at+3], " "))
		b.WriteByte(' ')
	}
	return b.String()
}

// ServeHTTP answers for the engine and for every site.
func (w *simulated) ServeHTTP(rw http.ResponseWriter, r *http.Request) {
	switch {
	case r.URL.Path == "/robots.txt":
		http.NotFound(rw, r)
	case r.URL.Path == "/search":
		rw.Header().Set("Content-Type", "application/rss+xml")
		fmt.Fprint(rw, "<rss><channel>")
		for i := range w.pages {
			fmt.Fprintf(rw, "<item><title>Page %d on winter bike commuting</title><link>http://h%d.example/p%d</link></item>", i, i/3, i)
		}
		fmt.Fprint(rw, "</channel></rss>")
	default:
		time.Sleep(time.Duration(50+rand.IntN(150)) * time.Millisecond)
		rw.Header().Set("Content-Type", "text/html; charset=utf-8")
		fmt.Fprintf(rw, `<html lang="en"><title>%s</title><article><h1>Winter bike commuting</h1>`, r.Host)
		for i := range 24 {
			if i%4 == 0 {
				fmt.Fprintln(rw, w.headings[rand.IntN(len(w.headings))])
			}
			fmt.Fprintf(rw, "<p>%s</p>\n", w.paragraph())
		}
		fmt.Fprint(rw, "</article></html>")
	}
}
