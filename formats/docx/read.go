// Package docx reads and writes WordprocessingML (ISO/IEC 29500).
//
//   - read.go    a writer's text out of a file
//   - draft.go   a writer's text into one
//   - writer.go  paragraphs, links and the package; parts.go its parts that are always the same
package docx

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"html"
	"io"
	"io/fs"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/draft"
	"corpulan/core/message"
	"corpulan/formats/manuscript"
)

// Read is the text of a DOCX (ISO/IEC 29500, WordprocessingML): paragraphs, those with a
// heading's style or outline level as headings, lists with their levels, tables, links, bold
// and italics. What is deleted with changes tracked is left out.
func Read(file []byte) (*draft.Node, error) {
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return nil, message.Errorf("this DOCX file cannot be opened: %v", err)
	}
	body, err := docxPart(z, "word/document.xml")
	if errors.Is(err, fs.ErrNotExist) {
		return nil, message.Errorf("%v: it has no word/document.xml", manuscript.ErrNoDraft)
	}
	if err != nil {
		return nil, err
	}
	w := &docxText{links: map[string]string{}, numbered: map[string]bool{}, starts: map[string]string{}}
	if rels, err := docxPart(z, "word/_rels/document.xml.rels"); err == nil {
		w.readLinks(rels)
	}
	if numbering, err := docxPart(z, "word/numbering.xml"); err == nil {
		w.readNumbering(numbering)
	}
	if err := eachToken(body, w.token); err != nil {
		return nil, message.Errorf("this DOCX file is damaged: %v", err)
	}
	w.lists(0)
	n, err := manuscript.Fragment(w.b.String())
	if err != nil {
		return nil, err
	}
	if core, err := docxPart(z, "docProps/core.xml"); err == nil {
		var props struct {
			Title       string `xml:"title"`
			Description string `xml:"description"`
		}
		if xml.Unmarshal(core, &props) == nil && (props.Title != "" || props.Description != "") {
			n.Attrs = &draft.Attrs{Title: draft.Clean(props.Title), Description: draft.Clean(props.Description)}
		}
	}
	return n, nil
}

// docxPart is a part of the package, unpacked; its size is bounded.
func docxPart(z *zip.Reader, name string) ([]byte, error) {
	part, err := z.Open(name)
	if err != nil {
		return nil, err
	}
	defer part.Close()
	b, err := io.ReadAll(io.LimitReader(part, manuscript.LargestDraft+1))
	if err != nil {
		return nil, message.Errorf("this DOCX file cannot be unpacked: %v", err)
	}
	if len(b) > manuscript.LargestDraft {
		return nil, message.Errorf("the text of this DOCX file is larger than %d MiB", manuscript.LargestDraft>>20)
	}
	return b, nil
}

func eachToken(b []byte, visit func(xml.Token)) error {
	d := xml.NewDecoder(bytes.NewReader(b))
	for {
		t, err := d.Token()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return err
		}
		visit(t)
	}
}

// docxText writes the paragraphs of a document as they come.
type docxText struct {
	links    map[string]string // addresses by the number of their relation
	numbered map[string]bool   // lists that are numbered, by their number
	starts   map[string]string // numbers with which they begin, where they begin with another than 1

	b       bytes.Buffer
	text    strings.Builder
	level   int    // of the heading; 0 for none
	item    int    // level of the list, from 1; 0 for none
	list    string // its number, as paragraphs name it
	style   string // of the paragraph, in small letters
	bold    bool
	italic  bool
	mono    bool
	inRun   bool
	inText  bool
	deleted int
	link    []string
	shown   string // where the last link leads, as HTML, and where its text begins
	from    int
	alt     string // of an image
	open    []list
	heads   bool // the row of a table that heads it
	nested  int  // tables
}

func (w *docxText) readLinks(b []byte) {
	_ = eachToken(b, func(t xml.Token) { // damaged relations: the links are left out
		if s, ok := t.(xml.StartElement); ok && s.Name.Local == "Relationship" && strings.HasSuffix(attr(s, "Type"), "/hyperlink") {
			w.links[attr(s, "Id")] = attr(s, "Target")
		}
	})
}

func (w *docxText) readNumbering(b []byte) {
	formats, abstract, num, level := map[string]string{}, "", "", ""
	_ = eachToken(b, func(t xml.Token) { // damaged numbering: the lists have no numbers
		s, ok := t.(xml.StartElement)
		if !ok {
			return
		}
		switch s.Name.Local {
		case "abstractNum":
			abstract = attr(s, "abstractNumId")
		case "lvl":
			level = attr(s, "ilvl")
		case "numFmt":
			if level == "0" {
				formats[abstract] = attr(s, "val")
			}
		case "num":
			num = attr(s, "numId")
		case "startOverride":
			if v := attr(s, "val"); v != "1" {
				w.starts[num] = v
			}
		case "abstractNumId":
			f := formats[attr(s, "val")]
			w.numbered[num] = f != "" && f != "bullet" && f != "none"
		}
	})
}

func (w *docxText) token(t xml.Token) {
	switch t := t.(type) {
	case xml.StartElement:
		w.start(t)
	case xml.EndElement:
		switch t.Name.Local {
		case "t":
			w.inText = false
		case "del", "moveFrom":
			w.deleted--
		case "r":
			w.inRun = false
		case "hyperlink":
			if n := len(w.link) - 1; n >= 0 {
				if w.link[n] != "" {
					if w.style == "image" {
						w.alt = w.text.String()[w.from:]
					}
					w.text.WriteString("</a>")
				}
				w.link = w.link[:n]
			}
		case "p":
			w.paragraph()
		case "tc":
			w.lists(0)
			w.b.WriteString(map[bool]string{true: "</th>", false: "</td>"}[w.heads])
		case "tr":
			w.b.WriteString("</tr>")
			w.heads = false
		case "tbl":
			w.b.WriteString("</table>")
			w.nested--
		}
	case xml.CharData:
		if w.inText && w.deleted == 0 && len(t) > 0 {
			w.run(html.EscapeString(string(t)))
		}
	}
}

// run writes a stretch of text in its look.
func (w *docxText) run(s string) {
	if w.mono {
		s = "<code>" + s + "</code>"
	}
	if w.italic {
		s = "<em>" + s + "</em>"
	}
	if w.bold {
		s = "<strong>" + s + "</strong>"
	}
	w.text.WriteString(s)
}

// start reads what an element opens (ISO/IEC 29500-1, 17.3 and 17.4).
func (w *docxText) start(t xml.StartElement) {
	switch t.Name.Local {
	case "p", "pStyle", "outlineLvl", "numPr", "ilvl", "numId":
		w.ofParagraph(t)
	case "r", "rStyle", "b", "i", "t", "tab", "br", "cr":
		w.ofRun(t)
	case "tbl", "tr", "tblHeader", "tc":
		w.ofTable(t)
	case "hyperlink":
		href := w.links[attr(t, "id")]
		if !draft.Leads(href) {
			href = ""
		}
		if w.link = append(w.link, href); href != "" {
			w.shown = html.EscapeString(href)
			fmt.Fprintf(&w.text, `<a href="%s">`, w.shown)
			w.from = w.text.Len()
		}
	case "del", "moveFrom":
		w.deleted++
	}
}

// isOn tells whether a property that is there or not is there.
func isOn(t xml.StartElement) bool { return attr(t, "val") != "0" && attr(t, "val") != "false" }

// ofParagraph begins a paragraph, or reads one of its properties.
func (w *docxText) ofParagraph(t xml.StartElement) {
	n, err := strconv.Atoi(attr(t, "val"))
	switch t.Name.Local {
	case "p":
		w.text.Reset()
		w.level, w.item, w.list, w.style, w.link, w.shown, w.alt = 0, 0, "", "", nil, "", ""
	case "pStyle":
		w.ofStyle(strings.ToLower(attr(t, "val")))
	case "outlineLvl":
		if err == nil && n >= 0 && n < 6 && w.level == 0 {
			w.level = n + 1
		}
	case "numPr":
		w.item = max(w.item, 1)
	case "ilvl":
		if err == nil && n >= 0 && n < 9 { // as many levels as the standard has
			w.item = n + 1
		}
	case "numId":
		if w.list = attr(t, "val"); w.list == "0" { // taken out of its list
			w.item = 0
		}
	}
}

// ofStyle reads the name of a paragraph's style.
func (w *docxText) ofStyle(style string) {
	w.style = style
	if level, ok := strings.CutPrefix(style, "heading"); ok {
		if n, err := strconv.Atoi(level); err == nil {
			w.level = min(max(n, 1), 6)
		}
	} else if style == "title" {
		w.level = 1
	}
	if strings.HasPrefix(style, "list") && style != "listlabel" && !strings.HasPrefix(style, "listcontinue") {
		w.item = max(w.item, 1)
	}
}

// ofRun begins a run, or reads its look or text.
func (w *docxText) ofRun(t xml.StartElement) {
	switch t.Name.Local {
	case "r":
		w.inRun, w.bold, w.italic, w.mono = true, false, false, false
	case "rStyle": // ours, word processors' "HTML Code", and that of converters from Markdown
		w.mono = w.inRun && slices.Contains([]string{"htmlcode", "verbatimchar"}, strings.ToLower(attr(t, "val")))
	case "b":
		w.bold = w.inRun && isOn(t)
	case "i":
		w.italic = w.inRun && isOn(t)
	case "t":
		w.inText = true
	case "tab":
		if w.inRun {
			w.text.WriteByte(' ')
		}
	case "br", "cr":
		w.text.WriteString("<br>")
	}
}

// ofTable begins a table, a row or a cell.
func (w *docxText) ofTable(t xml.StartElement) {
	switch t.Name.Local {
	case "tbl":
		w.lists(0)
		w.nested++
		w.b.WriteString("<table>")
	case "tr":
		w.b.WriteString("<tr>")
	case "tblHeader":
		w.heads = isOn(t)
	case "tc":
		w.b.WriteString(map[bool]string{true: "<th>", false: "<td>"}[w.heads])
	}
}

// list is one that is open: its element, and its number.
type list struct{ kind, num string }

func (w *docxText) paragraph() {
	whole := w.text.String()
	text := strings.TrimSpace(whole)
	w.text.Reset()
	if isCode(w.style) {
		w.lists(0)
		w.goOn("</pre>", "<pre>", "\n", whole)
		return
	}
	if text == "" {
		return
	}
	switch {
	case w.level > 0:
		w.lists(0)
		fmt.Fprintf(&w.b, "<h%d>%s</h%d>", w.level, text, w.level)
	case w.item > 0:
		w.listItem(text)
	case strings.HasPrefix(w.style, "listcontinue") && len(w.open) > 0:
		n, err := strconv.Atoi(strings.TrimPrefix(w.style, "listcontinue"))
		if w.lists(n); err != nil {
			w.lists(1)
		}
		w.goOn("</li>", "<p>", "<p>", text)
	case strings.Contains(w.style, "quote"):
		w.lists(0)
		w.goOn("</blockquote>", "<blockquote><p>", "<p>", text+"</p>")
	case w.style == "image" && w.shown != "":
		w.lists(0)
		if w.alt == w.shown {
			w.alt = ""
		}
		fmt.Fprintf(&w.b, `<img src="%s" alt="%s">`, w.shown, w.alt)
	case w.style == "rule":
		w.lists(0)
		w.b.WriteString("<hr>")
	default:
		w.lists(0)
		fmt.Fprintf(&w.b, "<p>%s</p>", text)
	}
}

// isCode tells the styles of lines of code: ours, and those of word processors and converters.
func isCode(style string) bool {
	return slices.Contains([]string{"code", "htmlpreformatted", "sourcecode"}, style)
}

// goOn writes what goes on with the element that was shut last, behind a join, or begins one.
func (w *docxText) goOn(shut, begin, join, text string) {
	if bytes.HasSuffix(w.b.Bytes(), []byte(shut)) {
		w.b.Truncate(w.b.Len() - len(shut))
		begin = join
	}
	w.b.WriteString(begin + text + shut)
}

// listItem writes an item of the list of its paragraph's number, at its level.
func (w *docxText) listItem(text string) {
	l := list{"ul", w.list}
	if w.numbered[w.list] {
		l.kind = "ol"
	}
	w.lists(w.item)
	if n := len(w.open); n == w.item && w.open[n-1] != l && (w.open[n-1].kind != l.kind || l.kind == "ol") {
		w.lists(w.item - 1)
	}
	for len(w.open) < w.item {
		start := ""
		if s := w.starts[w.list]; s != "" && l.kind == "ol" && len(w.open) == w.item-1 {
			start = fmt.Sprintf(` start="%s"`, html.EscapeString(s))
		}
		w.open = append(w.open, l)
		fmt.Fprintf(&w.b, "<%s%s>", l.kind, start)
	}
	fmt.Fprintf(&w.b, "<li>%s</li>", text)
}

// lists shuts the lists deeper than a level.
func (w *docxText) lists(level int) {
	for len(w.open) > level {
		fmt.Fprintf(&w.b, "</%s>", w.open[len(w.open)-1].kind)
		w.open = w.open[:len(w.open)-1]
	}
}

func attr(t xml.StartElement, name string) string {
	for _, a := range t.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}
