package draft

import (
	"strings"

	"corpulan/core/markup"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

func (b *builder) inlines(n *html.Node, marks []Mark, l *line, depth int) {
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		b.inline(ch, marks, l, depth)
	}
}

// inline puts the text of an inline element into a line.
func (b *builder) inline(n *html.Node, marks []Mark, l *line, depth int) {
	if b.nodes++; b.nodes > maxNodes {
		return
	}
	switch n.Type {
	case html.TextNode:
		if t := collapse(Clean(n.Data)); t != "" {
			l.content = append(l.content, &Node{Type: Text, Text: t, Marks: marks})
		}
		return
	case html.ElementNode:
	default:
		return
	}
	if markup.HidesText(n.Data) || depth > deepest {
		return
	}
	switch n.DataAtom {
	case atom.Br:
		l.content = append(l.content, &Node{Type: Break})
		return
	case atom.Img:
		if src := b.whole(markup.Attr(n, "src")); Shows(src) {
			l.images = append(l.images, &Node{Type: Image, Attrs: &Attrs{Src: src, Alt: Clean(markup.Attr(n, "alt"))}})
		}
		return
	case atom.A:
		if href := b.whole(markup.Attr(n, "href")); Leads(href) {
			marks = withMark(marks, Mark{Type: Link, Attrs: &Attrs{Href: href}})
		}
	case atom.Em, atom.I, atom.Cite:
		marks = withMark(marks, Mark{Type: Em})
	case atom.Strong, atom.B:
		marks = withMark(marks, Mark{Type: Strong})
	case atom.Code, atom.Kbd, atom.Samp, atom.Tt:
		marks = withMark(marks, Mark{Type: Mono})
	}
	b.inlines(n, marks, l, depth+1)
}

// whole is an address made whole by the page's; those within the page stay as they are.
func (b *builder) whole(href string) string {
	href = strings.TrimSpace(href)
	if href == "" || strings.HasPrefix(href, "#") || b.base.Missing() {
		return href
	}
	if s := scheme(href); s != "" && s != "http" && s != "https" {
		return href
	}
	to := b.base.Resolve(href)
	if to.Missing() {
		return ""
	}
	return to.URL().String()
}

// withMark are marks with one more, in a list of its own.
func withMark(marks []Mark, m Mark) []Mark {
	for _, x := range marks {
		if x.Type == m.Type {
			return marks
		}
	}
	return append(append(make([]Mark, 0, len(marks)+1), marks...), m)
}

// collapse makes one space of white space, as browsers do; what stands at the ends stays one.
func collapse(s string) string {
	var b strings.Builder
	space := false
	for _, r := range s {
		if r == ' ' || r == '\n' || r == '\t' || r == '\r' || r == '\f' {
			space = true
			continue
		}
		if space {
			b.WriteByte(' ')
			space = false
		}
		b.WriteRune(r)
	}
	if space {
		b.WriteByte(' ')
	}
	return b.String()
}

// paragraphOf is a paragraph of text and breaks, without white space at its ends and twice in
// a row; nil where no text is left.
func paragraphOf(content []*Node) *Node {
	var list []*Node
	atSpace := true // at the beginning, after a break or a space
	for _, n := range content {
		if n.Type == Break {
			list = append(list, n)
			atSpace = true
			continue
		}
		t := n.Text
		if atSpace {
			t = strings.TrimLeft(t, " ")
		}
		if t == "" {
			continue
		}
		atSpace = strings.HasSuffix(t, " ")
		if k := len(list) - 1; k >= 0 && list[k].Type == Text && sameMarks(list[k].Marks, n.Marks) {
			list[k] = &Node{Type: Text, Text: list[k].Text + t, Marks: n.Marks}
			continue
		}
		list = append(list, &Node{Type: Text, Text: t, Marks: n.Marks})
	}
	for len(list) > 0 {
		last := list[len(list)-1]
		if last.Type == Text {
			if last.Text = strings.TrimRight(last.Text, " "); last.Text != "" {
				break
			}
		}
		list = list[:len(list)-1]
	}
	for len(list) > 0 && list[0].Type == Break {
		list = list[1:]
	}
	if len(list) == 0 {
		return nil
	}
	return &Node{Type: Paragraph, Content: list}
}

func sameMarks(a, b []Mark) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i].Type != b[i].Type || (a[i].Attrs == nil) != (b[i].Attrs == nil) || a[i].Attrs != nil && *a[i].Attrs != *b[i].Attrs {
			return false
		}
	}
	return true
}

// plain is the text below a node as it is written.
func plain(n *html.Node) string {
	var b strings.Builder
	for d := range n.Descendants() {
		if d.Type == html.TextNode {
			b.WriteString(d.Data)
		} else if d.DataAtom == atom.Br {
			b.WriteByte('\n')
		}
	}
	return b.String()
}
