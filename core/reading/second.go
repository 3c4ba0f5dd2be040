package reading

import (
	"net/url"
	"strconv"

	readability "codeberg.org/readeck/go-readability/v2"
	"golang.org/x/net/html"

	"corpulan/core/markup"
)

// The second extractor scores paragraphs and climbs from them; it knows nothing
// of headings and structure, and so errs in other places than the first.

// Up to what size and depth of page a second opinion is asked: its cost grows
// faster than the page does, and with every level of nesting. Our own.
const (
	maxElements = 12000
	maxDepth    = 120
)

// markAttr ties the elements of the copy that the second extractor takes apart
// to those of the page.
const markAttr = "data-corpulan"

// opinion is what the second extractor would keep: for every element of the
// page the weight of the text below it that it kept. It is nil without an opinion.
type opinion map[*html.Node]float64

func secondOpinion(d *document) (o opinion) {
	// It takes trees apart that nobody foresaw; without it the first stands alone.
	defer func() {
		if recover() != nil {
			o = nil
		}
	}()
	c := &copier{}
	root := c.copy(d.root, 0)
	if root == nil || len(c.originals) > maxElements || c.deepest > maxDepth {
		return nil
	}
	p := readability.NewParser()
	p.DisableJSONLD = true
	at := d.base.URL()
	if at == nil {
		at = &url.URL{Scheme: "http", Host: "page.invalid", Path: "/"}
	}
	article, err := p.ParseAndMutate(root, at)
	if err != nil || article.Node == nil {
		return nil
	}
	o = opinion{}
	o.collect(article.Node, d.body, c.originals)
	o.sum(d.body)
	return o
}

// copier copies a page, marked, without what no extractor reads.
type copier struct {
	originals []*html.Node
	deepest   int
}

func (c *copier) copy(n *html.Node, depth int) *html.Node {
	c.deepest = max(c.deepest, depth)
	if n.Type == html.CommentNode || n.Type == html.ElementNode && (n.Data == "script" || n.Data == "style" || n.Data == "svg" || n.Data == "template" || n.Data == "noscript") {
		return nil
	}
	to := &html.Node{Type: n.Type, DataAtom: n.DataAtom, Data: n.Data, Namespace: n.Namespace}
	if n.Type == html.ElementNode {
		if len(c.originals) > maxElements || c.deepest > maxDepth {
			return to
		}
		to.Attr = make([]html.Attribute, 0, len(n.Attr)+1)
		to.Attr = append(append(to.Attr, n.Attr...), html.Attribute{Key: markAttr, Val: strconv.Itoa(len(c.originals))})
		c.originals = append(c.originals, n)
	}
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if k := c.copy(ch, depth+1); k != nil {
			to.AppendChild(k)
		}
	}
	return to
}

// collect notes the text that was kept at the nearest element of the page above it.
func (o opinion) collect(n, at *html.Node, originals []*html.Node) {
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		switch ch.Type {
		case html.TextNode:
			o[at] += textWeight(ch.Data)
		case html.ElementNode:
			to := at
			if i, err := strconv.Atoi(markup.Attr(ch, markAttr)); err == nil && i < len(originals) {
				to = originals[i]
			}
			o.collect(ch, to, originals)
		}
	}
}

// sum adds to every element what was kept below it.
func (o opinion) sum(n *html.Node) float64 {
	kept := o[n]
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if ch.Type == html.ElementNode {
			kept += o.sum(ch)
		}
	}
	if kept > 0 {
		o[n] = kept
	}
	return kept
}
