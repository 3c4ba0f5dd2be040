package gather

import (
	"compress/gzip"
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/andybalholm/brotli"
	"github.com/hashicorp/go-retryablehttp"
	"github.com/maypok86/otter/v2"
)

// UserAgent is how the fetcher names itself to sites.
const UserAgent = "Corpulan/1 (page reader for content research)"

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

// Page is a page as it was fetched.
type Page struct {
	URL         string // asked for
	FinalURL    string // after redirects
	Status      int
	Header      http.Header
	ContentType string
	Body        []byte
	Digest      [sha256.Size]byte
	At          time.Time
}

// Code names why a page could not be had.
type Code string

// The codes of Failure.
const (
	BadAddress     Code = "bad-address"
	NotAllowed     Code = "not-allowed" // a private or loopback address
	Unreachable    Code = "unreachable"
	TimedOut       Code = "timed-out"
	TooLarge       Code = "too-large"
	RedirectLoop   Code = "redirect-loop"
	Refused        Code = "refused" // 401, 403, 451
	Busy           Code = "busy"    // 429, or 503 with Retry-After
	Robots         Code = "robots"  // robots.txt asks not to
	Missing        Code = "missing" // 404, 410
	SiteError      Code = "site-error"
	NotAPage       Code = "not-a-page"
	Unreadable     Code = "unreadable"
	EmptyPage      Code = "empty"
	InternalReason Code = "internal"
)

// Seen is what is remembered of an earlier fetch of the same page, so that the
// site need not send it again (RFC 9110, section 13).
type Seen struct {
	ETag         string
	LastModified string
}

// SeenIn reads what a site said to ask by next time.
func SeenIn(h http.Header) Seen { return Seen{h.Get("ETag"), h.Get("Last-Modified")} }

// NotModified tells that the page is as it was when it was seen before; its
// body is empty then.
func (p *Page) NotModified() bool { return p.Status == http.StatusNotModified }

// Failure says why a page could not be had, in words for a person.
type Failure struct {
	Code   Code
	Reason string
	Err    error
}

func (f *Failure) Error() string { return f.Reason }
func (f *Failure) Unwrap() error { return f.Err }

// Fetcher fetches pages: many hosts at once, one request at a time to each.
type Fetcher struct {
	client *retryablehttp.Client
	limits Limits
	gates  []Gate // passed one after another before a host is asked
	robots *otter.Cache[string, rules]
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
	f := &Fetcher{limits: limits, gates: []Gate{&turns{hosts: map[string]*turn{}}}, robots: newRobotsCache()}
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

var errTooManyRedirects = errors.New("the page redirects without end")

// Fetch gets one page. An error is a *Failure, or ctx's own.
func (f *Fetcher) Fetch(ctx context.Context, address string) (*Page, error) {
	return f.FetchAgain(ctx, address, Seen{})
}

// FetchAgain gets a page that may have been seen before; see Page.NotModified.
func (f *Fetcher) FetchAgain(ctx context.Context, address string, seen Seen) (*Page, error) {
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

// redirect is where a page has gone.
type redirect struct{ to *url.URL }

func (*redirect) Error() string { return "the page has moved" }

// follow gets a page wherever it has gone, and the robots.txt of its site too.
// The time for all of it is the time it takes itself, waiting for a turn left out.
func (f *Fetcher) follow(ctx context.Context, u *url.URL, seen Seen) (*Page, error) {
	been := map[string]bool{}
	left := f.limits.Time
	for range f.limits.Redirects + 1 {
		if been[u.String()] {
			break
		}
		been[u.String()] = true
		page, took, err := f.politely(ctx, left, u, seen)
		var rules *rulesElsewhere
		if errors.As(err, &rules) {
			if err := f.readElsewhere(ctx, rules); err != nil {
				return nil, err
			}
			page, took, err = f.politely(ctx, left, u, seen)
		}
		var moved *redirect
		if !errors.As(err, &moved) {
			return page, err
		}
		if left -= took; left <= 0 {
			return nil, context.DeadlineExceeded
		}
		u = moved.to
	}
	return nil, errTooManyRedirects
}

// enter waits for a host's turn at all gates.
func (f *Fetcher) enter(ctx context.Context, u *url.URL) (leave func(), err error) {
	var held []func()
	leave = func() {
		for _, l := range slices.Backward(held) {
			l()
		}
	}
	for _, g := range f.gates {
		l, err := g.Enter(ctx, strings.ToLower(u.Hostname()), f.limits.Time+5*time.Second, f.limits.Delay)
		if err != nil {
			leave()
			return nil, err
		}
		held = append(held, l)
	}
	return leave, nil
}

// politely waits for its turn, asks robots.txt, and makes one request.
func (f *Fetcher) politely(ctx context.Context, longest time.Duration, u *url.URL, seen Seen) (page *Page, took time.Duration, err error) {
	leave, err := f.enter(ctx, u)
	if err != nil {
		return nil, 0, err
	}
	defer leave()
	began := time.Now()
	limited, cancel := context.WithTimeout(ctx, longest)
	defer cancel()
	if err := f.allowed(limited, u); err != nil {
		return nil, 0, err
	}
	page, err = f.get(limited, u.String(), seen)
	return page, time.Since(began), err
}

func (f *Fetcher) get(ctx context.Context, address string, seen Seen) (*Page, error) {
	req, err := retryablehttp.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return nil, err
	}
	req.Header.Set("User-Agent", UserAgent)
	req.Header.Set("Accept-Encoding", "br, gzip")
	req.Header.Set("Accept", "text/html,application/xhtml+xml;q=0.9,*/*;q=0.1")
	if seen.ETag != "" {
		req.Header.Set("If-None-Match", seen.ETag)
	}
	if seen.LastModified != "" {
		req.Header.Set("If-Modified-Since", seen.LastModified)
	}
	resp, err := f.client.Do(req)
	if err != nil {
		return nil, err
	}
	defer resp.Body.Close()
	if resp.StatusCode == http.StatusNotModified && seen != (Seen{}) {
		return &Page{URL: address, FinalURL: resp.Request.URL.String(), Status: resp.StatusCode, Header: resp.Header.Clone(), At: time.Now().UTC()}, nil
	}
	if to := movedTo(resp); to != nil {
		return nil, &redirect{to}
	}
	if failure := statusFailure(resp); failure != nil {
		return nil, failure
	}
	contentType := resp.Header.Get("Content-Type")
	if failure := typeFailure(contentType); failure != nil {
		return nil, failure
	}
	unpacked, err := unpack(resp)
	if err != nil {
		return nil, err
	}
	body, err := io.ReadAll(io.LimitReader(unpacked, f.limits.Size+1))
	if err != nil {
		return nil, err
	}
	if int64(len(body)) > f.limits.Size {
		return nil, &Failure{Code: TooLarge, Reason: fmt.Sprintf("The page is larger than %d MB; nothing of it was kept.", f.limits.Size>>20)}
	}
	return &Page{URL: address, FinalURL: resp.Request.URL.String(), Status: resp.StatusCode, Header: resp.Header.Clone(),
		ContentType: contentType, Body: body, Digest: sha256.Sum256(body), At: time.Now().UTC()}, nil
}

// movedTo is where an answer sends on to, nil if it is none that does.
func movedTo(resp *http.Response) *url.URL {
	switch resp.StatusCode {
	case http.StatusMovedPermanently, http.StatusFound, http.StatusSeeOther, http.StatusTemporaryRedirect, http.StatusPermanentRedirect:
	default:
		return nil
	}
	to, err := resp.Location()
	if err != nil || to.Host == "" || to.Scheme != "http" && to.Scheme != "https" {
		return nil
	}
	return to
}

// unpack undoes the content encoding. The limit on size counts what comes out,
// so that a small answer cannot unpack to a huge page.
func unpack(resp *http.Response) (io.Reader, error) {
	switch strings.ToLower(resp.Header.Get("Content-Encoding")) {
	case "br":
		return brotli.NewReader(resp.Body), nil
	case "gzip", "x-gzip":
		z, err := gzip.NewReader(resp.Body)
		if err != nil {
			return nil, fmt.Errorf("unpacking the answer: %w", err)
		}
		return z, nil
	}
	return resp.Body, nil
}

func statusFailure(resp *http.Response) *Failure {
	s := resp.StatusCode
	switch {
	case s >= 200 && s < 300:
		return nil
	case s == 401 || s == 403 || s == 451:
		return &Failure{Code: Refused, Reason: fmt.Sprintf("The site refuses to give the page (%d).", s)}
	case s == 429, s == 503 && resp.Header.Get("Retry-After") != "":
		if wait := retryAfter(resp.Header.Get("Retry-After"), time.Now()); wait > 0 {
			return &Failure{Code: Busy, Reason: fmt.Sprintf("The site is busy and asks to come back in %s (%d).", wait.Round(time.Second), s)}
		}
		return &Failure{Code: Busy, Reason: fmt.Sprintf("The site asks for fewer requests (%d).", s)}
	case s == 404 || s == 410:
		return &Failure{Code: Missing, Reason: fmt.Sprintf("The page is not there any more (%d).", s)}
	}
	return &Failure{Code: SiteError, Reason: fmt.Sprintf("The site answers with an error (%d).", s)}
}

func typeFailure(contentType string) *Failure {
	media, _, _ := strings.Cut(strings.ToLower(contentType), ";")
	media = strings.TrimSpace(media)
	switch {
	case media == "", media == "text/html", media == "application/xhtml+xml", media == "text/plain", media == "application/xml", media == "text/xml", media == "application/octet-stream":
		return nil
	case media == "application/pdf":
		return &Failure{Code: NotAPage, Reason: "This is a PDF document, not a web page."}
	}
	return &Failure{Code: NotAPage, Reason: fmt.Sprintf("This is not a web page but %s.", media)}
}

// failureOf puts an error of the network into words.
func failureOf(err error, limits Limits) *Failure {
	var f *Failure
	if errors.As(err, &f) {
		return f
	}
	var dns *net.DNSError
	switch {
	case errors.Is(err, errTooManyRedirects):
		return &Failure{RedirectLoop, "The page redirects without end.", err}
	case errors.Is(err, context.DeadlineExceeded), errors.Is(err, os.ErrDeadlineExceeded):
		return &Failure{TimedOut, fmt.Sprintf("The site did not finish answering within %d seconds.", int(limits.Time.Seconds())), err}
	case errors.As(err, &dns):
		return &Failure{Unreachable, "There is no site of this name.", err}
	case errors.Is(err, syscall.ECONNREFUSED):
		return &Failure{Unreachable, "The site does not take connections.", err}
	}
	return &Failure{Unreachable, "The connection to the site broke off.", err}
}
