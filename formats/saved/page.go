package saved

import (
	"crypto/sha256"
	"net/http"
	"time"
)

// Fetched is a page as it was fetched.
type Fetched struct {
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
func (p *Fetched) NotModified() bool { return p.Status == http.StatusNotModified }
