package reading

import (
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"corpulan/core/markup"
)

// bombs are pages that cost a parser out of all proportion to their length.
func bombs() map[string]string {
	repeat := func(n int, one func(i int) string) string {
		var b strings.Builder
		for i := range n {
			b.WriteString(one(i))
		}
		return b.String()
	}
	same := func(s string) func(int) string { return func(int) string { return s } }
	formats := func(n int) string { return repeat(n, func(i int) string { return fmt.Sprintf("<b a%d>", i) }) }
	return map[string]string{
		"reopened":             "<article><p>" + formats(440) + repeat(24_000, same("<p>x")),
		"reopened by blocks":   "<article><p>" + formats(440) + repeat(24_000, same("<div>x</div>")),
		"closed where ignored": "<article><p>" + repeat(440, func(i int) string { return fmt.Sprintf("<b a%d><select></b></select>", i) }) + repeat(24_000, same("<p>x")),
		"closed elsewhere":     "<article><p>" + repeat(440, func(i int) string { return fmt.Sprintf("<i b%d><u></i>", i) }) + repeat(24_000, same("<p>x")),
		"wide tags":            repeat(200, same("<b "+repeat(2000, func(i int) string { return fmt.Sprintf("a%d ", i) })+">x")),
		"bodies":               "<body " + repeat(60_000, func(i int) string { return fmt.Sprintf("a%d ", i) }) + ">" + repeat(30_000, same("<body b>")),
		"htmls":                "<html " + repeat(60_000, func(i int) string { return fmt.Sprintf("a%d ", i) }) + ">" + repeat(30_000, same("<html b>")),
		"anchors":              "<article><p>" + repeat(440, func(i int) string { return fmt.Sprintf("<a href=%d>", i) }) + repeat(24_000, same("<p>x")),
		"tables":               repeat(3000, same("<table><b>x")) + repeat(3000, same("<tr><td>y")),
		"deep":                 repeat(200_000, same("<div>")) + "x",
		"in cells":             "<table><tr><td>" + formats(440) + repeat(24_000, same("<p>x")) + "</td></tr></table>",
	}
}

// Every one of them is read with no more elements than its length explains.
func TestBombsAreDefused(t *testing.T) {
	for name, page := range bombs() {
		t.Run(name, func(t *testing.T) {
			root, err := parse(limitFormatting([]byte(page)))
			require.NoError(t, err)
			nodes := 0
			for range root.Descendants() {
				nodes++
			}
			assert.Less(t, nodes, 2*maxReopened+len(page), "elements of %d bytes", len(page))
			var before, after runtime.MemStats
			runtime.ReadMemStats(&before)
			_, err = Read(Page{URL: "http://a.example/", Body: []byte(page)})
			require.NoError(t, err)
			runtime.ReadMemStats(&after)
			assert.Less(t, (after.TotalAlloc-before.TotalAlloc)>>20, uint64(1500), "MB allocated in all")
		})
	}
}

// Pages that people wrote go through untouched, the sloppiest included.
func TestTameLeavesPagesAlone(t *testing.T) {
	files, err := filepath.Glob("../../standin/sites/*/*/*.html")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, f := range files {
		page, err := os.ReadFile(f)
		require.NoError(t, err)
		assert.Equal(t, string(page), string(limitFormatting(page)), f)
	}
	nineties := "<html><body bgcolor=white><font face=arial>" + strings.Repeat(`<table width="100%"><tr><td><font size=2><b>A row<p>Text and <i>more text<td><font size=2>Another</table>`, 800)
	assert.Equal(t, nineties, string(limitFormatting([]byte(nineties))), "800 rows of unclosed tags")
}

// What is stripped is tags; every word stays.
func TestStrippingKeepsTheText(t *testing.T) {
	page := "<article><p>" + strings.Repeat("<b a1>one <i>two</i></b> <a href=x>three</a> ", 3)
	text := func(b []byte) string {
		root, err := html.Parse(strings.NewReader(string(b)))
		require.NoError(t, err)
		return markup.Text(root)
	}
	stripped := strip([]byte(page), true)
	assert.NotContains(t, string(stripped), "<b")
	assert.Contains(t, string(stripped), "<a href=x>")
	assert.Equal(t, text([]byte(page)), text(stripped))
}
