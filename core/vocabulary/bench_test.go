package vocabulary

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/reading"

	"github.com/stretchr/testify/require"
)

// BenchmarkVocabulary20 is the vocabulary of twenty pages from their readings. The
// budget is 60 ms; for a hundred, which BenchmarkVocabulary100 takes, 350 ms.
func BenchmarkVocabulary20(b *testing.B)  { benchmarkVocabulary(b, 20) }
func BenchmarkVocabulary100(b *testing.B) { benchmarkVocabulary(b, 100) }

func benchmarkVocabulary(b *testing.B, n int) {
	files, err := filepath.Glob("../../standin/sites/*/*/*winter*.html")
	require.NoError(b, err)
	require.NotEmpty(b, files)
	var readings []*reading.Reading
	words := 0
	for i := range n {
		body, err := os.ReadFile(files[i%len(files)])
		require.NoError(b, err)
		r, err := reading.Read(reading.Page{URL: fmt.Sprintf("https://host%d.example/", i), ContentType: "text/html", Body: body})
		require.NoError(b, err)
		readings = append(readings, r)
		words += r.Counts.Words
	}
	for b.Loop() {
		var pages []corpus.RankedPage
		for i, r := range readings {
			pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "en")})
		}
		Find(b.Context(), corpus.NewField(pages, "en", "winter bike commuting"), nil)
	}
	b.ReportMetric(float64(words)/float64(n), "words/page")
}
