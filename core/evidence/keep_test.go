package evidence

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"
)

// What was kept is what was computed, to the last empty list: what is shown, and what contrasts
// and coverage are made of later.
func TestKeptEvidenceIsTheSame(t *testing.T) {
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: demoField(t), Asked: []string{"Do you need studded tyres?"}})
	b, err := e.Encode()
	require.NoError(t, err)
	again, err := Decode(b)
	require.NoError(t, err)
	require.Equal(t, e, again)
	was, err := json.Marshal(e)
	require.NoError(t, err)
	is, err := json.Marshal(again)
	require.NoError(t, err)
	require.Equal(t, string(was), string(is))
}

func TestEvidenceThatCannotBeRead(t *testing.T) {
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: demoField(t)[:2]})
	b, err := e.Encode()
	require.NoError(t, err)
	for n := range 200 {
		_, err := Decode(b[:n*len(b)/200])
		require.Error(t, err, "%d of %d bytes", n*len(b)/200, len(b))
	}
	_, err = Decode([]byte{0xc0})
	require.Error(t, err)
}

func FuzzDecode(f *testing.F) {
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: demoField(f)[:1]})
	b, err := e.Encode()
	require.NoError(f, err)
	f.Add(b)
	f.Fuzz(func(t *testing.T, b []byte) {
		if e, err := Decode(b); err == nil {
			require.NotNil(t, e)
		}
	})
}

func BenchmarkDecode(b *testing.B) {
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: demoField(b)})
	kept, err := e.Encode()
	require.NoError(b, err)
	b.SetBytes(int64(len(kept)))
	for b.Loop() {
		_, _ = Decode(kept)
	}
}
