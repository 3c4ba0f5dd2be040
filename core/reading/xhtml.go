package reading

import (
	"bytes"
	"regexp"
)

// emptied are elements closed by a slash that HTML would leave open, and with
// some of them (title, script) the whole rest of the page unread.
var emptied = regexp.MustCompile(`(?i)<(script|style|title|textarea|iframe|noscript|div|span|a|p|ul|ol|li|table|td|th|i|b|em|strong|h[1-6])((?:\s[^<>]*["'\s])?)/>`)

// openXHTML writes elements that XHTML closes by a slash as HTML closes them.
// Pages of XHTML are often served as HTML, whose parser passes over the slash.
func openXHTML(page []byte) []byte {
	head := page[:min(len(page), 2048)]
	if !bytes.Contains(head, []byte("<?xml")) && !bytes.Contains(head, []byte("www.w3.org/1999/xhtml")) && !bytes.Contains(head, []byte("DTD XHTML")) {
		return page
	}
	if !emptied.Match(page) {
		return page
	}
	return emptied.ReplaceAll(page, []byte("<${1}${2}></${1}>"))
}
