package draw

import (
	"encoding/xml"
	"strings"
	"testing"

	"corpulan/core/evidence"
	"corpulan/core/stats"
	"corpulan/words"

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
	svg := string(PresenceRow(words.English(), []int{4, 0, 1}, sources, "times"))
	wellFormed(t, svg)
	assert.Contains(t, svg, `aria-label="ranks 1, 9"`)
	assert.Contains(t, svg, `data-n="4 0 1" data-unit="times"`)
	assert.Contains(t, svg, `<path d="M0 18v-18h6v18zM18 18v-12h6v12z"/>`, "a slug for each page that has it")
	assert.Contains(t, svg, `<path class="absent" d="M9.5 13.5h5v4h-5z"/>`)
	counts := make([]int, 100)
	for i := range counts {
		counts[i] = i % 7
	}
	assert.Less(t, len(PresenceRow(words.English(), counts, nil, "times")), 2500, "light, however many pages")
	for _, n := range []int{31, 100} {
		svg := string(PresenceRow(words.English(), counts[:n], nil, "times"))
		assert.Contains(t, svg, `width="120"`, "as wide for 31 pages as for a hundred")
		assert.Equal(t, 30, strings.Count(svg, "M"), "a density of thirty steps")
	}
	assert.Equal(t, "1–4, 7, 9, 10", RankSpans([]int{1, 2, 3, 4, 7, 9, 10}))
	assert.Equal(t, "6 pages", ShortRanks(words.English(), []int{10, 20, 30, 40, 50, 60}, 16))
	assert.Equal(t, "1–4 7", ShortRanks(words.English(), []int{1, 2, 3, 4, 7}, 16))
	wellFormed(t, string(PresenceRow(words.English(), nil, nil, "times")))
	assert.Contains(t, string(PresenceRow(words.English(), []int{0}, sources, "times")), "on no page")
}

func TestRangeMark(t *testing.T) {
	r := stats.Range{Lower: 10, Median: 20, Upper: 40, N: 7}
	svg := string(RangeMark(words.English(), r, 80, Pointer{"shop.example", 200}))
	wellFormed(t, svg)
	assert.Contains(t, svg, "lower quartile 10, median 20, upper quartile 40, over 7 pages; ours, shop.example: 200")
	assert.Contains(t, svg, `x1="18.5" x2="18.5" y1="1.5" y2="12.5"`, "the median at a quarter of the scale")
	assert.Contains(t, svg, `d="M71.0`, "a figure beyond the scale stands at its end")
	assert.Empty(t, RangeMark(words.English(), stats.Range{}, 80), "no pages, no mark")
	assert.Empty(t, RangeMark(words.English(), r, 0))
}

func TestThousands(t *testing.T) {
	for n, want := range map[int]string{0: "0", 999: "999", 1000: "1,000", 1234567: "1,234,567", -1200: "-1,200"} {
		assert.Equal(t, want, Thousands(n))
	}
}
