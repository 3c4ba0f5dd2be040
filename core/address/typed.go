package address

import (
	"errors"
	"fmt"
	"net/netip"
	"net/url"
	"strings"
	"unicode/utf8"

	"corpulan/core/message"
)

// ParseList reads a pasted list of addresses: one a line, or set apart by
// spaces, commas or semicolons. An address without a scheme gets https. What
// is no address is named in problems, so that it can be mended; repeats are
// left out.
func ParseList(pasted string) (addresses []string, problems []message.Message) {
	seen := map[string]bool{}
	for _, word := range strings.FieldsFunc(pasted, func(r rune) bool { return strings.ContainsRune(" \t\r\n,;<>\"", r) }) {
		address, err := Typed(word)
		if err != nil {
			problems = append(problems, message.Of("“%s” is no address of a web page", word))
			continue
		}
		if !seen[address] {
			seen[address] = true
			addresses = append(addresses, address)
		}
	}
	return addresses, problems
}

// ErrNone is the error for what is no address of a web page.
var ErrNone = errors.New("no address of a web page")

// Typed is the address of a web page that a person typed, made whole.
func Typed(word string) (string, error) {
	explicit := strings.Contains(word, "://")
	if !explicit {
		word = "https://" + word
	}
	u, err := url.Parse(word)
	if err != nil {
		return "", fmt.Errorf("%w: %w", ErrNone, err)
	}
	host := u.Hostname()
	last := host[strings.LastIndexByte(host, '.')+1:]
	// The last label of a name is never all digits (RFC 3696, section 2): 0.55 is a number.
	named := strings.Contains(host, ".") && strings.Trim(last, "0123456789") != "" && len(last) > 1
	if _, err := netip.ParseAddr(host); !named && !(explicit && err == nil) {
		return "", ErrNone
	}
	if u.Scheme != "http" && u.Scheme != "https" || u.User != nil || strings.ContainsAny(host, " \x00") || !utf8.ValidString(word) {
		return "", ErrNone
	}
	u.Host, u.Fragment = strings.ToLower(u.Host), ""
	if u.Path == "" {
		u.Path = "/"
	}
	return u.String(), nil
}
