package render

import (
	"encoding/xml"
	"io"
	"strings"

	"corpulan/core/brief"
	"corpulan/formats/docx"
)

// opmlOutline is an outline element of OPML 2.0.
type opmlOutline struct {
	Text     string        `xml:"text,attr"`
	Children []opmlOutline `xml:"outline"`
}

// OPML writes the outline of the brief as OPML 2.0: sections with their sub-sections, and
// under each its note, what to say and what to answer.
func OPML(w io.Writer, b brief.Brief) error {
	return writeOPML(w, b.H1, b.Keyword, opmlSections(b.In(), b.Outline))
}

// writeOPML writes outlines under a title; without any, otherwise stands alone, since the body
// must have an outline.
func writeOPML(w io.Writer, title, otherwise string, outlines []opmlOutline) error {
	doc := struct {
		XMLName xml.Name      `xml:"opml"`
		Version string        `xml:"version,attr"`
		Title   string        `xml:"head>title"`
		Body    []opmlOutline `xml:"body>outline"`
	}{Version: "2.0", Title: opmlText(title), Body: outlines}
	if len(doc.Body) == 0 {
		doc.Body = []opmlOutline{{Text: opmlText(otherwise)}}
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

func opmlSections(in brief.Speech, sections []brief.Section) []opmlOutline {
	var list []opmlOutline
	for _, s := range sections {
		o := opmlOutline{Text: opmlText(s.Heading)}
		add := func(text string) {
			if text != "" {
				o.Children = append(o.Children, opmlOutline{Text: opmlText(text)})
			}
		}
		add(s.Note)
		for _, p := range s.Points {
			add(p.Text)
		}
		for _, q := range s.Questions {
			add(q)
		}
		for _, x := range s.Cuttings {
			add(quoted(x) + " — " + sourceOf(in, x))
		}
		o.Children = append(o.Children, opmlSections(in, s.Children)...)
		list = append(list, o)
	}
	return list
}

// opmlText is a text on one line, without what XML has no place for; the encoder escapes it.
func opmlText(s string) string {
	return strings.Join(strings.Fields(strings.Map(docx.XMLRune, s)), " ")
}
