package render

import (
	"io"

	"corpulan/core/brief"
	"corpulan/formats/opml"
)

// OPML writes the outline of the brief as OPML 2.0: sections with their sub-sections, and
// under each its note, what to say and what to answer.
func OPML(w io.Writer, b brief.Brief) error {
	return opml.Write(w, b.H1, b.Keyword, opmlSections(b.In(), b.Outline))
}

func opmlSections(in brief.Speech, sections []brief.Section) []opml.Outline {
	var list []opml.Outline
	for _, s := range sections {
		o := opml.Outline{Text: opml.Line(s.Heading)}
		add := func(text string) {
			if text != "" {
				o.Children = append(o.Children, opml.Outline{Text: opml.Line(text)})
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
