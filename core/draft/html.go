package draft

import (
	"slices"
	"strconv"
	"strings"

	"corpulan/core/address"
	"corpulan/core/markup"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// FromHTML is the draft that stands in an element: its headings, paragraphs, lists, tables,
// quotations, links and images, and nothing else. Addresses are made whole by the page's. It
// fails with ErrTooLarge.
func FromHTML(n *html.Node, page string) (*Node, error) {
	b := &builder{base: address.Parse(page)}
	doc := &Node{Type: Doc, Content: b.blocks(n, 0)}
	switch {
	case b.nodes > maxNodes:
		return nil, ErrTooLarge
	case len(doc.Content) == 0:
		return New(), nil
	}
	return doc, nil
}

// builder makes blocks of elements.
type builder struct {
	base  address.Address
	nodes int
}

// line is a textblock being filled.
type line struct {
	content []*Node
	images  []*Node // that stand among its words
}

// blocks are the blocks within an element.
func (b *builder) blocks(n *html.Node, depth int) []*Node {
	var list []*Node
	var open line
	shut := func() {
		if p := paragraphOf(open.content); p != nil {
			list = append(list, p)
		}
		list = append(list, open.images...)
		open = line{}
	}
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if b.nodes++; b.nodes > maxNodes {
			break
		}
		if ch.Type == html.ElementNode && isBlock(ch) {
			shut()
			list = append(list, b.block(ch, depth+1)...)
			continue
		}
		b.inline(ch, nil, &open, depth)
	}
	shut()
	return list
}

// isBlock tells an element that is a block, or holds one.
func isBlock(n *html.Node) bool {
	if markup.HidesText(n.Data) {
		return false
	}
	if markup.BreaksLine(n.Data) && n.Data != "br" {
		return true
	}
	if n.Data == "img" {
		return false
	}
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && d.Data != "br" && markup.BreaksLine(d.Data) {
			return true
		}
	}
	return false
}

func (b *builder) block(n *html.Node, depth int) []*Node {
	if depth > deepest/3 { // each level is up to three of ours
		if p := paragraphOf([]*Node{{Type: Text, Text: markup.Text(n)}}); p != nil {
			return []*Node{p}
		}
		return nil
	}
	switch n.DataAtom {
	case atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6:
		var l line
		b.inlines(n, nil, &l, depth)
		p := paragraphOf(l.content)
		if p == nil {
			return l.images
		}
		p.Type, p.Attrs = Heading, &Attrs{Level: int(n.Data[1] - '0')}
		return append([]*Node{p}, l.images...)
	case atom.Ul, atom.Ol, atom.Menu:
		return b.list(n, depth)
	case atom.Blockquote:
		content := b.blocks(n, depth)
		if len(content) == 0 {
			return nil
		}
		q := &Node{Type: Quote, Content: content}
		if cite := b.whole(markup.Attr(n, "cite")); Leads(cite) {
			q.Attrs = &Attrs{Cite: cite}
		}
		return []*Node{q}
	case atom.Pre:
		if t := strings.Trim(Clean(plain(n)), "\n"); t != "" {
			return []*Node{{Type: Code, Content: []*Node{{Type: Text, Text: t}}}}
		}
		return nil
	case atom.Hr:
		return []*Node{{Type: Rule}}
	case atom.Table:
		return b.table(n, depth)
	case atom.Dt:
		list := b.blocks(n, depth)
		for _, p := range list {
			if p.Type == Paragraph {
				for _, t := range p.Content {
					if t.Type == Text {
						t.Marks = withMark(t.Marks, Mark{Type: Strong})
					}
				}
			}
		}
		return list
	}
	return b.blocks(n, depth)
}

func (b *builder) list(n *html.Node, depth int) []*Node {
	to := &Node{Type: Bullets}
	if n.DataAtom == atom.Ol {
		start, err := strconv.Atoi(markup.Attr(n, "start"))
		if err != nil {
			start = 1
		}
		to.Type, to.Attrs = Numbers, &Attrs{Order: max(start, 1)}
	}
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if ch.Type != html.ElementNode {
			continue
		}
		content := b.blocks(ch, depth)
		if ch.DataAtom == atom.Ul || ch.DataAtom == atom.Ol { // a list that stands beside the items, as some write
			if content = b.list(ch, depth); len(to.Content) > 0 && len(content) > 0 {
				last := to.Content[len(to.Content)-1]
				last.Content = append(last.Content, content...)
				continue
			}
		}
		if len(content) == 0 {
			continue
		}
		if content[0].Type != Paragraph {
			content = append([]*Node{{Type: Paragraph}}, content...)
		}
		to.Content = append(to.Content, &Node{Type: ListItem, Content: content})
	}
	if len(to.Content) == 0 {
		return nil
	}
	return []*Node{to}
}

// table is a table of data; one that lays out the page gives its blocks.
func (b *builder) table(n *html.Node, depth int) []*Node {
	var rows []*html.Node
	layout := false
	for d := range n.Descendants() {
		if d.Type != html.ElementNode {
			continue
		}
		switch d.DataAtom {
		case atom.Tr:
			rows = append(rows, d)
		case atom.Table, atom.H1, atom.H2, atom.H3:
			layout = true
		}
	}
	widest, headed := 0, false
	for _, r := range rows {
		widest = max(widest, len(cells(r)))
		headed = headed || slices.ContainsFunc(cells(r), func(c *html.Node) bool { return c.DataAtom == atom.Th })
	}
	if layout || widest < 2 && !headed {
		return b.blocks(n, depth)
	}
	var list []*Node
	if c := markup.First(n, "caption"); c != nil {
		list = b.blocks(c, depth)
	}
	t := &Node{Type: Table}
	for _, r := range rows {
		row := &Node{Type: Row}
		for _, c := range cells(r) {
			content := b.blocks(c, depth+1)
			if len(content) == 0 {
				content = []*Node{{Type: Paragraph}}
			}
			kind := Cell
			if c.DataAtom == atom.Th {
				kind = HeadingCell
			}
			row.Content = append(row.Content, &Node{Type: kind, Attrs: &Attrs{Colspan: span(c, "colspan"), Rowspan: span(c, "rowspan")}, Content: content})
		}
		if len(row.Content) > 0 {
			t.Content = append(t.Content, row)
		}
	}
	return append(list, t)
}

func cells(row *html.Node) []*html.Node {
	var list []*html.Node
	for ch := row.FirstChild; ch != nil; ch = ch.NextSibling {
		if ch.DataAtom == atom.Td || ch.DataAtom == atom.Th {
			list = append(list, ch)
		}
	}
	return list
}

func span(n *html.Node, name string) int {
	k, err := strconv.Atoi(markup.Attr(n, name))
	if err != nil {
		return 1
	}
	return min(max(k, 1), maxSpan)
}
