package docx

import (
	"archive/zip"
	"encoding/xml"
	"fmt"
	"io"
	"strings"
	"time"
	"unicode/utf8"

	coreaddress "corpulan/core/address"
)

// Part is a part of the package.
type Part [2]string

// zipped writes the parts as a package, the same bytes each time.
func WritePackage(w io.Writer, parts []Part) error {
	z := zip.NewWriter(w)
	for _, p := range parts {
		part, err := z.CreateHeader(&zip.FileHeader{Name: p[0], Method: zip.Deflate, Modified: DocxTime})
		if err != nil {
			return err
		}
		if _, err := io.WriteString(part, p[1]); err != nil {
			return err
		}
	}
	return z.Close()
}

// docxTime is the same for all files: when a brief was written is none of its content.
var DocxTime = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)

// docx writes the body.
type Writer struct {
	B     strings.Builder
	links []string // addresses, in the order of their relations

	lists   int             // numbered ones of a draft
	numbers strings.Builder // and how they count
}

// deepestHeading is the last level that the styles have.
const DeepestHeading = 4

// Run is a stretch of text in one look.
type Run struct{ Text, Look string }

// Plain, Bold and Quiet are runs in the looks that there are; what is quiet is small and grey.
func Plain(text string) Run { return Run{Text: text} }

// Bold is described at Plain.
func Bold(text string) Run { return Run{Text: text, Look: "b"} }

// Quiet is described at Plain.
func Quiet(text string) Run { return Run{Text: text, Look: "quiet"} }

func (d *Writer) Paragraph(style, text string) { d.Runs(style, Plain(text)) }

// PageBreak begins a new page.
func (d *Writer) PageBreak() { d.B.WriteString(`<w:p><w:r><w:br w:type="page"/></w:r></w:p>` + "\n") }

// Tick writes a box that can be ticked off: a content control with a check box (w14:checkbox of [MS-DOCX]), which programs that do
// not know it show as its sign.
func (d *Writer) Tick() {
	d.B.WriteString(`<w:sdt><w:sdtPr><w14:checkbox><w14:checked w14:val="0"/><w14:checkedState w14:val="2611"/><w14:uncheckedState w14:val="2610"/></w14:checkbox></w:sdtPr><w:sdtContent><w:r><w:t>☐</w:t></w:r></w:sdtContent></w:sdt>`)
	d.Run(Plain(" "))
}

// Typed writes what a person typed, a paragraph a line.
func (d *Writer) Typed(text string) {
	for line := range strings.Lines(strings.TrimRight(strings.ReplaceAll(text, "\r\n", "\n"), "\n")) {
		d.Paragraph("Normal", strings.TrimSuffix(line, "\n"))
	}
}

func (d *Writer) Runs(style string, runs ...Run) {
	d.Open(style)
	for _, r := range runs {
		d.Run(r)
	}
	d.Shut()
}

func (d *Writer) Open(style string) {
	fmt.Fprintf(&d.B, `<w:p><w:pPr><w:pStyle w:val="%s"/></w:pPr>`, style)
}
func (d *Writer) Shut() { d.B.WriteString("</w:p>\n") }

func (d *Writer) Run(r Run) {
	if r.Text == "" {
		return
	}
	look := map[string]string{"b": "<w:rPr><w:b/></w:rPr>", "quiet": `<w:rPr><w:rStyle w:val="Quiet"/></w:rPr>`}[r.Look]
	fmt.Fprintf(&d.B, `<w:r>%s<w:t xml:space="preserve">%s</w:t></w:r>`, look, XMLText(r.Text))
}

// firstLink is the number of the first relation that is a link; those before it are the
// styles, the numbering and the footer.
const firstLink = 10

func (d *Writer) Link(text, url string) {
	if coreaddress.Guarded(url) == "" {
		d.Run(Plain(text))
		return
	}
	d.links = append(d.links, url)
	fmt.Fprintf(&d.B, `<w:hyperlink r:id="rId%d"><w:r><w:rPr><w:rStyle w:val="Hyperlink"/></w:rPr><w:t xml:space="preserve">%s</w:t></w:r></w:hyperlink>`, firstLink+len(d.links)-1, XMLText(text))
}

func (d *Writer) Relations() string {
	var b strings.Builder
	b.WriteString(docxRelations)
	for i, url := range d.links {
		fmt.Fprintf(&b, `<Relationship Id="rId%d" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/hyperlink" Target="%s" TargetMode="External"/>`, firstLink+i, XMLText(coreaddress.Guarded(url)))
	}
	b.WriteString("</Relationships>")
	return b.String()
}

// pageWidth is that of the text, in twentieths of a point: A4 less its margins.
const PageWidth = 9638

// XMLRune leaves out what XML 1.0 has no place for.
func XMLRune(r rune) rune {
	if r == utf8.RuneError || r < ' ' && r != '\t' && r != '\n' || r == 0xFFFE || r == 0xFFFF {
		return -1
	}
	return r
}

// XMLText escapes a text for a part of XML.
func XMLText(s string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(strings.Map(XMLRune, s))) // a Builder takes all
	return b.String()
}
