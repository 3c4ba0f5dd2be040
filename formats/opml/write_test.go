package opml

import (
	"bytes"
	"encoding/xml"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// OPML 2.0: version, a title, and nested outlines that each have a text (the required attribute;
// opml.org, "OPML 2.0", from memory).
func TestOutlines(t *testing.T) {
	read := func(title, otherwise string, outlines []Outline) (version, head string, body []Outline) {
		t.Helper()
		var out bytes.Buffer
		require.NoError(t, Write(&out, title, otherwise, outlines))
		var doc struct {
			Version string    `xml:"version,attr"`
			Title   string    `xml:"head>title"`
			Body    []Outline `xml:"body>outline"`
		}
		require.NoError(t, xml.Unmarshal(out.Bytes(), &doc), out.String())
		return doc.Version, doc.Title, doc.Body
	}
	want := []Outline{{Text: "A <b> & \"c\"", Children: []Outline{{Text: "below", Children: []Outline{{Text: "further"}}}}}, {Text: "B"}}
	version, head, body := read("a\ntitle", "x", want)
	assert.Equal(t, "2.0", version)
	assert.Equal(t, "a title", head)
	assert.Equal(t, want, body)
	_, _, body = read("t", "what it is about", nil)
	assert.Equal(t, []Outline{{Text: "what it is about"}}, body, "the body must have an outline")
}

func TestLines(t *testing.T) {
	assert.Equal(t, "one two three", Line(" one\n\ttwo\x00 three\ufffe "))
}
