package reading

import (
	"corpulan/core/address"

	"golang.org/x/net/html"
)

// Text is an author's text by itself, without a site around it.
type Text struct {
	URL         string // where it is to stand; empty where nobody knows
	Title       string
	Description string
	Language    string     // ISO 639-1
	Body        *html.Node // an element that holds the text
}

// ReadText reads an author's text: as Read does, but nothing in it is taken for a site's, so
// that all that was written counts. Kind, structured data and sketch are those of pages and
// stay empty.
func ReadText(t Text) *Reading {
	r := newReading(t.URL)
	r.Title, r.Description, r.Language = t.Title, t.Description, t.Language
	d := &document{root: t.Body, html: t.Body, body: t.Body, base: address.Parse(t.URL)}
	c := &content{doc: d, weights: map[*html.Node]weight{}, cut: map[*html.Node]string{}, spared: map[string]bool{}}
	c.weigh(t.Body, false)
	w := newWriter(c, r, t.Body)
	w.own = true
	w.open(0, "")
	w.walk(t.Body)
	w.flush(LineParagraph)
	w.close(0)
	w.count()
	r.readability(w.prose)
	finishLanguage(r)
	repairLevels(r)
	w.countStopWords()
	readQuestions(r)
	return r
}

// Content reads a page and gives its main content as a tree of its own beside the reading, in
// a div: without what was left out, with the title heading first where it stands elsewhere on
// the page. It fails as Read does.
func Content(p Page) (*Reading, *html.Node, error) {
	r, w, err := readAll(p, secondOpinion)
	if err != nil {
		return nil, nil, err
	}
	div := &html.Node{Type: html.ElementNode, Data: "div"}
	for _, n := range []*html.Node{w.title, w.root} {
		if n == nil {
			continue
		}
		if c := w.copy(n); c != nil { // not what was cut
			div.AppendChild(c)
		}
	}
	return r, div, nil
}

// Parse parses HTML of any kind within the bounds that pages are read in: in time in line with
// its length, and flattened where it nests too deep.
func Parse(b []byte) (*html.Node, error) { return parse(limitFormatting(b)) }

// copy is a node with what is below it, without what is cut; nil for what is. Deep trees were
// limited before they were parsed, so that this ends.
func (w *writer) copy(n *html.Node) *html.Node {
	if w.cut[n] != "" || n.Type != html.ElementNode && n.Type != html.TextNode {
		return nil
	}
	to := &html.Node{Type: n.Type, DataAtom: n.DataAtom, Data: n.Data, Namespace: n.Namespace, Attr: n.Attr}
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if c := w.copy(ch); c != nil {
			to.AppendChild(c)
		}
	}
	return to
}
