package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"corpulan/core/demand"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A list of keywords becomes groups, by words and by saved results pages in three forms; what
// cannot be read is named, and bad use refused.
func TestGroup(t *testing.T) {
	folder := t.TempDir()
	write := func(name, text string) string {
		t.Helper()
		path := filepath.Join(folder, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		return path
	}
	list := write("list.csv", "Keyword;Suchvolumen;KD\nbar mitts;1.900;20\nwarm hands on a bike;10–100;40\nbar mitts 2019;5;1\n***;1;1\nchain lube;30;\n")
	pages := func(from int) (csv, html string) {
		csv = "rank,url\n"
		for i := range 10 {
			csv += fmt.Sprintf("%d,https://m.example/%d\n", i+1, from+i)
			html += fmt.Sprintf(`<div class="result"><h3><a href="https://m.example/%d">A page on %d</a></h3><p>Some words of the page that it has.</p></div>`, from+i, from+i)
		}
		return csv, "<html><body>" + html + "</body></html>"
	}
	csv, _ := pages(0)
	_, html := pages(4)
	write("results/bar-mitts.csv", csv)
	write("results/warm-hands-on-a-bike.html", html)
	write("results/chain-lube.xml", "no feed")
	group := func(args ...string) (demand.Grouping, string) {
		t.Helper()
		code, out, said := call(t, "", append([]string{"group"}, args...)...)
		require.Equal(t, exitDone, code, said)
		var g demand.Grouping
		require.NoError(t, json.Unmarshal([]byte(out), &g))
		return g, said
	}
	g, said := group("--year", "2026", list)
	assert.Len(t, g.Groups, 3)
	assert.Contains(t, said, "1 rows were left out, the first in row 5")
	assert.Equal(t, []demand.Out{{Keyword: "bar mitts 2019", Reason: "it asks for 2019, which is past"}}, g.Out)
	g, said = group("--year", "2026", "--results", filepath.Join(folder, "results"), list)
	require.Len(t, g.Groups, 2, "shared results bring two together")
	assert.Contains(t, said, "chain-lube.xml")
	assert.Equal(t, "bar mitts", g.Groups[0].Name)
	assert.InDelta(t, 1900+31.6, g.Groups[0].Volume.Value, 0.1)
	assert.True(t, g.Groups[0].Shared)
	_, one, _ := call(t, "", "group", list)
	schema, err := jsonschema.NewCompiler().Compile("../../docs/schema/group.json")
	require.NoError(t, err)
	var data any
	require.NoError(t, json.Unmarshal([]byte(one), &data))
	require.NoError(t, schema.Validate(data))
	_, two, _ := call(t, "", "group", list)
	assert.Equal(t, one, two, "the same bytes each time")

	for _, bad := range [][]string{{"group"}, {"group", "--width", "2", list}, {"group", list, list}} {
		code, _, _ := call(t, "", bad...)
		assert.Equal(t, exitWrongUse, code, bad)
	}
	for _, bad := range [][]string{{"group", "nowhere.csv"}, {"group", write("numbers.csv", "1,2\n3,4\n")}, {"group", "--results", t.TempDir(), list}} {
		code, _, said := call(t, "", bad...)
		assert.Equal(t, exitFailed, code, bad)
		assert.NotEmpty(t, said)
	}
}
