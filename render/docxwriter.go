package render

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
	if coreaddress.Guarded(url) == "" {
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
		fmt.Fprintf(&b, `<Relationship Id="rId%d" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/hyperlink" Target="%s" TargetMode="External"/>`, firstLink+i, xmlText(coreaddress.Guarded(url)))
	}
	b.WriteString("</Relationships>")
	return b.String()
}

// pageWidth is that of the text, in twentieths of a point: A4 less its margins.
const pageWidth = 9638

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
