package render

import (
	"fmt"
	"io"
	"strings"

	"corpulan/core/brief"
)

// Prompt writes the whole brief as instructions for a writing assistant, in plain text: it
// is to keep to what the brief says and to invent no source.
func Prompt(w io.Writer, b brief.Brief) error {
	p := &prompt{}
	p.line("Write a page on “%s”, in the language with the code %s, by the brief below.", b.Keyword, b.Language)
	p.line("Keep to these rules:")
	for _, rule := range []string{
		"Follow the outline in its order. Write every section out; do not list headings or terms.",
		"Invent nothing: no source, figure, name, quotation or study. Where the brief has no figure, write none.",
		"What stands after “say” is what several ranked pages state: put it in your own words, and do not copy their sentences.",
		"Use each term as often as the brief says, where it helps the reader. Never more.",
		"Answer every question in the section it stands under; begin the answer with one short paragraph of 40 to 60 words.",
		"What stands after “cutting” is another's words: quote it with its source, or leave it.",
		"Where pages are said to differ, say that they do, or leave it out.",
	} {
		p.line("- %s", rule)
	}
	for _, k := range Filled(b.Saying(nil)) { // the rules name what stands there
		p.block(k)
	}
	_, err := io.WriteString(w, p.b.String())
	return err
}

type prompt struct{ b strings.Builder }

func (p *prompt) line(format string, args ...any) { fmt.Fprintf(&p.b, format+"\n", args...) }

func (p *prompt) part(name string) { p.line("\n%s", strings.ToUpper(name)) }

// oneLine is a text without breaks, so that nothing that was typed or captured looks like a
// part or a rule of ours.
func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }

func (p *prompt) block(k Block) {
	switch k.Form {
	case TitleForm:
		p.part("brief")
	case FactsForm:
		for _, r := range k.Rows {
			p.line("%s: %s", r.Label, oneLine(r.First().Text))
		}
	case TypedForm:
		if k.Label == "" {
			p.line("%s", oneLine(k.Text))
		} else {
			p.line("%s: %s", k.Label, oneLine(k.Text))
		}
	case PartForm:
		p.part(k.Text)
	case RemarkForm:
		p.line("%s", oneLine(k.Text))
	case SectionForm:
		long := fmt.Sprintf("about %d words", k.Words)
		if k.Folded {
			long = "in passing, no section of its own"
		}
		p.line("%s%s (%s)", strings.Repeat("  ", max(k.Level-2, 0)), oneLine(k.Text), long)
		under := func(what, text string) {
			if text != "" {
				p.line("%s- %s: %s", strings.Repeat("  ", max(k.Level-1, 1)), what, oneLine(text))
			}
		}
		under("note", k.Note)
		for _, x := range ItemsOf(k) {
			under(strings.ToLower(x.Does), x.Text+inBrackets(x.Note))
		}
	case ListForm:
		for _, r := range k.Rows {
			c := r.First()
			p.line("- %s", oneLine(withAddress(c)+inBrackets(c.Note)))
		}
	case TableForm:
		for _, r := range k.Rows {
			var cells []string
			for i, c := range r.Cells {
				switch text := oneLine(withAddress(c)); {
				case c.Text == "" || k.Columns[i].Small:
				case k.Name == brief.PartComparison && i > 1: // figures say nothing without their head
					cells = append(cells, k.Columns[i].Name+": "+text)
				default:
					cells = append(cells, text)
				}
			}
			p.line("- %s", strings.Join(cells, "; "))
		}
	}
}

// withAddress is a cell's text with the address it leads to, where the text is not that.
func withAddress(c Cell) string {
	if c.URL == "" || c.URL == c.Text {
		return c.Text
	}
	return c.Text + " <" + c.URL + ">"
}
