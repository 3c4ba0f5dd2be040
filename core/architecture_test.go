// Package core_test holds the core to its rule: it knows nothing of what is
// built on it.
package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Arrows point down: cmd -> web, jobs -> study -> queue, store, gather, render -> core.
func TestArrowsPointDown(t *testing.T) {
	below := map[string][]string{
		"core":     {"core"},
		"evaluate": {"core"},
		"render":   {"core"},
		"gather":   {"core"},
		"localpg":  {},
		"standin":  {},
		"store":    {"core"},
		"queue":    {"core", "store"},
		"study":    {"core", "gather", "queue", "store"},
		"jobs":     {"core", "gather", "queue", "store", "study"},
		"web":      {"core", "render", "gather", "queue", "store", "study"},
	}
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "corpulan/...").Output()
	require.NoError(t, err)
	for line := range strings.Lines(string(out)) {
		fields := strings.Fields(line)
		from := room(fields[0])
		allowed, ruled := below[from]
		if !ruled || strings.HasSuffix(fields[0], "/storetest") || strings.HasSuffix(fields[0], "/withpg") {
			continue
		}
		for _, to := range fields[1:] {
			if strings.HasPrefix(to, "corpulan/") && room(to) != from {
				assert.Contains(t, allowed, room(to), "%s imports %s", fields[0], to)
			}
			if from == "core" {
				assert.NotContains(t, []string{"database/sql", "html/template", "net", "os", "math/rand", "math/rand/v2"}, to, "%s imports %s", fields[0], to)
			}
		}
	}
}

func room(path string) string {
	return strings.Split(strings.TrimPrefix(path, "corpulan/"), "/")[0]
}
