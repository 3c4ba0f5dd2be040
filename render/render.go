// Package render writes a brief in the formats a person hands over:
//
//   - document.go  the brief as blocks, which all formats are made of
//   - short.go     the brief itself and the dossier behind it, as blocks
//   - lists.go     its lists and tables
//   - words.go     figures and ranks in words
//   - compare.go   two briefs, line by line
//   - markdown.go  CommonMark
//   - html.go      one HTML file (brief.html)
//   - table.go     findings as CSV and XLSX
//   - docx.go, docxparts.go  WordprocessingML
//   - pdf.go       pages with bookmarks
//   - workbook.go  all lists of a brief as XLSX
//   - opml.go      the outline as OPML
//   - slate.go     groups of keywords and slates: tables, OPML, iCalendar
//   - prompt.go    the brief as instructions for a writing assistant
//   - faq.go       its questions as FAQPage data
//   - draft.go, draftmarkdown.go, draftdocx.go  a writer's draft, handed over; two of them
//     compared
//   - json.go      the whole document, and all evidence, as data
package render

import (
	"io"
	"slices"

	"corpulan/core/brief"
)

// Format is a form a brief can be written in.
type Format struct {
	Name      string // as on the command line
	Extension string
	MediaType string
	About     string
	Write     func(io.Writer, brief.Brief) error
}

// Layered tells a format that leads with the brief itself, and has the dossier behind it or not.
func (f Format) Layered() bool { return slices.Contains([]string{"md", "html", "docx", "pdf"}, f.Name) }

// Formats lists what a brief can be written as.
func Formats() []Format {
	return []Format{
		{"md", "md", "text/markdown; charset=utf-8", "Markdown", Markdown},
		{"html", "html", "text/html; charset=utf-8", "HTML", HTML},
		{"docx", "docx", "application/vnd.openxmlformats-officedocument.wordprocessingml.document", "DOCX", DOCX},
		{"pdf", "pdf", "application/pdf", "PDF", PDF},
		{"xlsx", "xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "XLSX", Workbook},
		{"opml", "opml", "text/x-opml; charset=utf-8", "OPML", OPML},
		{"prompt", "txt", "text/plain; charset=utf-8", "prompt text", Prompt},
		{"json", "json", "application/json", "JSON", JSON},
	}
}

// FormatNamed finds a format by its name.
func FormatNamed(name string) (Format, bool) {
	for _, f := range Formats() {
		if f.Name == name {
			return f, true
		}
	}
	return Format{}, false
}
