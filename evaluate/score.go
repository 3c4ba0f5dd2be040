package main

import (
	"regexp"
	"strings"

	"corpulan/core/text"

	"golang.org/x/net/html"
)

// score counts things found, expected, and both.
type score struct{ both, found, expected int }

func (s *score) add(o score) {
	s.both += o.both
	s.found += o.found
	s.expected += o.expected
}

// precision, recall and their harmonic mean; 1 where there was nothing to find.
func (s score) precision() float64 { return share(s.both, s.found) }
func (s score) recall() float64    { return share(s.both, s.expected) }
func (s score) f1() float64        { return share(2*s.both, s.found+s.expected) }

func share(part, of int) float64 {
	if of == 0 {
		return 1
	}
	return float64(part) / float64(of)
}

// compare counts two bags.
func compare(found, expected map[string]int) (s score) {
	for k, n := range found {
		s.found += n
		s.both += min(n, expected[k])
	}
	for _, n := range expected {
		s.expected += n
	}
	return s
}

// wordBag is the words of a text, case left out.
func wordBag(s string) map[string]int {
	bag := map[string]int{}
	text.EachWord(s, func(w text.Span) { bag[strings.ToLower(w.Of(s))]++ })
	return bag
}

// editLink is what a wiki puts into its headings.
var editLink = regexp.MustCompile(`\[\s*(edit|modifier|bearbeiten|編集)[^\]]*\]`)

func wordsOf(s string) string {
	s = editLink.ReplaceAllString(s, " ")
	var words []string
	text.EachWord(s, func(w text.Span) { words = append(words, strings.ToLower(w.Of(s))) })
	return strings.Join(words, " ")
}

// headingBag is headings by their words. Those of the page's title are left
// out: the expected pages lack them, having the title apart.
func headingBag(headings []string, titles ...string) map[string]int {
	bag := map[string]int{}
next:
	for _, h := range headings {
		k := wordsOf(h)
		if k == "" {
			continue
		}
		for _, t := range titles {
			if strings.Contains(" "+wordsOf(t)+" ", " "+k+" ") {
				continue next
			}
		}
		bag[k]++
	}
	return bag
}

// inline elements do not part words.
var inline = map[string]bool{"a": true, "abbr": true, "acronym": true, "b": true, "big": true, "cite": true, "code": true, "del": true,
	"dfn": true, "em": true, "font": true, "i": true, "ins": true, "kbd": true, "label": true, "mark": true, "q": true, "s": true,
	"small": true, "span": true, "strong": true, "sub": true, "sup": true, "time": true, "tt": true, "u": true, "var": true, "wbr": true}

var silent = map[string]bool{"script": true, "style": true, "svg": true, "iframe": true, "noscript": true}

// textOf is the text below a node, blocks apart.
func textOf(n *html.Node) string { return strings.Join(linesOf(n), " ") }

// linesOf is the text below a node, a block a line.
func linesOf(n *html.Node) []string {
	var lines []string
	var b strings.Builder
	flush := func() {
		if t := collapse(b.String()); t != "" {
			lines = append(lines, t)
		}
		b.Reset()
	}
	var visit func(*html.Node)
	visit = func(n *html.Node) {
		if n.Type == html.TextNode {
			b.WriteString(n.Data)
		}
		if n.Type == html.ElementNode && silent[n.Data] {
			return
		}
		block := n.Type == html.ElementNode && !inline[n.Data]
		if block {
			flush()
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			visit(c)
		}
		if block {
			flush()
		}
	}
	if n != nil {
		visit(n)
		flush()
	}
	return lines
}

func headingsOf(n *html.Node) []string {
	var all []string
	if n == nil {
		return nil
	}
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && len(d.Data) == 2 && d.Data[0] == 'h' && d.Data[1] >= '1' && d.Data[1] <= '6' {
			all = append(all, textOf(d))
		}
	}
	return all
}

// collapse brings white space to one space and takes out soft hyphens, which are not read.
func collapse(s string) string {
	return strings.ReplaceAll(strings.Join(strings.Fields(s), " "), "\u00AD", "")
}
