package gather

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"html"
	"io"
	"path"
	"strconv"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
)

// Bounds on a draft.
const (
	largestDraft = 16 << 20 // bytes, unpacked
	deepestDraft = 6        // levels of headings
)

// ErrNoDraft says that a file holds no text.
var ErrNoDraft = errors.New("this is no draft: it is Markdown, HTML, DOCX or plain text that is wanted")

// Draft reads a writer's text from Markdown (CommonMark with tables), HTML, DOCX or plain text,
// by the file's name and what is in it, as a page of HTML in a language. Raw HTML within
// Markdown is left out.
func Draft(name string, in io.Reader, language string) ([]byte, error) {
	b, err := io.ReadAll(io.LimitReader(in, largestDraft+1))
	if err != nil {
		return nil, err
	}
	if len(b) > largestDraft {
		return nil, fmt.Errorf("the draft is larger than %d MiB", largestDraft>>20)
	}
	ending := strings.ToLower(path.Ext(name))
	switch {
	case bytes.HasPrefix(b, []byte("PK\x03\x04")):
		body, err := docxBody(b)
		if err != nil {
			return nil, err
		}
		return draftPage(body, language), nil
	case ending == ".docx":
		return nil, fmt.Errorf("%w: a DOCX file begins otherwise", ErrNoDraft)
	case bytes.IndexByte(b, 0) >= 0:
		return nil, ErrNoDraft
	case ending == ".html" || ending == ".htm":
		if bytes.Contains(bytes.ToLower(b[:min(len(b), 4096)]), []byte("<html")) {
			return b, nil
		}
		return draftPage(string(b), language), nil
	case ending == ".txt":
		return draftPage(plainBody(string(b)), language), nil
	}
	var out bytes.Buffer
	if err := goldmark.New(goldmark.WithExtensions(extension.Table)).Convert(b, &out); err != nil {
		return nil, err
	}
	return draftPage(out.String(), language), nil
}

func draftPage(body, language string) []byte {
	return []byte(fmt.Sprintf(`<!doctype html><html lang="%s"><head><meta charset="utf-8"></head><body><article>%s</article></body></html>`, html.EscapeString(language), body))
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

// docxBody is the text of a DOCX (ISO/IEC 29500, WordprocessingML): paragraphs, those with a
// heading's style or outline level as headings, lists as items, tables by their cells.
func docxBody(file []byte) (string, error) {
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return "", fmt.Errorf("this DOCX file cannot be opened: %w", err)
	}
	part, err := z.Open("word/document.xml")
	if err != nil {
		return "", fmt.Errorf("%w: it has no word/document.xml", ErrNoDraft)
	}
	defer part.Close()
	body, err := io.ReadAll(io.LimitReader(part, largestDraft+1))
	if err != nil {
		return "", fmt.Errorf("this DOCX file cannot be unpacked: %w", err)
	}
	if len(body) > largestDraft {
		return "", fmt.Errorf("the text of this DOCX file is larger than %d MiB", largestDraft>>20)
	}
	w := &docxText{}
	d := xml.NewDecoder(bytes.NewReader(body))
	for {
		t, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return "", fmt.Errorf("this DOCX file is damaged: %w", err)
		}
		w.token(t)
	}
	return w.b.String(), nil
}

// docxText writes the paragraphs of a document as they come.
type docxText struct {
	b       strings.Builder
	text    strings.Builder
	level   int
	item    bool
	inText  bool
	deleted int
}

func (w *docxText) token(t xml.Token) {
	switch t := t.(type) {
	case xml.StartElement:
		switch t.Name.Local {
		case "p":
			w.text.Reset()
			w.level, w.item = 0, false
		case "pStyle":
			style := strings.ToLower(attr(t, "val"))
			if n, err := strconv.Atoi(strings.TrimPrefix(style, "heading")); err == nil && strings.HasPrefix(style, "heading") {
				w.level = min(max(n, 1), deepestDraft)
			} else if style == "title" {
				w.level = 1
			}
			w.item = w.item || strings.HasPrefix(style, "list")
		case "outlineLvl":
			if n, err := strconv.Atoi(attr(t, "val")); err == nil && n >= 0 && n < deepestDraft && w.level == 0 {
				w.level = n + 1
			}
		case "numPr":
			w.item = true
		case "t":
			w.inText = true
		case "tab", "br", "cr":
			w.text.WriteByte(' ')
		case "del", "moveFrom":
			w.deleted++
		}
	case xml.EndElement:
		switch t.Name.Local {
		case "t":
			w.inText = false
		case "del", "moveFrom":
			w.deleted--
		case "p":
			w.paragraph()
		}
	case xml.CharData:
		if w.inText && w.deleted == 0 {
			w.text.Write(t)
		}
	}
}

func (w *docxText) paragraph() {
	text := html.EscapeString(strings.TrimSpace(w.text.String()))
	switch {
	case text == "":
	case w.level > 0:
		fmt.Fprintf(&w.b, "<h%d>%s</h%d>", w.level, text, w.level)
	case w.item:
		fmt.Fprintf(&w.b, "<ul><li>%s</li></ul>", text)
	default:
		fmt.Fprintf(&w.b, "<p>%s</p>", text)
	}
	w.text.Reset()
}

func attr(t xml.StartElement, name string) string {
	for _, a := range t.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}
