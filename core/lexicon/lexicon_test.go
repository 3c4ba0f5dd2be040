package lexicon

import (
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The lists as they lie beside the program.
func TestMain(m *testing.M) {
	if err := Beside(os.DirFS("../../lists")); err != nil {
		panic(err)
	}
	os.Exit(m.Run())
}

// A folder in which one is missing is not taken.
func TestListsThatAreMissing(t *testing.T) {
	assert.ErrorContains(t, Beside(os.DirFS(t.TempDir())), "countries.tsv")
	_, known := PlaceNamed("Sweden")
	assert.True(t, known, "those before are still there")
}

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

// What a word is, by itself where its ending misleads: the readings are those of any grammar of the
// languages (common practice, no published source).
func TestClassOf(t *testing.T) {
	for lang, words := range map[string]map[string]string{
		"fr": {"explicitement": "adverb", "partition": "noun", "hiver": "noun", "separee": "adjective", "installer": "verb", "musicaux": "adjective", "eclairage": "noun", "document": "noun", "chargement": "noun"},
		"es": {"explicitamente": "adverb", "bicicleta": "noun", "disponible": "adjective", "actual": "adjective", "configurar": "verb", "invierno": "noun", "archivos": "noun", "deseamos": "verb"},
		"it": {"solitamente": "adverb", "contabilita": "noun", "interpretato": "adjective", "impostare": "verb", "principale": "adjective", "finestra": "noun"},
		"nl": {"geinstalleerd": "adjective", "automatisch": "adjective", "beschikbaar": "adjective", "schijf": "noun", "installatie": "noun", "toewijzen": "verb", "wachtwoord": "noun"},
		"pt": {"tipicamente": "adverb", "predefinidas": "adjective", "disponivel": "adjective", "acoes": "noun", "imagem": "noun", "adicionar": "verb", "bacalhau": "noun"},
		"sv": {"automatiskt": "adjective", "befintliga": "adjective", "harddisken": "noun", "installera": "verb", "katalogen": "noun", "kedjan": "noun", "ateistiskt": "adjective"},
	} {
		for word, want := range words {
			s, ok := ClassOf(lang, word)
			require.True(t, ok)
			is := map[string]float64{"noun": s.Noun, "verb": s.Verb, "adjective": s.Adjective, "adverb": s.Adverb}
			for other, share := range is {
				assert.LessOrEqual(t, share, is[want], "%s %s: rather %s than %s", lang, word, other, want)
			}
			assert.InDelta(t, 1, s.Noun+s.Verb+s.Adjective+s.Adverb, .25, word)
		}
	}
	_, ok := ClassOf("de", "haus")
	assert.False(t, ok, "German nouns have capitals")
	s, ok := ClassOf("fr", "漢字")
	assert.True(t, ok)
	assert.Positive(t, s.Noun, "what no ending tells is as most words are")
}

// The committed lists are what the generator makes of the npm packages. It takes a minute, so it is
// run where anything is new: a generator, a package or a list; or where all is asked for.
func TestListsAreTheGenerators(t *testing.T) {
	now, err := exec.Command("node", "made.mjs").CombinedOutput()
	require.NoError(t, err, string(now))
	made, err := embedded.ReadFile("data/made.txt")
	require.NoError(t, err)
	if string(now) == string(made) && os.Getenv("CORPULAN_THOROUGH") == "" {
		return
	}
	if os.Getenv("CORPULAN_THOROUGH") == "" {
		t.Log("data/made.txt is of other sources or lists: the lists are made anew and compared; `make lexicon` writes it")
	}
	out := t.TempDir()
	for _, folder := range []string{"common", "classes"} {
		require.NoError(t, os.Mkdir(filepath.Join(out, folder), 0o755))
	}
	msg, err := exec.Command("node", "generate.mjs", out).CombinedOutput()
	require.NoError(t, err, string(msg))
	for _, name := range []string{"english.tsv", "towns.tsv", "countries.tsv", "kinds.tsv", "related.tsv", "titles.txt", "firstnames.txt", "common/de.txt", "common/sv.txt", "classes/es.tsv", "classes/fr.tsv", "classes/it.tsv", "classes/nl.tsv", "classes/pt.tsv", "classes/sv.tsv"} {
		want, err := os.ReadFile(filepath.Join(out, name))
		require.NoError(t, err)
		assert.True(t, string(want) == read(name), "%s is not what `make lexicon` writes", name)
	}
}
