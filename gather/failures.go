package gather

import (
	"context"
	"errors"
	"net"
	"net/http"
	"os"
	"strings"
	"syscall"
	"time"

	"corpulan/core/message"
)

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

// Failure says why a page could not be had, in words for a person.
type Failure struct {
	Code   Code
	Reason message.Message
	Err    error
}

func (f *Failure) Error() string { return f.Reason.String() }

func (f *Failure) Unwrap() error { return f.Err }

func statusFailure(resp *http.Response) *Failure {
	s := resp.StatusCode
	switch {
	case s >= 200 && s < 300:
		return nil
	case s == 401 || s == 403 || s == 451:
		return &Failure{Code: Refused, Reason: message.Of("The site refuses to give the page (%d).", s)}
	case s == 429, s == 503 && resp.Header.Get("Retry-After") != "":
		if wait := retryAfter(resp.Header.Get("Retry-After"), time.Now()); wait > 0 {
			return &Failure{Code: Busy, Reason: message.Of("The site is busy and asks to come back in %s (%d).", wait.Round(time.Second), s)}
		}
		return &Failure{Code: Busy, Reason: message.Of("The site asks for fewer requests (%d).", s)}
	case s == 404 || s == 410:
		return &Failure{Code: Missing, Reason: message.Of("The page is not there any more (%d).", s)}
	}
	return &Failure{Code: SiteError, Reason: message.Of("The site answers with an error (%d).", s)}
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
	return &Failure{Code: NotAPage, Reason: message.Of("This is not a web page but %s.", media)}
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
		return &Failure{TimedOut, message.Of("The site did not finish answering within %d seconds.", int(limits.Time.Seconds())), err}
	case errors.As(err, &dns):
		return &Failure{Unreachable, "There is no site of this name.", err}
	case errors.Is(err, syscall.ECONNREFUSED):
		return &Failure{Unreachable, "The site does not take connections.", err}
	}
	return &Failure{Unreachable, "The connection to the site broke off.", err}
}
