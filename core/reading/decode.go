package reading

import (
	"bytes"
	"strings"
	"unicode/utf8"

	"github.com/gabriel-vasile/mimetype"
	"golang.org/x/net/html/charset"
	"golang.org/x/text/transform"
)

// notHTML names what the bytes are when they are surely no HTML page, by their
// first bytes and then by the header; empty when they may be one.
func notHTML(body []byte, contentType string) string {
	sniffed := mimetype.Detect(body)
	kind, _, _ := strings.Cut(sniffed.String(), "/")
	switch {
	case sniffed.Is("application/pdf"):
		return "a PDF document"
	case bytes.HasPrefix(body, []byte("PK\x03\x04")):
		return "a ZIP archive or an office document"
	case kind == "image" && !sniffed.Is("image/svg+xml"), kind == "audio":
		return "an " + kind + " file (" + sniffed.String() + ")"
	case kind == "video", kind == "font":
		return "a " + kind + " file (" + sniffed.String() + ")"
	}
	if kind == "application" && !utf8.Valid(body) && !looksLikeMarkup(body) {
		return "a binary file"
	}
	media, _, _ := strings.Cut(strings.ToLower(contentType), ";")
	if strings.TrimSpace(media) == "application/json" && !looksLikeMarkup(body) {
		return "JSON data"
	}
	return ""
}

func looksLikeMarkup(body []byte) bool {
	head := bytes.ToLower(body[:min(len(body), 4096)])
	// UTF-16 puts a NUL beside every ASCII byte.
	head = bytes.ReplaceAll(head, []byte{0}, nil)
	for _, tag := range []string{"<html", "<!doctype", "<head", "<body", "<div", "<p", "<h1", "<title"} {
		if bytes.Contains(head, []byte(tag)) {
			return true
		}
	}
	return false
}

// decode gives the page as UTF-8. Order of trust: byte order mark, then plain
// evidence (bytes that are valid UTF-8 and not mere ASCII are UTF-8, whatever a
// header claims), then the header, then meta, then windows-1252.
func decode(body []byte, contentType string) []byte {
	enc, name, _ := charset.DetermineEncoding(body, contentType)
	bom := bytes.HasPrefix(body, []byte{0xEF, 0xBB, 0xBF}) || bytes.HasPrefix(body, []byte{0xFE, 0xFF}) || bytes.HasPrefix(body, []byte{0xFF, 0xFE})
	if !bom && (name != "utf-16le" && name != "utf-16be") && utf8.Valid(body) {
		return bytes.TrimPrefix(body, []byte{0xEF, 0xBB, 0xBF})
	}
	if name == "utf-8" && !bom {
		// Declared UTF-8 and is not: almost always windows-1252 that was mislabelled,
		// unless only a few bytes are damaged.
		if damaged(body) <= len(body)/2000+1 {
			return bytes.ToValidUTF8(body, []byte("\uFFFD"))
		}
		enc, _ = charset.Lookup("windows-1252")
	}
	out, _, err := transform.Bytes(enc.NewDecoder(), body)
	if err != nil {
		return bytes.ToValidUTF8(body, []byte("\uFFFD"))
	}
	return bytes.TrimPrefix(out, []byte{0xEF, 0xBB, 0xBF})
}

// damaged counts the bytes that are not part of valid UTF-8.
func damaged(body []byte) int {
	n := 0
	for len(body) > 0 {
		r, size := utf8.DecodeRune(body)
		if r == utf8.RuneError && size == 1 {
			n++
		}
		body = body[size:]
	}
	return n
}
