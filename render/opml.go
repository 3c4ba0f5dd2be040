package render

import (
	"io"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/formats/opml"
)

// OPML writes the outline of the brief as OPML 2.0: sections with their sub-sections, and
// under each its note, what to say and what to answer.
func OPML(w io.Writer, b brief.Brief) error {
	return opml.Write(w, b.H1, b.Keyword, opmlSections(b, b.Outline))
}

func opmlSections(b brief.Brief, sections []brief.Section) []opml.Outline {
	var list []opml.Outline
	in := b.In()
	for _, s := range sections {
		o := opml.Outline{Text: opml.Line(s.Heading)}
		add := func(text string) {
			if text != "" {
				o.Children = append(o.Children, opml.Outline{Text: opml.Line(text)})
			}
		}
		add(s.Note)
		if s.Key == evidence.PicksKey {
			for _, p := range b.Picks {
				add(strings.Trim(p.Name+": "+p.Verdict, ": "))
			}
		}
		for _, p := range s.Points {
			add(p.Text)
		}
		for _, q := range s.Questions {
			add(q)
		}
		for _, x := range s.Cuttings {
			add(quoted(x) + " — " + sourceOf(in, x))
		}
		o.Children = append(o.Children, opmlSections(b, s.Children)...)
		list = append(list, o)
	}
	return list
}
