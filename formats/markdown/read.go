// Package markdown reads and writes Markdown (CommonMark 0.31, with tables): read.go, write.go;
// escape.go guards what would be read as Markdown.
package markdown

import (
	"bytes"
	"regexp"
	"strings"

	"github.com/goccy/go-yaml"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"

	"corpulan/core/draft"
	"corpulan/core/message"
	"corpulan/formats/manuscript"
)

// Read reads CommonMark with tables, and front matter in YAML. Raw HTML within it is left out.
func Read(b []byte) (*draft.Node, error) {
	head, body := frontMatter(b)
	if err := checkMarkdown(body); err != nil {
		return nil, err
	}
	var out bytes.Buffer
	if err := goldmark.New(goldmark.WithExtensions(extension.Table)).Convert(body, &out); err != nil {
		return nil, err
	}
	n, err := manuscript.Fragment(out.String())
	if err == nil && head.given() {
		n.Attrs = &draft.Attrs{Title: draft.Clean(head.Title), Description: draft.Clean(head.Description)}
	}
	return n, err
}

// Bounds of Markdown, beyond which reading it takes time out of line with its length. Our own:
// far beyond what people write.
const (
	largestMarkdown  = 4 << 20 // bytes
	deepestMarkdown  = 40      // quotations and lists within one another
	maxSignsTogether = 1000    // brackets, stars and the like in one paragraph
)

// checkMarkdown refuses a text that is beyond the bounds.
func checkMarkdown(b []byte) error {
	if len(b) > largestMarkdown {
		return message.Errorf("a draft in Markdown has at most %d MiB", largestMarkdown>>20)
	}
	signs := 0
	for line := range bytes.Lines(b) {
		text := bytes.TrimLeft(line, " \t>-+*0123456789.)")
		if lead := line[:len(line)-len(text)]; bytes.Count(lead, []byte(">"))+bytes.Count(lead, []byte("- "))+bytes.Count(lead, []byte("+ "))+bytes.Count(lead, []byte("* "))+bytes.Count(lead, []byte(". ")) > deepestMarkdown {
			return message.Errorf("this Markdown nests quotations or lists too deep to be read")
		}
		if len(bytes.TrimSpace(line)) == 0 {
			signs = 0
		}
		for _, c := range line {
			switch c {
			case '[', ']', '*', '_', '`', '<', '!', '(':
				signs++
			}
		}
		if signs > maxSignsTogether {
			return message.Errorf("a paragraph of this Markdown has too many brackets, stars or lines of code to be read; is it Markdown?")
		}
	}
	return nil
}

// matter is what the head of a Markdown file says of the page it is to be.
type matter struct {
	Title       string `yaml:"title"`
	Description string `yaml:"description"`
}

func (m matter) given() bool { return m != matter{} }

// Bounds of a head, our own: more is none that a person wrote, and costs a parser of YAML gigabytes.
const (
	longestHead = 64 << 10 // bytes
	maxHeadLine = 200
	deepestHead = 10 // lists and maps within each other, by brackets or by indentation
)

// isBeyond tells a head that is not to be parsed: one beyond the bounds, or with anchors and aliases.
// Brackets in texts count as well.
func isBeyond(head []byte) bool {
	if len(head) > longestHead || bytes.Count(head, []byte("\n")) >= maxHeadLine {
		return true
	}
	var indents []int // of the lines that the current one stands in
	open := 0
	for line := range bytes.Lines(head) {
		text := bytes.TrimLeft(line, " -\t?")
		indent := len(line) - len(text)
		for len(indents) > 0 && indents[len(indents)-1] >= indent {
			indents = indents[:len(indents)-1]
		}
		if indents = append(indents, indent); len(indents)+bytes.Count(line[:indent], []byte("- ")) > deepestHead {
			return true
		}
		for _, c := range line {
			switch c {
			case '[', '{':
				if open++; open > deepestHead {
					return true
				}
			case ']', '}':
				open = max(open-1, 0)
			}
		}
	}
	return anchor.Match(head) && alias.Match(head)
}

// What YAML names and what it puts in its place (1.2.2, section 7.1): lists of aliases of lists are
// what a few lines grow to a thousand million by.
var (
	anchor = regexp.MustCompile(`(^|[\s\[{,:-])&[^\s\[\]{},]`)
	alias  = regexp.MustCompile(`(^|[\s\[{,:-])\*[^\s\[\]{},]`)
)

// frontMatter parts a Markdown file from its head between lines of three dashes. A head that is
// no YAML is text.
func frontMatter(b []byte) (head matter, body []byte) {
	b = bytes.ReplaceAll(bytes.TrimPrefix(b, []byte("\ufeff")), []byte("\r\n"), []byte("\n"))
	rest, ok := bytes.CutPrefix(b, []byte("---\n"))
	if !ok {
		return head, b
	}
	said, body, ok := bytes.Cut(rest, []byte("\n---\n"))
	if !ok || isBeyond(said) {
		return matter{}, b
	}
	if yaml.Unmarshal(said, &head) == nil {
		return head, body
	}
	if head, ok = plainHead(said); ok {
		return head, body
	}
	return matter{}, b
}

// plainHead reads a head that is no YAML and was meant as one: a name, a colon and what it says a line,
// as in "title: Tyres: which ones".
func plainHead(b []byte) (head matter, ok bool) {
	for line := range strings.Lines(string(b)) {
		name, says, is := strings.Cut(strings.TrimSpace(line), ":")
		if strings.TrimSpace(line) == "" {
			continue
		}
		if !is || name == "" || strings.ContainsAny(name, " \t[]{}\"'") {
			return matter{}, false
		}
		switch says = strings.Trim(strings.TrimSpace(says), "\"'"); name {
		case "title":
			head.Title = says
		case "description":
			head.Description = says
		}
	}
	return head, head.given()
}
