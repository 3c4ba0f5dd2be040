package reading

import (
	"strings"

	"corpulan/core/markup"
	"corpulan/core/text"

	"golang.org/x/net/html"
)

// boldLevel is the level of a heading that is only a line in bold, below a title of the first level.
const boldLevel = 2

// longestBoldHeading is in words; what is longer is a sentence with emphasis.
// Our own.
const longestBoldHeading = 14

// levelOf is the level of an element's heading, 0 if it is none.
func (w *writer) levelOf(n *html.Node) int {
	if w.bold[n] {
		return min(max(boldLevel, w.titled+1), 6)
	}
	return headingLevel(n)
}

// findBoldHeadings finds the lines in bold that stand for headings on a page
// whose content has none but its title, of whatever level. One such line proves nothing, and
// where most of the text is bold none of it is a heading.
// A quarter of the text is our own bound.
func (w *writer) findBoldHeadings(root *html.Node) {
	var lines []*html.Node
	inBold := 0.0
	for n := range root.Descendants() {
		if n.Type != html.ElementNode || w.isCut(n) {
			continue
		}
		if level := headingLevel(n); level > 1 {
			if w.titled > 0 || len(lines) > 0 || !similarTitle(headingText(n), w.reading.Title) {
				return
			}
			w.titled = level
		}
		if n.Data != "b" && n.Data != "strong" || markup.HasAncestor(n, "table", "h1", "b", "strong", "a") && !inLayout(n) {
			continue
		}
		inBold += w.weights[n].text
		if line := aloneOnItsLine(n); line != nil && mayBeHeading(headingText(n)) {
			lines = append(lines, line)
		}
	}
	if len(lines) < 2 || inBold > 0.25*w.weights[root].text {
		return
	}
	w.bold = make(map[*html.Node]bool, len(lines))
	for _, n := range lines {
		w.bold[n] = true
	}
}

// inLayout tells whether the only table around n is one that lays out the page.
func inLayout(n *html.Node) bool {
	for a := n.Parent; a != nil; a = a.Parent {
		switch a.Data {
		case "table":
			if isDataTable(a) {
				return false
			}
		case "h1", "b", "strong", "a":
			return false
		}
	}
	return true
}

func mayBeHeading(t string) bool {
	words := text.CountWords(t)
	return words > 0 && words <= longestBoldHeading && !strings.ContainsAny(t[len(t)-1:], ".,;") && !isFurnitureHeading(t) && furnitureLineReason(t, LineParagraph) == ""
}

// aloneOnItsLine gives the outermost inline element that holds n and nothing
// else, if nothing stands beside it on its line; nil otherwise.
func aloneOnItsLine(n *html.Node) *html.Node {
	for p := n.Parent; p != nil && p.Type == html.ElementNode && !markup.BreaksLine(p.Data) && holdsOnly(p, n); p = n.Parent {
		n = p
	}
	before := func(n *html.Node) *html.Node { return n.PrevSibling }
	after := func(n *html.Node) *html.Node { return n.NextSibling }
	if !lineEnds(n, before) || !lineEnds(n, after) {
		return nil
	}
	return n
}

func holdsOnly(p, n *html.Node) bool {
	for ch := p.FirstChild; ch != nil; ch = ch.NextSibling {
		if ch != n && !(ch.Type == html.TextNode && strings.TrimSpace(ch.Data) == "") {
			return false
		}
	}
	return true
}

// lineEnds tells whether the line ends at n in the direction of step: nothing
// but white space up to a break, a block, or the end of a block around it.
func lineEnds(n *html.Node, step func(*html.Node) *html.Node) bool {
	for s := step(n); s != nil; s = step(s) {
		switch {
		case s.Type == html.TextNode && strings.TrimSpace(s.Data) == "", s.Type == html.CommentNode:
		case s.Type == html.ElementNode && (s.Data == "br" || markup.BreaksLine(s.Data)):
			return true
		default:
			return false
		}
	}
	// The end of an inline element is no end of a line.
	p := n.Parent
	return p == nil || p.Type != html.ElementNode || markup.BreaksLine(p.Data) || lineEnds(p, step)
}

// repairLevels gives every heading its depth in the tree that the levels mean:
// a heading stands under the nearest one before it of a smaller level, however
// many levels were skipped between them. What the author set stays beside it.
func repairLevels(r *Reading) {
	var open []int // levels of the headings that enclose the next one
	for i := range r.Headings {
		level := r.Headings[i].Level
		for len(open) > 0 && open[len(open)-1] >= level {
			open = open[:len(open)-1]
		}
		open = append(open, level)
		r.Headings[i].Depth = len(open)
		r.Sections[i+1].Depth = len(open)
	}
}

// titleOutside finds the page's H1 where the walk over the content does not
// come upon it: in a site header, or beside the byline.
func (w *writer) titleOutside(root *html.Node) *html.Node {
	const most = 20 // a page with that many has no title among them
	var candidates []*html.Node
	for n := range w.doc.body.Descendants() {
		if n.Type != html.ElementNode || n.Data != "h1" {
			continue
		}
		if candidates = append(candidates, n); len(candidates) > most {
			return nil
		}
		if isBelow(n, root) && !w.isCut(n) {
			return nil
		}
	}
	for _, n := range candidates {
		if w.inCutGroup(n, "comments", "related pages", "overlay", "hidden text", "navigation") || w.leadsHome(n) {
			continue
		}
		only := len(candidates) == 1 && isBelow(n, root)
		if t := headingText(n); t != "" && (only || w.reading.Title == "" || similarTitle(t, w.reading.Title)) {
			return n
		}
	}
	return nil
}

// leadsHome tells the name of the site, a link to its first page, from a title.
func (w *writer) leadsHome(h1 *html.Node) bool {
	a := markup.First(h1, "a")
	if a == nil {
		return false
	}
	to := w.doc.base.Resolve(markup.Attr(a, "href"))
	return !to.Missing() && strings.Trim(to.Path(), "/") == ""
}

func isBelow(n, root *html.Node) bool {
	for ; n != nil; n = n.Parent {
		if n == root {
			return true
		}
	}
	return false
}

func (w *writer) inCutGroup(n *html.Node, groups ...string) bool {
	for ; n != nil; n = n.Parent {
		for _, g := range groups {
			if w.cut[n] == g {
				return true
			}
		}
	}
	return false
}

// similarTitle tells whether at least half of the heading's words stand in the title.
func similarTitle(heading, title string) bool {
	in := map[string]bool{}
	for _, s := range text.Words(title) {
		in[text.Fold(s.Of(title))] = true
	}
	hits, all := 0, 0
	for _, s := range text.Words(heading) {
		all++
		if in[text.Fold(s.Of(heading))] {
			hits++
		}
	}
	return all > 0 && 2*hits >= all
}

func headingLevel(n *html.Node) int {
	if len(n.Data) == 2 && n.Data[0] == 'h' && n.Data[1] >= '1' && n.Data[1] <= '6' {
		return int(n.Data[1] - '0')
	}
	if markup.Attr(n, "role") == "heading" {
		if l := markup.Attr(n, "aria-level"); len(l) == 1 && l[0] >= '1' && l[0] <= '6' {
			return int(l[0] - '0')
		}
		return 2
	}
	return 0
}

// headingText is the text of a heading without permalink signs and edit links.
func headingText(n *html.Node) string {
	var b strings.Builder
	var visit func(*html.Node)
	visit = func(n *html.Node) {
		for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
			if ch.Type == html.TextNode {
				b.WriteString(ch.Data)
			}
			if ch.Type != html.ElementNode || markup.HidesText(ch.Data) || isHidden(ch) {
				continue
			}
			group := ""
			for _, word := range classWords(markup.Attr(ch, "class")) {
				if word == "headerlink" || word == "permalink" || word == "editsection" || word == "anchorjs" || word == "hash" {
					group = word
				}
			}
			if group != "" {
				continue
			}
			if ch.Data == "br" || markup.BreaksLine(ch.Data) {
				b.WriteByte(' ')
			}
			visit(ch)
		}
	}
	visit(n)
	return strings.TrimSpace(strings.Trim(markup.Collapse(b.String()), "¶#§🔗"))
}

// leadsElsewhere tells whether a heading is as a whole a link to another page.
func (w *writer) leadsElsewhere(n *html.Node, t string) bool {
	a := markup.First(n, "a")
	if a == nil {
		a = n.Parent
		for a != nil && a.Data != "a" {
			a = a.Parent
		}
	}
	href := ""
	if a != nil {
		href = strings.TrimSpace(markup.Attr(a, "href"))
	}
	if href == "" || strings.HasPrefix(href, "#") || strings.HasPrefix(href, "javascript:") || a.Parent != nil && markup.First(n, "a") == a && markup.Text(a) != t {
		return false
	}
	to := w.doc.base.Resolve(href)
	return to.Web() && to.Page() != w.doc.base.Page() && to.Page() != w.reading.Canonical
}
