package gather

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"errors"
	"fmt"
	"io"
	"mime"
	"mime/multipart"
	"mime/quotedprintable"
	"net/http"
	"net/mail"
	"net/textproto"
	"path"
	"strconv"
	"strings"
)

// Saved is a page out of a file that a person handed in.
type Saved struct {
	URL         string // empty where the file does not say
	ContentType string
	Body        []byte
}

// largestSaved bounds one page, and everything unpacked from one file.
const (
	largestSaved   = 20 << 20
	largestArchive = 1 << 30
)

// ErrNoPages says that a file holds no page of HTML.
var ErrNoPages = errors.New("there is no HTML page in this file")

// Pages reads the pages out of a saved file, which its name and first bytes
// tell apart: plain HTML, MHTML (RFC 2557) or WARC (ISO 28500), also gzip.
// Pages read before an archive turns out to be broken are returned with the error.
func Pages(name string, in io.Reader) ([]Saved, error) {
	r := bufio.NewReaderSize(in, 64<<10)
	head, err := r.Peek(1024)
	if err != nil && !errors.Is(err, io.EOF) && !errors.Is(err, bufio.ErrBufferFull) {
		return nil, err
	}
	switch {
	case bytes.HasPrefix(head, []byte{0x1f, 0x8b}):
		z, err := gzip.NewReader(r)
		if err != nil {
			return nil, fmt.Errorf("unpacking: %w", err)
		}
		defer z.Close()
		return Pages(strings.TrimSuffix(name, ".gz"), io.LimitReader(z, largestArchive))
	case bytes.HasPrefix(head, []byte("WARC/")):
		return readWARC(r)
	case isMHTML(name, head):
		return readMHTML(r)
	}
	body, err := io.ReadAll(io.LimitReader(r, largestSaved+1))
	if err != nil {
		return nil, err
	}
	if len(body) > largestSaved {
		return nil, fmt.Errorf("the file is larger than %d MiB", largestSaved>>20)
	}
	return []Saved{{Body: body}}, nil
}

func isMHTML(name string, head []byte) bool {
	switch strings.ToLower(path.Ext(name)) {
	case ".mhtml", ".mht":
		return true
	}
	lower := bytes.ToLower(head)
	return bytes.Contains(lower, []byte("mime-version:")) && bytes.Contains(lower, []byte("multipart/related"))
}

// readWARC reads the response and resource records of a WARC file, version 1.0
// or 1.1. gzip with a member for each record needs nothing here: the readers
// see one stream.
func readWARC(r *bufio.Reader) ([]Saved, error) {
	var pages []Saved
	for {
		fields, err := warcHeader(r)
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return pages, err
		}
		size, err := strconv.ParseInt(fields.Get("Content-Length"), 10, 64)
		if err != nil || size < 0 {
			return pages, fmt.Errorf("the WARC record %q has no length", fields.Get("WARC-Record-ID"))
		}
		block := io.LimitReader(r, size)
		page, err := warcPage(fields, block)
		if err != nil {
			return pages, err
		}
		if page != nil {
			pages = append(pages, *page)
		}
		if _, err := io.Copy(io.Discard, block); err != nil {
			return pages, fmt.Errorf("the WARC file breaks off: %w", err)
		}
	}
	if len(pages) == 0 {
		return nil, ErrNoPages
	}
	return pages, nil
}

// warcHeader reads to the end of the next record's header; io.EOF when there
// is no other record.
func warcHeader(r *bufio.Reader) (textproto.MIMEHeader, error) {
	for {
		line, err := r.ReadString('\n')
		trimmed := strings.TrimSpace(line)
		if trimmed == "" {
			if err != nil {
				return nil, io.EOF
			}
			continue // the two empty lines that end a record
		}
		if !strings.HasPrefix(trimmed, "WARC/1.") {
			return nil, fmt.Errorf("this is no WARC record: %.40q", trimmed)
		}
		break
	}
	fields, err := textproto.NewReader(r).ReadMIMEHeader()
	if err != nil {
		return nil, fmt.Errorf("the header of a WARC record is broken: %w", err)
	}
	return fields, nil
}

// warcPage is the HTML page of a record, nil if it holds none.
func warcPage(fields textproto.MIMEHeader, block io.Reader) (*Saved, error) {
	// wget writes the address in angle brackets, as version 1.0 had it.
	url := strings.Trim(fields.Get("WARC-Target-URI"), "<>")
	switch fields.Get("WARC-Type") {
	case "resource":
		if !isHTML(fields.Get("Content-Type")) {
			return nil, nil
		}
		body, err := io.ReadAll(io.LimitReader(block, largestSaved))
		return &Saved{url, fields.Get("Content-Type"), body}, err
	case "response":
		if !strings.HasPrefix(strings.ToLower(fields.Get("Content-Type")), "application/http") {
			return nil, nil
		}
		resp, err := http.ReadResponse(bufio.NewReader(block), nil)
		if err != nil {
			return nil, nil // not HTTP: a record of another protocol
		}
		defer resp.Body.Close()
		if resp.StatusCode != http.StatusOK || !isHTML(resp.Header.Get("Content-Type")) {
			return nil, nil
		}
		body, err := decodedBody(resp)
		if err != nil {
			return nil, fmt.Errorf("the page %s in the WARC file is broken: %w", url, err)
		}
		return &Saved{url, resp.Header.Get("Content-Type"), body}, nil
	}
	return nil, nil
}

func decodedBody(resp *http.Response) ([]byte, error) {
	body := io.Reader(resp.Body)
	if strings.EqualFold(resp.Header.Get("Content-Encoding"), "gzip") {
		z, err := gzip.NewReader(resp.Body)
		if err != nil {
			return nil, err
		}
		defer z.Close()
		body = z
	}
	b, err := io.ReadAll(io.LimitReader(body, largestSaved))
	if errors.Is(err, io.ErrUnexpectedEOF) && len(b) > 0 {
		return b, nil // cut short when it was captured; what is there is a page
	}
	return b, err
}

func isHTML(contentType string) bool {
	media, _, _ := strings.Cut(strings.ToLower(contentType), ";")
	media = strings.TrimSpace(media)
	return media == "text/html" || media == "application/xhtml+xml"
}

// readMHTML reads the page of an MHTML file: its first part of HTML, or the one
// its header names as the start.
func readMHTML(r io.Reader) ([]Saved, error) {
	msg, err := mail.ReadMessage(io.LimitReader(r, largestArchive))
	if err != nil {
		return nil, fmt.Errorf("this is no MHTML file: %w", err)
	}
	media, params, err := mime.ParseMediaType(msg.Header.Get("Content-Type"))
	if err != nil {
		return nil, fmt.Errorf("this is no MHTML file: its type is missing or broken: %w", err)
	}
	if isHTML(media) {
		body, err := decodePart(msg.Body, msg.Header.Get("Content-Transfer-Encoding"))
		if err != nil {
			return nil, err
		}
		return []Saved{{msg.Header.Get("Content-Location"), msg.Header.Get("Content-Type"), body}}, nil
	}
	if !strings.HasPrefix(media, "multipart/") || params["boundary"] == "" {
		return nil, fmt.Errorf("this is no MHTML file: its type is %s", media)
	}
	page, err := mhtmlPage(multipart.NewReader(msg.Body, params["boundary"]), params["start"], msg.Header.Get("Snapshot-Content-Location"))
	if err != nil {
		return nil, err
	}
	return []Saved{*page}, nil
}

func mhtmlPage(parts *multipart.Reader, start, url string) (*Saved, error) {
	var first *Saved
	for {
		part, err := parts.NextRawPart()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			if first != nil {
				return first, nil // the page is whole, a picture after it is not
			}
			return nil, fmt.Errorf("the MHTML file is broken: %w", err)
		}
		contentType := part.Header.Get("Content-Type")
		if !isHTML(contentType) {
			continue
		}
		body, err := decodePart(part, part.Header.Get("Content-Transfer-Encoding"))
		if err != nil {
			return nil, fmt.Errorf("the page in the MHTML file is broken: %w", err)
		}
		page := &Saved{part.Header.Get("Content-Location"), contentType, body}
		if page.URL == "" || strings.HasPrefix(page.URL, "cid:") {
			page.URL = url
		}
		if start != "" && part.Header.Get("Content-ID") == start {
			return page, nil
		}
		if first == nil {
			first = page
		}
		if start == "" {
			return first, nil
		}
	}
	if first == nil {
		return nil, ErrNoPages
	}
	return first, nil
}

func decodePart(r io.Reader, encoding string) ([]byte, error) {
	r = io.LimitReader(r, largestSaved)
	switch strings.ToLower(strings.TrimSpace(encoding)) {
	case "quoted-printable":
		return io.ReadAll(quotedprintable.NewReader(r))
	case "base64":
		return io.ReadAll(newBase64(r))
	}
	return io.ReadAll(r)
}
