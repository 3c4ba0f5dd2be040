// Package pdf reads the text of PDF files: read.go lines and paragraphs out of what stands on the
// pages, text.go what stands on a page, and where. A PDF is a program of sorts, and may come to no
// end: package handed reads it in a process of its own.
package pdf

import (
	"bytes"
	"errors"
	"fmt"
	"html"
	"slices"
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/message"
	"corpulan/core/text"

	"github.com/ledongthuc/pdf"
)

// maxPages bounds the pages that are read of a PDF. Our own: more than any book.
const maxPages = 2000

// Read makes paragraphs and headings of the text layer of a PDF: lines by where letters
// stand, paragraphs by the distance of lines, headings by letters larger than most.
func Read(file []byte) (body string, err error) {
	defer func() {
		if p := recover(); p != nil {
			body, err = "", message.Errorf("this PDF is damaged: %v", p)
		}
	}()
	r, err := pdf.NewReader(bytes.NewReader(file), int64(len(file)))
	if errors.Is(err, pdf.ErrInvalidPassword) {
		return "", ErrEncrypted
	}
	if err != nil {
		if bytes.Contains(file, []byte("/Encrypt")) {
			return "", ErrEncrypted
		}
		return "", message.Errorf("this PDF is damaged: %v", err)
	}
	pages, ok := pagesOf(r)
	if !ok {
		return "", message.Errorf("this PDF is damaged: its pages lead in a circle")
	}
	var lines []pdfLine
	for i, page := range pages[:min(len(pages), maxPages)] {
		lines = append(lines, linesOfPage(page, i+1)...)
	}
	lines = withoutRunning(lines, len(pages))
	if body = writePDF(lines); body == "" {
		return "", ErrNoText
	}
	return body, nil
}

// How large a tree of pages is. Our own: writers make it balanced (ISO 32000-1, 7.7.3).
const (
	deepest  = 64
	maxNodes = 100_000
)

// pagesOf are the pages of a PDF in their order; ok is false where their tree has no end that can be
// waited for: a file may name a node as its own child, or as the child of many.
func pagesOf(r *pdf.Reader) (pages []pdf.Page, ok bool) {
	seen := 0
	var walk func(node pdf.Value, depth int) bool
	walk = func(node pdf.Value, depth int) bool {
		if seen++; depth > deepest || seen > maxNodes {
			return false
		}
		kids := node.Key("Kids")
		for i := range kids.Len() {
			switch kid := kids.Index(i); kid.Key("Type").Name() {
			case "Pages":
				if !walk(kid, depth+1) {
					return false
				}
			case "Page":
				pages = append(pages, pdf.Page{V: kid})
			}
		}
		return true
	}
	ok = walk(r.Trailer().Key("Root").Key("Pages"), 0)
	return pages, ok
}

// pdfLine is a line of a page.
type pdfLine struct {
	page    int
	x, y    float64 // of its beginning; y grows upwards
	size    float64 // of its letters
	text    string
	letters int
}

// linesOfPage brings the letters of a page together to lines: those of one height, from left to
// right; a wide gap parts two lines, since it is the space between columns.
func linesOfPage(page pdf.Page, n int) (lines []pdfLine) {
	defer func() { _ = recover() }() // a damaged page is left out
	if page.V.IsNull() {
		return nil
	}
	var b strings.Builder
	var line pdfLine
	var right float64
	flush := func() {
		line.text = strings.Join(strings.Fields(b.String()), " ")
		line.letters = utf8.RuneCountInString(line.text)
		if line.text != "" {
			lines = append(lines, line)
		}
		b.Reset()
	}
	for _, t := range glyphsOf(page) {
		size := max(t.size, 1)
		gap := t.x - right
		switch {
		case b.Len() == 0:
			line = pdfLine{page: n, x: t.x, y: t.y, size: size}
		case abs(t.y-line.y) > size*0.4 || gap < -2*size || gap > 3.5*size:
			flush()
			line = pdfLine{page: n, x: t.x, y: t.y, size: size}
		case gap > size*0.18 && !strings.HasSuffix(b.String(), " "):
			b.WriteByte(' ')
		}
		b.WriteString(t.s)
		right = t.x + t.w
	}
	flush()
	return lines
}

func abs(x float64) float64 {
	if x < 0 {
		return -x
	}
	return x
}

// outer is how many heights at the top and at the bottom of a page may be running. Our own.
const outer = 1

// runsOn is the share of pages from which a line that stands on them at one height, figures
// aside, is a running head or foot. Our own.
const runsOn = 0.5

// withoutRunning leaves out what stands at the same height of half the pages, above or below all
// else of them: heads, feet and page numbers.
func withoutRunning(lines []pdfLine, pages int) []pdfLine {
	if pages < 3 {
		return lines
	}
	key := func(l pdfLine) string {
		return fmt.Sprintf("%.0f %s", l.y, strings.Map(func(r rune) rune {
			if unicode.IsDigit(r) {
				return '#'
			}
			return r
		}, strings.Trim(l.text, "0123456789 ")))
	}
	heights := map[int][]float64{} // of the lines of each page, each once
	for _, l := range lines {
		heights[l.page] = append(heights[l.page], l.y)
	}
	for page, ys := range heights {
		slices.Sort(ys)
		heights[page] = slices.Compact(ys)
	}
	outside := func(l pdfLine) bool {
		ys := heights[l.page]
		return len(ys) > 2*outer && (l.y <= ys[outer-1] || l.y >= ys[len(ys)-outer])
	}
	on := map[string]map[int]bool{}
	for _, l := range lines {
		if !outside(l) {
			continue
		}
		k := key(l)
		if on[k] == nil {
			on[k] = map[int]bool{}
		}
		on[k][l.page] = true
	}
	kept := lines[:0:0]
	for _, l := range lines {
		if !outside(l) || float64(len(on[key(l)])) < runsOn*float64(pages) {
			kept = append(kept, l)
		}
	}
	return kept
}

// Bounds of what is a heading. Our own.
const (
	larger         = 1.12 // than most letters
	longestHeading = 120  // letters
)

// writePDF makes HTML of lines.
func writePDF(lines []pdfLine) string {
	sizes := headingSizes(lines)
	var b, p strings.Builder
	flush := func(tag string) {
		if s := strings.TrimSpace(p.String()); s != "" {
			fmt.Fprintf(&b, "<%s>%s</%s>", tag, html.EscapeString(s), tag)
		}
		p.Reset()
	}
	tag := "p"
	for i, l := range lines {
		now := tagOf(l, sizes)
		if i == 0 || now != tag || endsBlock(lines[i-1], l) {
			flush(tag)
			tag = now
		}
		if s := p.String(); isParted(s, l.text) {
			p.Reset()
			p.WriteString(strings.TrimSuffix(s, "-"))
		} else if s != "" {
			p.WriteByte(' ')
		}
		p.WriteString(l.text)
	}
	flush(tag)
	return b.String()
}

// headingSizes are the sizes of letters larger than most, the largest first.
func headingSizes(lines []pdfLine) (sizes []float64) {
	letters := map[float64]int{} // by size, in halves of a point
	for _, l := range lines {
		letters[float64(int(l.size*2+0.5))/2] += l.letters
	}
	usual, most := 0., 0
	for size, n := range letters {
		if n > most || n == most && size < usual {
			usual, most = size, n
		}
	}
	for size := range letters {
		if size >= usual*larger {
			sizes = append(sizes, size)
		}
	}
	sort.Sort(sort.Reverse(sort.Float64Slice(sizes)))
	return sizes
}

// tagOf is the element that a line is of: that of a heading by its size, or of a paragraph.
func tagOf(l pdfLine, sizes []float64) string {
	for i, size := range sizes {
		if l.size >= size-0.26 && l.letters <= longestHeading && strings.IndexFunc(l.text, unicode.IsLetter) >= 0 {
			return fmt.Sprintf("h%d", min(i+1, 4))
		}
	}
	return "p"
}

// endsBlock tells whether a line ends its paragraph: a gap follows it, or a line set in; at the
// end of a page, that its sentence has ended.
func endsBlock(l, next pdfLine) bool {
	drop := l.y - next.y
	if next.page == l.page && (drop > 1.75*max(next.size, l.size) || drop < 0) {
		return true
	}
	if strings.HasSuffix(l.text, ".") && next.x-l.x > next.size*0.8 {
		return true
	}
	return next.page != l.page && text.Ends(l.text, ".?!:")
}

// isParted tells whether a word was parted at the end of the line.
func isParted(line, next string) bool {
	return len(line) > 1 && strings.HasSuffix(line, "-") && unicode.IsLetter(rune(line[len(line)-2])) && next != "" && unicode.IsLower(firstRune(next))
}

func firstRune(s string) rune {
	r, _ := utf8.DecodeRuneInString(s)
	return r
}

// Errors of PDF; test with errors.Is.
var (
	ErrEncrypted = message.Errorf("this PDF is encrypted: save it without a password first")
	ErrNoText    = message.Errorf("this PDF has no text, only pictures: run it through a text recognition first")
)
