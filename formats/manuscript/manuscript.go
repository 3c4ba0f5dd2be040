// Package manuscript is what the forms of a writer's text have in common: bounds, errors, pieces of
// HTML, and a text as it is handed over.
package manuscript

import (
	"corpulan/core/draft"
	"corpulan/core/markup"
	"corpulan/core/message"
	"corpulan/core/reading"
)

// largestDraft is the most of a draft's file, in bytes, unpacked. Our own: a book with pictures.
const LargestDraft = 16 << 20

// ErrNoDraft says that a file holds no text.
var ErrNoDraft = message.Errorf("this is no draft: it is Markdown, HTML, DOCX or plain text that is wanted")

// Fragment reads a piece of HTML, all of it the author's.
func Fragment(s string) (*draft.Node, error) {
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

// LargestExtra is the most of an extra source's file, in bytes. Our own: a book with pictures.
const LargestExtra = 32 << 20
