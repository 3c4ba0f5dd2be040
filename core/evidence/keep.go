package evidence

import (
	"bytes"
	"fmt"

	"github.com/vmihailenco/msgpack/v5"
)

// kept is evidence as it is kept: with what it does not show.
type kept struct {
	Evidence *Evidence
	Sizes    []float64
}

// Encode is all of the evidence as bytes that Decode takes; for the same build of the program
// only, since fields are told by their places.
func (e *Evidence) Encode() ([]byte, error) {
	var b bytes.Buffer
	enc := msgpack.NewEncoder(&b)
	enc.UseArrayEncodedStructs(true)
	if err := enc.Encode(kept{e, e.sizes}); err != nil {
		return nil, fmt.Errorf("keeping evidence: %w", err)
	}
	return b.Bytes(), nil
}

// Decode is the evidence that Encode was called on.
func Decode(b []byte) (*Evidence, error) {
	var k kept
	if err := msgpack.Unmarshal(b, &k); err != nil {
		return nil, fmt.Errorf("reading kept evidence: %w", err)
	}
	if k.Evidence == nil {
		return nil, fmt.Errorf("reading kept evidence: there is none")
	}
	k.Evidence.sizes = k.Sizes
	return k.Evidence, nil
}
