package reading

import (
	"strings"

	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// The judge settles block by block what the page's two readings see
// differently. Neither is right by rank: the first knows furniture by name and
// keeps headings, the second knows running text by its surroundings. What
// decides is where a block stands (before, among or after what both keep), how
// much it says, how much of it is links, and whether it holds headings.
//
// The rules were set on one half of the annotated pages of the evaluation and
// checked on the other; docs/evaluation.md has the figures.

const secondReading = "the second reading"

// Sizes of blocks in words of running text, set on one half of the annotated pages.
const (
	shortBlock = 15
	longBlock  = 60
)

// position of a block in relation to what the second reading keeps.
type position int

const (
	before position = iota
	among
	after
)

type judge struct {
	*content
	second opinion
	top    *html.Node
	total  float64 // text the second reading keeps, below top once that is settled
	passed float64 // of it, what the walk has passed
}

// settle gives the element to walk, and cuts or spares blocks below it.
func settle(c *content, top *html.Node, second opinion) *html.Node {
	if second == nil || second[c.doc.body] < longBlock {
		return top
	}
	j := &judge{content: c, second: second, top: top, total: second[c.doc.body]}
	j.widen()
	j.total = second[j.top]
	j.visit(j.top)
	return j.top
}

// widen takes the second reading's ground where the first missed most of it:
// the deepest element that holds all of that.
// The bounds are our own; `make eval` measures what they do.
func (j *judge) widen() {
	if j.shared(j.top) >= 0.5*j.total {
		return
	}
	top := j.doc.body
	for {
		var next *html.Node
		for ch := top.FirstChild; ch != nil; ch = ch.NextSibling {
			if ch.Type == html.ElementNode && containers[ch.Data] && j.second[ch] >= 0.95*j.total {
				next = ch
			}
		}
		if next == nil {
			break
		}
		top = next
	}
	for n := top; n != nil; n = n.Parent {
		delete(j.cut, n)
	}
	j.top = top
}

// shared is how much of the second reading's text stands below n and is not cut.
func (j *judge) shared(n *html.Node) float64 {
	kept := j.second[n]
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		switch there := j.second[ch]; {
		case there == 0:
		case j.cut[ch] != "":
			kept -= there
		default:
			kept -= there - j.shared(ch)
		}
	}
	return kept
}

// at tells where the walk stands: before, within or after what the second reading
// keeps. All but a hundredth of it is all: our own.
func (j *judge) at() position {
	switch {
	case j.passed <= 0:
		return before
	case j.passed >= 0.99*j.total:
		return after
	}
	return among
}

// visit goes over the blocks below n in the page's order.
// The bounds are our own; `make eval` measures what they do.
func (j *judge) visit(n *html.Node) {
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if ch.Type != html.ElementNode || markup.HidesText(ch.Data) {
			continue
		}
		w, kept := j.weights[ch], j.second[ch]
		switch {
		case j.cut[ch] != "":
			if kept > 0.5*w.text && w.prose > longBlock && w.links < 0.3*w.text && restorable[j.cut[ch]] {
				delete(j.cut, ch)
			}
			j.passed += kept
		case kept >= 0.95*w.text && kept > 0:
			j.passed += kept
		case kept == 0 && markup.BreaksLine(ch.Data) && w.text >= 1:
			j.alone(ch, w)
		default:
			j.visit(ch)
		}
	}
}

// restorable are the groups of furniture whose names mislead now and then: a
// "share" that is a share of the market. Long running text in them comes back
// if the second reading keeps it.
var restorable = map[string]bool{"navigation": true, "sharing": true, "page tools": true, "related pages": true, "sidebar": true, "overlay": true, "footer": true, "site header": true}

// alone judges a block that the first reading alone keeps.
// The bounds are our own; `make eval` measures what they do.
func (j *judge) alone(n *html.Node, w weight) {
	if headingLevel(n) > 0 {
		if j.at() == after {
			j.cut[n] = secondReading
		}
		return
	}
	small := w.prose < shortBlock && !hasHeading(n)
	linky := w.links > 0.4*w.text
	switch j.at() {
	case after:
		if !j.goesOn(n, w) {
			j.cut[n] = secondReading
		}
	case before:
		if small {
			j.cut[n] = secondReading
		}
	case among:
		if small && (linky || !inList(n) && !endsASentence(n)) || linky && w.prose < shortBlock {
			j.cut[n] = secondReading
		}
	}
}

// goesOn tells a section of the article from what follows the article: it is
// built like one before it that the second reading keeps, which now and then
// stops in mid-article.
// The bounds are our own; `make eval` measures what they do.
func (j *judge) goesOn(n *html.Node, w weight) bool {
	if w.links > 0.3*w.text || !hasHeading(n) {
		return false
	}
	class := markup.Attr(n, "class")
	for s := n.PrevSibling; s != nil; s = s.PrevSibling {
		if s.Type == html.ElementNode && s.Data == n.Data && markup.Attr(s, "class") == class && j.cut[s] == "" &&
			j.second[s] > 0.5*j.weights[s].text && hasHeading(s) {
			return true
		}
	}
	return false
}

// endsASentence tells a sentence, or what leads up to a list, from a label.
func endsASentence(n *html.Node) bool {
	t := markup.Text(n)
	return t != "" && strings.ContainsAny(t[len(t)-1:], ".!?:")
}

// inList tells whether n is part of a list or a table, whose parts may be short.
func inList(n *html.Node) bool {
	return markup.HasAncestor(n, "ul", "ol", "dl", "table") || n.Data == "ul" || n.Data == "ol" || n.Data == "dl" || n.Data == "table"
}

func hasHeading(n *html.Node) bool {
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && headingLevel(d) > 0 {
			return true
		}
	}
	return false
}
