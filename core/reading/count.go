package reading

import (
	"math"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/address"
	"corpulan/core/language"
	"corpulan/core/markup"
	"corpulan/core/text"

	"golang.org/x/net/html"
)

// link notes an address the content links to, the first time it does.
func (w *writer) link(n *html.Node) {
	href := strings.TrimSpace(markup.Attr(n, "href"))
	if href == "" || strings.HasPrefix(href, "#") {
		return
	}
	to := w.doc.base.Resolve(href)
	if !to.Web() {
		return
	}
	url := to.Page()
	if url == "" || w.links[url] || !w.doc.base.Missing() && url == w.doc.base.Page() {
		return
	}
	w.links[url] = true
	external := to.Site() != "" && to.Site() != w.doc.base.Site()
	rel := relOf(n)
	w.reading.Links = append(w.reading.Links, Link{URL: url, Text: shortText(markup.Text(n), 200), External: external, Rel: rel})
	if strings.Contains(rel, "sponsored") {
		w.reading.Counts.PaidLinks++
	}
	if leadsToFile(to) {
		w.reading.Counts.FileLinks++
	}
	if external {
		w.reading.Counts.ExternalLinks++
	} else {
		w.reading.Counts.InternalLinks++
	}
}

// relOf keeps of a link's rel what search engines are told by it.
func relOf(n *html.Node) string {
	var kept []string
	for _, r := range strings.Fields(strings.ToLower(markup.Attr(n, "rel"))) {
		if (r == "nofollow" || r == "sponsored" || r == "ugc") && !slices.Contains(kept, r) {
			kept = append(kept, r)
		}
	}
	return strings.Join(kept, " ")
}

// leadsToFile tells a link to a document or an archive from one to a page.
func leadsToFile(a address.Address) bool {
	switch strings.ToLower(path.Ext(a.Path())) {
	case ".pdf", ".doc", ".docx", ".xls", ".xlsx", ".ppt", ".pptx", ".odt", ".ods", ".csv", ".zip", ".gpx", ".epub", ".mp3":
		return true
	}
	return false
}

// countMedia counts images, videos, tables and lists as the walk meets them.
func (w *writer) countMedia(n *html.Node) {
	switch n.Data {
	case "img":
		if isPicture(n) {
			w.reading.Counts.Images++
			w.imageText(markup.Attr(n, "alt"))
		}
	case "figcaption":
		if markup.First(n.Parent, "img") != nil {
			w.imageText(markup.Text(n))
		}
	case "video":
		w.reading.Counts.Videos++
	case "iframe", "embed":
		src := strings.ToLower(markup.Attr(n, "src") + markup.Attr(n, "data-src"))
		if strings.Contains(src, "video") || strings.Contains(src, "/embed") || strings.Contains(src, "player") {
			w.reading.Counts.Videos++
		} else if src != "" && !isTracker(n) {
			w.reading.Counts.Embeds++
		}
	case "table":
		if isDataTable(n) {
			w.reading.Counts.Tables++
		}
	case "ul", "ol", "dl":
		if drop, _ := w.linkList(n); !drop && !markup.HasAncestor(n, "ul", "ol") && w.weights[n].text > 1 {
			w.reading.Counts.Lists++
		}
	}
}

// imageText notes what the page says that an image shows, once.
func (w *writer) imageText(t string) {
	const most = 500
	if t = shortText(markup.Collapse(t), 300); t != "" && len(w.reading.ImageTexts) < most && !slices.Contains(w.reading.ImageTexts, t) {
		w.reading.ImageTexts = append(w.reading.ImageTexts, t)
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

func (w *writer) count() {
	c := &w.reading.Counts
	c.Words = len(w.hashes)
	w.countParagraphs()
	for _, s := range w.reading.Sections {
		c.Characters += utf8.RuneCountInString(s.Text) + utf8.RuneCountInString(s.Heading)
	}
}

// countParagraphs measures the paragraphs' lengths.
func (w *writer) countParagraphs() {
	p := &w.reading.Paragraphs
	if len(w.paragraphs) == 0 {
		return
	}
	slices.Sort(w.paragraphs)
	p.Median, p.Longest = w.paragraphs[len(w.paragraphs)/2], w.paragraphs[len(w.paragraphs)-1]
	for _, n := range w.paragraphs {
		if n > LongParagraph {
			p.Long++
		}
	}
}

// wordUse is a word as the content uses it.
type wordUse struct {
	word      string
	n         int
	syllables int // 0 until asked for
}

// countStopWords measures the share of stop words once the language is known.
func (w *writer) countStopWords() {
	lang := language.For(w.reading.Language)
	if !lang.IsRead() {
		return
	}
	n, all := 0, 0
	for _, u := range w.words {
		all += u.n
		if lang.Stop(u.word) {
			n += u.n
		}
	}
	if all > 0 {
		w.reading.StopShare = math.Round(1000*float64(n)/float64(all)) / 1000
	}
}

// prose counts whole sentences, for readability: those of paragraphs and
// quotations, and of items and captions that end like one.
type prose struct{ words, sentences, syllables int }

// countLine goes over the words of one line, once for all that counts them.
func (w *writer) countLine(line string, kind byte) {
	before := len(w.hashes)
	if kind == LineParagraph {
		defer func() { w.paragraphs = append(w.paragraphs, len(w.hashes)-before) }()
	}
	whole := kind == LineParagraph || kind == LineQuote || kind != LineCode && kind != LineCell && strings.HasSuffix(line, ".")
	syllables := whole && mayBeEnglish(w.reading.Language)
	text.EachWord(line, func(sp text.Span) {
		h := hashWord(sp.Of(line))
		w.hashes = append(w.hashes, h)
		u := w.words[h]
		if u == nil {
			u = &wordUse{word: sp.Of(line)}
			w.words[h] = u
		}
		u.n++
		if syllables {
			if u.syllables == 0 {
				u.syllables = text.Syllables(u.word)
			}
			w.prose.syllables += u.syllables
		}
	})
	if whole {
		w.prose.sentences += len(w.lang.Sentences(line))
		w.prose.words += len(w.hashes) - before
	}
}

func mayBeEnglish(language string) bool { return language == "en" || language == "" }

// apply writes the figures; finishLanguage takes readability back where the
// text turns out not to be English.
func (p prose) apply(r *Reading) {
	r.Counts.Sentences = p.sentences
	if mayBeEnglish(r.Language) {
		r.Readability = text.Flesch(p.words, p.sentences, p.syllables)
	}
}
