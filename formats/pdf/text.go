package pdf

import (
	"bytes"
	"io"
	"math"
	"strconv"
	"strings"
	"unicode/utf16"

	"github.com/ledongthuc/pdf"
)

// glyph is a piece of text where it stands on a page, in points from the lower left corner.
type glyph struct {
	x, y, w, size float64
	s             string
}

// matrix is that of ISO 32000-1, 8.3.4: a b c d e f.
type matrix [6]float64

var unit = matrix{1, 0, 0, 1, 0, 0}

// times is m applied before n.
func (m matrix) times(n matrix) matrix {
	return matrix{m[0]*n[0] + m[1]*n[2], m[0]*n[1] + m[1]*n[3], m[2]*n[0] + m[3]*n[2], m[2]*n[1] + m[3]*n[3], m[4]*n[0] + m[5]*n[2] + n[4], m[4]*n[1] + m[5]*n[3] + n[5]}
}

// pdfState is the state of text as it is drawn (ISO 32000-1, 9.3).
type pdfState struct {
	ctm                          matrix
	font                         *pdfFont
	size, char, word, lead, rise float64
	wide                         float64
}

// pdfText draws the text of a page.
type pdfText struct {
	fonts  map[string]*pdfFont
	glyphs []glyph
	g      pdfState
	stack  []pdfState
	tm, lm matrix
	depth  int
}

// glyphsOf is the text of a page, in the order it is drawn.
func glyphsOf(page pdf.Page) []glyph {
	t := &pdfText{fonts: map[string]*pdfFont{}, g: pdfState{ctm: unit, wide: 1}, tm: unit, lm: unit}
	t.draw(page.V.Key("Contents"), page.Resources())
	return t.glyphs
}

// deepestForm bounds forms within forms. Our own.
const deepestForm = 8

// maxGlyphs bounds what one page draws. Our own.
const maxGlyphs = 200_000

func (t *pdfText) draw(content, resources pdf.Value) {
	if content.Kind() != pdf.Stream && content.Kind() != pdf.Array || len(t.glyphs) > maxGlyphs {
		return
	}
	pdf.Interpret(content, func(stk *pdf.Stack, op string) {
		args := make([]pdf.Value, stk.Len())
		for i := len(args) - 1; i >= 0; i-- {
			args[i] = stk.Pop()
		}
		t.do(op, args, resources)
	})
}

// operands are those of an operator; one that lacks is nothing.
type operands []pdf.Value

func (o operands) number(i int) float64 {
	if i >= len(o) {
		return 0
	}
	return o[i].Float64()
}

func (o operands) matrix() matrix {
	return matrix{o.number(0), o.number(1), o.number(2), o.number(3), o.number(4), o.number(5)}
}

// do carries out an operator: of the graphics state (ISO 32000-1, 8.4.4), of objects (8.8), or
// of text.
func (t *pdfText) do(op string, args operands, resources pdf.Value) {
	switch op {
	case "cm":
		t.g.ctm = args.matrix().times(t.g.ctm)
	case "q":
		t.stack = append(t.stack, t.g)
	case "Q":
		if k := len(t.stack) - 1; k >= 0 {
			t.g, t.stack = t.stack[k], t.stack[:k]
		}
	case "Do":
		if len(args) == 1 && t.depth < deepestForm {
			if form := resources.Key("XObject").Key(args[0].Name()); form.Key("Subtype").Name() == "Form" {
				t.form(form, resources)
			}
		}
	case "Tf":
		if len(args) == 2 {
			t.g.font, t.g.size = t.fontOf(resources.Key("Font").Key(args[0].Name())), args.number(1)
		}
	case "Tc", "Tw", "TL", "Tz", "Ts":
		t.setState(op, args.number(0))
	case "BT", "Td", "TD", "Tm", "T*":
		t.position(op, args)
	case "Tj", "'", "\"", "TJ":
		t.showing(op, args)
	}
}

// setState sets a figure of the state of text (ISO 32000-1, 9.3).
func (t *pdfText) setState(op string, n float64) {
	switch op {
	case "Tc":
		t.g.char = n
	case "Tw":
		t.g.word = n
	case "TL":
		t.g.lead = n
	case "Tz":
		t.g.wide = n / 100
	case "Ts":
		t.g.rise = n
	}
}

// position goes where text stands (ISO 32000-1, 9.4.2).
func (t *pdfText) position(op string, args operands) {
	switch op {
	case "BT":
		t.tm, t.lm = unit, unit
	case "Td":
		t.move(args.number(0), args.number(1))
	case "TD":
		t.g.lead = -args.number(1)
		t.move(args.number(0), args.number(1))
	case "Tm":
		t.lm = args.matrix()
		t.tm = t.lm
	case "T*":
		t.move(0, -t.g.lead)
	}
}

// move goes on from the beginning of the line.
func (t *pdfText) move(x, y float64) {
	t.lm = matrix{1, 0, 0, 1, x, y}.times(t.lm)
	t.tm = t.lm
}

// showing shows text (ISO 32000-1, 9.4.3).
func (t *pdfText) showing(op string, args operands) {
	if op == "TJ" {
		if len(args) == 1 {
			t.showArray(args[0])
		}
		return
	}
	if op == "\"" && len(args) == 3 {
		t.g.word, t.g.char = args.number(0), args.number(1)
	}
	if op != "Tj" {
		t.move(0, -t.g.lead)
	}
	if len(args) > 0 {
		t.show(args[len(args)-1].RawString())
	}
}

// showArray shows pieces of text with distances between them, in thousandths of their size.
func (t *pdfText) showArray(list pdf.Value) {
	for i := range list.Len() {
		if v := list.Index(i); v.Kind() == pdf.String {
			t.show(v.RawString())
		} else {
			t.tm = matrix{1, 0, 0, 1, -v.Float64() / 1000 * t.g.size * t.g.wide, 0}.times(t.tm)
		}
	}
}

// form draws a form, a page within the page.
func (t *pdfText) form(form, resources pdf.Value) {
	was, stack := t.g, t.stack
	if m := form.Key("Matrix"); m.Len() == 6 {
		var f matrix
		for i := range f {
			f[i] = m.Index(i).Float64()
		}
		t.g.ctm = f.times(t.g.ctm)
	}
	if own := form.Key("Resources"); !own.IsNull() {
		resources = own
	}
	t.depth++
	t.stack = nil
	t.draw(form, resources)
	t.depth--
	t.g, t.stack = was, stack
}

func (t *pdfText) show(raw string) {
	if t.g.font == nil {
		return
	}
	for len(raw) > 0 && len(t.glyphs) <= maxGlyphs {
		code, s := t.g.font.next(raw)
		raw = raw[len(code):]
		w := t.g.font.width(code) / 1000
		trm := matrix{t.g.size * t.g.wide, 0, 0, t.g.size, 0, t.g.rise}.times(t.tm).times(t.g.ctm)
		tx := (w*t.g.size + t.g.char)
		if code == " " {
			tx += t.g.word
		}
		if s != "" {
			t.glyphs = append(t.glyphs, glyph{trm[4], trm[5], w * math.Hypot(trm[0], trm[1]), math.Hypot(trm[2], trm[3]), s})
		}
		t.tm = matrix{1, 0, 0, 1, tx * t.g.wide, 0}.times(t.tm)
	}
}

// pdfFont is what is needed of a font: what its codes say, and how wide they are.
type pdfFont struct {
	composite bool // codes are of two bytes, unless its map says otherwise
	unicode   *toUnicode
	simple    pdf.Font
	encoder   pdf.TextEncoding
	widths    map[int]float64
	usual     float64
}

func (t *pdfText) fontOf(v pdf.Value) *pdfFont {
	key := v.Key("BaseFont").Name() + v.Key("Encoding").String() + v.Key("ToUnicode").String() + v.Key("FirstChar").String() + v.Key("DescendantFonts").String()
	if f := t.fonts[key]; f != nil {
		return f
	}
	f := &pdfFont{composite: v.Key("Subtype").Name() == "Type0", simple: pdf.Font{V: v}, usual: 500, widths: map[int]float64{}}
	if u := v.Key("ToUnicode"); u.Kind() == pdf.Stream {
		f.unicode = readToUnicode(u)
	}
	if f.composite {
		d := v.Key("DescendantFonts").Index(0)
		if f.usual = 1000; !d.Key("DW").IsNull() {
			f.usual = d.Key("DW").Float64()
		}
		w := d.Key("W")
		for i := 0; i+1 < w.Len(); {
			first := int(w.Index(i).Int64())
			if list := w.Index(i + 1); list.Kind() == pdf.Array {
				for k := range list.Len() {
					f.widths[first+k] = list.Index(k).Float64()
				}
				i += 2
			} else {
				for c := first; c <= int(list.Int64()) && c < first+65536; c++ {
					f.widths[c] = w.Index(i + 2).Float64()
				}
				i += 3
			}
		}
	} else {
		f.encoder = f.simple.Encoder()
		first := f.simple.FirstChar()
		for i, w := range f.simple.Widths() {
			f.widths[first+i] = w
		}
	}
	t.fonts[key] = f
	return f
}

// next is the first code of a string, and what it says.
func (f *pdfFont) next(raw string) (code, s string) {
	n := 1
	if f.composite {
		n = 2
	}
	if f.unicode != nil {
		if f.unicode.bytes > 0 {
			n = f.unicode.bytes
		}
		code = raw[:min(n, len(raw))]
		if s, ok := f.unicode.of(code); ok {
			return code, s
		}
	}
	code = raw[:min(n, len(raw))]
	if f.encoder != nil {
		s = strings.Map(func(r rune) rune {
			if r < ' ' || r == '\uFFFD' {
				return -1
			}
			return r
		}, f.encoder.Decode(code))
	}
	return code, s
}

func (f *pdfFont) width(code string) float64 {
	if w, ok := f.widths[int(number(code))]; ok {
		return w
	}
	return f.usual
}

func number(code string) (n uint32) {
	for i := 0; i < len(code); i++ {
		n = n<<8 | uint32(code[i])
	}
	return n
}

// toUnicode says what the codes of a font mean (ISO 32000-1, 9.10.3).
type toUnicode struct {
	bytes  int // of a code
	chars  map[uint32]string
	ranges []codeRange
}

type codeRange struct {
	from, to uint32
	first    []uint16 // what the first of them means, in UTF-16
}

func (u *toUnicode) of(code string) (string, bool) {
	n := number(code)
	if s, ok := u.chars[n]; ok {
		return s, true
	}
	for _, r := range u.ranges {
		if n >= r.from && n <= r.to && len(r.first) > 0 {
			units := append([]uint16{}, r.first...)
			units[len(units)-1] += uint16(n - r.from)
			return string(utf16.Decode(units)), true
		}
	}
	return "", false
}

// largestCMap bounds a font's map, in bytes. Our own.
const largestCMap = 4 << 20

func readToUnicode(v pdf.Value) *toUnicode {
	in := v.Reader()
	defer in.Close()
	b, err := io.ReadAll(io.LimitReader(in, largestCMap))
	if err != nil && len(b) == 0 {
		return nil
	}
	u := &toUnicode{chars: map[uint32]string{}}
	var list []string // hexadecimal strings since the last operator; "[" and "]" as they are
	for len(b) > 0 {
		switch c := b[0]; {
		case c == '<' && !bytes.HasPrefix(b, []byte("<<")):
			end := bytes.IndexByte(b, '>')
			if end < 0 {
				return u
			}
			list = append(list, unhex(b[1:end]))
			b = b[end+1:]
		case c == '[' || c == ']':
			list, b = append(list, string(c)), b[1:]
		case c >= 'a' && c <= 'z':
			end := bytes.IndexFunc(b, func(r rune) bool { return r < 'A' || r > 'z' })
			if end < 0 {
				end = len(b)
			}
			switch string(b[:end]) {
			case "endcodespacerange":
				if len(list) > 0 {
					u.bytes = max(u.bytes, len(list[0]))
				}
			case "endbfchar":
				for i := 0; i+1 < len(list); i += 2 {
					u.chars[number(list[i])] = string(utf16.Decode(units(list[i+1])))
				}
			case "endbfrange":
				u.addRanges(list)
			}
			list, b = nil, b[end:]
		default:
			b = b[1:]
		}
	}
	return u
}

func (u *toUnicode) addRanges(list []string) {
	for i := 0; i+2 < len(list); {
		from, to := number(list[i]), number(list[i+1])
		if list[i+2] != "[" {
			u.ranges = append(u.ranges, codeRange{from, to, units(list[i+2])})
			i += 3
			continue
		}
		i += 3
		for n := from; i < len(list) && list[i] != "]"; n++ {
			u.chars[n] = string(utf16.Decode(units(list[i])))
			i++
		}
		i++
	}
}

func unhex(b []byte) string {
	digits := make([]byte, 0, len(b))
	for _, c := range b {
		if c >= '0' && c <= '9' || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F' {
			digits = append(digits, c)
		}
	}
	if len(digits)%2 == 1 {
		digits = append(digits, '0')
	}
	out := make([]byte, len(digits)/2)
	for i := range out {
		n, err := strconv.ParseUint(string(digits[2*i:2*i+2]), 16, 8)
		if err != nil { // they are digits
			return ""
		}
		out[i] = byte(n)
	}
	return string(out)
}

func units(s string) []uint16 {
	list := make([]uint16, 0, len(s)/2)
	for i := 0; i+1 < len(s); i += 2 {
		list = append(list, uint16(s[i])<<8|uint16(s[i+1]))
	}
	if len(s) == 1 {
		list = append(list, uint16(s[0]))
	}
	return list
}
