package render

import (
	"encoding/json"
	"io"

	"corpulan/core/brief"
	"corpulan/core/evidence"
)

// JSON writes the document as docs/schema/brief.json describes it.
func JSON(w io.Writer, b brief.Brief) error { return indented(w, b) }

// Evidence writes all evidence as docs/schema/evidence.json describes it.
func Evidence(w io.Writer, e *evidence.Evidence) error { return indented(w, e) }

func indented(w io.Writer, v any) error {
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(v)
}
