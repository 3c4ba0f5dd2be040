package gather

import (
	"context"
	"net"
	"net/netip"
	"strings"
	"syscall"
	"time"

	"corpulan/core/message"
)

// Guard makes the connections of the fetcher and refuses those that would
// reach into the machine or its network. It looks at the address at the moment
// of dialling, so that neither a redirect nor a name that changes its address
// gets around it.
type Guard struct {
	// Simulated leads host names that end in ".example" to the stand-in at this
	// address, in the demo and the tests; empty elsewhere.
	Simulated string
	// AllowPrivate lets through loopback and private addresses.
	AllowPrivate bool
}

// Dial is for http.Transport.DialContext.
func (g Guard) Dial(ctx context.Context, network, address string) (net.Conn, error) {
	d := &net.Dialer{Timeout: 8 * time.Second, KeepAlive: 30 * time.Second}
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return nil, err
	}
	if g.Simulated != "" && (host == "example" || strings.HasSuffix(strings.ToLower(host), ".example")) {
		return d.DialContext(ctx, network, g.Simulated)
	}
	d.Control = func(_, address string, _ syscall.RawConn) error { return g.check(address) }
	return d.DialContext(ctx, network, address)
}

// IsInner tells a host that is named as one within this machine or its network. Where its name leads
// is looked at when it is dialled.
func IsInner(host string) bool {
	host = strings.ToLower(strings.TrimSuffix(host, "."))
	if ip, err := netip.ParseAddr(strings.Trim(host, "[]")); err == nil {
		return ip.Zone() != "" || !isPublic(ip.Unmap())
	}
	return host == "localhost" || strings.HasSuffix(host, ".localhost") || strings.HasSuffix(host, ".local") || strings.HasSuffix(host, ".internal")
}

func (g Guard) check(address string) error {
	ap, err := netip.ParseAddrPort(address)
	if err != nil {
		return &Failure{NotAllowed, "The address could not be checked.", err}
	}
	// A zone would hide an address from the ranges below, and names an interface
	// of this machine: nothing that is public has one.
	ip := ap.Addr().Unmap()
	if ip.Zone() != "" && !g.AllowPrivate {
		return &Failure{NotAllowed, message.Of("The address leads into a private network (%s) and is not fetched.", ip), nil}
	}
	if !g.AllowPrivate && !isPublic(ip) {
		return &Failure{NotAllowed, message.Of("The address leads into a private network (%s) and is not fetched.", ip), nil}
	}
	return nil
}

// special are the ranges that netip does not name and that no public page is
// in: those which IANA's registries of special-purpose addresses (RFC 6890)
// mark as not globally reachable, and those that wrap another address (NAT64,
// 6to4, Teredo, IPv4-compatible), which would lead around the others.
var special = []netip.Prefix{
	netip.MustParsePrefix("0.0.0.0/8"), netip.MustParsePrefix("100.64.0.0/10"), netip.MustParsePrefix("192.0.0.0/24"),
	netip.MustParsePrefix("192.0.2.0/24"), netip.MustParsePrefix("198.18.0.0/15"),
	netip.MustParsePrefix("198.51.100.0/24"), netip.MustParsePrefix("203.0.113.0/24"), netip.MustParsePrefix("240.0.0.0/4"),
	netip.MustParsePrefix("::/96"), netip.MustParsePrefix("64:ff9b::/96"), netip.MustParsePrefix("64:ff9b:1::/48"), netip.MustParsePrefix("100::/64"),
	netip.MustParsePrefix("2001::/23"), netip.MustParsePrefix("2001:db8::/32"), netip.MustParsePrefix("2002::/16"), netip.MustParsePrefix("3fff::/20"),
	netip.MustParsePrefix("5f00::/16"), netip.MustParsePrefix("fec0::/10"),
}

func isPublic(ip netip.Addr) bool {
	if ip.IsLoopback() || ip.IsPrivate() || ip.IsLinkLocalUnicast() || ip.IsLinkLocalMulticast() || ip.IsMulticast() || ip.IsUnspecified() || ip.IsInterfaceLocalMulticast() {
		return false
	}
	for _, p := range special {
		if p.Contains(ip) {
			return false
		}
	}
	return true
}
