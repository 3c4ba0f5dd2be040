package address

import (
	"fmt"
	"strings"
)

// Guarded is a link's target as it stands between angle brackets.
func Guarded(url string) string {
	var b strings.Builder
	for i := range len(url) {
		switch c := url[i]; {
		case c <= ' ', c == '<', c == '>', c == '"', c == '\\', c == '`', c == '|', c == 0x7f:
			fmt.Fprintf(&b, "%%%02X", c)
		default:
			b.WriteByte(c)
		}
	}
	return b.String()
}
