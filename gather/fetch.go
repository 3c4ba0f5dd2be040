package gather

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"os"
	"strings"
	"sync"
	"syscall"
	"time"
)

// UserAgent is how the fetcher names itself to sites.
const UserAgent = "Corpulan/1 (page reader for content research)"

// Limits bound one fetch.
type Limits struct {
	Time      time.Duration // for the whole of it
	Size      int64         // of the body, bytes, decompressed
	Redirects int
}

// DefaultLimits suit the web.
func DefaultLimits() Limits { return Limits{Time: 20 * time.Second, Size: 10 << 20, Redirects: 5} }

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
	Refused        Code = "refused" // 401, 403, 429, 451
	Missing        Code = "missing" // 404, 410
	SiteError      Code = "site-error"
	NotAPage       Code = "not-a-page"
	Unreadable     Code = "unreadable"
	EmptyPage      Code = "empty"
	InternalReason Code = "internal"
)

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
	client *http.Client
	limits Limits
	mu     sync.Mutex
	hosts  map[string]chan struct{} // one token a host
}

// NewFetcher makes a fetcher whose connections are made by dial; see Guard.
func NewFetcher(limits Limits, dial func(ctx context.Context, network, address string) (net.Conn, error)) *Fetcher {
	f := &Fetcher{limits: limits, hosts: map[string]chan struct{}{}}
	f.client = &http.Client{
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
		CheckRedirect: func(req *http.Request, via []*http.Request) error {
			if len(via) > limits.Redirects {
				return errTooManyRedirects
			}
			for _, v := range via {
				if v.URL.String() == req.URL.String() {
					return errTooManyRedirects
				}
			}
			return nil
		},
	}
	return f
}

var errTooManyRedirects = errors.New("the page redirects without end")

// Fetch gets one page. An error is a *Failure, or ctx's own.
func (f *Fetcher) Fetch(ctx context.Context, address string) (*Page, error) {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return nil, &Failure{BadAddress, "This is not the address of a web page.", err}
	}
	release, err := f.turn(ctx, strings.ToLower(u.Hostname()))
	if err != nil {
		return nil, err
	}
	defer release()
	limited, cancel := context.WithTimeout(ctx, f.limits.Time)
	defer cancel()
	page, err := f.get(limited, u.String())
	if err != nil {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return nil, failureOf(err, f.limits)
	}
	return page, nil
}

// turn waits until no other request to the host is under way.
func (f *Fetcher) turn(ctx context.Context, host string) (release func(), err error) {
	f.mu.Lock()
	token := f.hosts[host]
	if token == nil {
		token = make(chan struct{}, 1)
		f.hosts[host] = token
	}
	f.mu.Unlock()
	select {
	case token <- struct{}{}:
		return func() { <-token }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

func (f *Fetcher) get(ctx context.Context, address string) (*Page, error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return nil, err
	}
	req.Header.Set("User-Agent", UserAgent)
	req.Header.Set("Accept", "text/html,application/xhtml+xml;q=0.9,*/*;q=0.1")
	resp, err := f.client.Do(req)
	if err != nil {
		return nil, err
	}
	defer resp.Body.Close()
	if failure := statusFailure(resp); failure != nil {
		return nil, failure
	}
	contentType := resp.Header.Get("Content-Type")
	if failure := typeFailure(contentType); failure != nil {
		return nil, failure
	}
	body, err := io.ReadAll(io.LimitReader(resp.Body, f.limits.Size+1))
	if err != nil {
		return nil, err
	}
	if int64(len(body)) > f.limits.Size {
		return nil, &Failure{Code: TooLarge, Reason: fmt.Sprintf("The page is larger than %d MB; nothing of it was kept.", f.limits.Size>>20)}
	}
	return &Page{URL: address, FinalURL: resp.Request.URL.String(), Status: resp.StatusCode, Header: resp.Header.Clone(),
		ContentType: contentType, Body: body, Digest: sha256.Sum256(body), At: time.Now().UTC()}, nil
}

func statusFailure(resp *http.Response) *Failure {
	s := resp.StatusCode
	switch {
	case s >= 200 && s < 300:
		return nil
	case s == 401 || s == 403 || s == 451:
		return &Failure{Code: Refused, Reason: fmt.Sprintf("The site refuses to give the page (%d).", s)}
	case s == 429:
		return &Failure{Code: Refused, Reason: "The site asks for fewer requests (429)."}
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
