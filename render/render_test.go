package render

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/reading"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
	"golang.org/x/net/html"
)

// demoField is some of the stand-in's pages.
func demoField(t *testing.T) evidence.Input {
	t.Helper()
	files, err := filepath.Glob("../standin/sites/*/guides/*.html")
	require.NoError(t, err)
	more, err := filepath.Glob("../standin/sites/*/ask/*.html")
	require.NoError(t, err)
	var pages []corpus.RankedPage
	for i, f := range append(files, more...) {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		r, err := reading.Read(reading.Page{URL: "http://site.example/" + filepath.Base(f), Body: b})
		require.NoError(t, err)
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "en")})
	}
	return evidence.Input{Keyword: "winter bike commuting", Language: "en", Pages: pages}
}

// demo is the brief proposed over them, with things typed that try to break out
// of every format.
func demo(t *testing.T) brief.Brief {
	t.Helper()
	e := compute(demoField(t))
	var c brief.Choices
	c.Type(brief.FieldGoal, "# Not a heading\n<script>alert(1)</script> | *not* [a](http://evil.example) `x`")
	c.Type(brief.FieldTitleTag, "<b>Bold</b> & | pipes")
	c.Set(brief.Mark{Kind: brief.TermKind, Key: "odd", Text: "a|b <i>c</i>", State: brief.Adopted})
	return brief.Compose(e, c, brief.Setting{})
}

func write(t *testing.T, name string, b brief.Brief) string {
	t.Helper()
	f, ok := FormatNamed(name)
	require.True(t, ok)
	var out bytes.Buffer
	require.NoError(t, f.Write(&out, b.WithDossier(true)))
	return out.String()
}

// The Markdown is read back by goldmark, a CommonMark parser that is not ours:
// nothing that was typed or captured may turn into markup.
func TestMarkdown(t *testing.T) {
	b := demo(t)
	md := write(t, "md", b)
	var out bytes.Buffer
	require.NoError(t, goldmark.New(goldmark.WithExtensions(extension.Table)).Convert([]byte(md), &out))
	doc, err := html.Parse(&out)
	require.NoError(t, err)
	var headings, cells []string
	var text strings.Builder
	for n := range doc.Descendants() {
		switch {
		case n.Type == html.TextNode:
			text.WriteString(n.Data)
		case n.Data == "h1", n.Data == "h2", n.Data == "h3", n.Data == "h4":
			headings = append(headings, inner(n))
		case n.Data == "td":
			cells = append(cells, inner(n))
		case n.Data == "script", n.Data == "b", n.Data == "em" && inner(n) == "not":
			t.Errorf("<%s> came out of what was typed", n.Data)
		}
	}
	assert.Contains(t, headings, "Brief: winter bike commuting")
	assert.NotContains(t, headings, "Not a heading")
	for _, s := range b.Outline {
		assert.Contains(t, headings, s.Heading)
	}
	assert.Contains(t, cells, "a|b <i>c</i>")
	assert.Contains(t, cells, "bar mitts")
	assert.Contains(t, text.String(), "<script>alert(1)</script>")
	assert.NotContains(t, md, "raw HTML omitted")
}

// What people type and what addresses hold stays what it is: each line a line of
// text, each address one link to itself.
func TestMarkdownOfAwkwardText(t *testing.T) {
	typed := "Title\n===\nSub\n---\n~~~\ncode?\n~~~\n    four spaces\n1. one\n2) two\n+ plus\n- minus\n> quote\n\n![img](x) ~~gone~~ &amp; `tick`"
	url := `http://a.example/p?q="><script>&x=<b>|\` + "`" + ` y`
	b := brief.Brief{Keyword: "x", Fields: brief.Fields{Notes: typed}, Outline: []brief.Section{{Level: 2, Heading: "H", Note: typed}},
		Sources: []brief.Source{{Rank: 1, URL: url, Title: "A|B"}}, Links: brief.Links{Outward: []brief.Outward{{URL: url}}}, Intent: []brief.Intent{{Kind: "informational", Share: 1}}}
	md := write(t, "md", b)
	assert.NotContains(t, md, "ranks )")
	assert.NotContains(t, write(t, "html", b), "ranks <")
	var out bytes.Buffer
	require.NoError(t, goldmark.New(goldmark.WithExtensions(extension.Table, extension.Strikethrough)).Convert([]byte(md), &out))
	doc, err := html.Parse(&out)
	require.NoError(t, err)
	links := 0
	var text []string
	for n := range doc.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		switch n.Data {
		case "script", "b", "pre", "code", "ol", "blockquote", "img", "hr", "del":
			t.Errorf("<%s> came out of what was typed: %s", n.Data, inner(n))
		case "h1", "h2", "h3":
			assert.Contains(t, []string{"Brief: x", "Dossier: x", "Notes", "Outline", "H", "Links out", "Pages this was made from"}, inner(n))
		case "a":
			links++
			assert.Equal(t, `http://a.example/p?q=%22%3E%3Cscript%3E&x=%3Cb%3E%7C%5C%60%20y`, n.Attr[0].Val)
		case "p":
			text = append(text, inner(n))
		}
	}
	assert.Equal(t, 2, links)
	for line := range strings.Lines(typed) {
		if line = strings.TrimSpace(line); line != "" {
			assert.Contains(t, strings.Join(text, "\n"), line)
		}
	}
}

func inner(n *html.Node) string {
	var b strings.Builder
	for d := range n.Descendants() {
		if d.Type == html.TextNode {
			b.WriteString(d.Data)
		}
	}
	return b.String()
}

func TestHTML(t *testing.T) {
	b := demo(t)
	doc, err := html.Parse(strings.NewReader(write(t, "html", b)))
	require.NoError(t, err)
	h3 := []string{}
	for n := range doc.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		assert.NotEqual(t, "script", n.Data)
		assert.NotEqual(t, "b", n.Data)
		if n.Data == "h3" {
			h3 = append(h3, inner(n))
		}
		for _, a := range n.Attr {
			assert.False(t, a.Key == "src" || strings.HasPrefix(a.Key, "on"), "one file, nothing loaded or run: %s", a.Key)
		}
	}
	b.Each(func(s *brief.Section) {
		if s.Level == brief.TopLevel {
			assert.Contains(t, h3, s.Heading)
		}
	})
}

// Against the published schemas, by a JSON Schema validator that is not ours.
func TestJSONMeetsItsSchema(t *testing.T) {
	var doc any
	require.NoError(t, json.Unmarshal([]byte(write(t, "json", demo(t))), &doc))
	schema := compile(t, "brief.json")
	assert.NoError(t, schema.Validate(doc))
	empty := brief.Compose(compute(evidence.Input{Keyword: "x", Language: "en"}), brief.Choices{}, brief.Setting{})
	require.NoError(t, json.Unmarshal([]byte(write(t, "json", empty)), &doc))
	assert.NoError(t, schema.Validate(doc), "a brief of nothing")
	doc.(map[string]any)["outline"] = nil
	assert.Error(t, schema.Validate(doc), "the schema refuses what is wrong")
}

func TestReadingsMeetTheirSchema(t *testing.T) {
	schema := compile(t, "reading.json")
	files, err := filepath.Glob("../standin/sites/*/*/*.html")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, f := range files {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		r, err := reading.Read(reading.Page{Body: b})
		require.NoError(t, err)
		j, err := json.Marshal(r)
		require.NoError(t, err)
		var doc any
		require.NoError(t, json.Unmarshal(j, &doc))
		assert.NoError(t, schema.Validate(doc), f)
	}
}

func TestEvidenceMeetsItsSchema(t *testing.T) {
	schema := compile(t, "evidence.json")
	asked := []string{"Is it safe to cycle in the snow?"}
	for name, in := range map[string]evidence.Input{
		"demo": demoField(t), "nothing": {Keyword: "x", Language: "en"}, "asked only": {Keyword: "x", Language: "de", Asked: asked, Related: asked},
	} {
		var out bytes.Buffer
		require.NoError(t, Evidence(&out, compute(in)))
		var doc any
		require.NoError(t, json.Unmarshal(out.Bytes(), &doc))
		assert.NoError(t, schema.Validate(doc), name)
		doc.(map[string]any)["themes"] = nil
		assert.Error(t, schema.Validate(doc), "the schema refuses what is wrong")
	}
}

func compile(t *testing.T, name string) *jsonschema.Schema {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile("../docs/schema/" + name)
	require.NoError(t, err)
	return s
}

func TestWords(t *testing.T) {
	assert.Equal(t, "once", Times(brief.Brief{}.In(), 1, 1))
	assert.Equal(t, "3 times", Times(brief.Brief{}.In(), 3, 3))
	assert.Equal(t, "1 to 4 times", Times(brief.Brief{}.In(), 1, 4))
	assert.Equal(t, "1, 4, 9", Ranks([]int{1, 4, 9}))
	assert.Equal(t, "at will, about 34 times", uses(brief.Brief{}.In(), brief.Term{Lower: 20, Median: 34, Upper: 62, AtWill: true}))
	assert.Equal(t, "~34×", usesShort(brief.Term{Lower: 20, Median: 34, Upper: 62, AtWill: true}))
	assert.Equal(t, "2–5×", usesShort(brief.Term{Lower: 2, Upper: 5}))
	_, ok := FormatNamed("exe")
	assert.False(t, ok)
}

func compute(in evidence.Input) *evidence.Evidence {
	e, err := evidence.Compute(context.Background(), in)
	if err != nil {
		panic(err)
	}
	return e
}
