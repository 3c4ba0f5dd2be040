package handed

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"errors"
	"io"
	"net/url"
	"regexp"
	"strings"

	"corpulan/core/message"
	"corpulan/formats/mhtml"
	"corpulan/formats/saved"
	"corpulan/formats/warc"
)

// walk reads the pages out of a saved file one by one. Its name and first bytes tell plain HTML,
// MHTML (RFC 2557) and WARC (ISO 28500) apart, gzip once or for each record.
func walk(name string, in io.Reader, budget *saved.Budget, each func(saved.Saved) error) error {
	r := bufio.NewReaderSize(budget.Of(in), 64<<10)
	head, err := peek(r)
	if err != nil {
		return err
	}
	if isGzip(head) {
		z, err := gzip.NewReader(r)
		if err != nil {
			return message.Errorf("unpacking: %v", err)
		}
		defer z.Close()
		name = strings.TrimSuffix(name, ".gz")
		r = bufio.NewReaderSize(budget.Of(z), 64<<10)
		if head, err = peek(r); err != nil {
			return message.Errorf("unpacking: %v", err)
		}
		if isGzip(head) {
			return message.Errorf("it is packed more than once")
		}
	}
	switch {
	case bytes.HasPrefix(head, []byte("WARC/")):
		return warc.Read(r, budget, each)
	case mhtml.Is(name, head):
		page, err := mhtml.Read(r)
		if err != nil {
			return err
		}
		return each(*page)
	}
	body, err := io.ReadAll(io.LimitReader(r, saved.LargestSaved+1))
	if err != nil {
		return err
	}
	if len(body) > saved.LargestSaved {
		return message.Errorf("the file is larger than %d MiB", saved.LargestSaved>>20)
	}
	return each(saved.Saved{URL: savedFrom(head), Body: body})
}

func peek(r *bufio.Reader) ([]byte, error) {
	head, err := r.Peek(2048)
	if err != nil && !errors.Is(err, io.EOF) && !errors.Is(err, bufio.ErrBufferFull) {
		return nil, err
	}
	return head, nil
}

func isGzip(head []byte) bool { return bytes.HasPrefix(head, []byte{0x1f, 0x8b}) }

// browsers write where they saved a page from into a comment before it.
var savedFromComment = regexp.MustCompile(`<!--\s*saved from url=\(\d+\)(https?://\S+?)\s*-->`)

func savedFrom(head []byte) string {
	m := savedFromComment.FindSubmatch(head)
	if m == nil {
		return ""
	}
	u, err := url.Parse(string(m[1]))
	if err != nil || u.Host == "" {
		return ""
	}
	return u.String()
}
