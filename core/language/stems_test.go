package language

import (
	"os"
	"strings"
	"testing"

	"github.com/blevesearch/snowballstem"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The stemmers we use give what Snowball's own library gives, on 3,900 words of eight
// languages (see testdata/stems.py). They are asked here as they are, before we fold
// accents and spellings.
func TestStemsAreSnowballs(t *testing.T) {
	b, err := os.ReadFile("testdata/stems.tsv")
	require.NoError(t, err)
	wrong, all := map[string][]string{}, map[string]int{}
	for line := range strings.Lines(string(b)) {
		f := strings.Split(strings.TrimSpace(line), "\t")
		if len(f) != 3 {
			continue
		}
		all[f[0]]++
		env := snowballstem.NewEnv(f[1])
		knownOf(f[0]).stemmer(env)
		if env.Current() != f[2] {
			wrong[f[0]] = append(wrong[f[0]], f[1]+": "+env.Current()+", not "+f[2])
		}
	}
	for _, code := range Codes() {
		assert.Greater(t, all[code], 400, code)
		assert.Empty(t, wrong[code], code)
	}
}
