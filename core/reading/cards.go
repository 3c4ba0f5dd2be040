package reading

import (
	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// Bounds of a card, all our own.
const (
	cardDepth = 5   // how far above its heading a card begins at most
	cardWords = 80  // how much it says at most
	cardNodes = 400 // what is looked at of it: elements and texts
	fewCards  = 3   // of one shape near each other
	cardsNear = 6   // nodes on each side that are looked at
)

// isCard tells whether a heading names a ware on its card: a short box with a price or something to
// press, one of several of its shape side by side.
func (w *writer) isCard(heading *html.Node) bool {
	if w.own {
		return false
	}
	box := heading.Parent
	for range cardDepth {
		if box == nil || box == w.root || box.Parent == nil || w.weights[box].text > cardWords {
			return false
		}
		if sells(box) && w.alikeBeside(box) >= fewCards {
			return true
		}
		box = box.Parent
	}
	return false
}

// sells tells whether a box has a heading and a price, or a button.
func sells(box *html.Node) bool {
	headed, sold, seen := false, false, 0
	for d := range box.Descendants() {
		if seen++; seen > cardNodes || headed && sold {
			break
		}
		headed = headed || d.Type == html.ElementNode && headingLevel(d) > 0
		sold = sold || d.Type == html.ElementNode && d.Data == "button" || d.Type == html.TextNode && price.MatchString(d.Data)
	}
	return headed && sold
}

// alikeBeside counts the boxes of the shape of one near it, itself among them: the same element with the
// same class, and something to sell.
func (w *writer) alikeBeside(box *html.Node) int {
	n := 1
	for _, step := range []func(*html.Node) *html.Node{func(n *html.Node) *html.Node { return n.PrevSibling }, func(n *html.Node) *html.Node { return n.NextSibling }} {
		looked := 0
		for s := step(box); s != nil && looked < cardsNear; s = step(s) {
			looked++
			if s.Type == html.ElementNode && s.Data == box.Data && markup.Attr(s, "class") == markup.Attr(box, "class") &&
				w.weights[s].text <= cardWords && sells(s) {
				n++
			}
		}
	}
	return n
}
