package standin

import (
	"compress/gzip"
	"net/http"
	"strings"
	"sync"
	"time"
)

// FaultHost is a site of the simulated web that does all that sites do wrong.
// The keyword "the fault site" ranks every one of its pages.
const FaultHost = "faults.example"

// faults answers for FaultHost.
type faults struct {
	mu    sync.Mutex
	calls map[string]int
}

// call counts how often a path has been asked for.
func (f *faults) call(path string) int {
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.calls == nil {
		f.calls = map[string]int{}
	}
	f.calls[path]++
	return f.calls[path]
}

const faultArticle = `<html lang="en"><head><title>A page behind a fault</title></head><body><article><h1>A page behind a fault</h1>`

// prose is enough text for a page to be taken for an article.
func prose() string {
	return strings.Repeat("<p>The road was wet and cold that morning, and the rider who had wiped the chain the night before was glad of it.</p>", 10)
}

func (f *faults) ServeHTTP(rw http.ResponseWriter, r *http.Request) {
	write := func(contentType, body string) {
		rw.Header().Set("Content-Type", contentType)
		_, _ = rw.Write([]byte(body)) // the reader may be gone
	}
	const htmlType = "text/html; charset=utf-8"
	switch r.URL.Path {
	case "/robots.txt":
		write("text/plain", "User-agent: *\nDisallow: /robots/\n")
	case "/robots/page":
		write(htmlType, faultArticle+prose())
	case "/hang":
		<-r.Context().Done()
	case "/drip":
		rw.Header().Set("Content-Type", htmlType)
		for r.Context().Err() == nil {
			_, _ = rw.Write([]byte("."))
			_ = http.NewResponseController(rw).Flush()
			select {
			case <-time.After(50 * time.Millisecond):
			case <-r.Context().Done():
			}
		}
	case "/loop":
		http.Redirect(rw, r, "/loop/again", http.StatusFound)
	case "/loop/again":
		http.Redirect(rw, r, "/loop", http.StatusFound)
	case "/refused":
		http.Error(rw, "no", http.StatusForbidden)
	case "/missing":
		http.NotFound(rw, r)
	case "/busy":
		rw.Header().Set("Retry-After", "3600")
		http.Error(rw, "later", http.StatusTooManyRequests)
	case "/second-time":
		if f.call(r.URL.Path)%2 == 1 {
			http.Error(rw, "once", http.StatusInternalServerError)
			return
		}
		write(htmlType, faultArticle+prose())
	case "/huge":
		f.huge(rw, r)
	case "/charset":
		// Says UTF-8 and is windows-1252: the bytes of "Größe".
		write(htmlType, strings.Replace(faultArticle, "behind a fault</h1>", "whose charset lies: Gr\xf6\xdfe</h1>", 1)+prose())
	case "/script-only":
		write(htmlType, `<html><head><title>App</title></head><body><div id="app"></div><noscript>x</noscript><p>Please enable JavaScript to continue.</p></body></html>`)
	case "/pdf":
		write("application/pdf", "%PDF-1.7\n")
	case "/copy":
		http.ServeFileFS(rw, r, files, "sites/loamandlever.example/journal/frost-and-the-daily-ride.html")
	case "/inside":
		http.Redirect(rw, r, "http://127.0.0.1:9/admin", http.StatusFound)
	default:
		http.NotFound(rw, r)
	}
}

// huge sends a gigabyte, packed small.
func (f *faults) huge(rw http.ResponseWriter, r *http.Request) {
	rw.Header().Set("Content-Type", "text/html; charset=utf-8")
	rw.Header().Set("Content-Encoding", "gzip")
	z := gzip.NewWriter(rw)
	block := []byte(strings.Repeat("<p>much too much of it</p>", 2520))
	for sent := 0; sent < 1<<30 && r.Context().Err() == nil; sent += len(block) {
		if _, err := z.Write(block); err != nil {
			return
		}
	}
	_ = z.Close()
}
