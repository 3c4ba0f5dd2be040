package render

import (
	"archive/zip"
	"encoding/json"
	"fmt"
	"html/template"
	"io"
	"regexp"
	"strings"

	"corpulan/core/draft"
	"corpulan/core/fit"

	"github.com/goccy/go-yaml"
)

// Text is a draft to hand over.
type Text struct {
	Node     *draft.Node
	Language string
	Answers  []fit.Answer // the questions it answers
}

// DraftFormat is a form a draft can be written in.
type DraftFormat struct {
	Name      string
	Extension string
	MediaType string
	About     string
	Write     func(io.Writer, Text) error
}

// DraftFormats lists what a draft can be written as.
func DraftFormats() []DraftFormat {
	return []DraftFormat{
		{"md", "md", "text/markdown; charset=utf-8", "Markdown", DraftMarkdown},
		{"html", "html", "text/html; charset=utf-8", "HTML", DraftHTML},
		{"docx", "docx", "application/vnd.openxmlformats-officedocument.wordprocessingml.document", "DOCX", DraftDOCX},
		{"txt", "txt", "text/plain; charset=utf-8", "text", DraftText},
		{"faq", "json", "application/ld+json", "FAQ data", DraftFAQ},
	}
}

// DraftFormatNamed finds a format of drafts by its name.
func DraftFormatNamed(name string) (DraftFormat, bool) {
	for _, f := range DraftFormats() {
		if f.Name == name {
			return f, true
		}
	}
	return DraftFormat{}, false
}

var draftPage = template.Must(template.New("draft").Parse(`<!doctype html>
<html lang="{{.Language}}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>{{.Title}}</title>
{{with .Description}}<meta name="description" content="{{.}}">
{{end}}{{with .FAQ}}<script type="application/ld+json">{{.}}</script>
{{end}}</head>
<body>
<article>
{{.Body}}</article>
</body>
</html>
`))

// DraftHTML writes a draft as one HTML file: title, description and, where it answers
// questions, their FAQPage data in its head.
func DraftHTML(w io.Writer, t Text) error {
	page := struct {
		Language, Title, Description string
		FAQ                          any
		Body                         template.HTML
	}{t.Language, titleOf(t.Node), t.Node.Description(), nil, template.HTML(t.Node.HTML())} // its nodes are escaped by html.Render
	if len(t.Answers) > 0 {
		page.FAQ = faqPage(t.Language, t.Answers)
	}
	return draftPage.Execute(w, page)
}

// titleOf is a draft's title tag, else its first heading.
func titleOf(n *draft.Node) string {
	title := n.Title()
	n.Each(func(x *draft.Node) bool {
		if title == "" && x.Type == draft.Heading {
			title = strings.Join(strings.Fields(x.Plain()), " ")
		}
		return title == ""
	})
	return title
}

// DraftText writes a draft as plain text, paragraphs apart by empty lines.
func DraftText(w io.Writer, t Text) error {
	var b strings.Builder
	for _, x := range t.Node.Blocks() {
		if b.Len() > 0 {
			b.WriteString("\n\n")
		}
		b.WriteString(x.Text)
	}
	b.WriteByte('\n')
	_, err := io.WriteString(w, b.String())
	return err
}

// DraftFAQ writes the questions that a draft answers as FAQPage data of schema.org.
func DraftFAQ(w io.Writer, t Text) error {
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	return enc.Encode(faqPage(t.Language, t.Answers))
}

// DraftMarkdown writes a draft as CommonMark with tables; title, description and questions
// stand before it as front matter in YAML.
func DraftMarkdown(w io.Writer, t Text) error {
	var b strings.Builder
	head := struct {
		Title       string       `yaml:"title,omitempty"`
		Description string       `yaml:"description,omitempty"`
		FAQ         []fit.Answer `yaml:"faq,omitempty"`
	}{t.Node.Title(), t.Node.Description(), t.Answers}
	if head.Title != "" || head.Description != "" || len(head.FAQ) > 0 {
		y, err := yaml.Marshal(head)
		if err != nil {
			return err
		}
		fmt.Fprintf(&b, "---\n%s---\n\n", y)
	}
	m := draftMarkdown{}
	m.blocks(t.Node.Content, "", "")
	b.WriteString(strings.TrimLeft(m.b.String(), "\n"))
	_, err := io.WriteString(w, b.String())
	return err
}

// draftMarkdown writes blocks, each after an empty line.
type draftMarkdown struct{ b strings.Builder }

// blocks writes blocks within others: first stands before the first line, rest before all
// others.
func (m *draftMarkdown) blocks(list []*draft.Node, first, rest string) {
	for i, n := range list {
		if i > 0 {
			first = rest
		}
		if i > 0 || first == rest {
			m.b.WriteString(strings.TrimRight(rest, " ") + "\n")
		}
		m.block(n, first, rest)
	}
}

func (m *draftMarkdown) block(n *draft.Node, first, rest string) {
	switch n.Type {
	case draft.Heading:
		m.b.WriteString(first + strings.Repeat("#", n.Level()) + " " + strings.ReplaceAll(inlineMarkdown(n), "\\\n", " ") + "\n")
	case draft.Quote:
		m.blocks(n.Content, first+"> ", rest+"> ")
		if n.Attrs != nil && n.Attrs.Cite != "" && !strings.Contains(m.b.String(), address(n.Attrs.Cite)) {
			m.b.WriteString(rest + ">\n" + rest + "> <" + address(n.Attrs.Cite) + ">\n")
		}
	case draft.Bullets, draft.Numbers:
		at := 1
		if n.Type == draft.Numbers && n.Attrs != nil {
			at = max(n.Attrs.Order, 1)
		}
		for i, item := range n.Content {
			sign := "- "
			if n.Type == draft.Numbers {
				sign = fmt.Sprintf("%d. ", at+i)
			}
			before := rest
			if i == 0 {
				before = first
			}
			m.blocks(item.Content, before+sign, rest+strings.Repeat(" ", len(sign)))
		}
	case draft.Code:
		fence := "```"
		for strings.Contains(n.Plain(), fence) {
			fence += "`"
		}
		m.b.WriteString(first + fence + "\n")
		for line := range strings.SplitSeq(n.Plain(), "\n") {
			m.b.WriteString(rest + line + "\n")
		}
		m.b.WriteString(rest + fence + "\n")
	case draft.Rule:
		m.b.WriteString(first + "***\n")
	case draft.Image:
		m.b.WriteString(first + fmt.Sprintf("![%s](<%s>)\n", altMarkdown(n.Attrs.Alt), address(n.Attrs.Src)))
	case draft.Table:
		m.table(n, first, rest)
	default:
		for i, line := range strings.Split(inlineMarkdown(n), "\n") {
			before := rest
			if i == 0 {
				before = first
			}
			m.b.WriteString(strings.TrimRight(before+atLineStart(strings.TrimLeft(line, " \t")), " ") + "\n")
		}
	}
}

// table writes a table; Markdown's have a head and no spans, so that its first row is the head.
func (m *draftMarkdown) table(n *draft.Node, first, rest string) {
	for i, row := range n.Content {
		before := rest
		if i == 0 {
			before = first
		}
		line, rule := before+"|", rest+"|"
		for _, c := range row.Content {
			var parts []string
			for _, p := range c.Content {
				parts = append(parts, strings.ReplaceAll(strings.ReplaceAll(inlineMarkdown(p), "\\\n", " "), "\n", " "))
			}
			line += " " + pipes.ReplaceAllString(strings.Join(parts, " "), `$1\|`) + " |"
			rule += "---|"
		}
		m.b.WriteString(line + "\n")
		if i == 0 {
			m.b.WriteString(rule + "\n")
		}
	}
}

// pipes are those of a table's cell that are not escaped yet: of code.
var pipes = regexp.MustCompile(`(^|[^\\])\|`)

// altMarkdown is the text of an image. Brackets in pairs need no sign before them.
func altMarkdown(s string) string {
	open := 0
	for _, r := range s {
		if r == '[' {
			open++
		} else if r == ']' {
			if open--; open < 0 {
				break
			}
		}
	}
	s = escape(strings.Join(strings.Fields(s), " "))
	if open == 0 {
		s = strings.NewReplacer(`\[`, "[", `\]`, "]").Replace(s)
	}
	return s
}

// inlineMarkdown is the text of a block with its marks.
func inlineMarkdown(n *draft.Node) string {
	var b strings.Builder
	for _, ch := range n.Content {
		switch ch.Type {
		case draft.Break:
			b.WriteString("\\\n")
		case draft.Text:
			b.WriteString(markedMarkdown(ch))
		default:
			b.WriteString(inlineMarkdown(ch))
		}
	}
	return b.String()
}

func markedMarkdown(n *draft.Node) string {
	// White space at the ends stays outside the marks, or they would not be read as such.
	body := strings.TrimSpace(n.Text)
	if body == "" {
		return n.Text
	}
	before, after := n.Text[:strings.Index(n.Text, body)], n.Text[strings.Index(n.Text, body)+len(body):]
	s, href := escape(body), ""
	for _, k := range []string{draft.Mono, draft.Em, draft.Strong} {
		for _, mark := range n.Marks {
			switch {
			case mark.Type != k:
			case k == draft.Mono:
				tick := "`"
				for strings.Contains(body, tick) {
					tick += "`"
				}
				s = tick + body + tick
			case k == draft.Em:
				s = "*" + s + "*"
			default:
				s = "**" + s + "**"
			}
		}
	}
	for _, mark := range n.Marks {
		if mark.Type == draft.Link {
			href = mark.Attrs.Href
		}
	}
	if href != "" {
		s = fmt.Sprintf("[%s](<%s>)", s, strings.NewReplacer("<", "%3C", ">", "%3E").Replace(href))
	}
	return before + s + after
}

// DraftDOCX writes a draft as WordprocessingML: its title and description stand in the file's
// properties; the questions it answers, as data, at its end.
func DraftDOCX(w io.Writer, t Text) error {
	d := &docx{}
	for _, n := range t.Node.Content {
		d.draftBlock(n, "", 0)
	}
	if len(t.Answers) > 0 {
		faq, err := json.Marshal(faqPage(t.Language, t.Answers))
		if err != nil {
			return err
		}
		d.paragraph("Remark", "FAQ data for the page (schema.org, JSON-LD):")
		d.paragraph("Remark", string(faq))
	}
	title := titleOf(t.Node)
	z := zip.NewWriter(w)
	for _, p := range []struct{ name, text string }{
		{"[Content_Types].xml", docxTypes}, {"_rels/.rels", docxRoot}, {"docProps/core.xml", fmt.Sprintf(docxDraftCore, xmlText(title), xmlText(t.Node.Description()), xmlText(t.Language))},
		{"word/styles.xml", docxStyles}, {"word/numbering.xml", strings.Replace(docxNumbering, "</w:numbering>", d.numbers.String()+"</w:numbering>", 1)}, {"word/header1.xml", fmt.Sprintf(docxHeader, xmlText(title))}, {"word/footer1.xml", fmt.Sprintf(docxFooter, xmlText("Draft"))},
		{"word/_rels/document.xml.rels", d.relations()}, {"word/document.xml", docxHead + d.b.String() + docxTail},
	} {
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

// numbered makes numbers of its own for a list, so that each begins anew.
func (d *docx) numbered(n *draft.Node, depth int) string {
	d.lists++
	id := firstNumbers + d.lists
	start := 1
	if n.Attrs != nil {
		start = max(n.Attrs.Order, 1)
	}
	fmt.Fprintf(&d.numbers, `<w:num w:numId="%d"><w:abstractNumId w:val="2"/><w:lvlOverride w:ilvl="%d"><w:startOverride w:val="%d"/></w:lvlOverride></w:num>`, id, min(depth, 8), start)
	return fmt.Sprint(id)
}

// firstNumbers is beyond the numbers of lists that docxNumbering has.
const firstNumbers = 10

// draftBlock writes a block; list is the number of the list it is an item of, empty for none,
// depth how deep that is.
func (d *docx) draftBlock(n *draft.Node, list string, depth int) {
	switch n.Type {
	case draft.Heading:
		d.draftLine(fmt.Sprintf("Heading%d", min(n.Level(), deepestHeading)), n, "", 0)
	case draft.Bullets, draft.Numbers:
		kind := "2"
		if n.Type == draft.Numbers {
			kind = d.numbered(n, depth)
		}
		for _, item := range n.Content {
			for i, ch := range item.Content {
				if i == 0 {
					d.draftBlock(ch, kind, depth)
				} else {
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
			d.paragraph("Code", line)
		}
	case draft.Rule:
		d.paragraph("Normal", "* * *")
	case draft.Image:
		d.open("Remark")
		d.run(run{"Image: ", "b"})
		d.link(or(n.Attrs.Alt, n.Attrs.Src), n.Attrs.Src)
		d.run(run{inBrackets(n.Attrs.Src), "quiet"})
		d.shut()
	case draft.Table:
		d.draftTable(n)
	default:
		d.draftLine("Normal", n, list, depth)
	}
}

// draftLine writes a textblock with its marks.
func (d *docx) draftLine(style string, n *draft.Node, list string, depth int) {
	if list != "" {
		style = "ListParagraph"
	}
	fmt.Fprintf(&d.b, `<w:p><w:pPr><w:pStyle w:val="%s"/>`, style)
	if list != "" {
		fmt.Fprintf(&d.b, `<w:numPr><w:ilvl w:val="%d"/><w:numId w:val="%s"/></w:numPr>`, min(depth, 8), list)
	}
	d.b.WriteString(`</w:pPr>`)
	for _, ch := range n.Content {
		if ch.Type == draft.Break {
			d.b.WriteString(`<w:r><w:br/></w:r>`)
			continue
		}
		d.draftRun(ch)
	}
	d.shut()
}

func (d *docx) draftRun(n *draft.Node) {
	look, href := "", ""
	for _, m := range n.Marks {
		switch m.Type {
		case draft.Strong:
			look += "<w:b/>"
		case draft.Em:
			look += "<w:i/>"
		case draft.Mono:
			look = `<w:rFonts w:ascii="Courier New" w:hAnsi="Courier New"/>` + look
		case draft.Link:
			href = m.Attrs.Href
		}
	}
	if href != "" {
		d.links = append(d.links, href)
		fmt.Fprintf(&d.b, `<w:hyperlink r:id="rId%d">`, firstLink+len(d.links)-1)
		look = `<w:rStyle w:val="Hyperlink"/>` + look
	}
	fmt.Fprintf(&d.b, `<w:r><w:rPr>%s</w:rPr><w:t xml:space="preserve">%s</w:t></w:r>`, look, xmlText(n.Plain()))
	if href != "" {
		d.b.WriteString(`</w:hyperlink>`)
	}
}

func (d *docx) draftTable(n *draft.Node) {
	widest := 1
	for _, r := range n.Content {
		widest = max(widest, len(r.Content))
	}
	fmt.Fprintf(&d.b, `<w:tbl><w:tblPr><w:tblStyle w:val="Lines"/><w:tblW w:w="%d" w:type="dxa"/></w:tblPr><w:tblGrid>`, pageWidth)
	for range widest {
		fmt.Fprintf(&d.b, `<w:gridCol w:w="%d"/>`, pageWidth/widest)
	}
	d.b.WriteString(`</w:tblGrid>`)
	for i, r := range n.Content {
		head := ""
		if i == 0 && len(r.Content) > 0 && r.Content[0].Type == draft.HeadingCell {
			head = `<w:trPr><w:tblHeader/></w:trPr>`
		}
		d.b.WriteString(`<w:tr>` + head)
		for _, c := range r.Content {
			d.b.WriteString(`<w:tc>`)
			if c.Attrs != nil && c.Attrs.Colspan > 1 {
				fmt.Fprintf(&d.b, `<w:tcPr><w:gridSpan w:val="%d"/></w:tcPr>`, c.Attrs.Colspan)
			}
			for _, ch := range c.Content {
				if ch.Textblock() {
					d.draftLine("Cell", ch, "", 0)
				} else {
					d.draftBlock(ch, "", 0)
				}
			}
			if k := len(c.Content); k == 0 || !c.Content[k-1].Textblock() { // a cell ends with a paragraph
				d.paragraph("Cell", "")
			}
			d.b.WriteString(`</w:tc>`)
		}
		for range widest - len(r.Content) {
			d.b.WriteString(`<w:tc><w:p/></w:tc>`)
		}
		d.b.WriteString(`</w:tr>`)
	}
	d.b.WriteString("</w:tbl>\n")
}

// CompareDrafts tells where two drafts differ, block by block; under the heading it stands.
func CompareDrafts(a, b *draft.Node) []Change {
	return compareLines(draftLines(a), draftLines(b))
}

func draftLines(n *draft.Node) []Line {
	var lines []Line
	under := ""
	for _, s := range []struct{ what, text string }{{"Title tag", n.Title()}, {"Meta description", n.Description()}} {
		if s.text != "" {
			lines = append(lines, Line{s.what, s.text})
		}
	}
	for _, b := range n.Blocks() {
		text := strings.Join(strings.Fields(b.Text), " ")
		if b.Heading > 0 {
			under = text
			text = strings.Repeat("›", b.Heading-1) + " " + text
		}
		if text != "" {
			lines = append(lines, Line{under, text})
		}
	}
	return lines
}
