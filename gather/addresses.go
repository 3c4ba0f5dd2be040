package gather

import (
	"fmt"
	"net"
	"net/url"
	"strings"
	"unicode/utf8"
)

// ParseAddresses reads a pasted list of addresses: one a line, or set apart by
// spaces, commas or semicolons. An address without a scheme gets https. What
// is no address is named in problems, so that it can be mended; repeats are
// left out.
func ParseAddresses(pasted string) (addresses, problems []string) {
	seen := map[string]bool{}
	for _, word := range strings.FieldsFunc(pasted, func(r rune) bool { return strings.ContainsRune(" \t\r\n,;<>\"", r) }) {
		address, err := parseAddress(word)
		if err != nil {
			problems = append(problems, fmt.Sprintf("“%s” is no address of a web page", word))
			continue
		}
		if !seen[address] {
			seen[address] = true
			addresses = append(addresses, address)
		}
	}
	return addresses, problems
}

func parseAddress(word string) (string, error) {
	explicit := strings.Contains(word, "://")
	if !explicit {
		word = "https://" + word
	}
	u, err := url.Parse(word)
	if err != nil {
		return "", err
	}
	host := u.Hostname()
	last := host[strings.LastIndexByte(host, '.')+1:]
	// The last label of a name is never all digits (RFC 3696, section 2): 0.55 is a number.
	named := strings.Contains(host, ".") && strings.Trim(last, "0123456789") != "" && len(last) > 1
	if u.Scheme != "http" && u.Scheme != "https" || !named && !(explicit && net.ParseIP(host) != nil) || u.User != nil || strings.ContainsAny(host, " \x00") || !utf8.ValidString(word) {
		return "", fmt.Errorf("no web address")
	}
	u.Host, u.Fragment = strings.ToLower(u.Host), ""
	if u.Path == "" {
		u.Path = "/"
	}
	return u.String(), nil
}

// SameAddress tells whether two addresses lead to one page, as far as can be
// told without asking: scheme, "www.", a last slash, the fragment and the
// parameters of campaigns do not count.
func SameAddress(a, b string) bool {
	x, y := bareAddress(a), bareAddress(b)
	return x != "" && x == y
}

func bareAddress(s string) string {
	u, err := url.Parse(strings.TrimSpace(s))
	if err != nil || u.Host == "" {
		return ""
	}
	q := u.Query()
	for name := range q {
		if strings.HasPrefix(name, "utm_") || name == "gclid" || name == "fbclid" {
			q.Del(name)
		}
	}
	path := strings.TrimSuffix(u.EscapedPath(), "/")
	path = strings.TrimSuffix(path, "/index.html")
	bare := strings.TrimPrefix(strings.ToLower(u.Host), "www.") + path
	if len(q) > 0 {
		bare += "?" + q.Encode()
	}
	return bare
}
