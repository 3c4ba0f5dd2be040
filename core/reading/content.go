package reading

import (
	"maps"
	"strings"
	"unicode/utf8"

	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// The main content is found in three passes over the tree:
//
//  1. weigh: how much running text stands below each element, and how much of
//     it is link text (link density, after Kohlschütter, Fankhauser & Nejdl 2010);
//  2. cut: take furniture out, group by group, unless a group holds the bulk
//     of the page (a forum's whole thread may be called "comments");
//  3. choose: the element that still holds nearly all of the running text.
//
// readContent then walks the chosen element and writes the sections.

// weight of an element: sizes in words, roughly (see textWeight).
type weight struct {
	prose float64 // running text: own text of blocks that are not mostly links
	text  float64 // all text
	links float64 // text inside links
}

type content struct {
	doc     *document
	weights map[*html.Node]weight
	cut     map[*html.Node]string // furniture, by its top element, and its group
	spared  map[string]bool       // groups that turned out to be the content
	asks    map[*html.Node]bool   // boxes that ask for the reader's address
}

// findContent finds what to cut and the element that the author's text stands in.
// The bounds are our own; `make eval` measures what they do.
func findContent(d *document) (*content, *html.Node) {
	c := &content{doc: d, weights: map[*html.Node]weight{}, cut: map[*html.Node]string{}, spared: map[string]bool{}, asks: map[*html.Node]bool{}}
	total := c.weigh(d.body, false).prose
	c.findAskingBoxes()
	groups := map[string]float64{}
	c.findFurniture(d.body, "", groups)
	left := total
	for _, w := range groups {
		left -= w
	}
	// A group is the content itself if without it hardly anything is left.
	if most, w := largest(groups); left < 25 && w > 60 || left < 0.12*total && w > 0.5*total {
		// What readers wrote below an article is often longer than the article.
		if other, w := largest(without(groups, "comments")); w > articleWords {
			most = other
		}
		c.spared[most] = true
	}
	if len(c.spared) > 0 {
		c.cut = map[*html.Node]string{}
		c.findFurniture(d.body, "", map[string]float64{})
	}
	return c, c.choose()
}

// articleWords of running text in one group are an article of their own.
// Our own.
const articleWords = 150

func without(groups map[string]float64, name string) map[string]float64 {
	rest := maps.Clone(groups)
	delete(rest, name)
	return rest
}

func largest(groups map[string]float64) (name string, w float64) {
	for g, v := range groups {
		if v > w || v == w && g < name {
			name, w = g, v
		}
	}
	return name, w
}

// weigh computes the weight of everything below n, children first.
func (c *content) weigh(n *html.Node, inLink bool) weight {
	var sum weight
	var own weight // text of n's own line: text nodes and inline children
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		switch ch.Type {
		case html.TextNode:
			size := textWeight(ch.Data)
			own.text += size
			if inLink {
				own.links += size
			}
		case html.ElementNode:
			if markup.HidesText(ch.Data) {
				continue
			}
			w := c.weigh(ch, inLink || ch.Data == "a")
			if markup.BreaksLine(ch.Data) {
				sum.prose += w.prose
				sum.text += w.text
				sum.links += w.links
			} else {
				own.text += w.text
				own.links += w.links
				sum.prose += w.prose // blocks inside inline elements
			}
		}
	}
	sum.text += own.text
	sum.links += own.links
	if markup.BreaksLine(n.Data) && own.text >= 3 && own.links < 0.5*own.text {
		sum.prose += own.text - own.links
	}
	if n.Data != "span" || len(n.Attr) > 0 {
		c.weights[n] = sum
	}
	return sum
}

// bytesPerWord is about the length of a word of English, white space not counted:
// 4.7 letters (Norvig 2013, from memory) and what punctuation adds. Bytes and not
// words are counted so that languages without spaces weigh something too.
const bytesPerWord = 5

// textWeight is the size of a text node in words of bytesPerWord.
func textWeight(s string) float64 {
	n := 0
	for i := 0; i < len(s); i++ {
		if s[i] > ' ' {
			n++
		}
	}
	return float64(n) / bytesPerWord
}

// findFurniture notes the topmost furniture elements and adds up the running
// text each group holds.
func (c *content) findFurniture(n *html.Node, inside string, groups map[string]float64) {
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if ch.Type != html.ElementNode || markup.HidesText(ch.Data) {
			continue
		}
		group := furnitureGroup(ch)
		if group == "navigation" && !leadsSomewhere(ch) {
			group = ""
		}
		switch {
		case group == "" && c.asks[ch]:
			group = "newsletter"
		case group == "" && isHidden(ch):
			group = "hidden text"
		case group == "" && ch.Data == "header" && inside == "" && !hasH1(ch):
			group = "site header"
		}
		if group == "sidebar" && ch.Data == "div" && c.isInText(ch) {
			group = "" // a boxed note of a book's page
		}
		if group == "footer" && inside == "article" && c.weights[ch].prose > 60 {
			group = "" // long footers inside an article carry sources and notes
		}
		if group != "" && !c.spared[group] && !c.holdsThePage(ch) {
			c.cut[ch] = group
			groups[group] += c.weights[ch].prose
			continue
		}
		within := inside
		if ch.Data == "article" || ch.Data == "main" {
			within = "article"
		}
		c.findFurniture(ch, within, groups)
	}
}

// How large a box is that asks for an address, in words, and how far above the field it begins. Our own.
const (
	askingWords = 40
	askingDepth = 6
)

// findAskingBoxes finds the boxes around fields for a mail address that say no more than what is asked for.
func (c *content) findAskingBoxes() {
	for n := range c.doc.body.Descendants() {
		if n.Type != html.ElementNode || n.Data != "input" || markup.Attr(n, "type") != "email" {
			continue
		}
		box := (*html.Node)(nil)
		for a, depth := n.Parent, 0; a != nil && a != c.doc.body && depth < askingDepth && c.weights[a].text <= askingWords; a, depth = a.Parent, depth+1 {
			box = a
		}
		if box != nil {
			c.asks[box] = true
		}
	}
}

// isInText tells a box of prose without links that stands between two blocks of running
// text: an author's note, set apart. The bounds are our own.
func (c *content) isInText(n *html.Node) bool {
	w := c.weights[n]
	if w.prose < 15 || w.links > 0.1*w.text || w.prose > 0.25*c.weights[c.doc.body].prose {
		return false
	}
	running := func(s *html.Node) bool {
		if s == nil {
			return false
		}
		switch s.Data {
		case "p", "pre", "ul", "ol", "dl", "table", "blockquote":
			return c.weights[s].prose > 5 && c.weights[s].links < 0.5*c.weights[s].text
		}
		return headingLevel(s) > 0
	}
	sibling := func(step func(*html.Node) *html.Node) *html.Node {
		s := step(n)
		for s != nil && s.Type != html.ElementNode {
			s = step(s)
		}
		return s
	}
	return running(sibling(func(s *html.Node) *html.Node { return s.PrevSibling })) && running(sibling(func(s *html.Node) *html.Node { return s.NextSibling }))
}

// leadsSomewhere tells whether there is anything to press in n.
func leadsSomewhere(n *html.Node) bool {
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && (d.Data == "a" || d.Data == "button" || d.Data == "input" || d.Data == "select") {
			return true
		}
	}
	return false
}

// holdsThePage protects a wrapper whose class merely mentions furniture: it
// holds the page's H1 together with most of its text.
// The bounds are our own; `make eval` measures what they do.
func (c *content) holdsThePage(n *html.Node) bool {
	w, total := c.weights[n], c.weights[c.doc.body]
	return w.prose > 60 && (w.prose > 0.85*total.prose || w.prose > 0.6*total.prose && hasH1(n))
}

func hasH1(n *html.Node) bool { return markup.First(n, "h1") != nil }

// choose picks the element the author's text stands in: what the page itself
// declares, if that holds enough of the running text, else the deepest element
// that holds nearly all of it.
// The bounds are our own; `make eval` measures what they do.
func (c *content) choose() *html.Node {
	remaining := c.remaining()
	total := remaining[c.doc.body]
	best, bestProse := c.doc.body, 0.0
	for n := range c.doc.body.Descendants() {
		if n.Type != html.ElementNode || !declaresContent(n) || c.isCut(n) {
			continue
		}
		if p := remaining[n]; p >= 0.6*total && p > bestProse || p >= 0.98*bestProse && p >= 0.6*total && n.Data == "article" {
			best, bestProse = n, max(p, bestProse)
		}
	}
	if best != c.doc.body {
		return best
	}
	for {
		next := (*html.Node)(nil)
		for ch := best.FirstChild; ch != nil; ch = ch.NextSibling {
			if ch.Type == html.ElementNode && containers[ch.Data] && remaining[ch] >= 0.93*total && c.cut[ch] == "" {
				next = ch
			}
		}
		if next == nil {
			return best
		}
		best = next
	}
}

// containers may hold a whole article; a paragraph may not.
var containers = map[string]bool{"div": true, "section": true, "article": true, "main": true, "form": true, "center": true,
	"table": true, "tbody": true, "tr": true, "td": true, "span": true, "details": true, "fieldset": true}

// remaining is prose for every element, furniture taken out.
func (c *content) remaining() map[*html.Node]float64 {
	left := make(map[*html.Node]float64, len(c.weights))
	for n, w := range c.weights {
		left[n] = w.prose
	}
	for cut := range c.cut {
		w := c.weights[cut].prose
		for n := cut; n != nil; n = n.Parent {
			left[n] -= w
		}
	}
	return left
}

func (c *content) isCut(n *html.Node) bool {
	for ; n != nil; n = n.Parent {
		if c.cut[n] != "" {
			return true
		}
	}
	return false
}

func declaresContent(n *html.Node) bool {
	if n.Data == "main" || n.Data == "article" || markup.Attr(n, "role") == "main" {
		return true
	}
	prop := markup.Attr(n, "itemprop")
	return strings.Contains(prop, "articleBody") || strings.Contains(prop, "mainContentOfPage")
}

// linkList tells whether a list, table or block is nothing but links within
// the site: contents lists and related pages that no class gave away. Links
// to other sites are citations and stay.
// The bounds are our own; `make eval` measures what they do.
func (c *content) linkList(n *html.Node) (bool, string) {
	w := c.weights[n]
	if w.text < 2 || w.links < 0.75*w.text || w.prose > 0.3*w.text && w.prose > 20 {
		return false, ""
	}
	links, outside, fragments := 0, 0, 0
	least := 2
	if n.Data == "p" {
		least = 4 // a paragraph of a link or two is an author's
	}
	for d := range n.Descendants() {
		if d.Type != html.ElementNode {
			continue
		}
		if d.Data == "img" || d.Data == "iframe" || d.Data == "video" {
			least = 4
		}
		if d.Data != "a" {
			continue
		}
		href := strings.TrimSpace(markup.Attr(d, "href"))
		links++
		switch to := c.doc.base.Resolve(href); {
		case strings.HasPrefix(href, "#"), !c.doc.base.Missing() && to.Fragment() != "" && to.Page() == c.doc.base.Page():
			fragments++
		case to.Site() != "" && to.Site() != c.doc.base.Site():
			outside++
		}
	}
	switch {
	case links < least || outside*2 > links:
		return false, ""
	case fragments*2 > links:
		return true, "contents list"
	}
	return true, "list of links within the site"
}

func shortText(s string, runes int) string {
	if utf8.RuneCountInString(s) <= runes {
		return s
	}
	r := []rune(s)
	return string(r[:runes-1]) + "…"
}
