package web_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// shared are the packages whose templates every place may use.
var shared = map[string]bool{"kit": true, "parts": true}

// All templates of a language are one set: a name that two files define would be the later's for
// both. A page's body is the one name that every page has. A place uses its own templates, and those
// that are for all.
func TestTemplatesHaveNamesAndPlacesOfTheirOwn(t *testing.T) {
	files, err := filepath.Glob("*/templates/*.html")
	require.NoError(t, err)
	more, err := filepath.Glob("*/templates/parts/*.html")
	require.NoError(t, err)
	files = append(files, more...)
	require.Greater(t, len(files), 40)
	defined, sources := map[string]string{}, map[string]string{}
	define, use := regexp.MustCompile(`{{-?\s*(?:define|block) "([^"]+)"`), regexp.MustCompile(`{{-?\s*template "([^"]+)"`)
	for _, f := range files {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		sources[f] = string(b)
		for _, m := range define.FindAllStringSubmatch(sources[f], -1) {
			if m[1] == "body" {
				m[1] = "body of " + filepath.Base(f)
			}
			assert.Empty(t, defined[m[1]], "%s defines %q, too", f, m[1])
			defined[m[1]] = f
		}
	}
	assert.Greater(t, len(defined), 100)
	for f, source := range sources {
		for _, m := range use.FindAllStringSubmatch(source, -1) {
			from, to := place(f), place(defined[m[1]])
			assert.True(t, from == to || shared[to], "%s uses %q of %s", f, m[1], to)
		}
	}
}

func place(file string) string {
	first, _, _ := strings.Cut(filepath.ToSlash(file), "/")
	return first
}

// Every file below static is somebody's: a style or script that no page asks for is dead.
func TestStaticFilesAreUsed(t *testing.T) {
	var all strings.Builder
	require.NoError(t, filepath.WalkDir(".", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(name, ".go") && !strings.HasSuffix(name, ".html") {
			return err
		}
		b, err := os.ReadFile(name)
		all.Write(b)
		return err
	}))
	files, err := filepath.Glob("*/static/*.*")
	require.NoError(t, err)
	require.Greater(t, len(files), 15)
	for _, f := range files {
		assert.Contains(t, all.String(), `"`+strings.Replace(filepath.ToSlash(f), "/static/", "/", 1)+`"`)
	}
}

// Templates and styles are laid out to be read: no line is longer than an editor's window.
func TestTemplatesAndStylesHaveNoLongLines(t *testing.T) {
	const longest = 120 // characters; our own
	lines := 0
	for _, glob := range []string{"*/templates/*.html", "*/templates/parts/*.html", "*/static/*.css"} {
		files, err := filepath.Glob(glob)
		require.NoError(t, err)
		for _, f := range files {
			b, err := os.ReadFile(f)
			require.NoError(t, err)
			for i, line := range strings.Split(string(b), "\n") {
				lines++
				assert.LessOrEqual(t, utf8.RuneCountInString(line), longest, "%s:%d", f, i+1)
			}
		}
	}
	assert.Greater(t, lines, 5000)
}
