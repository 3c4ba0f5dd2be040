package render

import (
	"embed"
	"errors"
	"fmt"
	"io"
	"iter"
	"strings"
	"unicode/utf8"

	coreaddress "corpulan/core/address"
	"corpulan/core/brief"
	"corpulan/formats/docx"

	"codeberg.org/go-pdf/fpdf"
)

//go:embed all:fonts
var fontFiles embed.FS

// errNoFonts says that the program was built without them.
var errNoFonts = errors.New("this program was built without the fonts for PDF; run make assets, then build it")

// The page is A4; lengths are in millimetres, sizes of type in points.
const (
	pdfMargin   = 22
	pdfText     = 10.5
	pdfSmall    = 8.5
	pdfLine     = 5.2 // of text
	pdfFamily   = "serif"
	pdfBullet   = 5 // what lists stand in
	pdfCell     = 4.4
	pdfCellRoom = 4.5 // beside the text of a cell
	pdfColumns  = 166 // width of the text
)

// PDF writes the brief as pages with bookmarks, links and numbers. The same brief gives
// the same bytes. Texts that run from right to left keep their order of letters, and signs
// that the font lacks are left blank.
func PDF(w io.Writer, b brief.Brief) error {
	p := &pdf{fpdf.New("P", "mm", "A4", "")}
	for style, file := range map[string]string{"": "SourceSerif4_400Regular.ttf", "I": "SourceSerif4_400Regular_Italic.ttf", "B": "SourceSerif4_600SemiBold.ttf"} {
		font, err := fontFiles.ReadFile("fonts/" + file)
		if err != nil {
			return errNoFonts
		}
		p.AddUTF8FontFromBytes(pdfFamily, style, font)
	}
	p.SetCatalogSort(true)
	p.SetCreationDate(docx.DocxTime)
	p.SetModificationDate(docx.DocxTime)
	p.SetTitle(pdfString(b.In().Put("Brief: %s", b.Keyword)), true)
	p.SetLang(b.Language)
	p.SetMargins(pdfMargin, pdfMargin, pdfMargin)
	p.SetAutoPageBreak(true, pdfMargin)
	p.SetFooterFunc(func() {
		p.SetY(-pdfMargin + 6)
		p.look("", pdfSmall, quiet)
		p.CellFormat(0, 4, pdfString(fmt.Sprintf("%s, %d", strings.TrimPrefix(b.Front.Publication+" · "+b.Keyword, " · "), p.PageNo())), "", 0, "R", false, 0, "")
	})
	p.AddPage()
	for _, k := range Blocks(b) {
		p.block(k)
	}
	return p.Output(w)
}

type pdf struct{ *fpdf.Fpdf }

// Colours of the interface.
var (
	ink   = [3]int{27, 42, 51}
	blue  = [3]int{31, 58, 95}
	quiet = [3]int{91, 103, 112}
)

func (p *pdf) look(style string, size float64, colour [3]int) {
	p.SetFont(pdfFamily, style, size)
	p.SetTextColor(colour[0], colour[1], colour[2])
}

// pdfString leaves out what fonts have no sign for: controls, and what lies beyond the
// basic plane, which the writer of fonts cannot address.
func pdfString(s string) string {
	return strings.Map(func(r rune) rune {
		if r < ' ' || r > 0xFFFF || r >= 0x202A && r <= 0x202E {
			return -1
		}
		return r
	}, strings.Join(strings.Fields(strings.ToValidUTF8(s, "")), " "))
}

// paragraph writes a text over the width that is left.
func (p *pdf) paragraph(text string, height float64) {
	p.MultiCell(0, height, pdfString(text), "", "L", false)
}

func (p *pdf) heading(text string, level int, size float64, colour [3]int) {
	const keep = 30 // a heading does not stand alone at a page's foot
	if _, height := p.GetPageSize(); p.GetY() > height-pdfMargin-keep {
		p.AddPage()
	}
	p.Ln(3)
	p.look("B", size, colour)
	p.Bookmark(pdfString(text), level, -1)
	p.paragraph(text, size*0.45)
	p.Ln(0.6)
}

func (p *pdf) block(k Block) {
	switch k.Form {
	case TitleForm:
		p.look("I", pdfText, quiet)
		p.paragraph(k.in.Put("Content brief"), pdfLine)
		p.look("B", 22, ink)
		p.paragraph(k.Text, 9.5)
		p.Ln(2)
	case DossierForm:
		p.AddPage()
		p.look("B", 18, ink)
		p.Bookmark(pdfString(k.Text), 0, -1)
		p.paragraph(k.Text, 9.5)
		p.Ln(2)
	case RunForm:
		p.look("", pdfText, ink)
		p.paragraph(run(k), pdfLine)
	case FactsForm:
		for _, r := range k.Rows {
			p.line([2]string{"B", r.Label + ": "}, [2]string{"", r.First().Text}, [2]string{"quiet", inBrackets(r.First().Note)})
		}
	case TypedForm:
		if k.Label != "" {
			p.heading(k.Label, 0, 14, blue)
		}
		p.look("", pdfText, ink)
		for line := range strings.Lines(k.Text) {
			p.paragraph(line, pdfLine)
		}
	case PartForm:
		p.heading(k.Text, 0, 15, blue)
	case RemarkForm:
		p.look("", pdfSmall, quiet)
		p.paragraph(k.Text, 4.4)
	case SectionForm:
		p.section(k)
	case ListForm:
		for _, r := range k.Rows {
			c := r.First()
			p.item(c.URL, [2]string{"", c.Text}, [2]string{"quiet", inBrackets(c.Note)})
		}
	case TableForm:
		p.table(k)
	}
}

func (p *pdf) section(k Block) {
	p.heading(k.Text, k.Level-1, 13.5-float64(k.Level), ink)
	if note := sectionNote(k); note != "" {
		p.look("", pdfSmall, quiet)
		p.paragraph(note+".", 4.4)
	}
	if k.Note != "" {
		p.look("I", pdfText, ink)
		for line := range strings.Lines(k.Note) {
			p.paragraph(line, pdfLine)
		}
	}
	for _, x := range ItemsOf(k) {
		p.item("", [2]string{"B", x.Does + ": "}, [2]string{"", x.Text}, [2]string{"quiet", inBrackets(x.Note)})
	}
}

// line writes stretches of text after each other, each in its look.
func (p *pdf) line(parts ...[2]string) {
	for _, x := range parts {
		if x[0] == "quiet" {
			p.look("", pdfSmall, quiet)
		} else {
			p.look(x[0], pdfText, ink)
		}
		text := pdfString(x[1])
		if text != "" && strings.HasSuffix(x[1], " ") {
			text += " "
		}
		if text != "" && strings.HasPrefix(x[1], " ") {
			text = " " + text
		}
		for piece := range inPieces(text) {
			p.Write(pdfLine, piece)
		}
	}
	p.Ln(pdfLine + 0.6)
}

// pieceLong is how much is written at once, in bytes: the library looks over all of a text
// again for every line of it.
const pieceLong = 400

// inPieces parts a long text behind spaces, or anywhere where it has none.
func inPieces(s string) iter.Seq[string] {
	return func(yield func(string) bool) {
		for len(s) > pieceLong {
			at := strings.LastIndexByte(s[:pieceLong], ' ') + 1
			if at == 0 {
				for at = pieceLong; !utf8.RuneStart(s[at]); at-- {
				}
			}
			if !yield(s[:at]) {
				return
			}
			s = s[at:]
		}
		yield(s)
	}
}

// item is a line of a list, with a dash before it.
func (p *pdf) item(url string, parts ...[2]string) {
	p.look("", pdfText, ink)
	p.CellFormat(pdfBullet, pdfLine, "–", "", 0, "L", false, 0, "")
	p.SetLeftMargin(pdfMargin + pdfBullet)
	if url != "" {
		p.look("", pdfText, blue)
		p.WriteLinkString(pdfLine, pdfString(parts[0][1]), coreaddress.Guarded(url))
		parts = parts[1:]
	}
	p.line(parts...)
	p.SetLeftMargin(pdfMargin)
	p.SetX(pdfMargin)
}

// table writes rows whose cells wrap; the first column has room for two. The head stands
// on every page that the table runs over.
func (p *pdf) table(k Block) {
	head := make([]Cell, len(k.Columns))
	for i, c := range k.Columns {
		head[i] = Cell{Text: c.Name}
	}
	widths := p.widths(head, k.Rows)
	p.row(head, widths, "B")
	_, height := p.GetPageSize()
	for _, r := range k.Rows {
		p.look("", pdfSmall, ink)
		if p.GetY()+p.height(r.Cells, widths) > height-pdfMargin {
			p.AddPage()
			p.row(head, widths, "B")
		}
		p.row(r.Cells, widths, "")
	}
	p.Ln(2)
}

// widths gives each column the room that its longest word takes, and shares out the rest by what its texts would take in one line;
// what is left is the first column's.
func (p *pdf) widths(head []Cell, rows []Row) []float64 {
	p.look("B", pdfSmall, ink)
	widths, wanted := make([]float64, len(head)), make([]float64, len(head))
	measure := func(i int, text string) {
		text = pdfString(text)
		wanted[i] = max(wanted[i], p.GetStringWidth(text)+pdfCellRoom)
		for w := range strings.FieldsSeq(text) {
			widths[i] = max(widths[i], p.GetStringWidth(w)+pdfCellRoom)
		}
	}
	for i, c := range head {
		measure(i, c.Text)
		for _, r := range rows {
			measure(i, r.Cells[i].Text)
		}
	}
	left, more := float64(pdfColumns), 0.0
	for i := range widths {
		widths[i] = min(widths[i], pdfColumns/3)
		left -= widths[i]
		more += max(0, wanted[i]-widths[i])
	}
	for i := range widths {
		switch {
		case left < 0: // too many long words: as wide as can be
			widths[i] *= pdfColumns / (pdfColumns - left)
		case more > 0:
			widths[i] += min(left, more) * max(0, wanted[i]-widths[i]) / more
		}
	}
	if left > more {
		widths[0] += left - more
	}
	return widths
}

func (p *pdf) height(cells []Cell, widths []float64) float64 {
	lines := 1
	for i, c := range cells {
		lines = max(lines, len(p.SplitText(pdfString(c.Text), widths[i]-2)))
	}
	return float64(lines) * pdfCell
}

func (p *pdf) row(cells []Cell, widths []float64, style string) {
	p.look(style, pdfSmall, ink)
	high := p.height(cells, widths)
	x, y := p.GetX(), p.GetY()
	for i, c := range cells {
		for n, line := range p.SplitText(pdfString(c.Text), widths[i]-2) {
			p.SetXY(x, y+float64(n)*pdfCell)
			p.CellFormat(widths[i], pdfCell, line, "", 0, "L", false, 0, coreaddress.Guarded(c.URL))
		}
		x += widths[i]
	}
	p.SetDrawColor(216, 210, 196)
	p.Line(pdfMargin, y+high+0.4, pdfMargin+pdfColumns, y+high+0.4)
	p.SetXY(pdfMargin, y+high+0.8)
}
