package render

import (
	"fmt"
	"io"

	"corpulan/core/brief"
	"corpulan/formats/docx"
)

// DOCX writes the brief as WordprocessingML (ISO/IEC 29500): headings with outline levels,
// lists, tables whose first row repeats, links, the publication at the head, and the keyword with the page's number at
// its foot. The parts are few and plain, so they are written as they are; the same brief
// gives the same bytes.
func DOCX(w io.Writer, b brief.Brief) error {
	d := briefDOCX{&docx.Writer{}}
	for _, k := range Blocks(b) {
		d.block(k)
	}
	return docx.WritePackage(w, []docx.Part{
		{"[Content_Types].xml", docx.DocxTypes}, {"_rels/.rels", docx.DocxRoot}, {"docProps/core.xml", fmt.Sprintf(docx.DocxCore, docx.XMLText(b.In().Put("Brief: %s", b.Keyword)), docx.XMLText(b.Language))},
		{"word/styles.xml", docx.DocxStyles}, {"word/numbering.xml", docx.DocxNumbering}, {"word/header1.xml", fmt.Sprintf(docx.DocxHeader, docx.XMLText(or(b.Front.Publication, b.In().Put("Content brief"))))}, {"word/footer1.xml", fmt.Sprintf(docx.DocxFooter, docx.XMLText(b.Keyword))},
		{"word/_rels/document.xml.rels", d.Relations()}, {"word/document.xml", docx.DocxHead + d.B.String() + docx.DocxTail},
	})
}

// briefDOCX writes the blocks of a brief.
type briefDOCX struct{ *docx.Writer }

func (d briefDOCX) block(k Block) {
	switch k.Form {
	case TitleForm:
		d.Paragraph("Kicker", k.in.Put("Content brief"))
		d.Paragraph("Title", k.Text)
	case DossierForm:
		d.PageBreak()
		d.Paragraph("Title", k.Text)
	case RunForm:
		d.Runs("Normal", docx.Plain(run(k)))
	case FactsForm:
		for _, r := range k.Rows {
			d.Runs("Fact", docx.Bold(r.Label+": "), docx.Plain(r.First().Text), docx.Quiet(inBrackets(r.First().Note)))
		}
	case TypedForm:
		if k.Label != "" {
			d.Paragraph("Heading1", k.Label)
		}
		d.Typed(k.Text)
	case PartForm:
		d.Paragraph("Heading1", k.Text)
	case RemarkForm:
		d.Paragraph("Remark", k.Text)
	case SectionForm:
		d.section(k)
	case ListForm:
		for _, r := range k.Rows {
			c := r.First()
			if c.URL != "" {
				d.Open("ListBullet")
				d.Link(c.Text, c.URL)
				d.Run(docx.Quiet(inBrackets(c.Note)))
				d.Shut()
				continue
			}
			d.Runs("ListBullet", docx.Plain(c.Text), docx.Quiet(inBrackets(c.Note)))
		}
	case TableForm:
		d.table(k)
	}
}

func (d briefDOCX) section(k Block) {
	d.Paragraph(fmt.Sprintf("Heading%d", min(k.Level, docx.DeepestHeading)), k.Text)
	if note := sectionNote(k); note != "" {
		d.Paragraph("Remark", note+".")
	}
	if k.Note != "" {
		d.Typed(k.Note)
	}
	for _, x := range ItemsOf(k) {
		if k.Short { // what a writer works off
			d.Open("Tick")
			d.Tick()
			d.Run(docx.Bold(x.Does + ": "))
			d.Run(docx.Plain(x.Text))
			d.Run(docx.Quiet(inBrackets(x.Note)))
			d.Shut()
			continue
		}
		d.Runs("ListBullet", docx.Bold(x.Does+": "), docx.Plain(x.Text), docx.Quiet(inBrackets(x.Note)))
	}
}

func (d briefDOCX) table(k Block) {
	fmt.Fprintf(&d.B, `<w:tbl><w:tblPr><w:tblStyle w:val="Lines"/><w:tblW w:w="%d" w:type="dxa"/></w:tblPr><w:tblGrid>`, docx.PageWidth)
	wide := len(k.Columns) + 1 // the first column has room for two
	for i := range k.Columns {
		width := docx.PageWidth / wide
		if i == 0 {
			width *= 2
		}
		fmt.Fprintf(&d.B, `<w:gridCol w:w="%d"/>`, width)
	}
	d.B.WriteString(`</w:tblGrid><w:tr><w:trPr><w:tblHeader/></w:trPr>`)
	cell := func(write func()) {
		d.B.WriteString(`<w:tc>`)
		write()
		d.B.WriteString(`</w:tc>`)
	}
	for _, c := range k.Columns {
		cell(func() { d.Runs("Cell", docx.Bold(c.Name)) })
	}
	d.B.WriteString(`</w:tr>`)
	for _, r := range k.Rows {
		d.B.WriteString(`<w:tr><w:trPr><w:cantSplit/></w:trPr>`)
		for _, c := range r.Cells {
			cell(func() {
				if c.URL == "" {
					d.Paragraph("Cell", c.Text)
					return
				}
				d.Open("Cell")
				d.Link(c.Text, c.URL)
				d.Shut()
			})
		}
		d.B.WriteString(`</w:tr>`)
	}
	d.B.WriteString("</w:tbl>\n")
}
