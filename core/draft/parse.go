package draft

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/address"
	"corpulan/core/message"
)

// Bounds of a draft, our own: beyond a book of 150,000 words.
const (
	Largest  = 4 << 20 // bytes of its JSON
	maxNodes = 200_000
	deepest  = 60
	maxSpan  = 50 // columns or rows of one cell
	longURL  = 4000
)

// ErrMalformed says that what was sent is no draft.
var ErrMalformed = message.Errorf("this is no draft")

// ErrTooLarge says that a draft is beyond the bounds.
var ErrTooLarge = message.Errorf("a draft has at most %d MB", Largest>>20)

// Parse reads a draft as the editor writes it, and checks it against the schema: nodes of
// unknown types or in the wrong places are ErrMalformed; marks that are not known, and links
// and images that lead nowhere a page may lead, are left out.
func Parse(b []byte) (*Node, error) {
	if len(b) > Largest {
		return nil, ErrTooLarge
	}
	var n Node
	if err := json.Unmarshal(b, &n); err != nil {
		return nil, fmt.Errorf("%w: %w", ErrMalformed, err)
	}
	if n.Type != Doc {
		return nil, message.Errorf("%v: it begins with %q", ErrMalformed, n.Type)
	}
	nodes := 0
	if err := n.check(0, &nodes); err != nil {
		return nil, err
	}
	return &n, nil
}

// holds says what may stand directly in a node.
func holds(parent, child string) bool {
	switch parent {
	case Doc, Quote, ListItem, Cell, HeadingCell:
		return slices.Contains([]string{Paragraph, Heading, Quote, Bullets, Numbers, Code, Rule, Image, Table}, child)
	case Paragraph, Heading:
		return child == Text || child == Break
	case Code:
		return child == Text
	case Bullets, Numbers:
		return child == ListItem
	case Table:
		return child == Row
	case Row:
		return child == Cell || child == HeadingCell
	}
	return false
}

func (n *Node) check(depth int, nodes *int) error {
	*nodes++
	if *nodes > maxNodes || depth > deepest {
		return ErrTooLarge
	}
	switch n.Type {
	case Doc, Quote, ListItem, Bullets, Numbers, Table, Cell, HeadingCell:
		if len(n.Content) == 0 {
			return message.Errorf("%v: an empty %s", ErrMalformed, n.Type)
		}
	}
	if err := n.clean(); err != nil {
		return err
	}
	for _, ch := range n.Content {
		if ch == nil || !holds(n.Type, ch.Type) {
			return message.Errorf("%v: something in a %s that does not belong there", ErrMalformed, n.Type)
		}
		if err := ch.check(depth+1, nodes); err != nil {
			return err
		}
	}
	return nil
}

// clean leaves of a node's text, attributes and marks what its type may have.
func (n *Node) clean() error {
	if n.Type == Text {
		if n.Text == "" {
			return message.Errorf("%v: an empty text", ErrMalformed)
		}
		n.Text = Clean(n.Text)
	}
	n.Attrs, n.Marks = n.checked(), cleanMarks(n.Marks)
	return nil
}

func cleanMarks(marks []Mark) []Mark {
	marks = slices.DeleteFunc(marks, func(m Mark) bool {
		switch m.Type {
		case Em, Strong, Mono:
			return false
		case Link:
			return m.Attrs == nil || !Leads(m.Attrs.Href)
		}
		return true
	})
	for i := range marks {
		if m := &marks[i]; m.Type == Link {
			m.Attrs = &Attrs{Href: m.Attrs.Href}
		} else {
			m.Attrs = nil
		}
	}
	return marks
}

// checked are the attributes that a node's type has, within their bounds.
func (n *Node) checked() *Attrs {
	a := n.attrs()
	var to Attrs
	switch n.Type {
	case Doc:
		to = Attrs{Title: Clean(a.Title), Description: Clean(a.Description)}
	case Heading:
		to = Attrs{Level: min(max(a.Level, 1), deepestLevel)}
	case Numbers:
		to = Attrs{Order: max(a.Order, 1)}
	case Image:
		if Shows(a.Src) {
			to.Src = a.Src
		}
		to.Alt = Clean(a.Alt)
	case Quote:
		if Leads(a.Cite) {
			to.Cite = a.Cite
		}
	case Cell, HeadingCell:
		to = Attrs{Colspan: min(max(a.Colspan, 1), maxSpan), Rowspan: min(max(a.Rowspan, 1), maxSpan)}
	}
	if to == (Attrs{}) {
		return nil
	}
	return &to
}

// Leads tells an address that a link of a page may have: of the web, of mail or telephone, or
// within the site.
func Leads(href string) bool {
	if href == "" || len(href) > longURL || strings.ContainsAny(href, "\x00\n\r\t ") {
		return false
	}
	switch scheme(href) {
	case "http", "https", "mailto", "tel":
		return true
	case "":
		return !address.Parse(href).Missing()
	}
	return false
}

// Shows tells the address of an image: of the web, or within the site.
func Shows(src string) bool {
	s := scheme(src)
	return Leads(src) && (s == "" || s == "http" || s == "https")
}

// scheme is an address's in small letters (RFC 3986, section 3.1); empty for a relative one.
func scheme(s string) string {
	i := strings.IndexAny(s, ":/?#")
	if i < 0 || s[i] != ':' {
		return ""
	}
	return strings.ToLower(s[:i])
}

// Clean is a text without what no file and no database takes: a control character becomes a
// space, broken UTF-8 the sign for it, so that places in the text stay as the editor has them.
func Clean(s string) string {
	ok := utf8.ValidString(s)
	for i := 0; ok && i < len(s); i++ {
		ok = s[i] >= ' ' || s[i] == '\n' || s[i] == '\t'
	}
	if ok {
		return s
	}
	return strings.Map(func(r rune) rune {
		if r < ' ' && r != '\n' && r != '\t' {
			return ' '
		}
		return r
	}, strings.ToValidUTF8(s, "\ufffd"))
}
