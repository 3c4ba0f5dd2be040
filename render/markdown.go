package render

import (
	"fmt"
	"io"
	"strings"

	"corpulan/core/brief"
)

// Markdown writes the brief as CommonMark.
func Markdown(w io.Writer, b brief.Brief) error {
	m := &markdown{}
	m.line("# Brief: %s", escape(b.Keyword))
	m.blank()
	m.line("- **Title tag:** %s", escape(b.TitleTag))
	m.line("- **Meta description:** %s", escape(b.MetaDescription))
	m.line("- **H1:** %s", escape(b.H1))
	if b.Words.N > 0 {
		m.line("- **Length:** %d to %d words, about %d (quartiles of %d pages)", b.Words.Lower, b.Words.Upper, b.Words.Target, b.Words.N)
	}
	for _, i := range b.Intent {
		m.line("- **Intent:** %s, %.0f %% of the field%s", i.Kind, 100*i.Share, ranksNote(i.Sources))
	}
	for _, f := range written(b.Fields) {
		m.section(f.Title)
		m.text(f.Text)
	}
	if len(b.Outline) > 0 {
		m.section("Outline")
		m.line("Opening, about %d words.", b.OpeningWords)
		m.blank()
		m.outline(b.Outline)
	}
	if len(b.Terms) > 0 {
		m.section("Terms")
		m.line("| term | use | tier | pages | ranks |")
		m.line("|---|---|---|---|---|")
		for _, t := range b.Terms {
			m.line("| %s | %s | %s | %d of %d | %s |", cell(t.Term), Times(t.Lower, t.Upper), or(t.Tier, "on no kept page"), t.Pages, t.Of, Ranks(t.Sources))
		}
	}
	if len(b.Entities) > 0 {
		m.section("Entities")
		m.line("| entity | type | pages | mentions | ranks |")
		m.line("|---|---|---|---|---|")
		for _, e := range b.Entities {
			m.line("| %s | %s | %d | %d | %s |", cell(e.Name), e.Type, e.Pages, e.Mentions, Ranks(e.Sources))
		}
	}
	if len(b.Questions) > 0 {
		m.section("Questions")
		for _, q := range b.Questions {
			m.line("- %s (%s)", escape(q.Text), questionNote(q))
		}
	}
	if len(b.Links.Outward) > 0 {
		m.section("Links several pages give")
		for _, l := range b.Links.Outward {
			m.line("- [%s](<%s>)%s", cell(l.URL), address(l.URL), ranksNote(l.Sources))
		}
	}
	if len(b.Sources) > 0 {
		m.section("Pages this was made from")
		m.line("| rank | page | words | kind |")
		m.line("|---|---|---|---|")
		for _, s := range b.Sources {
			page := cell(or(s.Title, s.URL, "untitled"))
			if s.URL != "" {
				page = fmt.Sprintf("[%s](<%s>)", page, address(s.URL))
			}
			m.line("| %d | %s | %d | %s |", s.Rank, page, s.Words, s.Kind)
		}
	}
	_, err := io.WriteString(w, m.b.String())
	return err
}

type markdown struct{ b strings.Builder }

func (m *markdown) line(format string, args ...any) { fmt.Fprintf(&m.b, format+"\n", args...) }
func (m *markdown) blank()                          { m.b.WriteByte('\n') }

func (m *markdown) section(title string) {
	m.blank()
	m.line("## %s", title)
	m.blank()
}

func (m *markdown) outline(sections []brief.Section) {
	for i, s := range sections {
		if i > 0 {
			m.blank()
		}
		m.line("%s %s", strings.Repeat("#", s.Level+1), escape(s.Heading))
		m.blank()
		m.line("About %d words; %s.", s.Words, sectionNote(s))
		if s.Note != "" {
			m.blank()
			m.text(s.Note)
		}
		if len(s.Questions) > 0 {
			m.blank()
			for _, q := range s.Questions {
				m.line("- Answer: %s", escape(q))
			}
		}
		if len(s.Children) > 0 {
			m.blank()
			m.outline(s.Children)
		}
	}
}

func sectionNote(s brief.Section) string {
	switch {
	case s.Gone:
		return "on no kept page any more"
	case len(s.Sources) == 0:
		return "no page has it"
	}
	return fmt.Sprintf("%d pages have it: ranks %s", s.Pages, Ranks(s.Sources))
}

// ranksNote names ranks in brackets; nothing where there are none, such as for
// what only the results page says.
func ranksNote(ranks []int) string {
	if len(ranks) == 0 {
		return ""
	}
	return " (ranks " + Ranks(ranks) + ")"
}

func questionNote(q brief.Question) string {
	var parts []string
	if q.OnResults {
		parts = append(parts, "asked on the results page")
	}
	if len(q.AskedBy) > 0 {
		parts = append(parts, "asked by ranks "+Ranks(q.AskedBy))
	}
	if len(q.AnsweredBy) > 0 {
		parts = append(parts, "answered by ranks "+Ranks(q.AnsweredBy))
	} else {
		parts = append(parts, "answered by no page")
	}
	return strings.Join(parts, "; ")
}

func or(values ...string) string {
	for _, v := range values {
		if v != "" {
			return v
		}
	}
	return ""
}

// escaper guards what captured pages and people wrote from being read as
// Markdown, inline HTML included.
var escaper = strings.NewReplacer(`\`, `\\`, "`", "\\`", "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`, "<", `\<`, ">", `\>`, "#", `\#`, "|", `\|`, "&", `\&`, "~", `\~`, "!", `\!`)

func escape(s string) string { return escaper.Replace(s) }

func cell(s string) string { return escape(strings.Join(strings.Fields(s), " ")) }

// text writes what a person typed, line by line: none of it becomes a heading
// (=== or --- below a line), a list, a rule, or code (four spaces).
func (m *markdown) text(s string) {
	lines := strings.Split(strings.TrimRight(strings.ReplaceAll(s, "\r\n", "\n"), "\n"), "\n")
	for i, l := range lines {
		l = strings.TrimSpace(l)
		out := atLineStart(escape(l))
		if l != "" && i+1 < len(lines) && strings.TrimSpace(lines[i+1]) != "" {
			out += "\\" // the line ends where the person ended it
		}
		m.line("%s", out)
	}
}

// atLineStart guards what means something only where a line begins (CommonMark
// 0.31, sections 4.1, 4.3 and 5.2).
func atLineStart(s string) string {
	if s == "" {
		return s
	}
	if strings.ContainsRune("=-+", rune(s[0])) {
		return `\` + s
	}
	digits := len(s) - len(strings.TrimLeft(s, "0123456789"))
	if digits > 0 && digits < len(s) && (s[digits] == '.' || s[digits] == ')') {
		return s[:digits] + `\` + s[digits:]
	}
	return s
}

// address is a link's target as it stands between angle brackets.
func address(url string) string {
	var b strings.Builder
	for i := range len(url) {
		switch c := url[i]; {
		case c <= ' ', c == '<', c == '>', c == '"', c == '\\', c == '`', c == '|', c == 0x7f:
			fmt.Fprintf(&b, "%%%02X", c)
		default:
			b.WriteByte(c)
		}
	}
	return b.String()
}
