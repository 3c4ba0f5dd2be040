package study

import (
	"fmt"
	"html"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/reading"
)

// ReadDraft makes a text that a person pasted ready to be compared with the field. It
// fails as reading.Read does where there is no text.
func ReadDraft(draft, language string) (*corpus.Doc, error) {
	r, err := reading.Read(reading.Page{ContentType: "text/html; charset=utf-8", Body: draftPage(draft, language)})
	if err != nil {
		return nil, fmt.Errorf("reading the draft: %w", err)
	}
	return corpus.Prepare(r, language), nil
}

// draftPage makes a page of a draft: paragraphs apart by empty lines, headings where a
// line begins with signs as Markdown has them.
func draftPage(draft, language string) []byte {
	var b strings.Builder
	fmt.Fprintf(&b, `<!doctype html><html lang="%s"><body><article>`, html.EscapeString(language))
	for line := range strings.Lines(strings.ReplaceAll(draft, "\r\n", "\n")) {
		line = strings.TrimSpace(line)
		level := len(line) - len(strings.TrimLeft(line, "#"))
		switch {
		case line == "":
		case level >= 1 && level <= 6:
			fmt.Fprintf(&b, "<h%d>%s</h%d>", level, html.EscapeString(strings.TrimSpace(line[level:])), level)
		default:
			fmt.Fprintf(&b, "<p>%s</p>", html.EscapeString(line))
		}
	}
	b.WriteString("</article></body></html>")
	return []byte(b.String())
}
