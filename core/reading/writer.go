package reading

import (
	"strings"

	"corpulan/core/language"
	"corpulan/core/markup"
	"corpulan/core/text"

	"golang.org/x/net/html"
)

// readContent finds the main content and writes sections, headings, struck
// headings, links and counts into the reading.
func readContent(d *document, r *Reading, second opinion) *writer {
	c, root := findContent(d)
	root = settle(c, root, second)
	c.cutHeaded(root, second)
	w := newWriter(c, r, root)
	w.findBoldHeadings(root)
	w.open(0, "")
	if w.title = w.titleOutside(root); w.title != nil {
		w.heading(w.title, 1)
	}
	w.walk(root)
	w.flush(LineParagraph)
	w.close(0)
	w.strikeRest(d)
	w.tellLeftOut(root)
	w.count()
	r.readability(w.prose)
	r.Sketch = sketchOf(w.hashes)
	return w
}

func newWriter(c *content, r *Reading, root *html.Node) *writer {
	return &writer{content: c, reading: r, root: root, lang: languageOf(r, root), links: map[string]bool{}, seen: map[*html.Node]bool{}, tables: map[*html.Node]bool{}, words: map[uint64]*wordUse{}}
}

// languageOf is the language a page declares, or that its content seems to be in.
func languageOf(r *Reading, root *html.Node) *language.Language {
	if r.Language != "" {
		return language.For(r.Language)
	}
	return language.For(language.Detect(markup.Text(root)))
}

// writer walks the content and puts it down section by section.
type writer struct {
	*content
	reading *Reading
	root    *html.Node
	title   *html.Node         // the H1 where it stands outside the root; nil where it does not
	own     bool               // an author's text by itself: nothing in it is a site's
	lang    *language.Language // the page declares, or seems to be in

	current    Section
	lines      []string
	kinds      []byte
	line       strings.Builder // the block being written
	linkOnly   bool            // the heading of the current section is a link to another page
	inferred   bool            // the heading of the current section is a line in bold
	card       bool            // the current section is a ware's card
	bold       map[*html.Node]bool
	titled     int                 // level of the title among the content, where it is no H1 and bold lines stand for headings
	code       int                 // how deep in pre the walk is
	marking    int                 // how deep in boxes whose names are noted the walk is
	lists      int                 // of names noted so far
	tally      tally               // of the current section
	links      map[string]bool     // addresses of the sections before it
	seen       map[*html.Node]bool // headings dealt with
	tables     map[*html.Node]bool // tables looked at, and whether they hold data
	offset     int
	kept       int      // lines so far
	hashes     []uint64 // of the words kept so far, headings included
	prose      text.Prose
	paragraphs []int               // words of each
	words      map[uint64]*wordUse // of the sections' text, by their hash
}

func (w *writer) walk(n *html.Node) {
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		switch ch.Type {
		case html.TextNode:
			if w.cut[ch] == "" {
				w.line.WriteString(ch.Data)
			}
		case html.ElementNode:
			w.element(ch)
		}
	}
}

func (w *writer) element(n *html.Node) {
	if w.cut[n] != "" {
		return
	}
	w.countMedia(n)
	if markup.HidesText(n.Data) || n.Data == "button" || n.Data == "input" || isStruckThrough(n) {
		return
	}
	if level := w.levelOf(n); level > 0 {
		w.flush(LineParagraph)
		w.heading(n, level)
		return
	}
	if n.Data == "br" {
		w.lineBreak(n)
		return
	}
	if n.Data == "a" {
		if isReferenceMark(n) {
			return
		}
		w.link(n)
	}
	if !markup.BreaksLine(n.Data) {
		if markup.SetsCode(n.Data) && w.code == 0 {
			w.reading.addCode(markup.Text(n))
		}
		w.walk(n)
		return
	}
	w.flush(w.enclosingKind(n.Parent))
	defer w.marks(n)()
	if n.Data == "ul" || n.Data == "ol" || n.Data == "table" || n.Data == "div" || n.Data == "section" || n.Data == "p" || n.Data == "dl" {
		if drop, what := w.linkList(n); drop && !w.own {
			w.cut[n] = what
			return
		}
	}
	if n.Data == "pre" {
		w.code++
		defer func() { w.code-- }()
	}
	kept := w.kept
	w.walk(n)
	w.flush(w.enclosingKind(n))
	if n.Data == "p" && w.kept > kept {
		w.tally.counts.Paragraphs++
	}
}

// isStruckThrough tells what the author took back (HTML Standard, 4.5.5 and 4.7.2): an old price, a word crossed out.
func isStruckThrough(n *html.Node) bool {
	return n.Data == "del" || n.Data == "s" || n.Data == "strike"
}

// isReferenceMark tells a footnote's number or a jump within the page ("[12]",
// "Jump to navigation") from the author's words.
func isReferenceMark(n *html.Node) bool {
	if !strings.HasPrefix(markup.Attr(n, "href"), "#") {
		return false
	}
	t := strings.ToLower(markup.Text(n))
	return strings.HasPrefix(t, "jump to ") || strings.HasPrefix(t, "skip to ") || strings.HasPrefix(t, "back to top") ||
		len(t) <= 8 && strings.Trim(t, "[]^↑↩ 0123456789n") == ""
}

// lineBreak ends the block at two breaks in a row, as pages without paragraphs do.
func (w *writer) lineBreak(n *html.Node) {
	if w.code > 0 {
		w.line.WriteByte('\n')
		return
	}
	next := n.NextSibling
	for next != nil && next.Type == html.TextNode && strings.TrimSpace(next.Data) == "" {
		next = next.NextSibling
	}
	if next != nil && next.Type == html.ElementNode && next.Data == "br" {
		kept := w.kept
		if w.flush(w.enclosingKind(n.Parent)); w.kept > kept {
			w.tally.counts.Paragraphs++
		}
	} else {
		w.line.WriteByte(' ')
	}
}

// enclosingKind is the kind of line that text directly in n makes.
func (w *writer) enclosingKind(n *html.Node) byte {
	if w.code > 0 {
		return LineCode
	}
	for ; n != nil; n = n.Parent {
		switch n.Data {
		case "li":
			return LineItem
		case "td", "th", "caption":
			if w.inDataTable(n) {
				return LineCell
			}
			return LineParagraph // a table that lays out the page
		case "blockquote":
			return LineQuote
		case "dt", "dd", "summary":
			return LineDefinition
		case "figcaption":
			return LineCaption
		case "article", "main", "section", "body":
			return LineParagraph
		}
	}
	return LineParagraph
}

func (w *writer) inDataTable(n *html.Node) bool {
	for n != nil && n.Data != "table" {
		n = n.Parent
	}
	if n == nil {
		return false
	}
	data, known := w.tables[n]
	if !known {
		data = isDataTable(n)
		w.tables[n] = data
	}
	return data
}

// flush ends the block being written and keeps its text as one line.
func (w *writer) flush(kind byte) {
	if w.line.Len() == 0 {
		return
	}
	raw := w.line.String()
	w.line.Reset()
	if kind == LineCode {
		for l := range strings.Lines(raw) {
			w.keep(markup.Collapse(l), kind)
		}
		return
	}
	w.keep(markup.Collapse(raw), kind)
}

func (w *writer) keep(line string, kind byte) {
	if line == "" || !text.HasWord(line) {
		return
	}
	if reason := furnitureLineReason(line, kind); reason != "" && !w.own {
		w.strikeLine(line, reason)
		return
	}
	w.kept++
	w.lines = append(w.lines, line)
	w.kinds = append(w.kinds, kind)
}

func (w *writer) open(level int, heading string) {
	w.current = Section{Level: level, Heading: heading, Offset: w.offset}
	w.lines, w.kinds = nil, nil
	w.tally = tally{}
}

// teaser is how many words under a heading that leads to another page are no
// more than a word on that page. Our own bound.
const teaser = 40

// close ends the current section before a heading of nextLevel and counts what it
// holds. A heading that was only a link to another page and has no more than a
// teaser below it is struck with its text: then nothing of it counts.
func (w *writer) close(nextLevel int) {
	s := w.current
	if w.linkOnly && nextLevel <= s.Level && w.wordsHeld() < teaser {
		w.strike(s.Heading, "the whole heading is a link to another page")
		return
	}
	s.Text, s.Lines = strings.Join(w.lines, "\n"), string(w.kinds)
	before := len(w.hashes)
	w.hashes = hashWords(w.hashes, s.Heading)
	inHeading := len(w.hashes) - before
	for i, line := range w.lines {
		w.countLine(line, w.kinds[i])
	}
	s.Words = len(w.hashes) - before - inHeading
	w.offset = s.Offset + inHeading + s.Words
	w.add(w.tally)
	w.reading.Sections = append(w.reading.Sections, s)
	if s.Level > 0 {
		w.reading.Headings = append(w.reading.Headings, Heading{Level: s.Level, Text: s.Heading, Words: s.Words, Inferred: w.inferred, Card: w.card})
	}
}

// wordsHeld counts the words of the current section's text.
func (w *writer) wordsHeld() int {
	n := 0
	for _, line := range w.lines {
		n += text.CountWords(line)
	}
	return n
}

func (w *writer) heading(n *html.Node, level int) {
	w.seen[n] = true
	t := headingText(n)
	if !text.HasWord(t) {
		return
	}
	if !w.own && isByline(t, w.reading.Author) {
		w.strike(t, "it names who wrote the page")
		return
	}
	w.close(level)
	w.linkOnly, w.inferred, w.card = !w.own && w.leadsElsewhere(n, t), w.bold[n], w.isCard(n)
	w.open(level, t)
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && d.Data == "a" {
			w.link(d)
		}
	}
}
