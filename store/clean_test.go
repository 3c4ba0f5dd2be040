package store

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5/pgconn"
	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestClean(t *testing.T) {
	for in, want := range map[string]string{"": "", "plain": "plain", "a\x00b": "ab", "a\xffb": "a\uFFFDb", "größe": "größe", `\u0000`: `\u0000`, `{"a":"\u0000b"}`: `{"a":"b"}`} {
		got, changed := clean(in)
		assert.Equal(t, want, got)
		assert.Equal(t, in != want, changed, in)
	}
	body := []byte{0, 0xff, 1}
	got, changed := clean(body)
	assert.Equal(t, body, got, "bytes of a capture stay as they are")
	assert.False(t, changed)
	args := []any{"a", 1, nil}
	assert.Equal(t, args, cleaned(args))
}

// JSON loses its escaped NULs and nothing else, whatever backslashes stand about.
func TestCleanJSON(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		parts := rapid.SliceOf(rapid.SampledFrom([]string{"\x00", `\`, `\u0000`, "u0000", "x", `"`, "ß", "\n"})).Draw(t, "parts")
		text := strings.Join(parts, "")
		value, _ := clean(NewJSONType(map[string]string{"k": text}))
		b, ok := value.([]byte)
		if !ok {
			b = []byte(value.(string))
		}
		var back map[string]string
		if err := json.Unmarshal(b, &back); err != nil {
			t.Fatalf("%q: %v", b, err)
		}
		if want := strings.ReplaceAll(text, "\x00", ""); back["k"] != want {
			t.Fatalf("%q became %q", text, back["k"])
		}
	})
}

func TestLasting(t *testing.T) {
	for code, lasting := range map[string]bool{"22P05": true, "22021": true, "23505": true, "54000": true, "57P01": false, "08006": false, "40001": false, "53300": false, "": false} {
		assert.Equal(t, lasting, Lasting(errors.Join(errors.New("keeping"), &pgconn.PgError{Code: code})), code)
	}
	assert.False(t, Lasting(errors.New("connection refused")))
	assert.False(t, Lasting(nil))
}
