package reading

import (
	"corpulan/core/text"

	"golang.org/x/net/html"
)

func (w *writer) strike(heading, reason string) {
	w.reading.Struck = append(w.reading.Struck, Struck{shortText(heading, 200), reason})
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
