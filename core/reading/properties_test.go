package reading

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// drawPage makes a page of headings of any level, paragraphs, lists, tables,
// furniture and odd nesting.
func drawPage(t *rapid.T) string {
	word := rapid.SampledFrom(strings.Fields("chain tyre frost lamp glove salt brake ride cold road oil wool light rain hill"))
	sentence := func(least int) string {
		return strings.Join(rapid.SliceOfN(word, least, 14).Draw(t, "words"), " ") + ". "
	}
	var b strings.Builder
	b.WriteString(`<html lang="en"><body><main>`)
	for i := range rapid.IntRange(1, 14).Draw(t, "blocks") {
		switch rapid.IntRange(0, 7).Draw(t, "kind") {
		case 0, 1:
			level := rapid.IntRange(1, 6).Draw(t, "level")
			fmt.Fprintf(&b, "<h%d>%s %d</h%d>", level, strings.TrimSuffix(sentence(1), ". "), i, level)
		case 2, 3:
			fmt.Fprintf(&b, "<p>%s%s</p>", sentence(5), sentence(5))
		case 4:
			fmt.Fprintf(&b, "<ul><li>%s<li>%s</ul>", sentence(2), sentence(2))
		case 5:
			fmt.Fprintf(&b, "<div><section><p>%s</p></div>", sentence(8))
		case 6:
			fmt.Fprintf(&b, "<table><tr><td>%s<td>%s<tr><td>%s<td>%s</table>", sentence(2), sentence(2), sentence(2), sentence(2))
		case 7:
			b.WriteString(`<nav><a href="/">Home</a> <a href="/b">Blog</a></nav><h2>Related posts</h2>`)
		}
	}
	return b.String()
}

func TestSectionsAndHeadingsAreOneTree(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r, err := Read(Page{URL: "http://site.example/a", Body: []byte(drawPage(t))})
		require.NoError(t, err)
		require.Len(t, r.Sections, len(r.Headings)+1)
		offset, before := 0, 0
		for i, s := range r.Sections {
			require.Equal(t, offset, s.Offset, "sections stand one behind the other")
			offset += s.Words + len(strings.Fields(s.Heading))
			if i == 0 {
				continue
			}
			h := r.Headings[i-1]
			require.Equal(t, []any{s.Level, s.Depth, s.Heading, s.Words}, []any{h.Level, h.Depth, h.Text, h.Words})
			require.LessOrEqual(t, h.Depth, before+1, "no level of the tree is skipped")
			require.LessOrEqual(t, h.Depth, h.Level)
			require.Positive(t, h.Depth)
			before = h.Depth
		}
		require.Equal(t, offset, r.Counts.Words)
		require.True(t, r.StopShare >= 0 && r.StopShare <= 1)
		require.LessOrEqual(t, r.Paragraphs.Median, r.Paragraphs.Longest)
	})
}

func TestXHTMLIsOpened(t *testing.T) {
	const head = `<?xml version="1.0"?>`
	for in, want := range map[string]string{
		head + `<title/><p>x</p>`:            head + `<title></title><p>x</p>`,
		head + `<script src="/a.js" />y`:     head + `<script src="/a.js" ></script>y`,
		head + `<div class="a"/><br/>`:       head + `<div class="a"></div><br/>`,
		head + `<a href=/x/>link</a>`:        head + `<a href=/x/>link</a>`, // a slash of the address
		`<!doctype html><div class="a"/>one`: `<!doctype html><div class="a"/>one`,
	} {
		assert.Equal(t, want, string(openXHTML([]byte(in))))
	}
}

func TestWhatStandsBetween(t *testing.T) {
	for name, c := range map[string]struct{ page, want string }{
		"a wall":                     {`<p>Please enable JavaScript to go on.</p>`, "it needs JavaScript to be shown"},
		"a check":                    {`<title>Just a moment</title><p>Verify you are human by completing the action below.</p>`, "it asks whether a person is there"},
		"a pay wall":                 {`<h1>Frost</h1><p>Subscribe to continue reading.</p>`, "it asks to sign in or to pay"},
		"a tile shop":                {`<script src="/a.js"></script><nav>` + strings.Repeat(`<a href="/p">Lamp of brass for the bar</a> `, 12) + `</nav>`, ""},
		"an article about the thing": {`<p>Enable JavaScript to see it.</p>` + paragraph + paragraph, ""},
		"data are no program":        {`<script type="application/ld+json">{"@type":"Product"}</script><p>Lamp</p>`, ""},
	} {
		assert.Equal(t, c.want, read(t, "<html><body>"+c.page).Barrier.Message().String(), name)
	}
}
