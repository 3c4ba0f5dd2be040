package notice_test

import (
	"encoding/json"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"corpulan/notice"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const runAgain = "; `make notice` writes it anew"

// Every module that is linked into the program is named with its version.
func TestModulesAreNamed(t *testing.T) {
	cmd := exec.Command("go", "list", "-deps", "-f", "{{with .Module}}{{.Path}} {{.Version}}{{end}}", "./cmd/corpulan")
	cmd.Dir = ".."
	out, err := cmd.Output()
	require.NoError(t, err)
	seen := 0
	for line := range strings.Lines(string(out)) {
		if line = strings.TrimSpace(line); line != "" && line != "corpulan" {
			seen++
			assert.Contains(t, notice.Text(), "\n"+line+"\n", line+runAgain)
		}
	}
	assert.Greater(t, seen, 50)
	assert.NotContains(t, string(out), "corpulan/lists")
	cmd = exec.Command("go", "list", "-deps", "./cmd/corpulan")
	cmd.Dir = ".."
	out, err = cmd.Output()
	require.NoError(t, err)
	assert.NotContains(t, string(out), "corpulan/lists\n", "what is shared alike lies beside the program and is no part of it")
}

// So is every npm package whose files are copied or bundled.
func TestPackagesAreNamed(t *testing.T) {
	var lock struct {
		Packages map[string]struct{ Version string }
	}
	read(t, "../package-lock.json", &lock)
	seen := 0
	for _, file := range []string{"copied.json", "bundled.json"} {
		var names []string
		read(t, "../web/kit/static/dist/"+file, &names)
		for _, name := range names {
			seen++
			assert.Contains(t, notice.Text(), "\n"+name+" "+lock.Packages["node_modules/"+name].Version+" ", name+runAgain)
		}
	}
	assert.Greater(t, seen, 40)
}

func read(t *testing.T, name string, into any) {
	t.Helper()
	b, err := os.ReadFile(name)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(b, into))
}

// Every list has a row that tells its source and its licence, and those that are embedded have
// none that asks to be shared alike.
func TestListsAreNamed(t *testing.T) {
	alike := regexp.MustCompile(`GPL|MPL|EPL|BY-SA|ODbL`)
	for folder, sources := range map[string]string{"../core/lexicon/data": "ATTRIBUTION.md", "../lists": "SOURCES.md"} {
		b, err := os.ReadFile(filepath.Join(folder, sources))
		require.NoError(t, err)
		table := string(b)
		assert.Contains(t, notice.Text(), table[strings.Index(table, "| file"):len(table)-1], sources+runAgain)
		for row := range strings.Lines(table) {
			if sources == "ATTRIBUTION.md" && strings.HasPrefix(row, "| `") {
				assert.NotRegexp(t, alike, row)
			}
		}
		err = filepath.WalkDir(folder, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || strings.HasSuffix(path, ".go") || strings.HasSuffix(path, ".md") || d.Name() == "made.txt" {
				return err
			}
			name, _ := filepath.Rel(folder, path)
			if strings.HasPrefix(name, "dictionaries") {
				name, _, _ = strings.Cut(filepath.Base(name), ".")
				assert.Regexp(t, "`(dictionaries/)?"+name+"`", table, path)
				assert.FileExists(t, filepath.Join(folder, "dictionaries", name+".license.txt"))
				return nil
			}
			general := regexp.MustCompile(`/\w\w\.`).ReplaceAllString(regexp.MustCompile(`/\w\w-`).ReplaceAllString(name, "/??-"), "/??.")
			assert.True(t, strings.Contains(table, "`"+name+"`") || strings.Contains(table, "`"+general+"`"), "%s names no source of %s", sources, name)
			return nil
		})
		require.NoError(t, err)
	}
}
