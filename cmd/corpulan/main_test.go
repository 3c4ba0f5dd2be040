package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// call runs the program as the shell would.
func call(t *testing.T, stdin string, args ...string) (code int, out, errs string) {
	t.Helper()
	var o, e bytes.Buffer
	code = run(t.Context(), args, stdio{strings.NewReader(stdin), &o, &e})
	return code, o.String(), e.String()
}

const page = `<html lang="en"><title>Chains</title><body><h1>Chains</h1><p>The chain is wiped after every ride, and the wet lube is put on once a week, all winter long.</p><h2>Wet lube</h2><p>It clings to the chain in rain, and a chain with wet lube lasts.</p>`

func file(t *testing.T, name, content string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, []byte(content), 0o600))
	return path
}

func TestRead(t *testing.T) {
	a, b := file(t, "a.html", page), file(t, "b.html", strings.ReplaceAll(page, "Chains", "Brakes"))
	code, out, errs := call(t, "", "read", a, b)
	assert.Equal(t, exitDone, code, errs)
	lines := strings.Split(strings.TrimSpace(out), "\n")
	require.Len(t, lines, 2, "one reading a line")
	var r struct {
		Title    string
		Sections []struct {
			Level         int
			Heading, Text string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(lines[1]), &r))
	assert.Equal(t, "Brakes", r.Title)
	assert.Equal(t, 0, r.Sections[0].Level)
	code, again, _ := call(t, page, "read", "--url", "http://a.example/x", "-")
	assert.Equal(t, exitDone, code)
	assert.Contains(t, again, `"url":"http://a.example/x"`)
}

// A WARC file gives a reading for each page in it, under its own address.
func TestReadArchives(t *testing.T) {
	block := "HTTP/1.1 200 OK\r\nContent-Type: text/html\r\n\r\n" + page
	record := func(url string) string {
		return fmt.Sprintf("WARC/1.1\r\nWARC-Type: response\r\nWARC-Target-URI: %s\r\nContent-Type: application/http\r\nContent-Length: %d\r\n\r\n%s\r\n\r\n", url, len(block), block)
	}
	code, out, errs := call(t, "", "read", file(t, "two.warc", record("http://a.example/1")+record("http://b.example/2")))
	assert.Equal(t, exitDone, code, errs)
	assert.Equal(t, 2, strings.Count(out, "\n"))
	assert.Contains(t, out, `"url":"http://b.example/2"`)
	code, out, errs = call(t, "", "read", file(t, "page.mhtml", "MIME-Version: 1.0\r\nContent-Type: multipart/related; boundary=b\r\n\r\n--b\r\nContent-Type: text/html\r\nContent-Location: http://c.example/\r\n\r\n"+page+"\r\n--b--\r\n"))
	assert.Equal(t, exitDone, code, errs)
	assert.Contains(t, out, `"url":"http://c.example/","title":"Chains"`)
}

func TestAFileThatCannotBeReadIsNamedAndSkipped(t *testing.T) {
	good, pdf, empty := file(t, "good.html", page), file(t, "doc.pdf", "%PDF-1.4"), file(t, "empty.html", "")
	code, out, errs := call(t, "", "read", "/no/such/file.html", pdf, empty, good)
	assert.Equal(t, exitDone, code, "one could be read")
	assert.Equal(t, 1, strings.Count(out, "\n"))
	for _, name := range []string{"/no/such/file.html", pdf, empty} {
		assert.Contains(t, errs, name)
	}
	assert.Contains(t, errs, "a PDF document")
	code, _, errs = call(t, "", "read", pdf)
	assert.Equal(t, exitFailed, code, "none could")
	assert.Contains(t, errs, "none of the files could be read")
	code, _, errs = call(t, "", "brief", "--keyword", "x", empty)
	assert.Equal(t, exitFailed, code, errs)
}

func TestBrief(t *testing.T) {
	a, b := file(t, "a.html", page), file(t, "b.html", strings.ReplaceAll(page, "all winter long", "the whole year"))
	for format, want := range map[string]string{"json": `"schema": "corpulan/brief/1"`, "md": "# Brief: bike chains", "html": "<h1>bike chains</h1>"} {
		code, out, errs := call(t, "", "brief", "--keyword", "bike chains", "--format", format, a, b)
		assert.Equal(t, exitDone, code, errs)
		assert.Contains(t, out, want)
		_, again, _ := call(t, "", "brief", "--keyword", "bike chains", "--format", format, a, b)
		assert.Equal(t, out, again, "same input, same bytes")
	}
	to := filepath.Join(t.TempDir(), "brief.md")
	code, out, _ := call(t, "", "brief", "--keyword", "bike chains", "--format", "md", "--out", to, a, b)
	assert.Equal(t, exitDone, code)
	assert.Empty(t, out)
	assert.FileExists(t, to)
	code, _, errs := call(t, "", "brief", "--keyword", "x", "--out", "/no/such/folder/x", a)
	assert.Equal(t, exitFailed, code)
	assert.Equal(t, 1, strings.Count(errs, "\n"), "one line on standard error")
}

// Evidence comes with the addresses and the questions it is given, and a page
// that cannot be read leaves the others their ranks.
func TestEvidence(t *testing.T) {
	a, bad, b := file(t, "a.html", page), file(t, "bad.html", ""), file(t, "b.html", strings.ReplaceAll(page, "clings", "sticks"))
	results := file(t, "results.json", `{"asked": ["How long does wet lube last?"], "related": ["best wet lube"]}`)
	addresses := file(t, "addresses", "https://one.example/chains?a=1,2\n\nhttps://three.example/\n")
	code, out, errs := call(t, "", "evidence", "--keyword", "wet lube", "--results", results, "--addresses", addresses, a, bad, b)
	require.Equal(t, exitDone, code, errs)
	assert.Contains(t, errs, bad)
	var e struct {
		Sources []struct {
			Rank int
			URL  string
		}
		Terms []struct {
			Text   string
			Pages  int
			Counts []int
		}
		Questions []struct{ Text string }
		Themes    []struct {
			Label   string
			Pages   int
			Members []struct {
				Rank int
				Text string
			}
		}
		Related []string
	}
	require.NoError(t, json.Unmarshal([]byte(out), &e))
	require.Len(t, e.Sources, 2)
	assert.Equal(t, "https://one.example/chains?a=1,2", e.Sources[0].URL)
	assert.Equal(t, 3, e.Sources[1].Rank)
	assert.Equal(t, "How long does wet lube last?", e.Questions[0].Text)
	assert.Equal(t, []string{"best wet lube"}, e.Related)
	require.NotEmpty(t, e.Terms)
	assert.Len(t, e.Terms[0].Counts, 2)
	require.Len(t, e.Themes, 1)
	assert.Equal(t, "Wet lube", e.Themes[0].Label)
	assert.Equal(t, 3, e.Themes[0].Members[1].Rank)
	_, again, _ := call(t, "", "evidence", "--keyword", "wet lube", "--results", results, "--addresses", addresses, a, bad, b)
	assert.Equal(t, out, again, "same input, same bytes")

	for says, args := range map[string][]string{
		"2 lines for 1 files": {"--addresses", file(t, "two", "http://a.example/\nhttp://b.example/"), a},
		"line 1":              {"--addresses", file(t, "none", "not an address"), a},
		`is not {"asked"`:     {"--results", file(t, "list.json", "[1]"), a},
		"no such file":        {"--results", "/no/such/file", a},
		"none of the files":   {bad},
	} {
		code, out, errs := call(t, "", append([]string{"evidence", "--keyword", "x"}, args...)...)
		assert.Equal(t, exitFailed, code, says)
		assert.Empty(t, out)
		assert.Contains(t, errs, says)
	}
}

func TestWrongUse(t *testing.T) {
	for _, args := range [][]string{{}, {"fly"}, {"read"}, {"read", "--frob", "x"}, {"read", "--url", "http://a.example/", "a", "b"}, {"brief", "x.html"}, {"evidence", "x.html"}, {"evidence", "--keyword", "x"},
		{"brief", "--keyword", "  ", "x.html"}, {"brief", "--keyword", "x"}, {"brief", "--keyword", "x", "--format", "exe", "x.html"}, {"demo", "--frob"}, {"demo", "--reset", "--database", "postgres://x"}, {"work"}, {"serve"}, {"serve", "--listen", "0.0.0.0:80"}} {
		code, out, errs := call(t, "", args...)
		assert.Equal(t, exitWrongUse, code, "%v", args)
		assert.Empty(t, out)
		assert.Contains(t, errs, "usage", "%v", args)
	}
	code, out, _ := call(t, "", "help")
	assert.Equal(t, exitDone, code)
	for _, c := range commands() {
		assert.Contains(t, out, c.name)
		code, help, errs := call(t, "", c.name, "-h")
		if c.name != "version" {
			assert.Equal(t, []any{exitDone, ""}, []any{code, errs}, c.name)
			assert.Contains(t, help, "usage: corpulan "+c.name)
		}
	}
	code, out, _ = call(t, "", "version")
	assert.Equal(t, exitDone, code)
	assert.Contains(t, out, "corpulan")
}

// Nothing but loopback may be listened on while there is no sign-in.
func TestServeStaysOnLoopback(t *testing.T) {
	for listen, ok := range map[string]bool{"127.0.0.1:80": true, "localhost:1": true, "[::1]:80": true, "0.0.0.0:80": false, ":80": false, "10.0.0.1:80": false, "nonsense": false} {
		assert.Equal(t, ok, loopback(listen), listen)
	}
}

func itoa(n int) string { return strconv.Itoa(n) }
