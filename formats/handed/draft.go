package handed

import (
	"bytes"
	"fmt"
	"html"
	"path"
	"strings"

	"golang.org/x/net/html/atom"

	"corpulan/core/draft"
	"corpulan/core/markup"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/formats/docx"
	"corpulan/formats/manuscript"
	"corpulan/formats/markdown"
)

// manuscriptOf reads a writer's text from Markdown (CommonMark with tables, front matter in YAML),
// HTML, DOCX or plain text, by the file's name and what is in it. Raw HTML within Markdown is left
// out; of a whole page of HTML the main content is taken, and its title and description.
func manuscriptOf(name string, b []byte) (*draft.Node, error) {
	if len(b) > manuscript.LargestDraft {
		return nil, message.Errorf("the draft is larger than %d MiB", manuscript.LargestDraft>>20)
	}
	ending := strings.ToLower(path.Ext(name))
	switch {
	case bytes.HasPrefix(b, []byte("PK\x03\x04")):
		return docx.Read(b)
	case ending == ".docx":
		return nil, message.Errorf("%v: a DOCX file begins otherwise", manuscript.ErrNoDraft)
	case bytes.IndexByte(b, 0) >= 0 && !bytes.HasPrefix(b, []byte("\xff\xfe")) && !bytes.HasPrefix(b, []byte("\xfe\xff")):
		return nil, manuscript.ErrNoDraft
	case ending == ".html" || ending == ".htm":
		return htmlDraft(b, "")
	case ending == ".txt":
		return manuscript.Fragment(plainBody(string(b)))
	}
	return markdown.Read(b)
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
		if n, err := ourDraft(b); n != nil || err != nil {
			return n, err
		}
		return PageDraft(reading.Page{URL: url, Body: b})
	}
	return manuscript.Fragment(string(b))
}

// ourDraft reads a draft that was taken along as HTML, which has nothing beside the text; nil for another
// page.
func ourDraft(b []byte) (*draft.Node, error) {
	page, err := reading.Parse(b)
	if err != nil {
		return nil, err
	}
	ours, attrs, title := false, draft.Attrs{}, ""
	for n := range page.Descendants() {
		switch {
		case n.DataAtom == atom.Title && title == "" && n.FirstChild != nil:
			title = strings.TrimSpace(n.FirstChild.Data)
		case n.DataAtom == atom.Meta && markup.Attr(n, "name") == "generator":
			ours = markup.Attr(n, "content") == "Corpulan"
		case n.DataAtom == atom.Meta && markup.Attr(n, "name") == "description":
			attrs.Description = draft.Clean(markup.Attr(n, "content"))
		}
	}
	article := markup.First(page, "article")
	if !ours || article == nil {
		return nil, nil
	}
	n, err := draft.FromHTML(article, "")
	if err != nil {
		return nil, err
	}
	if attrs.Title = draft.Clean(title); attrs != (draft.Attrs{}) {
		n.Attrs = &attrs
	}
	return n, nil
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
