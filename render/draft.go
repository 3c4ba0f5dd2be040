package render

import (
	"encoding/json"
	"html/template"
	"io"
	"strings"

	"corpulan/core/draft"
	"corpulan/formats/docx"
	"corpulan/formats/manuscript"
	"corpulan/formats/markdown"
)

// DraftFormat is a form a draft can be written in.
type DraftFormat struct {
	Name      string
	Extension string
	MediaType string
	About     string
	Write     func(io.Writer, manuscript.Text) error
}

// DraftFormats lists what a draft can be written as.
func DraftFormats() []DraftFormat {
	return []DraftFormat{
		{"md", "md", "text/markdown; charset=utf-8", "Markdown", markdown.Write},
		{"html", "html", "text/html; charset=utf-8", "HTML", DraftHTML},
		{"docx", "docx", "application/vnd.openxmlformats-officedocument.wordprocessingml.document", "DOCX", docx.Write},
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
<meta name="generator" content="Corpulan">
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
func DraftHTML(w io.Writer, t manuscript.Text) error {
	page := struct {
		Language, Title, Description string
		FAQ                          any
		Body                         template.HTML
	}{t.Language, manuscript.TitleOf(t.Node), t.Node.Description(), nil, template.HTML(t.Node.HTML())} // its nodes are escaped by html.Render
	if len(t.Answers) > 0 {
		page.FAQ = faqPage(t.Language, t.Answers)
	}
	return draftPage.Execute(w, page)
}

// DraftText writes a draft as plain text, paragraphs apart by empty lines.
func DraftText(w io.Writer, t manuscript.Text) error {
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
func DraftFAQ(w io.Writer, t manuscript.Text) error {
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	return enc.Encode(faqPage(t.Language, t.Answers))
}

// CompareDrafts tells where two drafts differ, block by block; under the heading it stands.
func CompareDrafts(a, b *draft.Node) []Change {
	return compareLines(draftLines(a), draftLines(b))
}

func draftLines(n *draft.Node) []DocumentLine {
	var lines []DocumentLine
	under := ""
	for _, s := range []struct{ what, text string }{{"Title tag", n.Title()}, {"Meta description", n.Description()}} {
		if s.text != "" {
			lines = append(lines, DocumentLine{s.what, s.text})
		}
	}
	for _, b := range n.Blocks() {
		text := strings.Join(strings.Fields(b.Text), " ")
		if b.Heading > 0 {
			under = text
			text = strings.Repeat("›", b.Heading-1) + " " + text
		}
		if text != "" {
			lines = append(lines, DocumentLine{under, text})
		}
	}
	return lines
}
