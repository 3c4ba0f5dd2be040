package markdown

import (
	"fmt"
	"io"
	"regexp"
	"strings"

	coreaddress "corpulan/core/address"
	"corpulan/core/draft"
	"corpulan/core/fit"
	"corpulan/formats/manuscript"

	"github.com/goccy/go-yaml"
)

// Write writes a draft as CommonMark with tables; title, description and questions
// stand before it as front matter in YAML.
func Write(w io.Writer, t manuscript.Text) error {
	var b strings.Builder
	head := struct {
		Title       string       `yaml:"title,omitempty"`
		Description string       `yaml:"description,omitempty"`
		FAQ         []fit.Answer `yaml:"faq,omitempty"`
	}{t.Node.Title(), t.Node.Description(), t.Answers}
	if head.Title != "" || head.Description != "" || len(head.FAQ) > 0 {
		y, err := yaml.Marshal(head)
		if err != nil {
			return err
		}
		fmt.Fprintf(&b, "---\n%s---\n\n", y)
	}
	m := draftMarkdown{}
	m.blocks(t.Node.Content, "", "")
	b.WriteString(strings.TrimLeft(m.b.String(), "\n"))
	_, err := io.WriteString(w, b.String())
	return err
}

// draftMarkdown writes blocks, each after an empty line.
type draftMarkdown struct{ b strings.Builder }

// blocks writes blocks within others: first stands before the first line, rest before all
// others.
func (m *draftMarkdown) blocks(list []*draft.Node, first, rest string) {
	for i, n := range list {
		if i > 0 {
			first = rest
		}
		if i > 0 || first == rest {
			m.b.WriteString(strings.TrimRight(rest, " ") + "\n")
		}
		m.block(n, first, rest)
	}
}

func (m *draftMarkdown) block(n *draft.Node, first, rest string) {
	switch n.Type {
	case draft.Heading:
		m.b.WriteString(first + strings.Repeat("#", n.Level()) + " " + strings.ReplaceAll(inlineMarkdown(n), "\\\n", " ") + "\n")
	case draft.Quote:
		m.blocks(n.Content, first+"> ", rest+"> ")
		if n.Attrs != nil && n.Attrs.Cite != "" && !strings.Contains(m.b.String(), coreaddress.Guarded(n.Attrs.Cite)) {
			m.b.WriteString(rest + ">\n" + rest + "> <" + coreaddress.Guarded(n.Attrs.Cite) + ">\n")
		}
	case draft.Bullets, draft.Numbers:
		at := 1
		if n.Type == draft.Numbers && n.Attrs != nil {
			at = max(n.Attrs.Order, 1)
		}
		for i, item := range n.Content {
			sign := "- "
			if n.Type == draft.Numbers {
				sign = fmt.Sprintf("%d. ", at+i)
			}
			before := rest
			if i == 0 {
				before = first
			}
			m.blocks(item.Content, before+sign, rest+strings.Repeat(" ", len(sign)))
		}
	case draft.Code:
		fence := "```"
		for strings.Contains(n.Plain(), fence) {
			fence += "`"
		}
		m.b.WriteString(first + fence + "\n")
		for line := range strings.SplitSeq(n.Plain(), "\n") {
			m.b.WriteString(rest + line + "\n")
		}
		m.b.WriteString(rest + fence + "\n")
	case draft.Rule:
		m.b.WriteString(first + "***\n")
	case draft.Image:
		m.b.WriteString(first + fmt.Sprintf("![%s](<%s>)\n", altMarkdown(n.Attrs.Alt), coreaddress.Guarded(n.Attrs.Src)))
	case draft.Table:
		m.table(n, first, rest)
	default:
		for i, line := range strings.Split(inlineMarkdown(n), "\n") {
			before := rest
			if i == 0 {
				before = first
			}
			m.b.WriteString(strings.TrimRight(before+AtLineStart(strings.TrimLeft(line, " \t")), " ") + "\n")
		}
	}
}

// table writes a table; Markdown's have a head and no spans, so that its first row is the head.
func (m *draftMarkdown) table(n *draft.Node, first, rest string) {
	for i, row := range n.Content {
		before := rest
		if i == 0 {
			before = first
		}
		line, rule := before+"|", rest+"|"
		for _, c := range row.Content {
			var parts []string
			for _, p := range c.Content {
				parts = append(parts, strings.ReplaceAll(strings.ReplaceAll(inlineMarkdown(p), "\\\n", " "), "\n", " "))
			}
			line += " " + pipes.ReplaceAllString(strings.Join(parts, " "), `$1\|`) + " |"
			rule += "---|"
		}
		m.b.WriteString(line + "\n")
		if i == 0 {
			m.b.WriteString(rule + "\n")
		}
	}
}

// pipes are those of a table's cell that are not escaped yet: of code.
var pipes = regexp.MustCompile(`(^|[^\\])\|`)

// altMarkdown is the text of an image. Brackets in pairs need no sign before them.
func altMarkdown(s string) string {
	open := 0
	for _, r := range s {
		if r == '[' {
			open++
		} else if r == ']' {
			if open--; open < 0 {
				break
			}
		}
	}
	s = Escape(strings.Join(strings.Fields(s), " "))
	if open == 0 {
		s = strings.NewReplacer(`\[`, "[", `\]`, "]").Replace(s)
	}
	return s
}

// inlineMarkdown is the text of a block with its marks.
func inlineMarkdown(n *draft.Node) string {
	var b strings.Builder
	for _, ch := range n.Content {
		switch ch.Type {
		case draft.Break:
			b.WriteString("\\\n")
		case draft.Text:
			b.WriteString(markedMarkdown(ch))
		default:
			b.WriteString(inlineMarkdown(ch))
		}
	}
	return b.String()
}

func markedMarkdown(n *draft.Node) string {
	// White space at the ends stays outside the marks, or they would not be read as such.
	body := strings.TrimSpace(n.Text)
	if body == "" {
		return n.Text
	}
	before, after := n.Text[:strings.Index(n.Text, body)], n.Text[strings.Index(n.Text, body)+len(body):]
	s, href := Escape(body), ""
	for _, k := range []string{draft.Mono, draft.Em, draft.Strong} {
		for _, mark := range n.Marks {
			switch {
			case mark.Type != k:
			case k == draft.Mono:
				tick := "`"
				for strings.Contains(body, tick) {
					tick += "`"
				}
				s = tick + body + tick
			case k == draft.Em:
				s = "*" + s + "*"
			default:
				s = "**" + s + "**"
			}
		}
	}
	for _, mark := range n.Marks {
		if mark.Type == draft.Link {
			href = mark.Attrs.Href
		}
	}
	if href != "" {
		s = fmt.Sprintf("[%s](<%s>)", s, strings.NewReplacer("<", "%3C", ">", "%3E").Replace(href))
	}
	return before + s + after
}
