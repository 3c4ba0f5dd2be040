package gather

import (
	"corpulan/core/draft"
	"corpulan/core/markup"
	"corpulan/core/message"
	"corpulan/core/reading"
)

// largestDraft is the most of a draft's file, in bytes, unpacked. Our own: a book with pictures.
const largestDraft = 16 << 20

// ErrNoDraft says that a file holds no text.
var ErrNoDraft = message.Errorf("this is no draft: it is Markdown, HTML, DOCX or plain text that is wanted")

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

// LargestExtra is the most of an extra source's file, in bytes. Our own: a book with pictures.
const LargestExtra = 32 << 20
