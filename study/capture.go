package study

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"io"
	"strings"

	"corpulan/analysis"
	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/formats/handed"
	"corpulan/formats/saved"
	"corpulan/gather"
	"corpulan/search"
	"corpulan/store"
)

// CaptureOf is a page as it is kept: its bytes compressed, its headers beside them.
func CaptureOf(page *saved.Fetched) (*store.Capture, error) {
	body, err := compress(page.Body)
	if err != nil {
		return nil, err
	}
	return &store.Capture{URL: page.URL, FinalURL: page.FinalURL, Status: page.Status,
		Headers: store.NewJSONType(map[string][]string(page.Header)), ContentType: page.ContentType,
		Body: body, Size: int64(len(page.Body)), Digest: page.Digest[:], CapturedAt: page.At}, nil
}

// PageOf is a capture as the page it was: CaptureOf turned round.
func PageOf(c store.Capture) (saved.Fetched, error) {
	z, err := gzip.NewReader(bytes.NewReader(c.Body))
	if err != nil {
		return saved.Fetched{}, fmt.Errorf("unpacking the capture of %s: %w", c.URL, err)
	}
	defer z.Close()
	body, err := io.ReadAll(z)
	if err != nil {
		return saved.Fetched{}, fmt.Errorf("unpacking the capture of %s: %w", c.URL, err)
	}
	return saved.Fetched{URL: c.URL, FinalURL: c.FinalURL, Status: c.Status, Header: c.Headers.Data(), ContentType: c.ContentType,
		Body: body, Digest: sha256.Sum256(body), At: c.CapturedAt}, nil
}

// ReadCapture reads a page, or what was brought by hand and has no address of its own; its error is
// a *gather.Failure, or ctx's.
func ReadCapture(ctx context.Context, r *handed.Reader, page reading.Page) (*reading.Reading, error) {
	if name, ok := strings.CutPrefix(page.URL, address.Brought); ok {
		return analysis.ReadExtra(ctx, r, page.URL, name, page.Body)
	}
	return ReadPage(page)
}

// ReadPage reads a page that was fetched or handed in; its error is a
// *gather.Failure. A page must not take the program with it, whatever is in it.
func ReadPage(page reading.Page) (doc *reading.Reading, err error) {
	defer func() {
		if p := recover(); p != nil {
			doc, err = nil, &gather.Failure{Code: gather.Unreadable, Reason: "The page could not be read.", Err: fmt.Errorf("panic: %v", p)}
		}
	}()
	doc, err = reading.Read(page)
	switch {
	case errors.Is(err, reading.ErrEmpty):
		return nil, &gather.Failure{Code: gather.EmptyPage, Reason: "The page is empty.", Err: err}
	case errors.Is(err, reading.ErrNotHTML):
		return nil, &gather.Failure{Code: gather.NotAPage, Reason: message.Fault(err), Err: err}
	case err != nil:
		return nil, &gather.Failure{Code: gather.Unreadable, Reason: message.Fault(err), Err: err}
	}
	return doc, nil
}

// ResultsOf are the items of a results page as a gathering keeps them.
func ResultsOf(g store.Gathering, found *search.Results) []store.Result {
	results := make([]store.Result, len(found.Items))
	for i, it := range found.Items {
		results[i] = store.Result{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: it.Rank, URL: it.URL,
			Host: address.Parse(it.URL).Authority(), Title: it.Title, Snippet: it.Snippet, State: store.Waiting, Kept: true}
	}
	return results
}

func compress(body []byte) ([]byte, error) {
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	if _, err := z.Write(body); err != nil {
		return nil, err
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	return b.Bytes(), nil
}
