package saved

import (
	"crypto/sha256"
	"net/http"
	"time"
)

// Page is a page as it was fetched.
type Page struct {
	URL         string // asked for
	FinalURL    string // after redirects
	Status      int
	Header      http.Header
	ContentType string
	Body        []byte
	Digest      [sha256.Size]byte
	At          time.Time
}

// NotModified tells that the page is as it was when it was seen before; its
// body is empty then.
func (p *Page) NotModified() bool { return p.Status == http.StatusNotModified }
