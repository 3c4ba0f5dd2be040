package render

import (
	"fmt"
	"io"
	"strings"

	coreaddress "corpulan/core/address"
	"corpulan/core/brief"
	"corpulan/formats/markdown"
)

// Markdown writes the brief as CommonMark.
func Markdown(w io.Writer, b brief.Brief) error {
	m := &mdWriter{}
	var before Form
	for _, k := range Blocks(b) {
		if before == SectionForm && k.Form == SectionForm {
			m.blank()
		}
		m.block(k)
		before = k.Form
	}
	_, err := io.WriteString(w, m.b.String())
	return err
}

type mdWriter struct{ b strings.Builder }

func (m *mdWriter) line(format string, args ...any) { fmt.Fprintf(&m.b, format+"\n", args...) }

// blank sets what follows apart, once.
func (m *mdWriter) blank() {
	if s := m.b.String(); s != "" && !strings.HasSuffix(s, "\n\n") {
		m.b.WriteByte('\n')
	}
}

func (m *mdWriter) part(title string) {
	m.blank()
	m.line("## %s", title)
	m.blank()
}

func (m *mdWriter) block(k Block) {
	switch k.Form {
	case TitleForm:
		m.line("# %s", k.in.Put("Brief: %s", markdown.Escape(k.Text)))
	case DossierForm:
		m.blank()
		m.line("# %s", markdown.Escape(k.Text))
	case RunForm:
		m.blank()
		m.line("%s", markdown.AtLineStart(markdown.Escape(run(k))))
	case FactsForm:
		m.blank()
		for _, r := range k.Rows {
			m.line("- **%s:** %s%s", r.Label, markdown.Escape(r.First().Text), inBrackets(r.First().Note))
		}
	case TypedForm:
		if k.Label != "" {
			m.part(k.Label)
		}
		m.text(k.Text)
	case PartForm:
		m.part(k.Text)
	case RemarkForm:
		m.blank()
		m.line("%s", k.Text)
		m.blank()
	case SectionForm:
		m.section(k)
	case ListForm:
		for _, r := range k.Rows {
			c := r.First()
			text := markdown.Escape(c.Text)
			if c.URL != "" {
				text = fmt.Sprintf("[%s](<%s>)", cell(c.Text), coreaddress.Guarded(c.URL))
			}
			m.line("- %s%s", text, inBrackets(c.Note))
		}
	case TableForm:
		m.table(k)
	}
}

func (m *mdWriter) table(k Block) {
	head, rule := "|", "|"
	for _, c := range k.Columns {
		head += " " + c.Name + " |"
		rule += "---|"
	}
	m.line("%s", head)
	m.line("%s", rule)
	for _, r := range k.Rows {
		line := "|"
		for _, c := range r.Cells {
			text := cell(c.Text)
			if c.URL != "" {
				text = fmt.Sprintf("[%s](<%s>)", text, coreaddress.Guarded(c.URL))
			}
			line += " " + text + " |"
		}
		m.line("%s", line)
	}
}

func (m *mdWriter) section(k Block) {
	m.line("%s %s", strings.Repeat("#", k.Level+1), markdown.Escape(k.Text))
	m.blank()
	if note := sectionNote(k); note != "" {
		m.line("%s.", note)
	}
	if k.Note != "" {
		m.blank()
		m.text(k.Note)
	}
	if items := ItemsOf(k); len(items) > 0 {
		m.blank()
		for _, x := range items {
			m.line("- %s: %s%s", x.Does, markdown.Escape(x.Text), inBrackets(markdown.Escape(x.Note)))
		}
	}
}

func inBrackets(note string) string {
	if note == "" {
		return ""
	}
	return " (" + note + ")"
}

func cell(s string) string { return markdown.Escape(strings.Join(strings.Fields(s), " ")) }

// text writes what a person typed, line by line: none of it becomes a heading
// (=== or --- below a line), a list, a rule, or code (four spaces).
func (m *mdWriter) text(s string) {
	lines := strings.Split(strings.TrimRight(strings.ReplaceAll(s, "\r\n", "\n"), "\n"), "\n")
	for i, l := range lines {
		l = strings.TrimSpace(l)
		out := markdown.AtLineStart(markdown.Escape(l))
		if l != "" && i+1 < len(lines) && strings.TrimSpace(lines[i+1]) != "" {
			out += "\\" // the line ends where the person ended it
		}
		m.line("%s", out)
	}
}
