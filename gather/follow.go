package gather

import (
	"compress/gzip"
	"context"
	"crypto/sha256"
	"errors"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"corpulan/core/message"
	"corpulan/formats/saved"
	"corpulan/search"

	"github.com/andybalholm/brotli"
	"github.com/hashicorp/go-retryablehttp"
)

var errTooManyRedirects = errors.New("the page redirects without end")

// redirect is where a page has gone.
type redirect struct{ to *url.URL }

func (*redirect) Error() string { return "the page has moved" }

// follow gets a page wherever it has gone, and the robots.txt of its site too.
// The time for all of it is the time it takes itself, waiting for a turn left out.
func (f *Fetcher) follow(ctx context.Context, u *url.URL, seen Seen) (*saved.Fetched, error) {
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
func (f *Fetcher) politely(ctx context.Context, longest time.Duration, u *url.URL, seen Seen) (page *saved.Fetched, took time.Duration, err error) {
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

func (f *Fetcher) get(ctx context.Context, address string, seen Seen) (*saved.Fetched, error) {
	req, err := retryablehttp.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return nil, err
	}
	req.Header.Set("User-Agent", search.UserAgent)
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
		return &saved.Fetched{URL: address, FinalURL: resp.Request.URL.String(), Status: resp.StatusCode, Header: resp.Header.Clone(), At: time.Now().UTC()}, nil
	}
	if to := movedTo(resp); to != nil {
		return nil, &redirect{to}
	}
	if failure := statusFailure(resp); failure != nil {
		return nil, failure
	}
	contentType := resp.Header.Get("Content-Type")
	if failure := typeFailure(contentType); failure != nil && !f.anyType {
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
		return nil, &Failure{Code: TooLarge, Reason: message.Of("The page is larger than %d MB; nothing of it was kept.", f.limits.Size>>20)}
	}
	return &saved.Fetched{URL: address, FinalURL: resp.Request.URL.String(), Status: resp.StatusCode, Header: resp.Header.Clone(),
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
			return nil, message.Errorf("unpacking the answer: %v", err)
		}
		return z, nil
	}
	return resp.Body, nil
}
