package reading_test

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"
	"time"

	"corpulan/core/reading"

	"golang.org/x/net/html"
)

// BenchmarkRead reads every page of the stand-in and reports how many times
// html.Parse of the same bytes that takes; the budget is 10.
func BenchmarkRead(b *testing.B) {
	files, _ := filepath.Glob("../../standin/sites/*/*/*.html")
	more, _ := filepath.Glob("../../standin/sites/*/*/*/*.html")
	var pages [][]byte
	size := 0
	for _, f := range append(files, more...) {
		p, err := os.ReadFile(f)
		if err != nil {
			b.Fatal(err)
		}
		pages = append(pages, p)
		size += len(p)
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
