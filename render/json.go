package render

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/core/evidence"
)

// JSON writes the document as docs/schema/brief.json describes it.
func JSON(w io.Writer, b brief.Brief) error { return indented(w, b) }

// Evidence writes all evidence as docs/schema/evidence.json describes it.
func Evidence(w io.Writer, e *evidence.Evidence) error { return indented(w, e) }

// Movement writes what moved between two gatherings as docs/schema/compare.json describes it.
func Movement(w io.Writer, m *change.Movement) error { return indented(w, m) }

func indented(w io.Writer, v any) error {
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(v)
}

// largestJSON is the largest brief that is read back, in bytes. Our own.
const largestJSON = 32 << 20

// ErrNoBrief says that a file holds no brief of ours.
var ErrNoBrief = errors.New("this is no brief of the form " + brief.Schema)

// ReadJSON reads a brief that JSON has written: what it gives is written as the same bytes
// again, in every format.
func ReadJSON(r io.Reader) (brief.Brief, error) {
	var b brief.Brief
	body, err := io.ReadAll(io.LimitReader(r, largestJSON+1))
	switch {
	case err != nil:
		return b, err
	case len(body) > largestJSON:
		return b, fmt.Errorf("%w: it is larger than %d MiB", ErrNoBrief, largestJSON>>20)
	}
	if err := json.Unmarshal(body, &b); err != nil {
		return b, fmt.Errorf("%w: %w", ErrNoBrief, err)
	}
	if b.Schema != brief.Schema {
		return b, fmt.Errorf("%w: its schema is %q", ErrNoBrief, b.Schema)
	}
	return b, nil
}
