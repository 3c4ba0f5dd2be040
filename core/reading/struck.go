package reading

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/text"

	"golang.org/x/net/html"
)

func (w *writer) strike(heading, reason string) {
	w.reading.Struck = append(w.reading.Struck, Struck{shortText(heading, 200), reason})
}

// strikeLine leaves a line out. A date that it shows near the top is the page's,
// where its head says none.
func (w *writer) strikeLine(line, reason string) {
	const most, top = 100, 100 // lines, words
	if len(w.reading.StruckLines) < most {
		w.reading.StruckLines = append(w.reading.StruckLines, Struck{line, reason})
	}
	if len(w.hashes) > top {
		return
	}
	to := &w.reading.Published
	if tellsOfAChange(line) {
		to = &w.reading.Modified
	}
	if *to == "" {
		*to = visibleDate(line)
	}
}

// outside is the kind of what stands beside the main content.
const outside = "outside the main content"

// tellLeftOut adds up by kind what stands on the page and not in its content,
// the most first.
func (w *writer) tellLeftOut(root *html.Node) {
	by := map[string]float64{}
	rest := w.weights[w.doc.body].text - w.weights[root].text // beside the content, what is cut there taken off below
	for n, group := range w.cut {
		if w.isCut(n.Parent) {
			continue
		}
		size := w.weights[n].text
		if n.Type == html.TextNode {
			size = textWeight(n.Data)
		}
		by[group] += size
		if !isBelow(n, root) {
			rest -= size
		}
	}
	by[outside] = rest
	by["by a second reading"], by[secondReading] = by[secondReading], 0
	for what, size := range by {
		if words := int(size + 0.5); words > 0 {
			w.reading.LeftOut = append(w.reading.LeftOut, LeftOut{what, words})
		}
	}
	slices.SortFunc(w.reading.LeftOut, func(a, b LeftOut) int { return cmp.Or(b.Words-a.Words, strings.Compare(a.What, b.What)) })
}

// strikeRest names every heading of the page that the content does not hold.
func (w *writer) strikeRest(d *document) {
	for n := range d.body.Descendants() {
		if n.Type != html.ElementNode || headingLevel(n) == 0 || w.seen[n] {
			continue
		}
		t := headingText(n)
		if !text.HasWord(t) {
			continue
		}
		reason := "it stands outside the main content"
		for a := n; a != nil; a = a.Parent {
			if g := w.cut[a]; g != "" {
				reason = reasonOf(g, isFurnitureHeading(t))
				break
			}
		}
		w.strike(t, reason)
	}
}

// reasonOf says why a heading is struck that stands in a cut block of a group.
func reasonOf(group string, byItself bool) string {
	switch {
	case group == headed && byItself:
		return "the site puts this heading there, not the author"
	case group == headed:
		return "it belongs to a section the site put there"
	case group == secondReading:
		return "a second reading of the page leaves its block out"
	}
	return "it stands in the site's furniture: " + group
}
