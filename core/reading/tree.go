package reading

import (
	"bytes"
	"io"
	"net/url"
	"strings"
	"unicode"

	"golang.org/x/net/html"
)

// deepest is how far elements may nest before parse flattens them; the parser
// itself refuses more than 512.
const deepest = 400

// parse builds the tree, flattening a page that nests deeper than any author
// means to, which the parser would refuse.
func parse(page []byte) (*html.Node, error) {
	root, err := html.Parse(bytes.NewReader(page))
	if err == nil {
		return root, nil
	}
	flat, flattenErr := flatten(page)
	if flattenErr != nil {
		return nil, err
	}
	return html.Parse(bytes.NewReader(flat))
}

// void elements never hold others and so never add depth.
var void = map[string]bool{"area": true, "base": true, "br": true, "col": true, "embed": true, "hr": true, "img": true,
	"input": true, "link": true, "meta": true, "source": true, "track": true, "wbr": true}

// flatten drops the tags of elements nested deeper than the limit and keeps
// their text, in one pass over the tokens.
func flatten(page []byte) ([]byte, error) {
	var out bytes.Buffer
	z := html.NewTokenizer(bytes.NewReader(page))
	depth := 0
	for {
		switch tt := z.Next(); tt {
		case html.ErrorToken:
			if z.Err() != io.EOF {
				return nil, z.Err()
			}
			return out.Bytes(), nil
		case html.StartTagToken:
			raw := z.Raw()
			name, _ := z.TagName()
			if void[string(name)] {
				out.Write(raw)
				continue
			}
			// Half the limit: the parser opens elements of its own (formatting, table parts).
			if depth++; depth <= deepest/2 {
				out.Write(raw)
			} else if b := out.Bytes(); len(b) == 0 || b[len(b)-1] != ' ' {
				out.WriteByte(' ')
			}
		case html.EndTagToken:
			raw := z.Raw()
			if depth <= deepest/2 {
				out.Write(raw)
			}
			depth = max(0, depth-1)
		default:
			out.Write(z.Raw())
		}
	}
}

func attr(n *html.Node, name string) string {
	for _, a := range n.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}

func hasAttr(n *html.Node, name string) bool {
	for _, a := range n.Attr {
		if a.Key == name {
			return true
		}
	}
	return false
}

func firstElement(n *html.Node, tag string) *html.Node {
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && d.Data == tag {
			return d
		}
	}
	return nil
}

func hasAncestor(n *html.Node, tags ...string) bool {
	for a := n.Parent; a != nil; a = a.Parent {
		for _, t := range tags {
			if a.Type == html.ElementNode && a.Data == t {
				return true
			}
		}
	}
	return false
}

// collapse brings a run of white space, non-breaking spaces included, to one
// space, drops invisible characters, and trims.
func collapse(s string) string {
	var b strings.Builder
	b.Grow(len(s))
	space := false
	for _, r := range s {
		switch {
		case unicode.IsSpace(r):
			space = b.Len() > 0
		case r == '\u00AD' || r == '\u200B' || r == '\u200C' || r == '\uFEFF' || r == '\u2060' || r == 0 || r == '\u200E' || r == '\u200F':
		default:
			if space {
				b.WriteByte(' ')
				space = false
			}
			b.WriteRune(r)
		}
	}
	return b.String()
}

// textOf is all the text below a node, collapsed.
func textOf(n *html.Node) string {
	var b strings.Builder
	for d := range n.Descendants() {
		if d.Type == html.TextNode && !hidesText[d.Parent.Data] {
			b.WriteString(d.Data)
		} else if d.Type == html.ElementNode && (blocks[d.Data] || d.Data == "br") {
			b.WriteByte(' ')
		}
	}
	return collapse(b.String())
}

// hidesText are elements whose text is not for readers.
var hidesText = map[string]bool{"script": true, "style": true, "noscript": true, "template": true, "iframe": true,
	"object": true, "svg": true, "title": true, "textarea": true, "select": true, "option": true, "head": true}

// blocks are the elements that break a line.
var blocks = map[string]bool{"address": true, "article": true, "aside": true, "blockquote": true, "body": true, "caption": true,
	"center": true, "dd": true, "details": true, "dialog": true, "div": true, "dl": true, "dt": true, "fieldset": true,
	"figcaption": true, "figure": true, "footer": true, "form": true, "h1": true, "h2": true, "h3": true, "h4": true,
	"h5": true, "h6": true, "header": true, "hgroup": true, "hr": true, "html": true, "legend": true, "li": true,
	"main": true, "menu": true, "nav": true, "ol": true, "p": true, "pre": true, "search": true, "section": true,
	"summary": true, "table": true, "tbody": true, "td": true, "tfoot": true, "th": true, "thead": true, "tr": true, "ul": true}

// address is a URL that may be missing; all its methods accept that.
type address struct{ u *url.URL }

func parseAddress(s string) address {
	u, err := url.Parse(strings.TrimSpace(s))
	if err != nil || s == "" {
		return address{}
	}
	return address{u}
}

func (a address) resolve(href string) address {
	u, err := url.Parse(strings.TrimSpace(href))
	if err != nil {
		return address{}
	}
	if a.u != nil {
		u = a.u.ResolveReference(u)
	}
	return address{u}
}

// host without a leading "www.", lower case; empty for a relative address.
func (a address) host() string {
	if a.u == nil {
		return ""
	}
	return strings.TrimPrefix(strings.ToLower(a.u.Hostname()), "www.")
}

func (a address) web() bool {
	return a.u != nil && (a.u.Scheme == "http" || a.u.Scheme == "https" || a.u.Scheme == "")
}

// withoutFragment is the address of the page the link leads to.
func (a address) withoutFragment() string {
	if a.u == nil {
		return ""
	}
	u := *a.u
	u.Fragment, u.RawFragment = "", ""
	return u.String()
}
