// Package gather brings in what a study works on: pages by HTTP, politely, and what people hand in.
// It knows nothing of the database or the interface.
//
//   - fetch.go, follow.go, failures.go   pages by HTTP, wherever they have gone, and why not
//   - guard.go, robots.go, throttle.go   where to, whether, and when
//   - archive.go    pages in files, whatever form these have
//   - draft.go      a writer's text, whatever form it has; extra.go texts that did not rank
//   - sitemap.go    which pages a site has
package gather

import (
	"context"
	"errors"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/hashicorp/go-retryablehttp"

	"corpulan/cache"
	"corpulan/formats/saved"
)

// Limits bound one fetch.
type Limits struct {
	Time      time.Duration // for the whole of it, tries and waits included
	Size      int64         // of the body, bytes, decompressed
	Redirects int
	Tries     int           // after the first, where a site is busy or breaks off
	Wait      time.Duration // before the first of them, doubled for each further one
	Delay     time.Duration // between two requests to a host
}

// DefaultLimits suit the web.
func DefaultLimits() Limits {
	return Limits{Time: 25 * time.Second, Size: 10 << 20, Redirects: 5, Tries: 2, Wait: 700 * time.Millisecond, Delay: 300 * time.Millisecond}
}

// longestWait is how long a Retry-After may ask for and still be waited for;
// beyond it the page fails, and the person tries again when it suits.
const longestWait = 8 * time.Second

// Seen is what is remembered of an earlier fetch of the same page, so that the
// site need not send it again (RFC 9110, section 13).
type Seen struct {
	ETag         string
	LastModified string
}

// SeenIn reads what a site said to ask by next time.
func SeenIn(h http.Header) Seen { return Seen{h.Get("ETag"), h.Get("Last-Modified")} }

// Fetcher fetches pages: many hosts at once, one request at a time to each.
type Fetcher struct {
	client *retryablehttp.Client
	limits Limits
	gates  []Gate // passed one after another before a host is asked
	robots *cache.Cache[string, rules]

	anyType bool // files that are no pages are wanted too
}

// Gate lets one request at a time through to a host, and the next one not
// before a delay has passed since the last.
type Gate interface {
	// Enter waits for its turn; longest is how long it may be kept at most.
	Enter(ctx context.Context, host string, longest, delay time.Duration) (leave func(), err error)
}

// Through is the fetcher with another gate behind its own, which knows only of
// this process.
func (f *Fetcher) Through(g Gate) *Fetcher {
	further := *f
	further.gates = append(slices.Clone(f.gates), g)
	return &further
}

// NewFetcher makes a fetcher whose connections are made by dial; see Guard.
func NewFetcher(limits Limits, dial func(ctx context.Context, network, address string) (net.Conn, error)) *Fetcher {
	f := &Fetcher{limits: limits, gates: []Gate{&throttle{hosts: map[string]*turn{}}}, robots: newRobotsCache()}
	client := &http.Client{
		Transport: &http.Transport{
			DialContext:            dial,
			ForceAttemptHTTP2:      true,
			MaxIdleConns:           100,
			MaxIdleConnsPerHost:    2,
			IdleConnTimeout:        30 * time.Second,
			TLSHandshakeTimeout:    8 * time.Second,
			ResponseHeaderTimeout:  limits.Time,
			MaxResponseHeaderBytes: 256 << 10,
		},
		// Redirects are followed by hand: their targets have a robots.txt and a
		// turn of their own.
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
	}
	f.client = &retryablehttp.Client{HTTPClient: client, RetryMax: limits.Tries, RetryWaitMin: limits.Wait, RetryWaitMax: longestWait,
		CheckRetry: worthAnotherTry, Backoff: retryablehttp.DefaultBackoff, ErrorHandler: retryablehttp.PassthroughErrorHandler}
	return f
}

// worthAnotherTry decides whether a failed request is made again: where the
// site says that it is busy and names a time worth waiting for, or breaks off
// or answers with a passing error. Never where we refuse ourselves.
func worthAnotherTry(ctx context.Context, resp *http.Response, err error) (bool, error) {
	var refused *Failure
	if errors.As(err, &refused) || errors.Is(err, errTooManyRedirects) || ctx.Err() != nil {
		return false, ctx.Err()
	}
	if resp != nil && (resp.StatusCode == http.StatusTooManyRequests || resp.StatusCode == http.StatusServiceUnavailable) {
		wait := retryAfter(resp.Header.Get("Retry-After"), time.Now())
		return wait <= longestWait, nil
	}
	if resp != nil && (resp.StatusCode == http.StatusNotImplemented || resp.StatusCode == http.StatusHTTPVersionNotSupported) {
		return false, nil
	}
	var dns *net.DNSError
	if errors.As(err, &dns) && dns.IsNotFound {
		return false, nil
	}
	return retryablehttp.DefaultRetryPolicy(ctx, resp, err)
}

// retryAfter reads the header: seconds, or a date (RFC 9110, section 10.2.3);
// zero if it says nothing.
func retryAfter(value string, now time.Time) time.Duration {
	if s, err := strconv.Atoi(strings.TrimSpace(value)); err == nil && s > 0 {
		return time.Duration(s) * time.Second
	}
	if t, err := http.ParseTime(value); err == nil && t.After(now) {
		return t.Sub(now)
	}
	return 0
}

// Fetch gets one page. An error is a *Failure, or ctx's own.
func (f *Fetcher) Fetch(ctx context.Context, address string) (*saved.Fetched, error) {
	return f.FetchAgain(ctx, address, Seen{})
}

// FetchAgain gets a page that may have been seen before; see Page.NotModified.
func (f *Fetcher) FetchAgain(ctx context.Context, address string, seen Seen) (*saved.Fetched, error) {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return nil, &Failure{BadAddress, "This is not the address of a web page.", err}
	}
	page, err := f.follow(ctx, u, seen)
	if err != nil {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return nil, failureOf(err, f.limits)
	}
	page.URL = address
	return page, nil
}
