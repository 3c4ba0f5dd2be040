package gather

import (
	"bytes"
	"fmt"
	"html"
	"io"
	"path"
	"strings"

	"corpulan/core/message"

	"corpulan/core/draft"
	"corpulan/core/markup"
	"corpulan/core/reading"

	"github.com/goccy/go-yaml"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
)

// largestDraft is the most of a draft's file, in bytes, unpacked. Our own: a book with pictures.
const largestDraft = 16 << 20

// ErrNoDraft says that a file holds no text.
var ErrNoDraft = message.Errorf("this is no draft: it is Markdown, HTML, DOCX or plain text that is wanted")

// Draft reads a writer's text from Markdown (CommonMark with tables, front matter in YAML),
// HTML, DOCX or plain text, by the file's name and what is in it. Raw HTML within Markdown is
// left out; of a whole page of HTML the main content is taken, and its title and description.
func Draft(name string, in io.Reader) (*draft.Node, error) {
	b, err := io.ReadAll(io.LimitReader(in, largestDraft+1))
	if err != nil {
		return nil, err
	}
	if len(b) > largestDraft {
		return nil, message.Errorf("the draft is larger than %d MiB", largestDraft>>20)
	}
	ending := strings.ToLower(path.Ext(name))
	switch {
	case bytes.HasPrefix(b, []byte("PK\x03\x04")):
		return docxDraft(b)
	case ending == ".docx":
		return nil, message.Errorf("%v: a DOCX file begins otherwise", ErrNoDraft)
	case bytes.IndexByte(b, 0) >= 0 && !bytes.HasPrefix(b, []byte("\xff\xfe")) && !bytes.HasPrefix(b, []byte("\xfe\xff")):
		return nil, ErrNoDraft
	case ending == ".html" || ending == ".htm":
		return htmlDraft(b, "")
	case ending == ".txt":
		return fragment(plainBody(string(b)))
	}
	head, body := frontMatter(b)
	if err := checkMarkdown(body); err != nil {
		return nil, err
	}
	var out bytes.Buffer
	if err := goldmark.New(goldmark.WithExtensions(extension.Table)).Convert(body, &out); err != nil {
		return nil, err
	}
	n, err := fragment(out.String())
	if err == nil && head.given() {
		n.Attrs = &draft.Attrs{Title: draft.Clean(head.Title), Description: draft.Clean(head.Description)}
	}
	return n, err
}

// Bounds of Markdown, beyond which reading it takes time out of line with its length. Our own:
// far beyond what people write.
const (
	largestMarkdown   = 4 << 20 // bytes
	deepestMarkdown   = 40      // quotations and lists within one another
	mostSignsTogether = 1000    // brackets, stars and the like in one paragraph
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
		if signs > mostSignsTogether {
			return message.Errorf("a paragraph of this Markdown has too many brackets, stars or lines of code to be read; is it Markdown?")
		}
	}
	return nil
}

// PageDraft takes the text of a captured page as a draft: its main content, title and
// description.
func PageDraft(p reading.Page) (*draft.Node, error) {
	r, content, err := reading.Content(p)
	if err != nil {
		return nil, err
	}
	n, err := draft.FromHTML(content, p.URL)
	if err != nil {
		return nil, err
	}
	if r.Title != "" || r.Description != "" {
		n.Attrs = &draft.Attrs{Title: draft.Clean(r.Title), Description: draft.Clean(r.Description)}
	}
	return n, nil
}

// htmlDraft reads a whole page, or a piece of HTML.
func htmlDraft(b []byte, url string) (*draft.Node, error) {
	if bytes.Contains(bytes.ToLower(b[:min(len(b), 4096)]), []byte("<html")) {
		return PageDraft(reading.Page{URL: url, Body: b})
	}
	return fragment(string(b))
}

// fragment reads a piece of HTML, all of it the author's.
func fragment(s string) (*draft.Node, error) {
	root, err := reading.Parse([]byte(s))
	if err != nil {
		return nil, message.Errorf("reading the draft: %v", err)
	}
	body := markup.First(root, "body")
	if body == nil {
		return draft.New(), nil
	}
	return draft.FromHTML(body, "")
}

// matter is what the head of a Markdown file says of the page it is to be.
type matter struct {
	Title       string `yaml:"title"`
	Description string `yaml:"description"`
}

func (m matter) given() bool { return m != matter{} }

// frontMatter parts a Markdown file from its head between lines of three dashes. A head that is
// no YAML is text.
func frontMatter(b []byte) (head matter, body []byte) {
	b = bytes.ReplaceAll(bytes.TrimPrefix(b, []byte("\ufeff")), []byte("\r\n"), []byte("\n"))
	rest, ok := bytes.CutPrefix(b, []byte("---\n"))
	if !ok {
		return head, b
	}
	said, body, ok := bytes.Cut(rest, []byte("\n---\n"))
	if !ok || yaml.Unmarshal(said, &head) != nil {
		return matter{}, b
	}
	return head, body
}

// plainBody makes paragraphs of what empty lines set apart.
func plainBody(s string) string {
	var b strings.Builder
	for part := range strings.SplitSeq(strings.ReplaceAll(s, "\r\n", "\n"), "\n\n") {
		if part = strings.TrimSpace(part); part != "" {
			fmt.Fprintf(&b, "<p>%s</p>", html.EscapeString(part))
		}
	}
	return b.String()
}
