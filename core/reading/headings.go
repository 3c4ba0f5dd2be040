package reading

import (
	"strings"

	"corpulan/core/text"

	"golang.org/x/net/html"
)

// boldLevel is the level of a heading that is only a line in bold.
const boldLevel = 2

// longestBoldHeading is in words; what is longer is a sentence with emphasis.
const longestBoldHeading = 14

// levelOf is the level of an element's heading, 0 if it is none.
func (w *writer) levelOf(n *html.Node) int {
	if w.bold[n] {
		return boldLevel
	}
	return headingLevel(n)
}

// findBoldHeadings finds the lines in bold that stand for headings on a page
// whose content has none but its title. One such line proves nothing, and
// where most of the text is bold none of it is a heading.
func (w *writer) findBoldHeadings(root *html.Node) {
	var lines []*html.Node
	inBold := 0.0
	for n := range root.Descendants() {
		if n.Type != html.ElementNode || w.isCut(n) {
			continue
		}
		if headingLevel(n) > 1 {
			return
		}
		if n.Data != "b" && n.Data != "strong" || hasAncestor(n, "table", "h1", "b", "strong", "a") && !inLayout(n) {
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
	return words > 0 && words <= longestBoldHeading && !strings.ContainsAny(t[len(t)-1:], ".,;") && !isFurnitureHeading(t) && !isFurnitureLine(t, LineParagraph)
}

// aloneOnItsLine gives the outermost inline element that holds n and nothing
// else, if nothing stands beside it on its line; nil otherwise.
func aloneOnItsLine(n *html.Node) *html.Node {
	for p := n.Parent; p != nil && p.Type == html.ElementNode && !blocks[p.Data] && holdsOnly(p, n); p = n.Parent {
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
		case s.Type == html.ElementNode && (s.Data == "br" || blocks[s.Data]):
			return true
		default:
			return false
		}
	}
	// The end of an inline element is no end of a line.
	p := n.Parent
	return p == nil || p.Type != html.ElementNode || blocks[p.Data] || lineEnds(p, step)
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
