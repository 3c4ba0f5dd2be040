package core_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every test that docs/guards.md names is there.
func TestGuardsAreTested(t *testing.T) {
	there := map[string]bool{}
	of := regexp.MustCompile(`(?m)^func (Test\w+)\(t \*testing\.T`)
	err := filepath.WalkDir("..", func(name string, d fs.DirEntry, err error) error {
		if err == nil && d.IsDir() && (d.Name() == "node_modules" || d.Name() == ".git") {
			return filepath.SkipDir
		}
		if err != nil || !strings.HasSuffix(name, "_test.go") {
			return err
		}
		b, err := os.ReadFile(name)
		for _, m := range of.FindAllSubmatch(b, -1) {
			there[string(m[1])] = true
		}
		return err
	})
	require.NoError(t, err)
	b, err := os.ReadFile("../docs/guards.md")
	require.NoError(t, err)
	named := regexp.MustCompile("`(Test\\w+)`").FindAllSubmatch(b, -1)
	require.Greater(t, len(named), 25)
	for _, n := range named {
		assert.True(t, there[string(n[1])], "%s is not there", n[1])
	}
}
