package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"corpulan/formats/saved"
	"corpulan/formats/warc"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Two saved gatherings become what moved, of the published form and the same each time.
func TestCompare(t *testing.T) {
	folder := t.TempDir()
	warc := func(name string, pages ...[2]string) string {
		t.Helper()
		f, err := os.Create(filepath.Join(folder, name))
		require.NoError(t, err)
		defer f.Close()
		require.NoError(t, warc.Write(f, "a test", time.Unix(0, 0), func(yield func(saved.Fetched, error) bool) {
			for _, p := range pages {
				body := "<html lang=en><title>" + p[0] + "</title><article><h1>Bike chains</h1><p>" + p[1] + "</p></article>"
				if p[1] == "" {
					body = ""
				}
				if !yield(saved.Fetched{URL: "https://" + p[0] + ".example/", Status: 200, Header: map[string][]string{"Content-Type": {"text/html"}}, Body: []byte(body)}, nil) {
					return
				}
			}
		}))
		return f.Name()
	}
	was := warc("old.warc", [2]string{"a", "Wax keeps a chain clean. Oil draws dirt."}, [2]string{"b", "Measure the chain each month."}, [2]string{"c", "A worn chain eats the cassette."})
	now := warc("new.warc", [2]string{"b", "Measure the chain each month. Ask the shop for a gauge."}, [2]string{"a", "Wax keeps a chain clean. Oil draws dirt."}, [2]string{"d", ""}, [2]string{"e", "Chains differ in width."})
	asked := filepath.Join(folder, "asked.json")
	require.NoError(t, os.WriteFile(asked, []byte(`{"asked": ["How long does a chain last?"], "related": []}`), 0o600))
	code, out, said := call(t, "", "compare", "--keyword", "bike chains", "--results-after", asked, was, now)
	require.Equal(t, exitDone, code, said)
	assert.Contains(t, said, "new.warc https://d.example/: the page is empty")
	var doc any
	require.NoError(t, json.Unmarshal([]byte(out), &doc))
	schema, err := jsonschema.NewCompiler().Compile("../../docs/schema/compare.json")
	require.NoError(t, err)
	require.NoError(t, schema.Validate(doc))
	var m struct {
		Ranks []struct {
			URL           string
			Before, After *int
		}
		Pages []struct {
			URL        string
			Added, Cut []string
		}
		Asked struct{ New []string }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &m))
	var ranks []string
	at := func(p *int) string {
		if p == nil {
			return "-"
		}
		return fmt.Sprint(*p)
	}
	for _, r := range m.Ranks {
		ranks = append(ranks, strings.TrimPrefix(r.URL, "https://")[:1]+at(r.Before)+at(r.After))
	}
	assert.Equal(t, []string{"b21", "a12", "d-3", "e-4", "c3-"}, ranks)
	assert.Equal(t, []string{"Ask the shop for a gauge."}, m.Pages[0].Added)
	assert.Empty(t, m.Pages[1].Added)
	assert.Equal(t, []string{"How long does a chain last?"}, m.Asked.New)

	_, again, _ := call(t, "", "compare", "--keyword", "bike chains", "--results-after", asked, was, now)
	assert.Equal(t, out, again)
	for _, wrong := range [][]string{{was, now}, {"--keyword", "k", was}, {"--keyword", "k"}, {"--keyword", "k", was, now, was}} {
		code, _, said := call(t, "", append([]string{"compare"}, wrong...)...)
		assert.Equal(t, exitWrongUse, code, said)
	}
	twice := warc("twice.warc", [2]string{"a", "Wax keeps a chain clean."}, [2]string{"a", "Wax keeps a chain clean."}, [2]string{"b", "Measure the chain."})
	_, out, _ = call(t, "", "compare", "--keyword", "k", twice, twice)
	require.NoError(t, json.Unmarshal([]byte(out), &m))
	assert.Len(t, m.Ranks, 2, "a page that stands in it twice")
	code, _, said = call(t, "", "compare", "--keyword", "k", was, filepath.Join(folder, "none.warc"))
	assert.Equal(t, exitFailed, code, said)
}
