package warc_test

import (
	"bytes"
	"encoding/json"
	"iter"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/formats/handed"
	"corpulan/formats/saved"
	"corpulan/formats/warc"
)

func somePages() []saved.Fetched {
	at := time.Date(2026, 11, 24, 7, 30, 0, 0, time.UTC)
	return []saved.Fetched{
		{URL: "http://a.example/", FinalURL: "http://a.example/home", Status: 200, Header: http.Header{"Content-Type": {"text/html; charset=utf-8"}, "Content-Encoding": {"br"}, "Content-Length": {"3"}, "X-Odd": {"one\r\nInjected: yes"}}, ContentType: "text/html; charset=utf-8", Body: []byte("<h1>Größe</h1>"), At: at},
		{URL: "http://b.example/handed in", Status: 0, ContentType: "", Body: []byte("<h1>Handed in</h1>"), At: at.Add(time.Hour)},
	}
}

func each(pages []saved.Fetched) iter.Seq2[saved.Fetched, error] {
	return func(yield func(saved.Fetched, error) bool) {
		for _, p := range pages {
			if !yield(p, nil) {
				return
			}
		}
	}
}

func TestWrite(t *testing.T) {
	var first, second bytes.Buffer
	require.NoError(t, warc.Write(&first, "corpulan test", somePages()[1].At, each(somePages())))
	require.NoError(t, warc.Write(&second, "corpulan test", somePages()[1].At, each(somePages())))
	assert.Equal(t, first.Bytes(), second.Bytes(), "the same pages give the same bytes")
	pages, err := (*handed.Reader)(nil).Pages(t.Context(), "x.warc.gz", &first, nil)
	require.NoError(t, err)
	require.Len(t, pages, 2)
	assert.Equal(t, saved.Saved{URL: "http://a.example/home", ContentType: "text/html; charset=utf-8", Body: []byte("<h1>Größe</h1>")}, pages[0])
	assert.Equal(t, saved.Saved{URL: "http://b.example/handed%20in", ContentType: "text/html", Body: []byte("<h1>Handed in</h1>")}, pages[1])
}

// Read back by warcio (npm), a WARC reader that is not ours, the HTTP within included.
func TestWARCIsReadByOthers(t *testing.T) {
	if _, err := os.Stat("../../node_modules/warcio"); err != nil {
		t.Fatal("warcio is not installed; `make test` installs it")
	}
	var out bytes.Buffer
	require.NoError(t, warc.Write(&out, "corpulan test", somePages()[1].At, each(somePages())))
	file := filepath.Join(t.TempDir(), "x.warc.gz")
	require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
	script := `
import { createReadStream } from 'node:fs'
import { WARCParser } from 'warcio'
const records = []
for await (const r of new WARCParser(createReadStream(process.argv[1]))) {
  records.push({ type: r.warcType, url: r.warcTargetURI ?? '', version: r.warcHeaders.protocol ?? '', status: r.httpHeaders?.statusCode ?? 0, odd: r.httpHeaders?.headers.get('injected') ?? '', text: await r.contentText() })
}
console.log(JSON.stringify(records))`
	cmd := exec.Command("node", "--input-type=module", "-e", script, file)
	cmd.Dir = "../.."
	said, err := cmd.Output()
	var exit *exec.ExitError
	if err != nil && assert.ErrorAs(t, err, &exit) {
		t.Fatal(string(exit.Stderr))
	}
	var records []struct {
		Type, URL, Version, Odd, Text string
		Status                        int
	}
	require.NoError(t, json.Unmarshal(said, &records), string(said))
	require.Len(t, records, 3)
	assert.Equal(t, "warcinfo", records[0].Type)
	assert.Equal(t, "WARC/1.1", records[1].Version)
	assert.Equal(t, []any{"response", "http://a.example/home", 200, "<h1>Größe</h1>", ""}, []any{records[1].Type, records[1].URL, records[1].Status, strings.TrimSpace(records[1].Text), records[1].Odd})
	assert.Equal(t, []any{"resource", "<h1>Handed in</h1>"}, []any{records[2].Type, records[2].Text})
}
