package address

import "strings"

// Same tells whether two addresses lead to one page, as far as can be told
// without asking: scheme, "www.", a last slash, the fragment and the parameters
// of campaigns do not count.
func Same(a, b string) bool {
	x, y := Parse(a).Key(), Parse(b).Key()
	return x != "" && x == y
}

// campaign parameters say how a reader came, not where to. Common practice, no
// published source.
func campaign(name string) bool {
	return strings.HasPrefix(name, "utm_") || name == "gclid" || name == "fbclid"
}

// Key is the same for all addresses that lead to one page (see Same); empty for
// one without a host.
func (a Address) Key() string {
	if a.u == nil || a.u.Host == "" {
		return ""
	}
	q := a.u.Query()
	for name := range q {
		if campaign(name) {
			q.Del(name)
		}
	}
	path := strings.TrimSuffix(a.u.EscapedPath(), "/")
	path = strings.TrimSuffix(path, "/index.html")
	bare := strings.TrimPrefix(strings.ToLower(a.u.Host), "www.") + path
	if len(q) > 0 {
		bare += "?" + q.Encode()
	}
	return bare
}

// Brought begins the address of a text that has none of its own: somebody brought it.
const Brought = "urn:corpulan:source:"
