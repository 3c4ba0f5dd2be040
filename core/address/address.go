// Package address holds what a web address is to this program: whose it is,
// whether two lead to one page, and what a person may have meant by one typed.
//
//   - address.go  Address: parsing, resolving, host, site
//   - same.go     whether two addresses lead to one page
//   - typed.go    addresses that people type and paste
package address

import (
	"net/url"
	"strings"

	"golang.org/x/net/publicsuffix"
)

// Address is an address that may be missing; all its methods accept that.
type Address struct{ u *url.URL }

// Parse reads an absolute or relative address (RFC 3986); what is none is missing.
func Parse(s string) Address {
	u, err := url.Parse(strings.TrimSpace(s))
	if err != nil || s == "" {
		return Address{}
	}
	return Address{u}
}

// Missing tells that there is no address.
func (a Address) Missing() bool { return a.u == nil }

// Resolve is where a link of the page at a leads.
func (a Address) Resolve(href string) Address {
	u, err := url.Parse(strings.TrimSpace(href))
	if err != nil {
		return Address{}
	}
	if a.u != nil {
		u = a.u.ResolveReference(u)
	}
	return Address{u}
}

// Host is the host in small letters, without a leading "www." and the port;
// empty for a relative address.
func (a Address) Host() string {
	if a.u == nil {
		return ""
	}
	return strings.TrimPrefix(strings.ToLower(a.u.Hostname()), "www.")
}

// Authority is the host in small letters with its port, as one asks it.
func (a Address) Authority() string {
	if a.u == nil {
		return ""
	}
	return strings.ToLower(strings.ToValidUTF8(a.u.Host, "\uFFFD"))
}

// Site is the domain that somebody has registered, by the Public Suffix List:
// "shop.brand.co.uk" is of "brand.co.uk". Hosts without one (numbers, names of
// one label) are sites of their own; empty for a relative address.
func (a Address) Site() string {
	host := a.Host()
	if site, err := publicsuffix.EffectiveTLDPlusOne(host); err == nil {
		return site
	}
	return host
}

// SiteLabel is the part of the site that somebody chose: "brand" of
// "shop.brand.co.uk".
func (a Address) SiteLabel() string {
	label, _, _ := strings.Cut(a.Site(), ".")
	return label
}

// Path is the address's path, unescaped.
func (a Address) Path() string {
	if a.u == nil {
		return ""
	}
	return a.u.Path
}

// Fragment is the place in the page the address names.
func (a Address) Fragment() string {
	if a.u == nil {
		return ""
	}
	return a.u.Fragment
}

// Web tells whether a browser would open the address as a page.
func (a Address) Web() bool {
	return a.u != nil && (a.u.Scheme == "http" || a.u.Scheme == "https" || a.u.Scheme == "")
}

// Page is the address without the place in the page; empty if it is missing.
func (a Address) Page() string {
	if a.u == nil {
		return ""
	}
	u := *a.u
	u.Fragment, u.RawFragment = "", ""
	return u.String()
}

// URL is the address as the standard library has it, nil if it is missing; it
// is shared and must not be changed.
func (a Address) URL() *url.URL { return a.u }
