// Package warc reads and writes WARC (ISO 28500): read.go, write.go.
package warc

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"errors"
	"io"
	"net/http"
	"net/textproto"
	"strconv"
	"strings"

	"corpulan/core/message"
	"corpulan/formats/saved"
)

// largestHeader bounds the header of a WARC record, and that of the answer in it.
const largestHeader = 256 << 10

// Read reads the response and resource records of a WARC file, version 1.0
// or 1.1. gzip with a member for each record needs nothing here: the readers
// see one stream. A file that breaks off in a record is an error; the page in
// that record is not handed on.
func Read(r *bufio.Reader, budget *saved.Budget, each func(saved.Saved) error) error {
	records, pages := 0, 0
	for {
		fields, err := warcHeader(r)
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return message.Errorf("record %d: %v", records+1, err)
		}
		records++
		size, err := strconv.ParseInt(fields.Get("Content-Length"), 10, 64)
		if err != nil || size < 0 {
			return message.Errorf("record %d: it has no length", records)
		}
		block := &io.LimitedReader{R: r, N: size}
		page, err := warcPage(fields, block, budget)
		if err == nil {
			_, err = io.Copy(io.Discard, block)
		}
		switch {
		case errors.Is(err, saved.ErrTooMuch):
			return err
		case block.N > 0 && (err == nil || errors.Is(err, io.ErrUnexpectedEOF)):
			return message.Errorf("the file breaks off in record %d, %d bytes too early", records, block.N)
		case err != nil:
			return message.Errorf("record %d: %v", records, err)
		}
		if page == nil {
			continue
		}
		pages++
		if err := each(*page); err != nil {
			return err
		}
	}
	if pages == 0 {
		return saved.ErrNoPages
	}
	return nil
}

// warcHeader reads to the end of the next record's header; io.EOF when there
// is no other record.
func warcHeader(r *bufio.Reader) (textproto.MIMEHeader, error) {
	for {
		line, err := r.ReadSlice('\n')
		trimmed := bytes.TrimSpace(line)
		if len(trimmed) == 0 {
			if err != nil {
				return nil, err // io.EOF at the end, another where it breaks off
			}
			continue // the two empty lines that end a record
		}
		if !bytes.HasPrefix(trimmed, []byte("WARC/1.")) {
			return nil, message.Errorf("this is no WARC record: %.40q", trimmed)
		}
		if err != nil {
			return nil, message.Errorf("the file breaks off in its header")
		}
		break
	}
	header, err := headerOf(r)
	if err != nil {
		return nil, err
	}
	fields, err := textproto.NewReader(bufio.NewReader(bytes.NewReader(header))).ReadMIMEHeader()
	if err != nil {
		return nil, message.Errorf("its header is broken: %v", err)
	}
	return fields, nil
}

// headerOf reads lines up to an empty one, which is the last it returns.
func headerOf(r *bufio.Reader) ([]byte, error) {
	var header []byte
	for {
		line, err := r.ReadSlice('\n')
		header = append(header, line...)
		switch {
		case len(header) > largestHeader:
			return nil, message.Errorf("its header is longer than %d KiB", largestHeader>>10)
		case errors.Is(err, bufio.ErrBufferFull):
		case err != nil:
			return nil, message.Errorf("the file breaks off in its header")
		case len(bytes.TrimSpace(line)) == 0 && (len(header) == len(line) || header[len(header)-len(line)-1] == '\n'):
			return header, nil
		}
	}
}

// warcPage is the HTML page of a record, nil if it holds none.
func warcPage(fields textproto.MIMEHeader, block io.Reader, budget *saved.Budget) (*saved.Saved, error) {
	// wget writes the address in angle brackets, as version 1.0 had it.
	url := strings.Trim(fields.Get("WARC-Target-URI"), "<>")
	switch fields.Get("WARC-Type") {
	case "resource":
		if !saved.IsHTML(fields.Get("Content-Type")) {
			return nil, nil
		}
		body, err := io.ReadAll(io.LimitReader(block, saved.LargestSaved))
		return &saved.Saved{URL: url, ContentType: fields.Get("Content-Type"), Body: body}, err
	case "response":
		if !strings.HasPrefix(strings.ToLower(fields.Get("Content-Type")), "application/http") {
			return nil, nil
		}
		r := bufio.NewReader(block)
		header, err := headerOf(r)
		if err != nil {
			return nil, nil // not HTTP: a record of another protocol, or cut off, which the block tells
		}
		resp, err := http.ReadResponse(bufio.NewReader(io.MultiReader(bytes.NewReader(header), r)), nil)
		if err != nil {
			return nil, nil // not HTTP
		}
		defer resp.Body.Close()
		if resp.StatusCode != http.StatusOK || !saved.IsHTML(resp.Header.Get("Content-Type")) {
			return nil, nil
		}
		body, err := decodedBody(resp, budget)
		if err != nil {
			return nil, message.Errorf("the page %s is broken: %v", url, err)
		}
		return &saved.Saved{URL: url, ContentType: resp.Header.Get("Content-Type"), Body: body}, nil
	}
	return nil, nil
}

func decodedBody(resp *http.Response, budget *saved.Budget) ([]byte, error) {
	body := io.Reader(resp.Body)
	if strings.EqualFold(resp.Header.Get("Content-Encoding"), "gzip") {
		z, err := gzip.NewReader(resp.Body)
		if err != nil {
			return nil, err
		}
		defer z.Close()
		body = budget.Of(z)
	}
	b, err := io.ReadAll(io.LimitReader(body, saved.LargestSaved))
	if errors.Is(err, io.ErrUnexpectedEOF) && len(b) > 0 {
		return b, nil // cut short when it was captured; what is there is a page
	}
	return b, err
}
