// Package opml writes outlines as OPML 2.0 (opml.org).
package opml

import (
	"encoding/xml"
	"io"
	"strings"

	"corpulan/formats/docx"
)

// Outline is an outline element. Its texts are of one line.
type Outline struct {
	Text     string    `xml:"text,attr"`
	Children []Outline `xml:"outline"`
}

// Write writes outlines under a title; without any, otherwise stands alone, since the body
// must have an outline.
func Write(w io.Writer, title, otherwise string, outlines []Outline) error {
	doc := struct {
		XMLName xml.Name  `xml:"opml"`
		Version string    `xml:"version,attr"`
		Title   string    `xml:"head>title"`
		Body    []Outline `xml:"body>outline"`
	}{Version: "2.0", Title: Line(title), Body: outlines}
	if len(doc.Body) == 0 {
		doc.Body = []Outline{{Text: Line(otherwise)}}
	}
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return err
	}
	enc := xml.NewEncoder(w)
	enc.Indent("", "  ")
	if err := enc.Encode(doc); err != nil {
		return err
	}
	_, err := io.WriteString(w, "\n")
	return err
}

// Line is a text on one line, without what XML has no place for; the encoder escapes it.
func Line(s string) string {
	return strings.Join(strings.Fields(strings.Map(docx.XMLRune, s)), " ")
}
