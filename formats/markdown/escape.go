package markdown

import (
	"strings"
)

// escaper guards what captured pages and people wrote from being read as
// Markdown, inline HTML included.
var escaper = strings.NewReplacer(`\`, `\\`, "`", "\\`", "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`, "<", `\<`, ">", `\>`, "#", `\#`, "|", `\|`, "&", `\&`, "~", `\~`, "!", `\!`)

func Escape(s string) string { return escaper.Replace(s) }

// AtLineStart guards what means something only where a line begins (CommonMark
// 0.31, sections 4.1, 4.3 and 5.2).
func AtLineStart(s string) string {
	if s == "" {
		return s
	}
	if strings.ContainsRune("=-+", rune(s[0])) {
		return `\` + s
	}
	digits := len(s) - len(strings.TrimLeft(s, "0123456789"))
	if digits > 0 && digits < len(s) && (s[digits] == '.' || s[digits] == ')') {
		return s[:digits] + `\` + s[digits:]
	}
	return s
}
