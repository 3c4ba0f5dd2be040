package gather

import (
	"encoding/base64"
	"io"
)

// newBase64 decodes base64 as mail has it: in lines, with stray white space.
func newBase64(r io.Reader) io.Reader {
	return base64.NewDecoder(base64.StdEncoding, &withoutSpace{r})
}

// withoutSpace drops white space; the decoder itself drops only line breaks.
type withoutSpace struct{ r io.Reader }

func (w *withoutSpace) Read(p []byte) (int, error) {
	for {
		n, err := w.r.Read(p)
		kept := p[:0]
		for _, b := range p[:n] {
			if b != ' ' && b != '\t' && b != '\r' && b != '\n' {
				kept = append(kept, b)
			}
		}
		if len(kept) > 0 || err != nil {
			return len(kept), err
		}
	}
}
