package render_test

import (
	"bytes"
	"context"
	"strings"
	"testing"

	"corpulan/core/draft"
	"corpulan/formats/docx"
	"corpulan/formats/handed"
	"corpulan/formats/manuscript"
	"corpulan/formats/markdown"
	"corpulan/render"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// drafts are texts of any blocks, with the signs in them that mean something to Markdown.
func drafts() *rapid.Generator[*draft.Node] {
	word := rapid.SampledFrom([]string{"ice", "*", "_a_", "**b", "`c", "[d]", "(e)", "<f>", "&amp;", "#", "1.", "-", "+", "|", "~~", "!", `\`, ">", "===", "h:i", "é", "“q”"})
	text := rapid.Custom(func(r *rapid.T) *draft.Node {
		words := rapid.SliceOfN(word, 1, 5).Draw(r, "words")
		n := &draft.Node{Type: draft.Text, Text: strings.Join(words, " ")}
		if rapid.IntRange(0, 4).Draw(r, "marked") == 0 {
			n.Text = "plain words"
			n.Marks = []draft.Mark{rapid.SampledFrom([]draft.Mark{{Type: draft.Strong}, {Type: draft.Em}, {Type: draft.Mono}, {Type: draft.Link, Attrs: &draft.Attrs{Href: "https://a.example/(b)?c=d&e"}}}).Draw(r, "mark")}
		}
		return n
	})
	line := rapid.Custom(func(r *rapid.T) *draft.Node {
		n := &draft.Node{Type: draft.Paragraph}
		for i, t := range rapid.SliceOfN(text, 1, 3).Draw(r, "texts") {
			if i > 0 {
				n.Content = append(n.Content, &draft.Node{Type: draft.Text, Text: " and "})
			}
			n.Content = append(n.Content, t)
		}
		return n
	})
	item := rapid.Custom(func(r *rapid.T) *draft.Node {
		return &draft.Node{Type: draft.ListItem, Content: rapid.SliceOfN(line, 1, 2).Draw(r, "lines")}
	})
	return rapid.Custom(func(r *rapid.T) *draft.Node {
		doc := &draft.Node{Type: draft.Doc}
		for range rapid.IntRange(1, 5).Draw(r, "blocks") {
			switch rapid.IntRange(0, 8).Draw(r, "kind") {
			case 0:
				h := line.Draw(r, "heading")
				h.Type, h.Attrs = draft.Heading, &draft.Attrs{Level: rapid.IntRange(1, 4).Draw(r, "level")}
				doc.Content = append(doc.Content, h)
			case 1:
				if k := len(doc.Content); k == 0 || doc.Content[k-1].Type == draft.Paragraph { // two lists in a row are one in Markdown
					doc.Content = append(doc.Content, &draft.Node{Type: draft.Bullets, Content: rapid.SliceOfN(item, 1, 3).Draw(r, "items")}, line.Draw(r, "after"))
				}
			case 2:
				if k := len(doc.Content); k == 0 || doc.Content[k-1].Type == draft.Paragraph {
					doc.Content = append(doc.Content, &draft.Node{Type: draft.Quote, Content: rapid.SliceOfN(line, 1, 2).Draw(r, "said")}, line.Draw(r, "after"))
				}
			case 3:
				if k := len(doc.Content); k == 0 || doc.Content[k-1].Type == draft.Paragraph {
					numbered := &draft.Node{Type: draft.Numbers, Attrs: &draft.Attrs{Order: rapid.IntRange(1, 3).Draw(r, "first")}, Content: rapid.SliceOfN(item, 1, 3).Draw(r, "items")}
					if in := numbered.Content[0]; rapid.Bool().Draw(r, "nested") {
						in.Content = append(in.Content, &draft.Node{Type: draft.Bullets, Content: rapid.SliceOfN(item, 1, 2).Draw(r, "below")})
					}
					doc.Content = append(doc.Content, numbered, line.Draw(r, "after"))
				}
			case 4:
				doc.Content = append(doc.Content, tables(line).Draw(r, "table"), line.Draw(r, "after"))
			case 6:
				if k := len(doc.Content); k == 0 || doc.Content[k-1].Type == draft.Paragraph {
					code := &draft.Node{Type: draft.Code, Content: []*draft.Node{{Type: draft.Text, Text: rapid.SampledFrom([]string{"a := 1", "if x {\n\n\ty\n}"}).Draw(r, "code")}}}
					doc.Content = append(doc.Content, code, &draft.Node{Type: draft.Image, Attrs: &draft.Attrs{Src: "https://a.example/i.png?a=b&c", Alt: rapid.SampledFrom([]string{"", "ice & <snow>"}).Draw(r, "alt")}}, line.Draw(r, "after"))
				}
			case 5:
				doc.Content = append(doc.Content, &draft.Node{Type: draft.Rule}, line.Draw(r, "after"))
			default:
				doc.Content = append(doc.Content, line.Draw(r, "line"))
			}
		}
		return doc
	})
}

// tables have a row of headings, and cells of a line each.
func tables(line *rapid.Generator[*draft.Node]) *rapid.Generator[*draft.Node] {
	return rapid.Custom(func(r *rapid.T) *draft.Node {
		wide := rapid.IntRange(1, 3).Draw(r, "wide")
		table := &draft.Node{Type: draft.Table}
		for i := range rapid.IntRange(2, 3).Draw(r, "high") {
			row := &draft.Node{Type: draft.Row}
			for range wide {
				cell := &draft.Node{Type: draft.Cell, Attrs: &draft.Attrs{Colspan: 1, Rowspan: 1}, Content: []*draft.Node{line.Draw(r, "cell")}}
				if i == 0 {
					cell.Type = draft.HeadingCell
				}
				row.Content = append(row.Content, cell)
			}
			table.Content = append(table.Content, row)
		}
		return table
	})
}

// Whatever signs stand in a draft, its Markdown says the same.
func TestAnyDraftAsMarkdownAndBack(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		n := drafts().Draw(r, "draft")
		var b bytes.Buffer
		require.NoError(r, markdown.Write(&b, manuscript.Text{Node: n, Language: "en"}))
		again, err := (*handed.Reader)(nil).Draft(context.Background(), "a.md", bytes.NewReader(b.Bytes()))
		require.NoError(r, err)
		require.Equal(r, n.HTML(), again.HTML(), b.String())
	})
}

// The same for DOCX, which has no Markdown to mistake.
func TestAnyDraftAsDOCXAndBack(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		n := drafts().Draw(r, "draft")
		var b bytes.Buffer
		require.NoError(r, docx.Write(&b, manuscript.Text{Node: n, Language: "en"}))
		again, err := (*handed.Reader)(nil).Draft(context.Background(), "a.docx", bytes.NewReader(b.Bytes()))
		require.NoError(r, err)
		require.Equal(r, n.HTML(), again.HTML())
	})
}

// And for HTML, as a page with a title, a description and its questions as data.
func TestAnyDraftAsHTMLAndBack(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		n := drafts().Draw(r, "draft")
		n.Attrs = &draft.Attrs{Title: rapid.SampledFrom([]string{"", "Ice: how to <ride> & stay up", "“q” — é"}).Draw(r, "title"), Description: rapid.SampledFrom([]string{"", `a "b" & <c>`}).Draw(r, "description")}
		var b bytes.Buffer
		require.NoError(r, render.DraftHTML(&b, manuscript.Text{Node: n, Language: "en"}))
		again, err := (*handed.Reader)(nil).Draft(context.Background(), "a.html", bytes.NewReader(b.Bytes()))
		require.NoError(r, err)
		require.Equal(r, n.HTML(), again.HTML(), b.String())
		if n.Title() != "" {
			require.Equal(r, n.Title(), again.Title())
		}
		require.Equal(r, n.Description(), again.Description())
	})
}
