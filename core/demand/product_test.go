package demand

import (
	"bufio"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestProductQueriesAreCommercial(t *testing.T) {
	f, err := os.Open("testdata/products.tsv")
	require.NoError(t, err)
	defer f.Close()
	lists, want := map[string][]Keyword{}, map[string]string{}
	for lines := bufio.NewScanner(f); lines.Scan(); {
		if row := strings.Split(lines.Text(), "\t"); len(row) == 3 && row[0][0] != '#' {
			lists[row[0]] = append(lists[row[0]], Keyword{Text: row[1]})
			want[row[1]] = map[string]string{"c": commercial, "t": transactional, "i": informational}[row[2]]
		}
	}
	require.Len(t, lists, 3)
	found, right, all := 0, 0, 0
	for code, list := range lists {
		g, err := NewGraph(t.Context(), list, Options{Language: code}, nil)
		require.NoError(t, err)
		for i, k := range list {
			got := informational
			if n := g.all[i].wish; n >= 0 {
				got = []string{transactional, commercial, informational}[n]
			}
			if want[k.Text] == commercial {
				all++
			}
			if got == commercial {
				found++
			}
			if got == want[k.Text] && got == commercial {
				right++
			}
			if got != want[k.Text] {
				t.Logf("%s: %q is %s, read as %s", code, k.Text, want[k.Text], got)
			}
		}
	}
	p, r := float64(right)/float64(found), float64(right)/float64(all)
	t.Logf("commercial queries: precision %.2f, recall %.2f of %d", p, r, all)
	assert.GreaterOrEqual(t, p, 0.9)
	assert.GreaterOrEqual(t, r, 0.85)
}
