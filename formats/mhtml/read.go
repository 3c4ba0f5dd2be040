// Package mhtml reads MHTML (RFC 2557), as browsers save pages.
package mhtml

import (
	"bytes"
	"encoding/base64"
	"errors"
	"io"
	"mime"
	"mime/multipart"
	"mime/quotedprintable"
	"net/mail"
	"path"
	"strings"

	"corpulan/core/message"
	"corpulan/formats/saved"
)

// largestMHTML bounds a page with its pictures.
const largestMHTML = 64 << 20

func Is(name string, head []byte) bool {
	switch strings.ToLower(path.Ext(name)) {
	case ".mhtml", ".mht":
		return true
	}
	lower := bytes.ToLower(head)
	return bytes.Contains(lower, []byte("mime-version:")) && bytes.Contains(lower, []byte("multipart/related"))
}

// Read reads the page of an MHTML file: its first part of HTML, or the one
// its header names as the start.
func Read(r io.Reader) (*saved.Saved, error) {
	msg, err := mail.ReadMessage(io.LimitReader(r, largestMHTML))
	if err != nil {
		return nil, message.Errorf("this is no MHTML file: %v", err)
	}
	media, params, err := mime.ParseMediaType(msg.Header.Get("Content-Type"))
	if err != nil {
		return nil, message.Errorf("this is no MHTML file: its type is missing or broken: %v", err)
	}
	if saved.IsHTML(media) {
		body, err := decodePart(msg.Body, msg.Header.Get("Content-Transfer-Encoding"))
		if err != nil {
			return nil, err
		}
		return &saved.Saved{URL: msg.Header.Get("Content-Location"), ContentType: msg.Header.Get("Content-Type"), Body: body}, nil
	}
	if !strings.HasPrefix(media, "multipart/") || params["boundary"] == "" {
		return nil, message.Errorf("this is no MHTML file: its type is %s", media)
	}
	return mhtmlPage(multipart.NewReader(msg.Body, params["boundary"]), params["start"], msg.Header.Get("Snapshot-Content-Location"))
}

func mhtmlPage(parts *multipart.Reader, start, url string) (*saved.Saved, error) {
	var first *saved.Saved
	for {
		part, err := parts.NextRawPart()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			if first != nil {
				return first, nil // the page is whole, a picture after it is not
			}
			return nil, message.Errorf("the MHTML file is broken: %v", err)
		}
		contentType := part.Header.Get("Content-Type")
		if !saved.IsHTML(contentType) {
			continue
		}
		body, err := decodePart(part, part.Header.Get("Content-Transfer-Encoding"))
		if err != nil {
			return nil, message.Errorf("the page in the MHTML file is broken: %v", err)
		}
		page := &saved.Saved{URL: part.Header.Get("Content-Location"), ContentType: contentType, Body: body}
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
		return nil, saved.ErrNoPages
	}
	return first, nil
}

func decodePart(r io.Reader, encoding string) ([]byte, error) {
	r = io.LimitReader(r, saved.LargestSaved)
	switch strings.ToLower(strings.TrimSpace(encoding)) {
	case "quoted-printable":
		return io.ReadAll(quotedprintable.NewReader(r))
	case "base64":
		return io.ReadAll(newBase64(r))
	}
	return io.ReadAll(r)
}

// newBase64 decodes base64 as mail has it: in lines, with stray white space.
func newBase64(r io.Reader) io.Reader {
	return base64.NewDecoder(base64.StdEncoding, &withoutSpace{r})
}

// withoutSpace drops white space; the decoder itself drops only line breaks.
type withoutSpace struct{ r io.Reader }

func (w *withoutSpace) Read(p []byte) (int, error) {
	for {
		n, err := w.r.Read(p)
		kept := p[:0]
		for _, b := range p[:n] {
			if b != ' ' && b != '\t' && b != '\r' && b != '\n' {
				kept = append(kept, b)
			}
		}
		if len(kept) > 0 || err != nil {
			return len(kept), err
		}
	}
}
