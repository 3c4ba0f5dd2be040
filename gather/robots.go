package gather

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/temoto/robotstxt"

	"corpulan/cache"
	"corpulan/search"
)

// robotsName is the name by which robots.txt may speak to us in particular.
const robotsName = "corpulan"

// rules are what a site's robots.txt says.
type rules struct {
	data *robotstxt.RobotsData
	size int // bytes of the file
}

const (
	rulesLast     = time.Hour // RFC 9309, section 2.4: no longer than a day
	largestRobots = 512 << 10 // RFC 9309, section 2.5: at least 500 KiB are read
	maxRules      = 64 << 20  // bytes that all of them take, about
)

// newRobotsCache keeps rules until they are too old to trust, as many as fit.
func newRobotsCache() *cache.Cache[string, rules] {
	return cache.Must(cache.Options[string, rules]{
		MaximumWeight: maxRules,
		// Rules as they are parsed take some ten times their text, measured on a file of Disallow lines.
		Weigher: func(_ string, r rules) uint32 { return uint32(2048 + 10*r.size) },
		Written: rulesLast,
	})
}

// rulesElsewhere says that a site's robots.txt has moved to another host, which
// has a turn of its own.
type rulesElsewhere struct {
	site  string
	to    *url.URL
	steps int
}

func (*rulesElsewhere) Error() string { return "robots.txt has moved to another host" }

// allowed asks the site's robots.txt (RFC 9309) whether the page may be read;
// its error is a *Failure or *rulesElsewhere. A failure to connect is left to
// the page's own request to report.
func (f *Fetcher) allowed(ctx context.Context, u *url.URL) error {
	site := u.Scheme + "://" + u.Host
	r, ok := f.robots.Find(site)
	if !ok {
		var to *url.URL
		var err error
		if r, to, err = f.askRobots(ctx, site+"/robots.txt"); err != nil {
			return nil
		}
		if to != nil {
			return &rulesElsewhere{site: site, to: to}
		}
		f.robots.Set(site, r)
	}
	path := u.EscapedPath()
	if path == "" {
		path = "/"
	}
	if u.RawQuery != "" {
		path += "?" + u.RawQuery
	}
	if !r.data.TestAgent(path, robotsName) {
		return &Failure{Code: Robots, Reason: "The site's robots.txt asks programs not to read this page."}
	}
	return nil
}

// readElsewhere reads rules that have moved, host by host, each in its turn. Too
// many redirects, or none that can be reached, are as if there were no rules
// (RFC 9309, section 2.3.1.2).
func (f *Fetcher) readElsewhere(ctx context.Context, moved *rulesElsewhere) error {
	for to := moved.to; to != nil; to = moved.to {
		leave, err := f.enter(ctx, to)
		if err != nil {
			return err
		}
		limited, cancel := context.WithTimeout(ctx, f.limits.Time)
		r, further, err := f.askRobots(limited, to.String())
		cancel()
		leave()
		if err == nil && further == nil {
			f.robots.Set(moved.site, r)
			return nil
		}
		if moved.steps++; err != nil || moved.steps >= f.limits.Redirects {
			break
		}
		moved.to = further
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	none, err := robotstxt.FromStatusAndBytes(http.StatusNotFound, nil)
	f.robots.Set(moved.site, rules{none, 0})
	return err
}

func (f *Fetcher) askRobots(ctx context.Context, address string) (r rules, moved *url.URL, err error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return r, nil, err
	}
	req.Header.Set("User-Agent", search.UserAgent)
	resp, err := f.client.HTTPClient.Do(req)
	if err != nil {
		return r, nil, err
	}
	defer resp.Body.Close()
	if to := movedTo(resp); to != nil {
		return r, to, nil
	}
	body, err := io.ReadAll(io.LimitReader(resp.Body, largestRobots))
	if err != nil {
		return r, nil, err
	}
	data, err := robotstxt.FromStatusAndBytes(resp.StatusCode, inOrder(body))
	return rules{data, len(body)}, nil, err
}

// inOrder brings a robots.txt into the form in which the library reads it as RFC
// 9309 wants, section 2.2.2: characters beyond ASCII are compared as they are
// escaped in addresses, and of two rules of one length the one that allows
// counts. The library takes the first of them, so what allows comes first.
func inOrder(body []byte) []byte {
	var out, disallow bytes.Buffer
	flush := func() {
		out.Write(disallow.Bytes())
		disallow.Reset()
	}
	for line := range bytes.Lines(bytes.ReplaceAll(bytes.TrimPrefix(body, []byte("\ufeff")), []byte("\r"), []byte("\n"))) {
		rule, _, _ := bytes.Cut(line, []byte("#"))
		name, _, ok := bytes.Cut(rule, []byte(":"))
		rule = append(escaped(bytes.TrimSpace(rule)), '\n')
		switch {
		case !ok:
		case strings.EqualFold(string(bytes.TrimSpace(name)), "disallow"):
			disallow.Write(rule)
		case strings.EqualFold(string(bytes.TrimSpace(name)), "allow"):
			out.Write(rule)
		default:
			flush()
			out.Write(rule)
		}
	}
	flush()
	return out.Bytes()
}

// escaped percent-encodes every byte beyond ASCII.
func escaped(line []byte) []byte {
	out := make([]byte, 0, len(line))
	for _, b := range line {
		if b < utf8.RuneSelf {
			out = append(out, b)
		} else {
			out = fmt.Appendf(out, "%%%02X", b)
		}
	}
	return out
}
