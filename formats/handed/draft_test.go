package handed

import (
	"archive/zip"
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func docxOf(t testing.TB, document string) string {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, err := z.Create("word/document.xml")
	require.NoError(t, err)
	_, err = w.Write([]byte(document))
	require.NoError(t, err)
	require.NoError(t, z.Close())
	return b.String()
}

// Drafts of every kind keep their headings, lists and paragraphs; what is deleted in a DOCX
// with tracked changes is left out, and nothing typed becomes markup.
func TestDrafts(t *testing.T) {
	const word = `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>
		<w:p><w:pPr><w:pStyle w:val="Title"/></w:pPr><w:r><w:t>Title &lt;b&gt;</w:t></w:r></w:p>
		<w:p><w:pPr><w:pStyle w:val="Heading2"/></w:pPr><w:r><w:t>Tyre </w:t></w:r><w:r><w:t>pressure</w:t></w:r></w:p>
		<w:p><w:pPr><w:outlineLvl w:val="2"/></w:pPr><w:r><w:t>Third</w:t></w:r></w:p>
		<w:p><w:r><w:t>A line</w:t><w:br/><w:t>and another.</w:t></w:r><w:del><w:r><w:t>gone</w:t></w:r></w:del></w:p>
		<w:p><w:pPr><w:numPr/></w:pPr><w:r><w:t>An item</w:t></w:r></w:p><w:p/></w:body></w:document>`
	for _, x := range []struct {
		name, in string
		want     []string
		not      string
	}{
		{"a.md", "# Title\n\n## Tyre *pressure*\n\nA line.\n\n- An item\n\n<script>alert(1)</script>\n", []string{"<h1>Title</h1>", "<h2>Tyre <em>pressure</em></h2>", "<p>A line.</p>", "<li>An item</li>"}, "<script>"},
		{"a.txt", "Title <b>\r\n\r\nA line\nand another.", []string{"<p>Title &lt;b&gt;</p>", "<p>A line and another.</p>"}, "<b>"},
		{"a.html", "<h2>Tyres</h2><p>A line.</p>", []string{`<h2>Tyres</h2>`, "<p>A line.</p>"}, "\x00"},
		{"a.html", "<!doctype html><html lang=de><head><title>T</title></head><body><nav><a href=/>home</a></nav><p>A line.", []string{"<p>A line.</p>"}, "home"},
		{"a.docx", docxOf(t, word), []string{"<h1>Title &lt;b&gt;</h1>", "<h2>Tyre pressure</h2>", "<h3>Third</h3>", "<p>A line<br/>and another.</p>", "<ul><li>An item</li></ul>"}, "gone"},
	} {
		got, err := (*Reader)(nil).Draft(t.Context(), x.name, strings.NewReader(x.in))
		require.NoError(t, err, x.name)
		for _, want := range x.want {
			assert.Contains(t, got.HTML(), want, x.name)
		}
		assert.NotContains(t, got.HTML(), x.not, x.name)
	}
}

func TestDraftsThatAreNone(t *testing.T) {
	bomb := docxOf(t, "<w:document><w:p>"+strings.Repeat(" ", 40<<20))
	for name, in := range map[string]string{"a.docx": "words", "b.docx": "PK\x03\x04broken", "c.docx": docxOf(t, "<w:document><w:p>"), "d.docx": bomb, "e.md": "a\x00b", "f.txt": strings.Repeat("x", 17<<20),
		"g.md": strings.Repeat("> ", 1000) + "x", "h.md": strings.Repeat("[a](", 20_000), "i.md": strings.Repeat("*a_ ", 20_000), "j.md": strings.Repeat("word ", 1<<20), "k.html": strings.Repeat("<p>x</p>", 300_000)} {
		_, err := (*Reader)(nil).Draft(t.Context(), name, strings.NewReader(in))
		assert.Error(t, err, name)
	}
}

// What is damaged, nested or repeated without end is read, or refused, in time in line with its length.
func TestDraftsThatTakeLong(t *testing.T) {
	for name, in := range map[string]string{
		"a.html": strings.Repeat("<b>x", 100_000), "b.html": strings.Repeat("<div>x", 100_000), "c.html": strings.Repeat("<ul><li>x", 50_000), "d.html": strings.Repeat("<table><tr><td>x", 30_000),
		"e.html": strings.Repeat("<blockquote>", 50_000) + "x", "f.md": strings.Repeat("- x\n", 20_000),
	} {
		n, err := (*Reader)(nil).Draft(t.Context(), name, strings.NewReader(in))
		require.NoError(t, err, name)
		assert.False(t, n.Empty(), name)
	}
}

func FuzzDraft(f *testing.F) {
	f.Add("a.md", "# x\n")
	f.Add("a.docx", docxOf(f, "<w:p><w:t>x</w:t></w:p>"))
	f.Fuzz(func(t *testing.T, name, in string) {
		n, err := (*Reader)(nil).Draft(t.Context(), name, strings.NewReader(in))
		if err == nil && len(n.Content) == 0 {
			t.Error("nothing came out, and no error")
		}
	})
}
