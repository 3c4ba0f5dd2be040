// Package saved is what files of saved pages have in common: a page out of one, a page as it was
// fetched, and how much may come out of files that are handed in together.
package saved

import (
	"io"
	"strings"

	"corpulan/core/message"
)

// Saved is a page out of a file that a person handed in.
type Saved struct {
	URL         string // empty where the file does not say
	ContentType string
	Body        []byte
}

// largestSaved bounds one page.
const LargestSaved = 20 << 20

// Errors of saved files; test with errors.Is.
var (
	ErrNoPages = message.Errorf("there is no HTML page in this file")
	ErrTooMuch = message.Errorf("more comes out of these files than can be taken at once")
)

// Budget is how many bytes may come out of files that are handed in together,
// however they are packed. It is used by one goroutine.
type Budget struct{ left int64 }

// NewBudget makes a budget of so many bytes.
func NewBudget(bytes int64) *Budget { return &Budget{bytes} }

// Left is how many bytes may still come; -1 where there is no bound.
func (b *Budget) Left() int64 {
	if b == nil {
		return -1
	}
	return max(b.left, 0)
}

// Spend takes bytes that came another way off the budget.
func (b *Budget) Spend(bytes int64) {
	if b != nil {
		b.left -= bytes
	}
}

// Of counts what is read through it; reading beyond the budget is ErrTooMuch.
func (b *Budget) Of(r io.Reader) io.Reader {
	if b == nil {
		return r
	}
	return &budgeted{r, b}
}

type budgeted struct {
	r io.Reader
	b *Budget
}

func (b *budgeted) Read(p []byte) (int, error) {
	if b.b.left < 0 {
		return 0, ErrTooMuch
	}
	n, err := b.r.Read(p)
	if b.b.left -= int64(n); b.b.left < 0 {
		return 0, ErrTooMuch
	}
	return n, err
}

func IsHTML(contentType string) bool {
	media, _, _ := strings.Cut(strings.ToLower(contentType), ";")
	media = strings.TrimSpace(media)
	return media == "text/html" || media == "application/xhtml+xml"
}
