package fit_test

import (
	"os"
	"strings"
	"testing"

	"corpulan/core/draft"
	"corpulan/core/fit"
	"corpulan/core/language"

	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
)

// A draft of 3,000 words, as it is measured at every pause of typing: reading it, its fit,
// its marks and figures, its closeness to ten pages.
func BenchmarkMeasure3000Words(b *testing.B) {
	brief := briefOf(b)
	raw, err := os.ReadFile("../../e2e/testdata/article.md")
	require.NoError(b, err)
	var body strings.Builder
	for range 3 {
		for p := range strings.SplitSeq(string(raw), "\n\n") {
			body.WriteString("<p>" + strings.TrimLeft(p, "# ") + "</p>")
		}
	}
	root, err := html.Parse(strings.NewReader(body.String()))
	require.NoError(b, err)
	n, err := draft.FromHTML(root, "")
	require.NoError(b, err)
	pages := articles(b)
	shingles, lang := fit.NewShingles(pages), language.For("en")
	known := fit.NewKnown(pages, lang)
	b.Run("read", func(b *testing.B) {
		for b.Loop() {
			n.Read("", "en")
		}
	})
	doc := n.Read("", "en")
	b.Run("fit", func(b *testing.B) {
		for b.Loop() {
			fit.Of(&brief, doc, nil)
		}
	})
	b.Run("closeness", func(b *testing.B) {
		for b.Loop() {
			shingles.Close(doc)
		}
	})
	b.Run("marks", func(b *testing.B) {
		for b.Loop() {
			fit.Marks(&brief, n, doc, nil, nil)
		}
	})
	b.Run("figures", func(b *testing.B) {
		for b.Loop() {
			known.Figures(n, lang)
		}
	})
}
