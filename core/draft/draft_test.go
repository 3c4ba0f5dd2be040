package draft_test

import (
	"encoding/json"
	"strings"
	"testing"

	"corpulan/core/draft"
	"corpulan/core/reading"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"pgregory.net/rapid"
)

func fromHTML(t testing.TB, s, page string) *draft.Node {
	t.Helper()
	root, err := html.Parse(strings.NewReader(s))
	require.NoError(t, err)
	n, err := draft.FromHTML(root, page)
	require.NoError(t, err)
	return n
}

func oneLine(n *draft.Node) string { return strings.ReplaceAll(n.HTML(), "\n", "") }

// What pages are made of becomes a text: each row is HTML as sites write it, and the text.
func TestFromHTML(t *testing.T) {
	for _, x := range []struct{ name, in, want string }{
		{"paragraphs and headings", "<h2>A <span>b</span></h2><p>One\n two <b>bold</b><i> and</i> more.</p>", "<h2>A b</h2><p>One two <strong>bold</strong><em> and</em> more.</p>"},
		{"text without paragraphs", "<div>One <div>two</div> three<br>four</div>", "<p>One</p><p>two</p><p>three<br/>four</p>"},
		{"lists within lists", "<ul><li>a<ul><li>b</li></ul></li><li><p>c</p><p>d</p></li></ul>", "<ul><li><p>a</p><ul><li>b</li></ul></li><li><p>c</p><p>d</p></li></ul>"},
		{"a list beside the items", "<ol start=3><li>a</li><ol><li>b</li></ol></ol>", `<ol start="3"><li><p>a</p><ol><li>b</li></ol></li></ol>`},
		{"an empty list", "<ul><li> </li></ul><p>x</p>", "<p>x</p>"},
		{"links", `<p><a href="/b">in</a> <a href="https://o.example/">out</a> <a href="javascript:x">none</a> <a href=" mailto:a@b.example ">mail</a></p>`, `<p><a href="https://s.example/b">in</a> <a href="https://o.example/">out</a> none <a href="mailto:a@b.example">mail</a></p>`},
		{"images", `<p>before <img src="i.png" alt="a chain"> after</p><img src="data:image/png;base64,xx">`, `<p>before after</p><img src="https://s.example/d/i.png" alt="a chain"/>`},
		{"a table of data", "<table><thead><tr><th>a</th><th>b</th></tr></thead><tr><td colspan=2><b>c</b></td></tr></table>", `<table><tbody><tr><th>a</th><th>b</th></tr><tr><td colspan="2"><strong>c</strong></td></tr></tbody></table>`},
		{"a table that lays out the page", "<table><tr><td><h2>A</h2><p>b</p></td></tr></table>", "<h2>A</h2><p>b</p>"},
		{"a quotation", `<blockquote cite="/q"><p>said</p></blockquote>`, `<blockquote cite="https://s.example/q"><p>said</p></blockquote>`},
		{"code", "<pre><code>a\n  b &lt;</code></pre>", "<pre>a  b &lt;</pre>"},
		{"what is hidden", "<script>x</script><style>y</style><template>z</template><p>a<!-- b --></p>", "<p>a</p>"},
		{"definitions", "<dl><dt>psi</dt><dd>a unit</dd></dl>", "<p><strong>psi</strong></p><p>a unit</p>"},
		{"nothing", "  <div> </div>", "<p></p>"},
		{"signs", "<p>1 &lt; 2 &amp; “3”</p>", "<p>1 &lt; 2 &amp; “3”</p>"},
	} {
		assert.Equal(t, x.want, oneLine(fromHTML(t, x.in, "https://s.example/d/page")), x.name)
	}
	deep := fromHTML(t, strings.Repeat("<blockquote><div>", 200)+"<p>in the deep</p>", "")
	assert.Contains(t, deep.HTML(), "in the deep")
	b, err := json.Marshal(deep)
	require.NoError(t, err)
	_, err = draft.Parse(b)
	assert.NoError(t, err, "what is made of HTML is within the bounds")
}

// A draft that is written as HTML and read again is the same.
func TestHTMLAndBack(t *testing.T) {
	word := rapid.StringMatching(`[a-zäöü<&"' ]{0,12}[a-z.]`)
	inline := rapid.Custom(func(r *rapid.T) string {
		s := html.EscapeString(strings.TrimSpace(word.Draw(r, "word")))
		return rapid.SampledFrom([]string{s, "<strong>" + s + "</strong>", "<em>" + s + "</em>", `<a href="https://a.example/x">` + s + "</a>", "<code>" + s + "</code>", s + "<br>" + s}).Draw(r, "inline")
	})
	block := rapid.Custom(func(r *rapid.T) string {
		in := strings.Join(rapid.SliceOfN(inline, 1, 4).Draw(r, "inlines"), " ")
		return rapid.SampledFrom([]string{"<p>" + in + "</p>", "<h2>" + in + "</h2>", "<ul><li>" + in + "</li><li>" + in + "</li></ul>", "<ol><li><p>" + in + "</p><ul><li>" + in + "</li></ul></li></ol>", "<blockquote><p>" + in + "</p></blockquote>", "<table><tr><th>" + in + "</th><td>" + in + "</td></tr></table>", "<hr>"}).Draw(r, "block")
	})
	rapid.Check(t, func(r *rapid.T) {
		n := fromHTML(t, strings.Join(rapid.SliceOfN(block, 1, 6).Draw(r, "blocks"), ""), "")
		once := n.HTML()
		assert.Equal(r, once, fromHTML(t, once, "").HTML())
		b, err := json.Marshal(n)
		require.NoError(r, err)
		again, err := draft.Parse(b)
		require.NoError(r, err, string(b))
		assert.Equal(r, once, again.HTML(), "the editor's JSON")
	})
}

func TestParse(t *testing.T) {
	ok := `{"type":"doc","attrs":{"title":"T","description":null},"content":[{"type":"heading","attrs":{"level":9},"content":[{"type":"text","text":"a\u0000b","marks":[{"type":"blink"},{"type":"link","attrs":{"href":"javascript:x"}},{"type":"strong"}]}]},{"type":"image","attrs":{"src":"data:x","alt":"an alt"}},{"type":"table","content":[{"type":"table_row","content":[{"type":"table_cell","attrs":{"colspan":900000000,"rowspan":-1,"colwidth":null},"content":[{"type":"paragraph"}]}]}]}]}`
	n, err := draft.Parse([]byte(ok))
	require.NoError(t, err)
	assert.Equal(t, "T", n.Title())
	assert.Equal(t, `<h6><strong>a b</strong></h6><img src="" alt="an alt"/><table><tbody><tr><td colspan="50"></td></tr></tbody></table>`, oneLine(n))
	for name, bad := range map[string]string{
		"no JSON": "{", "another root": `{"type":"paragraph"}`, "an empty document": `{"type":"doc"}`, "an unknown node": `{"type":"doc","content":[{"type":"iframe"}]}`,
		"text beside blocks": `{"type":"doc","content":[{"type":"text","text":"x"}]}`, "a cell outside a row": `{"type":"doc","content":[{"type":"table","content":[{"type":"table_cell"}]}]}`,
		"a null": `{"type":"doc","content":[null]}`, "an empty text": `{"type":"doc","content":[{"type":"paragraph","content":[{"type":"text","text":""}]}]}`,
		"too deep":  `{"type":"doc","content":[` + strings.Repeat(`{"type":"blockquote","content":[`, 100) + `{"type":"paragraph"}` + strings.Repeat("]}", 100) + `]}`,
		"too large": `{"type":"doc","content":[{"type":"paragraph","content":[{"type":"text","text":"` + strings.Repeat("x", draft.Largest) + `"}]}]}`,
	} {
		_, err := draft.Parse([]byte(bad))
		assert.Error(t, err, name)
	}
	for href, leads := range map[string]bool{"https://a.example/": true, "/b": true, "#c": true, "b/c": true, "mailto:a@b.example": true, "JavaScript:x": false, "data:text/html,x": false, "": false, "a b": false, "vbscript:x": false, "//c.example/": true} {
		assert.Equal(t, leads, draft.Leads(href), href)
	}
	assert.False(t, draft.Shows("mailto:a@b.example"))
}

// All of a draft counts as the author's: nothing in it is taken for a site's.
func TestNothingOfADraftIsLeftOut(t *testing.T) {
	n := fromHTML(t, `<h1>Winter</h1><p>By Ada Holm</p><h2>Related articles</h2><p>Photo: Ada Holm</p><p>14 March 2026</p><ul><li><a href="https://a.example/1">one</a></li><li><a href="https://a.example/2">two</a></li></ul><h2>Share this</h2><p>Read more about it with the words that you know.</p><blockquote><p>He said it is cold.</p></blockquote>`, "")
	doc := n.Read("https://s.example/x", "en")
	r := doc.Reading
	assert.Empty(t, r.Struck)
	assert.Empty(t, r.StruckLines)
	assert.Equal(t, []string{"Winter", "Related articles", "Share this"}, []string{r.Headings[0].Text, r.Headings[1].Text, r.Headings[2].Text})
	assert.Equal(t, 2, r.Counts.ExternalLinks)
	assert.Equal(t, 1, r.Counts.Lists)
	all := r.Text()
	for _, part := range []string{"By Ada Holm", "Photo: Ada Holm", "14 March 2026", "one", "two", "Read more"} {
		assert.Contains(t, all, part)
	}
	assert.Equal(t, "q", r.Sections[3].Lines[len(r.Sections[3].Lines)-1:], "a quotation is one")
	var kinds []byte
	for _, b := range n.Blocks() {
		kinds = append(kinds, b.Kind)
	}
	assert.Equal(t, "pppppllppq", string(kinds), "the blocks as the editor counts them")
	empty := draft.New()
	assert.True(t, empty.Empty())
	assert.Zero(t, empty.Read("", "en").Reading.Counts.Words)
}

// Of a page of which only the reading is kept its structure comes back as far as it goes.
func TestFromAReading(t *testing.T) {
	r := &reading.Reading{Title: "T", Sections: []reading.Section{{Text: "Opening.", Lines: "p"}, {Level: 2, Heading: "Head", Text: "One.\nitem\nitem two\nsaid", Lines: "pllq"}}}
	n := draft.FromReading(r)
	assert.Equal(t, "<p>Opening.</p><h2>Head</h2><p>One.</p><ul><li>item</li><li>item two</li></ul><blockquote><p>said</p></blockquote>", oneLine(n))
	assert.Equal(t, "T", n.Title())
	assert.Equal(t, "<p></p>", oneLine(draft.FromReading(&reading.Reading{})))
}

func FuzzParse(f *testing.F) {
	f.Add([]byte(`{"type":"doc","content":[{"type":"paragraph","content":[{"type":"text","text":"x"}]}]}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		n, err := draft.Parse(b)
		if err != nil {
			return
		}
		n.Read("", "en")
		_ = n.HTML()
		n.Blocks()
	})
}

func FuzzFromHTML(f *testing.F) {
	f.Add("<table><tr><td>x<li>y<p>z</table>")
	f.Fuzz(func(t *testing.T, s string) {
		root, err := html.Parse(strings.NewReader(s))
		if err != nil {
			return
		}
		n, err := draft.FromHTML(root, "https://a.example/")
		if err != nil {
			return
		}
		b, err := json.Marshal(n)
		require.NoError(t, err)
		if _, err = draft.Parse(b); err != nil {
			assert.ErrorIs(t, err, draft.ErrTooLarge, string(b))
		}
	})
}
