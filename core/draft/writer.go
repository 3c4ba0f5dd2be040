package draft

import (
	"strconv"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

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

var levels = [...]atom.Atom{atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6}

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

func element(a atom.Atom, attrs ...string) *html.Node {
	n := &html.Node{Type: html.ElementNode, DataAtom: a, Data: a.String()}
	for i := 0; i+1 < len(attrs); i += 2 {
		n.Attr = append(n.Attr, html.Attribute{Key: attrs[i], Val: attrs[i+1]})
	}
	return n
}

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
