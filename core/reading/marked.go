package reading

import (
	"slices"
	"strings"

	"corpulan/core/markup"
	"corpulan/core/text"

	"golang.org/x/net/html"
)

// Marked is a name that the page sets off from what it says of it.
type Marked struct {
	Section int      `json:"section"`
	List    int      `json:"list"` // those of one box have one number
	Kind    MarkedBy `json:"kind"`
	Name    string   `json:"name"`
	Lines   []string `json:"lines,omitempty"` // what else stands there, a block each
	URL     string   `json:"url,omitempty"`   // that it leads to, another site's before the page's own
}

// MarkedBy is how a name is set off.
type MarkedBy string

// The ways in which names are set off.
const (
	MarkedCard MarkedBy = "card"       // one of several boxes of one shape, with a price each
	MarkedTerm MarkedBy = "definition" // a term of a definition list
	MarkedItem MarkedBy = "item"       // the bold or linked words that begin an item or a paragraph
)

// Bounds of what is kept of marked names, our own.
const (
	fewestMarked  = 3
	maxMarked     = 600 // of a page
	longestMarked = 120 // characters of a name
	longestSaid   = 600 // of a line
	maxSaid       = 12  // lines of one
	mostlyMarked  = 0.6 // of the items of a list
	wordsMarked   = 150 // of an item or a definition; what says more is a text
)

// marks notes the tables and marked names that a box is made of; what it gives back ends the box.
func (w *writer) marks(n *html.Node) func() {
	if n.Data == "table" && len(w.tally.tables)+len(w.reading.Tables) < maxTables && w.inDataTable(n) {
		w.tally.tables = append(w.tally.tables, tableOf(n))
	}
	if w.own || w.marking > 0 || len(w.tally.marked)+len(w.reading.Marked) >= maxMarked {
		return func() {}
	}
	found := w.marked(n)
	if len(found) < fewestMarked {
		return func() {}
	}
	w.lists++
	for i := range found {
		found[i].List = w.lists
	}
	w.tally.marked = append(w.tally.marked, found...)
	w.marking++
	return func() { w.marking-- }
}

// marked are the names that the children of a box set off.
func (w *writer) marked(n *html.Node) []Marked {
	if n.Data == "dl" {
		return w.definitions(n)
	}
	children := 0
	var alike []*html.Node
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if ch.Type != html.ElementNode || w.cut[ch] != "" {
			continue
		}
		children++
		if len(alike) == 0 || ch.Data == alike[0].Data {
			alike = append(alike, ch)
		} else if len(alike) == 1 { // a heading may stand before the boxes
			alike[0] = ch
		}
	}
	if len(alike) < fewestMarked || len(alike) > maxMarked {
		return nil
	}
	if cards := w.cards(alike); len(cards) >= fewestMarked {
		return cards
	}
	if n.Data != "ul" && n.Data != "ol" && alike[0].Data != "p" {
		return nil
	}
	var list []Marked
	for _, item := range alike {
		if w.weights[item].text > wordsMarked {
			continue
		}
		if name := leadOf(item); name != nil {
			said := strings.TrimSpace(strings.TrimPrefix(markup.Text(item), markup.Text(name)))
			list = append(list, Marked{Kind: MarkedItem, Name: shortText(markup.Text(name), longestMarked), Lines: saidIn(said), URL: w.leadsTo(item)})
		}
	}
	if float64(len(list)) < mostlyMarked*float64(len(alike)) {
		return nil
	}
	return list
}

func saidIn(s string) []string {
	if s == "" {
		return nil
	}
	return []string{shortText(s, longestSaid)}
}

// leadOf is the bold or linked beginning of an item, where more follows it or nothing.
func leadOf(item *html.Node) *html.Node {
	for n := item.FirstChild; n != nil; n = n.NextSibling {
		switch {
		case n.Type == html.TextNode && strings.TrimSpace(n.Data) == "", n.Type == html.CommentNode:
			continue
		case n.Type != html.ElementNode:
			return nil
		case n.Data == "b" || n.Data == "strong" || n.Data == "a":
			if !text.HasWord(markup.Text(n)) {
				return nil
			}
			return n
		case n.Data == "p" || n.Data == "span" || n.Data == "div" || n.Data == "em" || n.Data == "i":
			return leadOf(n)
		case n.Data == "img" || n.Data == "br" || n.Data == "input" || n.Data == "svg":
			continue
		default:
			return nil
		}
	}
	return nil
}

// definitions are the terms of a definition list.
func (w *writer) definitions(dl *html.Node) (list []Marked) {
	take := func(d *html.Node) {
		if d.Data != "dt" && d.Data != "dd" || len(list) >= maxMarked || w.weights[d].text > wordsMarked {
			return
		}
		switch said := markup.Text(d); {
		case d.Data == "dt" && text.HasWord(said):
			list = append(list, Marked{Kind: MarkedTerm, Name: shortText(said, longestMarked), URL: w.leadsTo(d)})
		case d.Data == "dd" && len(list) > 0 && said != "":
			m := &list[len(list)-1]
			if len(m.Lines) < maxSaid {
				m.Lines = append(m.Lines, shortText(said, longestSaid))
			}
			if m.URL == "" {
				m.URL = w.leadsTo(d)
			}
		}
	}
	for d := dl.FirstChild; d != nil; d = d.NextSibling {
		if take(d); d.Data == "div" { // HTML lets each group stand in one
			for inner := d.FirstChild; inner != nil; inner = inner.NextSibling {
				take(inner)
			}
		}
	}
	return list
}

// cards are boxes of one shape with a price each.
func (w *writer) cards(boxes []*html.Node) (list []Marked) {
	for i, box := range boxes {
		if w.weights[box].text > cardWords || i >= cardsNear && len(list) == 0 {
			continue
		}
		name, lines, hasPrice := w.cardOf(box)
		if hasPrice && name != "" {
			list = append(list, Marked{Kind: MarkedCard, Name: shortText(name, longestMarked), Lines: lines, URL: w.leadsTo(box)})
		}
	}
	return list
}

// cardOf reads a card: the name is its heading, else what its class calls one, else its first link or bold words.
func (w *writer) cardOf(box *html.Node) (name string, lines []string, hasPrice bool) {
	var named *html.Node
	best, seen := 0, 0
	for d := range box.Descendants() {
		if seen++; seen > cardNodes {
			break
		}
		if d.Type == html.TextNode && price.MatchString(d.Data) {
			hasPrice = true
		}
		if d.Type != html.ElementNode {
			continue
		}
		rank := 0
		switch {
		case headingLevel(d) > 0:
			rank = 4
		case isNameClass(d):
			rank = 3
		case d.Data == "a" || d.Data == "b" || d.Data == "strong":
			rank = 2
		}
		if rank > best && text.HasWord(markup.Text(d)) && !price.MatchString(markup.Text(d)) {
			named, best = d, rank
		}
	}
	if named == nil || !hasPrice {
		return "", nil, hasPrice
	}
	w.pieces(box, named, &lines)
	return markup.Text(named), lines, true
}

// isNameClass tells an element whose class calls it a name or a title.
func isNameClass(n *html.Node) bool {
	if markup.Attr(n, "itemprop") == "name" {
		return true
	}
	words := classWords(markup.Attr(n, "class"))
	return slices.ContainsFunc(words, func(w string) bool { return w == "name" || w == "title" || w == "heading" }) && markup.Text(n) != ""
}

// pieces are the texts of a box without its name, what is struck through and what can be pressed.
func (w *writer) pieces(n, without *html.Node, lines *[]string) {
	for ch := n.FirstChild; ch != nil && len(*lines) < maxSaid; ch = ch.NextSibling {
		switch {
		case ch == without || ch.Type == html.ElementNode && (markup.HidesText(ch.Data) || ch.Data == "button" || ch.Data == "input" || isStruckThrough(ch)):
		case ch.Type == html.TextNode:
			if s := markup.Collapse(ch.Data); text.HasWord(s) {
				*lines = append(*lines, shortText(s, longestSaid))
			}
		case ch.Type == html.ElementNode && (ch.Data == "p" || ch.Data == "li") && ch != without && !holds(ch, without):
			if s := markup.Text(ch); text.HasWord(s) {
				*lines = append(*lines, shortText(s, longestSaid))
			}
		case ch.Type == html.ElementNode:
			w.pieces(ch, without, lines)
		}
	}
}

func holds(n, what *html.Node) bool {
	for p := what; p != nil; p = p.Parent {
		if p == n {
			return true
		}
	}
	return false
}

// leadsTo is where a box leads: to another site, else to a page of its own.
func (w *writer) leadsTo(n *html.Node) (url string) {
	seen := 0
	for d := range n.Descendants() {
		if seen++; seen > cardNodes {
			break
		}
		if d.Type != html.ElementNode || d.Data != "a" {
			continue
		}
		to := w.doc.base.Resolve(strings.TrimSpace(markup.Attr(d, "href")))
		if !to.Web() || to.Page() == w.doc.base.Page() {
			continue
		}
		if to.Site() != w.doc.base.Site() {
			return to.Page()
		}
		if url == "" {
			url = to.Page()
		}
	}
	return url
}
