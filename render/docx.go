package render

import (
	"fmt"
	"io"

	"corpulan/core/brief"
)

// DOCX writes the brief as WordprocessingML (ISO/IEC 29500): headings with outline levels,
// lists, tables whose first row repeats, links, the publication at the head, and the keyword with the page's number at
// its foot. The parts are few and plain, so they are written as they are; the same brief
// gives the same bytes.
func DOCX(w io.Writer, b brief.Brief) error {
	d := briefDOCX{&docx{}}
	for _, k := range Filled(b) {
		d.block(k)
	}
	return zipped(w, []docxPart{
		{"[Content_Types].xml", docxTypes}, {"_rels/.rels", docxRoot}, {"docProps/core.xml", fmt.Sprintf(docxCore, xmlText(b.In().Put("Brief: %s", b.Keyword)), xmlText(b.Language))},
		{"word/styles.xml", docxStyles}, {"word/numbering.xml", docxNumbering}, {"word/header1.xml", fmt.Sprintf(docxHeader, xmlText(or(b.Front.Publication, b.In().Put("Content brief"))))}, {"word/footer1.xml", fmt.Sprintf(docxFooter, xmlText(b.Keyword))},
		{"word/_rels/document.xml.rels", d.relations()}, {"word/document.xml", docxHead + d.b.String() + docxTail},
	})
}

// briefDOCX writes the blocks of a brief.
type briefDOCX struct{ *docx }

func (d briefDOCX) block(k Block) {
	switch k.Form {
	case TitleForm:
		d.paragraph("Kicker", k.in.Put("Content brief"))
		d.paragraph("Title", k.Text)
	case FactsForm:
		for _, r := range k.Rows {
			d.runs("Fact", run{r.Label + ": ", "b"}, run{r.First().Text, ""}, run{inBrackets(r.First().Note), "quiet"})
		}
	case TypedForm:
		if k.Label != "" {
			d.paragraph("Heading1", k.Label)
		}
		d.typed(k.Text)
	case PartForm:
		d.paragraph("Heading1", k.Text)
	case RemarkForm:
		d.paragraph("Remark", k.Text)
	case SectionForm:
		d.section(k)
	case ListForm:
		for _, r := range k.Rows {
			c := r.First()
			if c.URL != "" {
				d.open("ListBullet")
				d.link(c.Text, c.URL)
				d.run(run{inBrackets(c.Note), "quiet"})
				d.shut()
				continue
			}
			d.runs("ListBullet", run{c.Text, ""}, run{inBrackets(c.Note), "quiet"})
		}
	case TableForm:
		d.table(k)
	}
}

func (d briefDOCX) section(k Block) {
	d.paragraph(fmt.Sprintf("Heading%d", min(k.Level, deepestHeading)), k.Text)
	d.paragraph("Remark", sectionNote(k)+".")
	if k.Note != "" {
		d.typed(k.Note)
	}
	for _, x := range ItemsOf(k) {
		d.runs("ListBullet", run{x.Does + ": ", "b"}, run{x.Text, ""}, run{inBrackets(x.Note), "quiet"})
	}
}

func (d briefDOCX) table(k Block) {
	fmt.Fprintf(&d.b, `<w:tbl><w:tblPr><w:tblStyle w:val="Lines"/><w:tblW w:w="%d" w:type="dxa"/></w:tblPr><w:tblGrid>`, pageWidth)
	wide := len(k.Columns) + 1 // the first column has room for two
	for i := range k.Columns {
		width := pageWidth / wide
		if i == 0 {
			width *= 2
		}
		fmt.Fprintf(&d.b, `<w:gridCol w:w="%d"/>`, width)
	}
	d.b.WriteString(`</w:tblGrid><w:tr><w:trPr><w:tblHeader/></w:trPr>`)
	cell := func(write func()) {
		d.b.WriteString(`<w:tc>`)
		write()
		d.b.WriteString(`</w:tc>`)
	}
	for _, c := range k.Columns {
		cell(func() { d.runs("Cell", run{c.Name, "b"}) })
	}
	d.b.WriteString(`</w:tr>`)
	for _, r := range k.Rows {
		d.b.WriteString(`<w:tr><w:trPr><w:cantSplit/></w:trPr>`)
		for _, c := range r.Cells {
			cell(func() {
				if c.URL == "" {
					d.paragraph("Cell", c.Text)
					return
				}
				d.open("Cell")
				d.link(c.Text, c.URL)
				d.shut()
			})
		}
		d.b.WriteString(`</w:tr>`)
	}
	d.b.WriteString("</w:tbl>\n")
}
