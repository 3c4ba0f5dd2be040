package draft

import (
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
	case b.nodes > mostNodes:
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
		if b.nodes++; b.nodes > mostNodes {
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
	widest := 0
	for _, r := range rows {
		widest = max(widest, len(cells(r)))
	}
	if layout || widest < 2 {
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
	return min(max(k, 1), mostSpan)
}

func (b *builder) inlines(n *html.Node, marks []Mark, l *line, depth int) {
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		b.inline(ch, marks, l, depth)
	}
}

// inline puts the text of an inline element into a line.
func (b *builder) inline(n *html.Node, marks []Mark, l *line, depth int) {
	if b.nodes++; b.nodes > mostNodes {
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

// HTML is a draft's text as HTML, one block after another.
func (n *Node) HTML() string {
	var b strings.Builder
	body := n.tree()
	for ch := body.FirstChild; ch != nil; ch = ch.NextSibling {
		if html.Render(&b, ch) != nil { // a strings.Builder takes all
			break
		}
		b.WriteByte('\n')
	}
	return b.String()
}

// tree is a draft as elements in an article.
func (n *Node) tree() *html.Node {
	article := element(atom.Article)
	for _, ch := range n.Content {
		article.AppendChild(ch.element())
	}
	return article
}

func element(a atom.Atom, attrs ...string) *html.Node {
	n := &html.Node{Type: html.ElementNode, DataAtom: a, Data: a.String()}
	for i := 0; i+1 < len(attrs); i += 2 {
		n.Attr = append(n.Attr, html.Attribute{Key: attrs[i], Val: attrs[i+1]})
	}
	return n
}

var levels = [...]atom.Atom{atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6}

func (n *Node) element() *html.Node {
	a := n.attrs()
	var to *html.Node
	switch n.Type {
	case Text:
		return n.marked()
	case Break:
		return element(atom.Br)
	case Rule:
		return element(atom.Hr)
	case Image:
		return element(atom.Img, "src", a.Src, "alt", a.Alt)
	case Heading:
		to = element(levels[n.Level()-1])
	case Quote:
		to = element(atom.Blockquote)
		if a.Cite != "" {
			to = element(atom.Blockquote, "cite", a.Cite)
		}
	case Bullets:
		to = element(atom.Ul)
	case Numbers:
		to = element(atom.Ol)
		if a.Order > 1 {
			to = element(atom.Ol, "start", strconv.Itoa(a.Order))
		}
	case ListItem:
		to = element(atom.Li)
		if len(n.Content) == 1 && n.Content[0].Type == Paragraph { // "<li>text</li>", as people write
			n = n.Content[0]
		}
	case Code:
		to = element(atom.Pre)
	case Table:
		to = element(atom.Table)
		body := element(atom.Tbody)
		for _, ch := range n.Content {
			body.AppendChild(ch.element())
		}
		to.AppendChild(body)
		return to
	case Row:
		to = element(atom.Tr)
	case Cell, HeadingCell:
		kind := atom.Td
		if n.Type == HeadingCell {
			kind = atom.Th
		}
		to = element(kind)
		if a.Colspan > 1 {
			to.Attr = append(to.Attr, html.Attribute{Key: "colspan", Val: strconv.Itoa(a.Colspan)})
		}
		if a.Rowspan > 1 {
			to.Attr = append(to.Attr, html.Attribute{Key: "rowspan", Val: strconv.Itoa(a.Rowspan)})
		}
		if len(n.Content) == 1 && n.Content[0].Type == Paragraph {
			n = n.Content[0]
		}
	default:
		to = element(atom.P)
	}
	for _, ch := range n.Content {
		to.AppendChild(ch.element())
	}
	return to
}

// marked is a text within the elements of its marks, the link outermost.
func (n *Node) marked() *html.Node {
	to := &html.Node{Type: html.TextNode, Data: n.Text}
	wrap := func(e *html.Node) {
		e.AppendChild(to)
		to = e
	}
	for _, kind := range []string{Mono, Em, Strong, Link} {
		for _, m := range n.Marks {
			if m.Type != kind {
				continue
			}
			switch kind {
			case Mono:
				wrap(element(atom.Code))
			case Em:
				wrap(element(atom.Em))
			case Strong:
				wrap(element(atom.Strong))
			case Link:
				wrap(element(atom.A, "href", m.Attrs.Href))
			}
		}
	}
	return to
}
