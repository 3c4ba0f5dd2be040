package handed

import (
	"bytes"
	"errors"
	"path"
	"strings"

	"corpulan/core/draft"
	"corpulan/core/message"
	"corpulan/formats/manuscript"
	"corpulan/formats/pdf"
	"corpulan/formats/subtitles"
)

// ErrNoSource says that a file holds nothing that can be read as a source.
var ErrNoSource = message.Errorf("this is nothing that can be read as a source: a transcript (SRT, WebVTT), PDF, DOCX, Markdown, HTML or plain text is wanted")

// source reads a text that did not rank — a transcript, a PDF with a text layer, DOCX, Markdown,
// HTML, plain text — by its file's name and what is in it.
func source(name string, file []byte) (*draft.Node, error) {
	if len(file) > manuscript.LargestExtra {
		return nil, message.Errorf("the file is larger than %d MiB", manuscript.LargestExtra>>20)
	}
	ending := strings.ToLower(path.Ext(name))
	if bytes.HasPrefix(bytes.TrimLeft(file[:min(len(file), 1024)], "\x00 \r\n\t\xef\xbb\xbf"), []byte("%PDF-")) {
		html, err := pdf.Read(file)
		if err != nil {
			return nil, err
		}
		return manuscript.Fragment(html)
	}
	if ending == ".pdf" {
		return nil, message.Errorf("this file is called a PDF and is none")
	}
	if n, is, err := subtitles.Read(ending, file); is {
		return n, err
	}
	n, err := manuscriptOf(name, file)
	if errors.Is(err, manuscript.ErrNoDraft) {
		return nil, ErrNoSource
	}
	if err == nil && n.Empty() {
		return nil, message.Errorf("there is no text in this file")
	}
	return n, err
}
