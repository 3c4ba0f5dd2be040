// Package markup holds what every pass over a parsed page needs: attributes,
// ancestors, text as a reader sees it, and what kind of thing an element is.
package markup

import (
	"strings"
	"unicode"

	"golang.org/x/net/html"
)

// Attr is the value of an attribute, empty where there is none.
func Attr(n *html.Node, name string) string {
	for _, a := range n.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}

// HasAttr tells whether an element has an attribute, be its value empty.
func HasAttr(n *html.Node, name string) bool {
	for _, a := range n.Attr {
		if a.Key == name {
			return true
		}
	}
	return false
}

// First is the first element of a tag below n, nil where there is none.
func First(n *html.Node, tag string) *html.Node {
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && d.Data == tag {
			return d
		}
	}
	return nil
}

// HasAncestor tells whether an element of one of the tags stands above n.
func HasAncestor(n *html.Node, tags ...string) bool {
	for a := n.Parent; a != nil; a = a.Parent {
		for _, t := range tags {
			if a.Type == html.ElementNode && a.Data == t {
				return true
			}
		}
	}
	return false
}

// Collapse brings a run of white space, non-breaking spaces included, to one
// space, drops invisible characters, and trims.
func Collapse(s string) string {
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

// Text is all the text below a node, collapsed.
func Text(n *html.Node) string {
	var b strings.Builder
	for d := range n.Descendants() {
		if d.Type == html.TextNode && !HidesText(d.Parent.Data) {
			b.WriteString(d.Data)
		} else if d.Type == html.ElementNode && (BreaksLine(d.Data) || d.Data == "br") {
			b.WriteByte(' ')
		}
	}
	return Collapse(b.String())
}

// HidesText tells the elements whose text is not for readers.
func HidesText(tag string) bool { return hidden[tag] }

var hidden = map[string]bool{"script": true, "style": true, "noscript": true, "template": true, "iframe": true,
	"object": true, "svg": true, "title": true, "textarea": true, "select": true, "option": true, "head": true}

// SetsCode tells the elements within a line that set code, keys, output or variables, as
// the HTML standard has them, and the old one for typewriter's letters.
func SetsCode(tag string) bool {
	return tag == "code" || tag == "kbd" || tag == "samp" || tag == "var" || tag == "tt"
}

// BreaksLine tells the elements that begin a line of their own, as the HTML
// standard's rendering section gives them "display: block" and its like.
func BreaksLine(tag string) bool { return blocks[tag] }

var blocks = map[string]bool{"address": true, "article": true, "aside": true, "blockquote": true, "body": true, "caption": true,
	"center": true, "dd": true, "details": true, "dialog": true, "div": true, "dl": true, "dt": true, "fieldset": true,
	"figcaption": true, "figure": true, "footer": true, "form": true, "h1": true, "h2": true, "h3": true, "h4": true,
	"h5": true, "h6": true, "header": true, "hgroup": true, "hr": true, "html": true, "legend": true, "li": true,
	"main": true, "menu": true, "nav": true, "ol": true, "p": true, "pre": true, "search": true, "section": true,
	"summary": true, "table": true, "tbody": true, "td": true, "tfoot": true, "th": true, "thead": true, "tr": true, "ul": true}
