package gather

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
