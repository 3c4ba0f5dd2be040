package warc

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/base32"
	"fmt"
	"io"
	"iter"
	"net/http"
	"slices"
	"strings"
	"time"

	"corpulan/core/message"
	"corpulan/formats/saved"

	"github.com/google/uuid"
)

// Write writes pages as WARC 1.1 (ISO 28500:2017), gzip for each record,
// one page at a time. A page that was fetched becomes a response record; one
// that was handed in, with status 0, a resource record. at is when the newest
// was captured. The same pages give the same bytes.
func Write(w io.Writer, software string, at time.Time, pages iter.Seq2[saved.Fetched, error]) error {
	info := []byte("software: " + software + "\r\nformat: WARC File Format 1.1\r\nconformsTo: http://iipc.github.io/warc-specifications/specifications/warc-format/warc-1.1/\r\n")
	if err := writeRecord(w, []string{"WARC-Type: warcinfo", "Content-Type: application/warc-fields", "WARC-Date: " + warcDate(at)}, info); err != nil {
		return err
	}
	for p, err := range pages {
		if err != nil {
			return err
		}
		if err := writePage(w, p); err != nil {
			return message.Errorf("writing %s: %v", p.URL, err)
		}
	}
	return nil
}

func writePage(w io.Writer, p saved.Fetched) error {
	url := p.FinalURL
	if url == "" {
		url = p.URL
	}
	payload := sha256.Sum256(p.Body)
	fields := []string{"WARC-Target-URI: " + oneToken(url), "WARC-Date: " + warcDate(p.At), "WARC-Payload-Digest: " + labelled(payload)}
	if p.Status == 0 {
		contentType := p.ContentType
		if contentType == "" {
			contentType = "text/html"
		}
		return writeRecord(w, append([]string{"WARC-Type: resource", "Content-Type: " + strings.NewReplacer("\r", "", "\n", "").Replace(contentType)}, fields...), p.Body)
	}
	block := httpBlock(p)
	return writeRecord(w, append([]string{"WARC-Type: response", "Content-Type: application/http;msgtype=response"}, fields...), block)
}

// httpBlock is the answer as it was, but for what belonged to its transport:
// the body is kept unpacked, and its length is that of what stands here.
func httpBlock(p saved.Fetched) []byte {
	var b bytes.Buffer
	fmt.Fprintf(&b, "HTTP/1.1 %d %s\r\n", p.Status, http.StatusText(p.Status))
	names := make([]string, 0, len(p.Header))
	for name := range p.Header {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		switch http.CanonicalHeaderKey(name) {
		case "Content-Length", "Content-Encoding", "Transfer-Encoding", "Connection":
			continue
		}
		for _, v := range p.Header[name] {
			fmt.Fprintf(&b, "%s: %s\r\n", name, strings.NewReplacer("\r", " ", "\n", " ").Replace(v))
		}
	}
	fmt.Fprintf(&b, "Content-Length: %d\r\n\r\n", len(p.Body))
	b.Write(p.Body)
	return b.Bytes()
}

func writeRecord(w io.Writer, fields []string, block []byte) error {
	z := gzip.NewWriter(w)
	digest := sha256.Sum256(block)
	// A UUID of version 8 (RFC 9562, section 5.8) from what the record holds.
	id := uuid.NewHash(sha256.New(), uuid.Nil, []byte(strings.Join(fields, "\n")+labelled(digest)), 8)
	fmt.Fprintf(z, "WARC/1.1\r\nWARC-Record-ID: <%s>\r\n", id.URN())
	for _, f := range fields {
		fmt.Fprintf(z, "%s\r\n", f)
	}
	fmt.Fprintf(z, "WARC-Block-Digest: %s\r\nContent-Length: %d\r\n\r\n", labelled(digest), len(block))
	if _, err := z.Write(block); err != nil {
		return err
	}
	if _, err := io.WriteString(z, "\r\n\r\n"); err != nil {
		return err
	}
	return z.Close()
}

func warcDate(t time.Time) string { return t.UTC().Format("2006-01-02T15:04:05Z") }

func labelled(digest [sha256.Size]byte) string {
	return "sha256:" + strings.TrimRight(base32.StdEncoding.EncodeToString(digest[:]), "=")
}

// oneToken keeps a value from breaking out of its header line.
func oneToken(s string) string { return strings.NewReplacer("\r", "", "\n", "", " ", "%20").Replace(s) }
