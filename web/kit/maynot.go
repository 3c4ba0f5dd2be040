package kit

import (
	"bytes"
	"regexp"
	"strings"

	"corpulan/store"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// What somebody may not do is not on the pages they see: the same rule that refuses a request
// takes its form off the page, so that the two cannot disagree and no template has to ask.

var numbered = regexp.MustCompile(`^/studies/[0-9]+/`)

// Without takes off a page, or a part of one, the forms that a role may not send. A text that
// stands in a field stays, to be read. data-needs names the role that other parts need.
func (s *Kit) Without(page []byte, role store.Role) []byte {
	if role.May(store.Owner) || role.May(store.Strategist) && !s.holdsOwners(page) {
		return page // nearly always; a large brief takes some milliseconds else
	}
	var roots []*html.Node
	if bytes.HasPrefix(bytes.TrimSpace(page), []byte("<!doctype")) {
		doc, err := html.Parse(bytes.NewReader(page))
		if err != nil { // it reads everything
			return page
		}
		roots = []*html.Node{doc}
	} else { // a template element takes rows and cells as they stand
		list, err := html.ParseFragment(bytes.NewReader(page), &html.Node{Type: html.ElementNode, Data: "template", DataAtom: atom.Template})
		if err != nil {
			return page
		}
		roots = list
	}
	var b bytes.Buffer
	for _, n := range roots {
		if s.prune(n, role) {
			continue
		}
		_ = html.Render(&b, n) // a buffer takes all
	}
	return b.Bytes()
}

// holdsOwners tells pages that may hold what only owners may do.
func (s *Kit) holdsOwners(page []byte) bool {
	for _, n := range s.needs() {
		if n.Role == store.Owner && bytes.Contains(page, []byte(`action="`+n.Route)) {
			return true
		}
	}
	return bytes.Contains(page, []byte(`data-needs="owner"`))
}

// prune goes through a tree, and is true for a node that has to go.
func (s *Kit) prune(n *html.Node, role store.Role) bool {
	if n.Type == html.ElementNode {
		if needs := attribute(n, "data-needs"); needs != "" && !role.May(store.Role(needs)) {
			return true
		}
		if n.DataAtom == atom.Form && !s.maySend(n, role) {
			return !savesItself(n) || !asText(n)
		}
		if to := attribute(n, "hx-post"); to != "" && n.DataAtom != atom.Form && !s.MayPost(role, to) {
			return true
		}
	}
	pruned := false
	for c := n.FirstChild; c != nil; {
		next := c.NextSibling
		if s.prune(c, role) {
			n.RemoveChild(c)
			pruned = true
		}
		c = next
	}
	return pruned && n.DataAtom == atom.Details && onlySummary(n)
}

// maySend tells whether a form leads to where a role may go.
func (s *Kit) maySend(form *html.Node, role store.Role) bool {
	if !strings.EqualFold(attribute(form, "method"), "post") {
		return true
	}
	to := attribute(form, "action")
	return to == "" || s.MayPost(role, to)
}

// MayPost tells whether a role may post to an address.
func (s *Kit) MayPost(role store.Role, to string) bool {
	return role.May(s.MinRole(false, routeLike(to)))
}

// routeLike is an address as MinRole names routes.
func routeLike(to string) string {
	to, _, _ = strings.Cut(to, "?")
	return numbered.ReplaceAllString(to, "/studies/:study/")
}

// savesItself tells the form of a field, in which a text or a choice stands, from one that does
// something: it is sent as it changes.
func savesItself(form *html.Node) bool {
	return strings.Contains(attribute(form, "hx-trigger"), "change")
}

// asText leaves of a form what can be read: texts that are not empty, and choices as they
// stand. It is false where nothing is.
func asText(form *html.Node) bool {
	form.Data, form.DataAtom = "div", atom.Div
	form.Attr = keepAttributes(form.Attr, "class", "id")
	reads := false
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		for c := n.FirstChild; c != nil; {
			next := c.NextSibling
			switch {
			case c.Type != html.ElementNode:
			case c.DataAtom == atom.Button, c.DataAtom == atom.Noscript, c.DataAtom == atom.Input && !isText(c), c.DataAtom == atom.Details:
				n.RemoveChild(c)
			case c.DataAtom == atom.Textarea:
				c.Attr = append(keepAttributes(c.Attr, "class", "id", "rows", "aria-label", "lang"), html.Attribute{Key: "readonly"})
				reads = reads || c.FirstChild != nil && strings.TrimSpace(c.FirstChild.Data) != ""
			case c.DataAtom == atom.Input:
				reads = reads || attribute(c, "value") != ""
				c.Attr = append(keepAttributes(c.Attr, "class", "id", "value", "type", "aria-label"), html.Attribute{Key: "readonly"})
			case c.DataAtom == atom.Select:
				c.Attr = append(keepAttributes(c.Attr, "class", "id", "aria-label"), html.Attribute{Key: "disabled"})
				reads = true
			default:
				walk(c)
			}
			c = next
		}
	}
	walk(form)
	return reads
}

// isText tells an input that shows a text.
func isText(n *html.Node) bool {
	switch attribute(n, "type") {
	case "", "text", "date", "number", "email", "url":
		return true
	}
	return false
}

func onlySummary(details *html.Node) bool {
	for c := details.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.ElementNode && c.DataAtom != atom.Summary || c.Type == html.TextNode && strings.TrimSpace(c.Data) != "" {
			return false
		}
	}
	return true
}

func attribute(n *html.Node, key string) string {
	for _, a := range n.Attr {
		if a.Key == key {
			return a.Val
		}
	}
	return ""
}

func keepAttributes(list []html.Attribute, keys ...string) (kept []html.Attribute) {
	for _, a := range list {
		for _, k := range keys {
			if a.Key == k {
				kept = append(kept, a)
			}
		}
	}
	return kept
}
