package reading

import (
	"strconv"
	"strings"

	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// countMedia counts images, videos, tables and lists as the walk meets them.
func (w *writer) countMedia(n *html.Node) {
	switch n.Data {
	case "img":
		if isPicture(n) {
			w.tally.counts.Images++
			w.imageText(markup.Attr(n, "alt"))
		}
	case "figcaption":
		if markup.First(n.Parent, "img") != nil {
			w.imageText(markup.Text(n))
		}
	case "video":
		w.tally.counts.Videos++
	case "iframe", "embed":
		src := strings.ToLower(markup.Attr(n, "src") + markup.Attr(n, "data-src"))
		if strings.Contains(src, "video") || strings.Contains(src, "/embed") || strings.Contains(src, "player") {
			w.tally.counts.Videos++
		} else if src != "" && !isTracker(n) {
			w.tally.counts.Embeds++
		}
	case "table":
		if isDataTable(n) {
			w.tally.counts.Tables++
		}
	case "ul", "ol", "dl":
		if drop, _ := w.linkList(n); (!drop || w.own) && !markup.HasAncestor(n, "ul", "ol") && w.weights[n].text > 1 {
			w.tally.counts.Lists++
		}
	}
}

// maxImageTexts bounds the list: our own.
const maxImageTexts = 500

// imageText notes what the page says that an image shows.
func (w *writer) imageText(t string) {
	if t = shortText(markup.Collapse(t), 300); t != "" && len(w.tally.imageTexts) < maxImageTexts {
		w.tally.imageTexts = append(w.tally.imageTexts, t)
	}
}

// isTracker tells a frame that nobody is to see.
func isTracker(n *html.Node) bool {
	return isHidden(n) || isTiny(n)
}

// isTiny tells an element of less than fifty pixels either way: an icon, a
// spacer or a tracker.
func isTiny(n *html.Node) bool {
	for _, side := range []string{"width", "height"} {
		if px, err := strconv.Atoi(strings.TrimSuffix(markup.Attr(n, side), "px")); err == nil && px < 50 {
			return true
		}
	}
	return false
}

// isPicture tells an image that shows something from icons, avatars and trackers.
func isPicture(n *html.Node) bool {
	if isTiny(n) {
		return false
	}
	if markup.Attr(n, "role") == "presentation" && markup.Attr(n, "alt") == "" && !markup.HasAttr(n, "srcset") && !markup.HasAttr(n, "data-src") {
		return false
	}
	for _, word := range classWords(markup.Attr(n, "class") + " " + markup.Attr(n, "id")) {
		switch word {
		case "icon", "avatar", "gravatar", "logo", "emoji", "smiley", "pixel", "spacer", "badge", "tracker":
			return false
		}
	}
	src := strings.ToLower(markup.Attr(n, "src"))
	for _, sign := range []string{"pixel.", "spacer.", "/icons/", "avatar", "1x1", "blank.gif"} {
		if strings.Contains(src, sign) && markup.Attr(n, "data-src") == "" {
			return false
		}
	}
	return src != "" || markup.HasAttr(n, "data-src") || markup.HasAttr(n, "srcset") || markup.HasAttr(n, "data-srcset")
}

// isDataTable tells a table of data from one that lays out a page: at least
// two rows of at least two cells, and no table inside.
func isDataTable(n *html.Node) bool {
	rows := 0
	for d := range n.Descendants() {
		if d.Type != html.ElementNode {
			continue
		}
		if d.Data == "table" {
			return false
		}
		if d.Data == "tr" {
			cells := 0
			for ch := d.FirstChild; ch != nil; ch = ch.NextSibling {
				if ch.Type == html.ElementNode && (ch.Data == "td" || ch.Data == "th") {
					cells++
				}
			}
			if cells >= 2 {
				rows++
			}
		}
	}
	return rows >= 2 && markup.Attr(n, "role") != "presentation"
}
