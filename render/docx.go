package render

import (
	"archive/zip"
	"encoding/xml"
	"fmt"
	"io"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/core/brief"
)

// DOCX writes the brief as WordprocessingML (ISO/IEC 29500): headings with outline levels,
// lists, tables whose first row repeats, links, the publication at the head, and the keyword with the page's number at
// its foot. The parts are few and plain, so they are written as they are; the same brief
// gives the same bytes.
func DOCX(w io.Writer, b brief.Brief) error {
	d := &docx{}
	for _, k := range Filled(b) {
		d.block(k)
	}
	return zipped(w, []docxPart{
		{"[Content_Types].xml", docxTypes}, {"_rels/.rels", docxRoot}, {"docProps/core.xml", fmt.Sprintf(docxCore, xmlText(b.In().Put("Brief: %s", b.Keyword)), xmlText(b.Language))},
		{"word/styles.xml", docxStyles}, {"word/numbering.xml", docxNumbering}, {"word/header1.xml", fmt.Sprintf(docxHeader, xmlText(or(b.Front.Publication, b.In().Put("Content brief"))))}, {"word/footer1.xml", fmt.Sprintf(docxFooter, xmlText(b.Keyword))},
		{"word/_rels/document.xml.rels", d.relations()}, {"word/document.xml", docxHead + d.b.String() + docxTail},
	})
}

// docxPart is a part of the package.
type docxPart struct{ name, text string }

// zipped writes the parts as a package, the same bytes each time.
func zipped(w io.Writer, parts []docxPart) error {
	z := zip.NewWriter(w)
	for _, p := range parts {
		part, err := z.CreateHeader(&zip.FileHeader{Name: p.name, Method: zip.Deflate, Modified: docxTime})
		if err != nil {
			return err
		}
		if _, err := io.WriteString(part, p.text); err != nil {
			return err
		}
	}
	return z.Close()
}

// docxTime is the same for all files: when a brief was written is none of its content.
var docxTime = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)

// docx writes the body.
type docx struct {
	b     strings.Builder
	links []string // addresses, in the order of their relations

	lists   int             // numbered ones of a draft
	numbers strings.Builder // and how they count
}

func (d *docx) block(k Block) {
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

func (d *docx) section(k Block) {
	d.paragraph(fmt.Sprintf("Heading%d", min(k.Level, deepestHeading)), k.Text)
	d.paragraph("Remark", sectionNote(k)+".")
	if k.Note != "" {
		d.typed(k.Note)
	}
	for _, x := range ItemsOf(k) {
		d.runs("ListBullet", run{x.Does + ": ", "b"}, run{x.Text, ""}, run{inBrackets(x.Note), "quiet"})
	}
}

// deepestHeading is the last level that the styles have.
const deepestHeading = 4

// run is a stretch of text in one look: plain, "b" in bold, "quiet" small and grey.
type run struct{ text, look string }

func (d *docx) paragraph(style, text string) { d.runs(style, run{text, ""}) }

// typed writes what a person typed, a paragraph a line.
func (d *docx) typed(text string) {
	for line := range strings.Lines(strings.TrimRight(strings.ReplaceAll(text, "\r\n", "\n"), "\n")) {
		d.paragraph("Normal", strings.TrimSuffix(line, "\n"))
	}
}

func (d *docx) runs(style string, runs ...run) {
	d.open(style)
	for _, r := range runs {
		d.run(r)
	}
	d.shut()
}

func (d *docx) open(style string) {
	fmt.Fprintf(&d.b, `<w:p><w:pPr><w:pStyle w:val="%s"/></w:pPr>`, style)
}
func (d *docx) shut() { d.b.WriteString("</w:p>\n") }

func (d *docx) run(r run) {
	if r.text == "" {
		return
	}
	look := map[string]string{"b": "<w:rPr><w:b/></w:rPr>", "quiet": `<w:rPr><w:rStyle w:val="Quiet"/></w:rPr>`}[r.look]
	fmt.Fprintf(&d.b, `<w:r>%s<w:t xml:space="preserve">%s</w:t></w:r>`, look, xmlText(r.text))
}

// firstLink is the number of the first relation that is a link; those before it are the
// styles, the numbering and the footer.
const firstLink = 10

func (d *docx) link(text, url string) {
	if address(url) == "" {
		d.run(run{text, ""})
		return
	}
	d.links = append(d.links, url)
	fmt.Fprintf(&d.b, `<w:hyperlink r:id="rId%d"><w:r><w:rPr><w:rStyle w:val="Hyperlink"/></w:rPr><w:t xml:space="preserve">%s</w:t></w:r></w:hyperlink>`, firstLink+len(d.links)-1, xmlText(text))
}

func (d *docx) relations() string {
	var b strings.Builder
	b.WriteString(docxRelations)
	for i, url := range d.links {
		fmt.Fprintf(&b, `<Relationship Id="rId%d" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/hyperlink" Target="%s" TargetMode="External"/>`, firstLink+i, xmlText(address(url)))
	}
	b.WriteString("</Relationships>")
	return b.String()
}

// pageWidth is that of the text, in twentieths of a point: A4 less its margins.
const pageWidth = 9638

func (d *docx) table(k Block) {
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

// xmlRune leaves out what XML 1.0 has no place for.
func xmlRune(r rune) rune {
	if r == utf8.RuneError || r < ' ' && r != '\t' && r != '\n' || r == 0xFFFE || r == 0xFFFF {
		return -1
	}
	return r
}

// xmlText escapes a text for a part of XML.
func xmlText(s string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(strings.Map(xmlRune, s))) // a Builder takes all
	return b.String()
}
