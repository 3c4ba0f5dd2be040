package render_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/core/draft"
	"corpulan/core/fit"
	"corpulan/formats/handed"
	"corpulan/formats/manuscript"
	"corpulan/render"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// whole is a draft with all that one may hold.
const whole = `<h1>Winter *riding* &amp; more</h1><p>A <strong>bold</strong>, an <em>em</em>, a <a href="https://a.example/x?a=1&amp;b=(2)">link</a> and <code>code</code>.<br>A line.</p>
<h2># Not a heading</h2><p>1. no list</p><p>- nor this</p><ul><li><p>One</p><ol start="3"><li>three</li><li>four</li></ol></li><li>Two</li></ul><ol><li>first</li><li>second</li></ol>
<blockquote cite="https://q.example/"><p>Said &lt;b&gt;.</p><p>And more.</p></blockquote><pre>a
  b</pre><table><tr><th>Tyre</th><th>Ice</th></tr><tr><td>studs</td><td><strong>yes</strong> | no</td></tr></table><img src="https://i.example/a.png" alt="A [wheel]"><hr><p>End.</p>`

func textOf(t testing.TB) manuscript.Text {
	t.Helper()
	n, err := (*handed.Reader)(nil).Draft(context.Background(), "a.html", strings.NewReader(whole))
	require.NoError(t, err)
	n.Attrs = &draft.Attrs{Title: `A "title": with signs`, Description: "What it says."}
	return manuscript.Text{Node: n, Language: "en", Answers: []fit.Answer{{Question: "Is it </script> safe?", Answer: "It is, mostly: “yes”."}}}
}

func written(t testing.TB, name string, x manuscript.Text) []byte {
	t.Helper()
	f, ok := render.DraftFormatNamed(name)
	require.True(t, ok)
	var b bytes.Buffer
	require.NoError(t, f.Write(&b, x))
	return b.Bytes()
}

// What is handed over as a file and taken in again is the same text.
func TestDraftsThereAndBack(t *testing.T) {
	x := textOf(t)
	for name, ending := range map[string]string{"md": "a.md", "html": "a.html", "docx": "a.docx"} {
		again, err := (*handed.Reader)(nil).Draft(context.Background(), ending, bytes.NewReader(written(t, name, x)))
		require.NoError(t, err, name)
		assert.Equal(t, x.Node.Title(), again.Title(), name)
		assert.Equal(t, x.Node.Description(), again.Description(), name)
		want, got := x.Node.HTML(), again.HTML()
		switch name {
		case "md": // has no address of a quotation but in its text
			want = strings.Replace(want, ` cite="https://q.example/"`, "", 1)
			want = strings.Replace(want, "<p>And more.</p>", `<p>And more.</p><p><a href="https://q.example/">https://q.example/</a></p>`, 1)
		case "html":
			got = strings.Replace(got, "<article>", "", 1)
		case "docx": // nor has this
			want = strings.Replace(want, ` cite="https://q.example/"`, "", 1)
		}
		assert.Equal(t, want, got, name)
	}
}

// The files are what their standards say: a foreign reader of each.
func TestDraftFiles(t *testing.T) {
	x := textOf(t)
	page := string(written(t, "html", x))
	assert.Contains(t, page, "<title>A &#34;title&#34;: with signs</title>")
	assert.Contains(t, page, `<meta name="description" content="What it says.">`)
	_, data, _ := strings.Cut(page, `<script type="application/ld+json">`)
	data, _, _ = strings.Cut(data, "</script>")
	var faq struct {
		Type   string                  `json:"@type"`
		Entity []struct{ Name string } `json:"mainEntity"`
	}
	require.NoError(t, json.Unmarshal([]byte(data), &faq))
	assert.Equal(t, "FAQPage", faq.Type)
	assert.Equal(t, "Is it </script> safe?", faq.Entity[0].Name)
	require.NoError(t, json.Unmarshal(written(t, "faq", x), &faq))
	assert.Contains(t, string(written(t, "txt", x)), "Said <b>.\n\nAnd more.\n\n")

	program, err := filepath.Abs("../node_modules/.bin/html-validate")
	require.NoError(t, err)
	if _, err := os.Stat(program); err != nil {
		t.Fatal("html-validate is not installed; `make test` installs it")
	}
	folder := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(folder, ".htmlvalidate.json"), []byte(`{"root":true,"extends":["html-validate:standard"],"rules":{"long-title":"off","no-raw-characters":"off","wcag/h63":"off"}}`), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "draft.html"), []byte(page), 0o600))
	cmd := exec.CommandContext(t.Context(), program, "draft.html")
	cmd.Dir = folder
	out, err := cmd.CombinedOutput()
	assert.NoError(t, err, string(out))
}

func unzipped(t testing.TB, b []byte) map[string]string {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(b), int64(len(b)))
	require.NoError(t, err)
	parts := map[string]string{}
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		parts[f.Name] = string(text)
	}
	return parts
}

// Numbered lists begin anew, whatever stood before.
func TestNumberedListsInDOCX(t *testing.T) {
	n, err := (*handed.Reader)(nil).Draft(context.Background(), "a.html", strings.NewReader("<ol><li>a</li></ol><p>x</p><ol start=4><li>b</li></ol>"))
	require.NoError(t, err)
	parts := unzipped(t, written(t, "docx", manuscript.Text{Node: n, Language: "en"}))
	assert.Contains(t, parts["word/numbering.xml"], `<w:startOverride w:val="1"/>`)
	assert.Contains(t, parts["word/numbering.xml"], `<w:startOverride w:val="4"/>`)
	assert.Contains(t, parts["word/document.xml"], `<w:numId w:val="11"/>`)
	assert.Contains(t, parts["word/document.xml"], `<w:numId w:val="12"/>`)
}

func TestComparingDrafts(t *testing.T) {
	read := func(s string) *draft.Node {
		n, err := (*handed.Reader)(nil).Draft(context.Background(), "a.md", strings.NewReader(s))
		require.NoError(t, err)
		return n
	}
	changes := render.CompareDrafts(read("# A\n\nOne two three four.\n\nGone.\n"), read("---\ntitle: T\n---\n# A\n\nOne two 2 four.\n\n## New\n"))
	var lines []string
	for _, c := range changes {
		s := c.Under + ":"
		for _, p := range c.Gone {
			if p.Marked {
				s += " -" + p.Text
			}
		}
		for _, p := range c.Came {
			if p.Marked {
				s += " +" + p.Text
			}
		}
		lines = append(lines, s)
	}
	assert.Equal(t, []string{"Title tag: +T", "A: -three  +2 ", "A: -Gone.", "New: +› New"}, lines)
	assert.Empty(t, render.CompareDrafts(read("# A\n"), read("# A\n")))
}
