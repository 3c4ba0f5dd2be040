package web

import (
	"io/fs"
	"regexp"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/evidence"
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
	assert.Equal(t, "/studies/3/sources?key=a+%26+b%23&kind=term", sourcesPath(3, brief.TermKind, "a & b#"))
	for keyword, want := range map[string]string{"Winter bike  commuting!": "winter-bike-commuting", "自行车": "自行车", "../--x--": "x", "Köln?": "köln", "!": "study"} {
		assert.Equal(t, want, fileName(keyword))
	}
}

func TestDifferencesAreToldInUnitsWhereFew(t *testing.T) {
	row := func(leaders, followers float64, unit string) string {
		return figureRow{Figure: evidence.Figure{Unit: unit, Leaders: stats.Range{Median: leaders, N: 3}, Followers: stats.Range{Median: followers, N: 7}}}.Compare()
	}
	assert.Equal(t, "+12", row(13, 1, ""))
	assert.Equal(t, "+50 %", row(1200, 800, ""))
	assert.Equal(t, "−25 %", row(600, 800, ""))
	assert.Equal(t, "−3", row(46, 49, "%"))
	assert.Equal(t, "−1", row(46.4, 46.6, "%"), "as the figures beside it are shown")
	assert.Equal(t, "", row(4, 4, ""))
	assert.Equal(t, "", figureRow{}.Compare(), "nothing to compare")
}

// All templates of a language are one set: a name that two files define would be the later's for
// both. A page's body is the one name that every page has.
func TestTemplatesHaveNamesOfTheirOwn(t *testing.T) {
	defined := map[string]string{}
	define := regexp.MustCompile(`{{-?\s*(?:define|block) "([^"]+)"`)
	require.NoError(t, fs.WalkDir(templateFiles, "templates", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		source, err := templateFiles.ReadFile(name)
		for _, m := range define.FindAllStringSubmatch(string(source), -1) {
			if m[1] == "body" && strings.Count(name, "/") == 1 {
				m[1] = bodyOf(name)
			}
			assert.Empty(t, defined[m[1]], "%s defines %q, too", name, m[1])
			defined[m[1]] = name
		}
		return err
	}))
	assert.Greater(t, len(defined), 100)
}
