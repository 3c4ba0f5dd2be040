package reading_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"corpulan/core/reading"

	"golang.org/x/net/html"
)

// BenchmarkRead reads the test pages of the readability module, as they were
// found on the web, and reports how many times html.Parse of the same bytes
// that takes; the budget is 10.
func BenchmarkRead(b *testing.B) {
	out, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", "codeberg.org/readeck/go-readability/v2").Output()
	if err != nil {
		b.Fatal(err)
	}
	benchmarkRead(b, filepath.Join(strings.TrimSpace(string(out)), "test-pages", "*", "source.html"))
}

// BenchmarkReadDemo reads the pages of the stand-in, which are small and hold
// little but prose, so that words weigh more in them than markup.
func BenchmarkReadDemo(b *testing.B) {
	benchmarkRead(b, "../../standin/sites/*/*/*.html", "../../standin/sites/*/*/*/*.html")
}

func benchmarkRead(b *testing.B, patterns ...string) {
	var pages [][]byte
	size := 0
	for _, pattern := range patterns {
		files, err := filepath.Glob(pattern)
		if err != nil {
			b.Fatal(err)
		}
		for _, f := range files {
			p, err := os.ReadFile(f)
			if err != nil {
				b.Fatal(err)
			}
			pages = append(pages, p)
			size += len(p)
		}
	}
	if len(pages) == 0 {
		b.Fatal("no pages")
	}
	b.SetBytes(int64(size))
	if _, err := reading.Read(reading.Page{Body: pages[0]}); err != nil { // the word lists are loaded once a program
		b.Fatal(err)
	}
	var spent, parsing time.Duration
	for b.Loop() {
		start := time.Now()
		for _, p := range pages {
			if _, err := reading.Read(reading.Page{URL: "http://site.example/page", Body: p}); err != nil {
				b.Fatal(err)
			}
		}
		spent += time.Since(start)
		start = time.Now()
		for _, p := range pages {
			if _, err := html.Parse(bytes.NewReader(p)); err != nil {
				b.Fatal(err)
			}
		}
		parsing += time.Since(start)
	}
	b.ReportMetric(float64(spent)/float64(parsing), "×html.Parse")
}

// A page of five megabytes must be read in less than 300 MiB.
func TestMemoryOfALargePage(t *testing.T) {
	var page strings.Builder
	page.WriteString("<title>Long</title><article><h1>Long</h1>")
	for i := 0; page.Len() < 5<<20; i++ {
		fmt.Fprintf(&page, "<h2>Part %d of it</h2>", i)
		page.WriteString(strings.Repeat("<p>The chain is wiped after every ride, and the <a href='/x'>tyres</a> are checked on Sunday.</p>", 4))
	}
	body := []byte(page.String())
	runtime.GC()
	var before runtime.MemStats
	runtime.ReadMemStats(&before)
	var peak atomic.Uint64
	done := make(chan struct{})
	watched := make(chan struct{})
	go func() {
		defer close(watched)
		for {
			var now runtime.MemStats
			runtime.ReadMemStats(&now)
			peak.Store(max(peak.Load(), now.HeapAlloc))
			select {
			case <-done:
				return
			case <-time.After(10 * time.Millisecond):
			}
		}
	}()
	r, err := reading.Read(reading.Page{URL: "http://site.example/page", Body: body})
	close(done)
	<-watched
	if err != nil || r.Counts.Words < 200_000 {
		t.Fatalf("%d words read, error %v", r.Counts.Words, err)
	}
	if used := (peak.Load() - before.HeapAlloc) >> 20; used > 300 {
		t.Errorf("%d MiB at the peak", used)
	}
}
