package docx

import (
	"cmp"
	"fmt"
	"io"
	"strings"

	"corpulan/core/draft"
	"corpulan/formats/manuscript"
)

// Write writes a draft as WordprocessingML: its title and description stand in the file's
// properties.
func Write(w io.Writer, t manuscript.Text) error {
	d := &Writer{}
	for _, n := range t.Node.Content {
		d.draftBlock(n, "", 0)
	}
	title := manuscript.TitleOf(t.Node)
	return WritePackage(w, []Part{
		{"[Content_Types].xml", DocxTypes}, {"_rels/.rels", DocxRoot}, {"docProps/core.xml", fmt.Sprintf(docxDraftCore, XMLText(title), XMLText(t.Node.Description()), XMLText(t.Language))},
		{"word/styles.xml", DocxStyles}, {"word/numbering.xml", strings.Replace(DocxNumbering, "</w:numbering>", d.numbers.String()+"</w:numbering>", 1)}, {"word/header1.xml", fmt.Sprintf(DocxHeader, XMLText(title))}, {"word/footer1.xml", fmt.Sprintf(DocxFooter, XMLText("Draft"))},
		{"word/_rels/document.xml.rels", d.Relations()}, {"word/document.xml", DocxHead + d.B.String() + DocxTail},
	})
}

// numbered makes numbers of its own for a list, so that each begins anew.
func (d *Writer) numbered(n *draft.Node, depth int) string {
	d.lists++
	id := firstNumbers + d.lists
	start := 1
	if n.Attrs != nil {
		start = max(n.Attrs.Order, 1)
	}
	fmt.Fprintf(&d.numbers, `<w:num w:numId="%d"><w:abstractNumId w:val="2"/><w:lvlOverride w:ilvl="%d"><w:startOverride w:val="%d"/></w:lvlOverride></w:num>`, id, min(depth, 8), start)
	return fmt.Sprint(id)
}

// deepestContinued is the last level at which the styles have an item's further paragraphs.
const deepestContinued = 5

// firstNumbers is beyond the numbers of lists that docxNumbering has.
const firstNumbers = 10

// draftBlock writes a block; list is the number of the list it is an item of, empty for none,
// depth how deep that is.
func (d *Writer) draftBlock(n *draft.Node, list string, depth int) {
	switch n.Type {
	case draft.Heading:
		d.draftLine(fmt.Sprintf("Heading%d", min(n.Level(), DeepestHeading)), n, "", 0)
	case draft.Bullets, draft.Numbers:
		kind := "2"
		if n.Type == draft.Numbers {
			kind = d.numbered(n, depth)
		}
		for _, item := range n.Content {
			for i, ch := range item.Content {
				switch {
				case i == 0:
					d.draftBlock(ch, kind, depth)
				case ch.Type == draft.Paragraph:
					d.draftLine(fmt.Sprintf("ListContinue%d", min(depth, deepestContinued-1)+1), ch, "", 0)
				default:
					d.draftBlock(ch, "", depth+1)
				}
			}
		}
	case draft.Quote:
		for _, ch := range n.Content {
			if ch.Type == draft.Paragraph {
				d.draftLine("Quote", ch, "", 0)
			} else {
				d.draftBlock(ch, "", depth)
			}
		}
	case draft.Code:
		for line := range strings.SplitSeq(n.Plain(), "\n") {
			d.Paragraph("Code", line)
		}
	case draft.Rule:
		d.Paragraph("Rule", "* * *")
	case draft.Image:
		d.Open("Image")
		d.Run(Bold("Image: "))
		d.Link(cmp.Or(n.Attrs.Alt, n.Attrs.Src), n.Attrs.Src)
		d.Run(Quiet(" (" + n.Attrs.Src + ")"))
		d.Shut()
	case draft.Table:
		d.draftTable(n)
	default:
		d.draftLine("Normal", n, list, depth)
	}
}

// draftLine writes a textblock with its marks.
func (d *Writer) draftLine(style string, n *draft.Node, list string, depth int) {
	if list != "" {
		style = "ListParagraph"
	}
	fmt.Fprintf(&d.B, `<w:p><w:pPr><w:pStyle w:val="%s"/>`, style)
	if list != "" {
		fmt.Fprintf(&d.B, `<w:numPr><w:ilvl w:val="%d"/><w:numId w:val="%s"/></w:numPr>`, min(depth, 8), list)
	}
	d.B.WriteString(`</w:pPr>`)
	for _, ch := range n.Content {
		if ch.Type == draft.Break {
			d.B.WriteString(`<w:r><w:br/></w:r>`)
			continue
		}
		d.draftRun(ch)
	}
	d.Shut()
}

func (d *Writer) draftRun(n *draft.Node) {
	kind, look, href := "", "", "" // a run has one style
	for _, m := range n.Marks {
		switch m.Type {
		case draft.Strong:
			look += "<w:b/>"
		case draft.Em:
			look += "<w:i/>"
		case draft.Mono:
			kind = `<w:rStyle w:val="HTMLCode"/>`
		case draft.Link:
			href = m.Attrs.Href
		}
	}
	if href != "" {
		d.links = append(d.links, href)
		fmt.Fprintf(&d.B, `<w:hyperlink r:id="rId%d">`, firstLink+len(d.links)-1)
		kind = cmp.Or(kind, `<w:rStyle w:val="Hyperlink"/>`)
	}
	fmt.Fprintf(&d.B, `<w:r><w:rPr>%s</w:rPr><w:t xml:space="preserve">%s</w:t></w:r>`, kind+look, XMLText(n.Plain()))
	if href != "" {
		d.B.WriteString(`</w:hyperlink>`)
	}
}

func (d *Writer) draftTable(n *draft.Node) {
	widest := 1
	for _, r := range n.Content {
		widest = max(widest, len(r.Content))
	}
	fmt.Fprintf(&d.B, `<w:tbl><w:tblPr><w:tblStyle w:val="Lines"/><w:tblW w:w="%d" w:type="dxa"/></w:tblPr><w:tblGrid>`, PageWidth)
	for range widest {
		fmt.Fprintf(&d.B, `<w:gridCol w:w="%d"/>`, PageWidth/widest)
	}
	d.B.WriteString(`</w:tblGrid>`)
	for i, r := range n.Content {
		head := ""
		if i == 0 && len(r.Content) > 0 && r.Content[0].Type == draft.HeadingCell {
			head = `<w:trPr><w:tblHeader/></w:trPr>`
		}
		d.B.WriteString(`<w:tr>` + head)
		for _, c := range r.Content {
			d.B.WriteString(`<w:tc>`)
			if c.Attrs != nil && c.Attrs.Colspan > 1 {
				fmt.Fprintf(&d.B, `<w:tcPr><w:gridSpan w:val="%d"/></w:tcPr>`, c.Attrs.Colspan)
			}
			for _, ch := range c.Content {
				if ch.Textblock() {
					d.draftLine("Cell", ch, "", 0)
				} else {
					d.draftBlock(ch, "", 0)
				}
			}
			if k := len(c.Content); k == 0 || !c.Content[k-1].Textblock() { // a cell ends with a paragraph
				d.Paragraph("Cell", "")
			}
			d.B.WriteString(`</w:tc>`)
		}
		for range widest - len(r.Content) {
			d.B.WriteString(`<w:tc><w:p/></w:tc>`)
		}
		d.B.WriteString(`</w:tr>`)
	}
	d.B.WriteString("</w:tbl>\n")
}
