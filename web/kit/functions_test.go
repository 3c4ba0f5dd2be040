package kit

import (
	"testing"

	"corpulan/core/brief"
	"corpulan/core/stats"
	"corpulan/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestSaying(t *testing.T) {
	for _, c := range []struct {
		r    any
		want string
	}{{stats.Range{Lower: 1.2, Upper: 1.4}, "1"}, {stats.Range{Lower: 742, Upper: 1031}, "742–1,031"}, {brief.Range{Lower: 2, Upper: 5}, "2–5"}} {
		got, err := spanOf(words.English(), c.r)
		require.NoError(t, err)
		assert.Equal(t, c.want, got)
	}
	_, err := spanOf(words.English(), "no range")
	assert.Error(t, err)
	_, err = dict("one")
	assert.Error(t, err)
	assert.Equal(t, "/studies/3/sources?key=a+%26+b%23&kind=term", SourcesPath(3, brief.TermKind, "a & b#"))
	for keyword, want := range map[string]string{"Winter bike  commuting!": "winter-bike-commuting", "自行车": "自行车", "../--x--": "x", "Köln?": "köln", "!": "study"} {
		assert.Equal(t, want, fileName(keyword))
	}
}
