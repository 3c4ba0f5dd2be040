package reading

import (
	"strings"

	"corpulan/core/markup"
	"corpulan/core/text"

	"golang.org/x/net/html"
)

// headed is the group of what stands under a heading that the site put up.
const headed = "a section of the site's"

// cutHeaded cuts the headings that sites put up ("Related articles"), each with
// what it heads: the box that begins with it, or, where headings and text lie
// side by side, all up to the next heading of its rank. A heading that would
// take much of the page with it goes alone, unless the second reading keeps
// next to nothing of it either.
// The bounds are our own; `make eval` measures what they do.
func (c *content) cutHeaded(root *html.Node, second opinion) {
	most := 0.4 * max(c.weights[root].prose, 1)
	for n := range root.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		level := headingLevel(n)
		if level == 0 || c.isCut(n) || !isFurnitureHeading(headingText(n)) {
			continue
		}
		if c.isChapter(root, n, level) {
			continue
		}
		c.cut[n] = headed
		box := n
		for box.Parent != root && c.weights[box.Parent].text <= c.weights[n].text {
			box = box.Parent
		}
		if p := box.Parent; p != root && !c.textBefore(box) && c.weights[p].prose <= most && !headsMore(p, n, level) {
			c.cut[p] = headed
			continue
		}
		var following []*html.Node
		prose, seconded := 0.0, 0.0
		for s := box.NextSibling; s != nil && !beginsRank(s, level); s = s.NextSibling {
			following = append(following, s)
			prose += c.weights[s].prose
			seconded += second[s]
		}
		if prose > most && (second == nil || seconded > 0.1*prose) {
			continue
		}
		for _, s := range following {
			if s.Type == html.TextNode || s.Type == html.ElementNode && c.cut[s] == "" {
				c.cut[s] = headed
			}
		}
	}
}

// isChapter tells a heading of one word over an author's own prose: "Comments" in a text
// about comments. The word stands in the title or elsewhere in the text, and below it are
// sentences, few links, no dates and nothing to fill in. The bounds are our own.
func (c *content) isChapter(root, heading *html.Node, level int) bool {
	const often, sentence = 3, 20
	word := text.Fold(strings.TrimRight(headingText(heading), ":."))
	if strings.ContainsAny(word, " \t") || len(word) < 4 {
		return false
	}
	stem := word[:len(word)-1]
	prose, links, all := 0.0, 0.0, 0.0
	for s := heading.NextSibling; s != nil && !beginsRank(s, level); s = s.NextSibling {
		if s.Type != html.ElementNode {
			continue
		}
		for d := range s.Descendants() {
			if d.Type == html.ElementNode && (d.Data == "form" || d.Data == "textarea" || d.Data == "input" || d.Data == "time" || c.cut[d] != "" || furnitureGroup(d) == "comments") {
				return false
			}
		}
		if c.cut[s] != "" || furnitureGroup(s) == "comments" || s.Data == "form" {
			return false
		}
		prose += c.weights[s].prose
		links += c.weights[s].links
		all += c.weights[s].text
	}
	if prose < sentence || links > 0.2*all {
		return false
	}
	title := markup.First(c.doc.root, "title")
	return title != nil && strings.Contains(text.Fold(markup.Text(title)), stem) || strings.Count(text.Fold(markup.Text(root)), stem) > often
}

// textBefore tells whether anything is said in n's parent before n.
func (c *content) textBefore(n *html.Node) bool {
	for s := n.PrevSibling; s != nil; s = s.PrevSibling {
		if s.Type == html.TextNode && strings.TrimSpace(s.Data) != "" || s.Type == html.ElementNode && c.weights[s].text > 0 {
			return true
		}
	}
	return false
}

// headsMore tells whether a box that begins with a heading holds others of its
// rank, which then head something else.
func headsMore(box, heading *html.Node, level int) bool {
	for d := range box.Descendants() {
		if d != heading && d.Type == html.ElementNode && beginsRankItself(d, level) && !isFurnitureHeading(headingText(d)) && markup.First(d, "a") == nil && !markup.HasAncestor(d, "a") {
			return true
		}
	}
	return false
}

func beginsRankItself(n *html.Node, level int) bool {
	l := headingLevel(n)
	return l > 0 && l <= level
}

// beginsRank tells whether a heading of this rank or a higher one stands in n.
func beginsRank(n *html.Node, level int) bool {
	if n.Type != html.ElementNode {
		return false
	}
	if beginsRankItself(n, level) {
		return true
	}
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && beginsRankItself(d, level) {
			return true
		}
	}
	return false
}
