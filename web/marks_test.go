package web

import (
	"encoding/xml"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/stats"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// wellFormed fails the test unless the mark is XML that a browser draws whole.
func wellFormed(t *testing.T, svg string) {
	t.Helper()
	d := xml.NewDecoder(strings.NewReader(svg))
	for {
		if _, err := d.Token(); err != nil {
			require.Equal(t, "EOF", err.Error(), svg)
			return
		}
	}
}

func TestPresenceRow(t *testing.T) {
	sources := []evidence.Source{{Rank: 1, Host: "a.example"}, {Rank: 4, Host: `b"<.example`}, {Rank: 9, Host: "c.example"}}
	svg := string(presenceRow([]int{4, 0, 1}, sources, "times"))
	wellFormed(t, svg)
	assert.Contains(t, svg, `aria-label="ranks 1, 9"`)
	assert.Contains(t, svg, `data-n="4 0 1" data-unit="times"`)
	assert.Contains(t, svg, `<path d="M0 18v-18h6v18zM18 18v-12h6v12z"/>`, "a slug for each page that has it")
	assert.Contains(t, svg, `<path class="absent" d="M9.5 13.5h5v4h-5z"/>`)
	counts := make([]int, 100)
	for i := range counts {
		counts[i] = i % 7
	}
	assert.Less(t, len(presenceRow(counts, nil, "times")), 2500, "light, however many pages")
	assert.Equal(t, "1–4, 7, 9, 10", rankSpans([]int{1, 2, 3, 4, 7, 9, 10}))
	assert.Equal(t, "6 pages", shortRanks([]int{10, 20, 30, 40, 50, 60}, 16))
	assert.Equal(t, "1–4 7", shortRanks([]int{1, 2, 3, 4, 7}, 16))
	wellFormed(t, string(presenceRow(nil, nil, "times")))
	assert.Contains(t, string(presenceRow([]int{0}, sources, "times")), "on no page")
}

func TestRangeMark(t *testing.T) {
	r := stats.Range{Lower: 10, Median: 20, Upper: 40, N: 7}
	svg := string(rangeMark(r, 80, pointer{"shop.example", 200}))
	wellFormed(t, svg)
	assert.Contains(t, svg, "lower quartile 10, median 20, upper quartile 40, n 7; ours, shop.example: 200")
	assert.Contains(t, svg, `x1="18.5" x2="18.5" y1="1.5" y2="12.5"`, "the median at a quarter of the scale")
	assert.Contains(t, svg, `d="M71.0`, "a figure beyond the scale stands at its end")
	assert.Empty(t, rangeMark(stats.Range{}, 80), "no pages, no mark")
	assert.Empty(t, rangeMark(r, 0))
}

func TestSaying(t *testing.T) {
	for n, want := range map[int]string{0: "0", 999: "999", 1000: "1,000", 1234567: "1,234,567", -1200: "-1,200"} {
		assert.Equal(t, want, thousands(n))
	}
	for _, c := range []struct {
		r    any
		want string
	}{{stats.Range{Lower: 1.2, Upper: 1.4}, "1"}, {stats.Range{Lower: 742, Upper: 1031}, "742–1,031"}, {brief.Range{Lower: 2, Upper: 5}, "2–5"}} {
		got, err := spanOf(c.r)
		require.NoError(t, err)
		assert.Equal(t, c.want, got)
	}
	_, err := spanOf("no range")
	assert.Error(t, err)
	_, err = dict("one")
	assert.Error(t, err)
	assert.Equal(t, "/studies/3/sources?key=a+%26+b%23&kind=term", sourcesPath(3, brief.TermKind, "a & b#"))
	for keyword, want := range map[string]string{"Winter bike  commuting!": "winter-bike-commuting", "自行车": "study", "--x--": "x"} {
		assert.Equal(t, want, slug(keyword))
	}
}
