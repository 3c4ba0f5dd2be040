// Package standin is a small simulated search engine and a small simulated web
// that ship with the program, so that it can be shown and tested without a
// network. Everything on it is invented: sites, people, brands and figures.
//
//   - standin.go   the server; sites/ has pages, index/ results pages, by hand
//   - later.go     three weeks later, in later/: ranks have moved, pages were rewritten
//   - search.go    the engine and its suggestions
//   - matters.go   what else people search for, from matters/, and what they find
//   - written.go   pages made of what matters/ says
//   - keywords.go  the keyword service
//   - lists.go     the demo's keyword lists, in lists/, and how they are made
//   - faults.go    a site on which everything goes wrong
package standin

import (
	"bytes"
	"context"
	"crypto/sha256"
	"embed"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"io/fs"
	"net"
	"net/http"
	"path"
	"slices"
	"strings"
	"time"
)

// OwnSite is the address of the invented publication's own site.
const OwnSite = "http://quillfen.example"

//go:embed index sites later matters lists
var files embed.FS

// page is a results page of the simulated engine.
type page struct {
	Keyword     string   `json:"keyword"`
	Results     []result `json:"results"`
	Questions   []string `json:"questions"`
	Related     []string `json:"related"`
	Suggestions []string `json:"suggestions"`
}

type result struct {
	Path    string `json:"path"`
	Title   string `json:"title"`
	Snippet string `json:"snippet"`
}

// Web is the running stand-in.
type Web struct {
	// Delay is the longest a page takes to answer; each takes its own share of
	// it, always the same, so that pages arrive one by one as on a real web.
	Delay time.Duration

	faults   faults
	receiver receiver
	pages    []page
	later    later
	matters  []matter
	server   *http.Server
	addr     string
}

// Start serves the stand-in on a free loopback port.
func Start(delay time.Duration) (*Web, error) {
	w := &Web{Delay: delay}
	var err error
	if w.pages, err = readIndex("index"); err != nil {
		return nil, err
	}
	if w.later.pages, err = readIndex("later/index"); err != nil {
		return nil, err
	}
	if w.matters, err = readMatters(); err != nil {
		return nil, err
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, fmt.Errorf("starting the stand-in: %w", err)
	}
	w.addr = l.Addr().String()
	w.server = &http.Server{Handler: w, ReadHeaderTimeout: 5 * time.Second}
	go func() { _ = w.server.Serve(l) }() // ends with Stop
	return w, nil
}

// readIndex reads the results pages that are written by hand.
func readIndex(folder string) ([]page, error) {
	var pages []page
	names, err := fs.Glob(files, folder+"/*.json")
	if err != nil {
		return nil, err
	}
	for _, name := range names {
		b, err := files.ReadFile(name)
		if err != nil {
			return nil, err
		}
		var p page
		if err := json.Unmarshal(b, &p); err != nil {
			return nil, fmt.Errorf("stand-in: %s: %w", name, err)
		}
		pages = append(pages, p)
	}
	return pages, nil
}

// Stop ends the stand-in.
func (w *Web) Stop(ctx context.Context) error { return w.server.Shutdown(ctx) }

// Address is where the stand-in listens: host and port.
func (w *Web) Address() string { return w.addr }

// SearchTemplate and SuggestTemplate are the engine's OpenSearch templates.
func (w *Web) SearchTemplate() string {
	return "http://" + w.addr + "/search?q={searchTerms}&count={count}&language={language?}&country={country?}"
}

// Received is where people see what webhooks have sent to Receiver.
func (w *Web) Received() string { return "http://" + w.addr + "/received" }

// SuggestTemplate is described at SearchTemplate.
func (w *Web) SuggestTemplate() string { return "http://" + w.addr + "/suggest?q={searchTerms}" }

// KeywordService is where the simulated keyword service is asked; see docs/keyword-service.md.
func (w *Web) KeywordService() string { return "http://" + w.addr + "/keywords" }

// ServeHTTP answers for the engine at its own address and for every site by
// its host name.
func (w *Web) ServeHTTP(rw http.ResponseWriter, r *http.Request) {
	host, _, err := net.SplitHostPort(r.Host)
	if err != nil {
		host = r.Host
	}
	if strings.HasSuffix(host, ".example") {
		w.serveSite(rw, r, host)
		return
	}
	switch r.URL.Path {
	case "/search":
		w.serveSearch(rw, r)
	case "/suggest":
		w.serveSuggestions(rw, r)
	case "/keywords":
		w.serveKeywords(rw, r)
	case "/received":
		w.receiver.show(rw, r)
	default:
		http.NotFound(rw, r)
	}
}

// serveSite answers with a page of a simulated site.
func (w *Web) serveSite(rw http.ResponseWriter, r *http.Request, host string) {
	if host == FaultHost {
		w.faults.ServeHTTP(rw, r)
		return
	}
	if host == ReceiverHost {
		w.receiver.ServeHTTP(rw, r)
		return
	}
	if w.Delay > 0 && r.URL.Path != "/robots.txt" {
		h := fnv.New32a()
		_, _ = h.Write([]byte(host + r.URL.Path))
		select {
		case <-time.After(w.Delay/4 + time.Duration(h.Sum32()%1000)*(w.Delay*3/4)/1000):
		case <-r.Context().Done():
			return
		}
	}
	name := path.Join("sites", host, path.Clean("/"+r.URL.Path))
	candidates := []string{name + ".html", path.Join(name, "index.html"), name}
	if w.movedOn(host + path.Clean("/"+r.URL.Path)) {
		candidates = append([]string{path.Join("later", name) + ".html"}, candidates...)
	}
	for _, candidate := range candidates {
		if b, err := files.ReadFile(candidate); err == nil {
			h := sha256.Sum256(b)
			rw.Header().Set("Content-Type", typeOf(candidate))
			rw.Header().Set("ETag", fmt.Sprintf(`"%x"`, h[:8]))
			http.ServeContent(rw, r, "", time.Time{}, bytes.NewReader(b)) // answers If-None-Match
			return
		}
	}
	if w.serveWritten(rw, host, r.URL.Path) {
		return
	}
	if host == "saltmarshbikes.example" { // a site that lets only members in
		http.Error(rw, "members only", http.StatusForbidden)
		return
	}
	http.NotFound(rw, r)
}

// typeOf is the media type of a file of a site.
func typeOf(name string) string {
	switch path.Ext(name) {
	case ".txt":
		return "text/plain; charset=utf-8"
	case ".xml":
		return "application/xml"
	}
	return "text/html; charset=utf-8"
}

// find gives the results page of a keyword, by its words in any order.
func (w *Web) find(keyword string) (page, bool) {
	want := words(keyword)
	for _, p := range w.indexOf(want) {
		if slices.Equal(words(p.Keyword), want) {
			return p, true
		}
	}
	return page{}, false
}

func words(s string) []string {
	list := strings.Fields(strings.ToLower(s))
	slices.Sort(list)
	return list
}
