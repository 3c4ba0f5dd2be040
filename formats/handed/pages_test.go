package handed

import (
	"bytes"
	"compress/gzip"
	"encoding/base64"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/formats/saved"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func record(kind, url, contentType, block string) string {
	return fmt.Sprintf("WARC/1.1\r\nWARC-Type: %s\r\nWARC-Target-URI: %s\r\nWARC-Record-ID: <urn:uuid:1>\r\nContent-Type: %s\r\nContent-Length: %d\r\n\r\n%s\r\n\r\n", kind, url, contentType, len(block), block)
}

const httpPage = "HTTP/1.1 200 OK\r\nContent-Type: text/html; charset=utf-8\r\n\r\n<h1>Page</h1>"

// warcFile is a file with every kind of record that is met.
func warcFile() string {
	var zipped bytes.Buffer
	z := gzip.NewWriter(&zipped)
	_, _ = z.Write([]byte("<h1>Zipped</h1>"))
	_ = z.Close()
	return record("warcinfo", "", "application/warc-fields", "software: test\r\n") +
		record("request", "http://a.example/", "application/http;msgtype=request", "GET / HTTP/1.1\r\n\r\n") +
		record("response", "http://a.example/", "application/http; msgtype=response", httpPage) +
		record("response", "<http://b.example/>", "application/http; msgtype=response", "HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nTransfer-Encoding: chunked\r\n\r\n10\r\n<h1>Chunked</h1>\r\n0\r\n\r\n") +
		record("response", "http://c.example/", "application/http; msgtype=response", "HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Encoding: gzip\r\n\r\n"+zipped.String()) +
		record("response", "http://d.example/x.png", "application/http; msgtype=response", "HTTP/1.1 200 OK\r\nContent-Type: image/png\r\n\r\nPNG") +
		record("response", "http://e.example/", "application/http; msgtype=response", "HTTP/1.1 404 Not Found\r\nContent-Type: text/html\r\n\r\ngone") +
		record("response", "dns:f.example", "text/dns", "20260101 f.example. IN A 192.0.2.1") +
		record("resource", "http://g.example/", "text/html", "<h1>Resource</h1>")
}

func savedIn(t *testing.T, name, content string) []string {
	t.Helper()
	pages, err := (*Reader)(nil).Pages(t.Context(), name, strings.NewReader(content), nil)
	require.NoError(t, err)
	var list []string
	for _, p := range pages {
		list = append(list, p.URL+" "+string(p.Body))
	}
	return list
}

func TestWARC(t *testing.T) {
	want := []string{"http://a.example/ <h1>Page</h1>", "http://b.example/ <h1>Chunked</h1>", "http://c.example/ <h1>Zipped</h1>", "http://g.example/ <h1>Resource</h1>"}
	assert.Equal(t, want, savedIn(t, "x.warc", warcFile()))
	// gzip with a member for each record (ISO 28500, annex D), and as a whole.
	var each, whole bytes.Buffer
	for _, rec := range strings.SplitAfter(warcFile(), "\r\n\r\nWARC") {
		z := gzip.NewWriter(&each)
		_, _ = z.Write([]byte(rec))
		_ = z.Close()
	}
	z := gzip.NewWriter(&whole)
	_, _ = z.Write([]byte(warcFile()))
	_ = z.Close()
	assert.Equal(t, want, savedIn(t, "x.warc.gz", each.String()))
	assert.Equal(t, want, savedIn(t, "x.warc.gz", whole.String()))
}

func TestBrokenArchives(t *testing.T) {
	for name, content := range map[string]string{
		"no length":        "WARC/1.0\r\nWARC-Type: response\r\n\r\n",
		"negative length":  "WARC/1.0\r\nContent-Length: -4\r\n\r\n",
		"not a record":     record("warcinfo", "", "x", "y") + "rubbish\r\n",
		"header cut off":   "WARC/1.0\r\nWARC-Ty",
		"no pages":         record("warcinfo", "", "application/warc-fields", "x"),
		"gzip cut off":     "\x1f\x8b\x08",
		"mhtml of nothing": "MIME-Version: 1.0\r\nContent-Type: multipart/related; boundary=x\r\n\r\n--x--\r\n",
		"mhtml no bounds":  "MIME-Version: 1.0\r\nContent-Type: multipart/related\r\n\r\n",
	} {
		_, err := (*Reader)(nil).Pages(t.Context(), "file", strings.NewReader(content), nil)
		assert.Error(t, err, name)
	}
	pages, err := (*Reader)(nil).Pages(t.Context(), "x.warc", strings.NewReader(record("response", "http://a.example/", "application/http", httpPage)+"rubbish\r\n"), nil)
	assert.Error(t, err)
	assert.Len(t, pages, 1, "what was read before the break is not lost")
}

// A file that breaks off is not taken for a whole one, wherever it does.
func TestAWARCThatBreaksOff(t *testing.T) {
	whole := record("response", "http://a.example/", "application/http", httpPage) + record("response", "http://b.example/", "application/http", httpPage)
	second := len(whole) / 2
	for at := second + 1; at < len(whole)-4; at++ { // the empty lines after a record may be missing
		pages, err := (*Reader)(nil).Pages(t.Context(), "x.warc", strings.NewReader(whole[:at]), nil)
		require.Error(t, err, at)
		require.Len(t, pages, 1, at)
	}
	var z bytes.Buffer
	w := gzip.NewWriter(&z)
	_, _ = w.Write([]byte(whole))
	_ = w.Close()
	_, err := (*Reader)(nil).Pages(t.Context(), "x.warc.gz", bytes.NewReader(z.Bytes()[:z.Len()-12]), nil)
	assert.Error(t, err)
}

// What comes out of files is bounded, however it is packed.
func TestPackedFilesAreBounded(t *testing.T) {
	pack := func(b []byte) []byte {
		var out bytes.Buffer
		z := gzip.NewWriter(&out)
		_, _ = z.Write(b)
		_ = z.Close()
		return out.Bytes()
	}
	zeros := make([]byte, 16<<20)
	_, err := (*Reader)(nil).Pages(t.Context(), "x.html.gz", bytes.NewReader(pack(zeros)), saved.NewBudget(1<<20))
	assert.ErrorIs(t, err, saved.ErrTooMuch)
	_, err = (*Reader)(nil).Pages(t.Context(), "x.html.gz", bytes.NewReader(pack(pack([]byte("<p>x")))), saved.NewBudget(1<<20))
	assert.ErrorContains(t, err, "packed more than once")
	inner := record("response", "http://a.example/", "application/http", "HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Encoding: gzip\r\n\r\n"+string(pack(zeros)))
	_, err = (*Reader)(nil).Pages(t.Context(), "x.warc", strings.NewReader(inner), saved.NewBudget(1<<20))
	assert.ErrorIs(t, err, saved.ErrTooMuch)
	endless := "WARC/1.0\r\nWARC-Type: response\r\n" + strings.Repeat("X-Field: x\r\n", 100_000)
	_, err = (*Reader)(nil).Pages(t.Context(), "x.warc", strings.NewReader(endless), nil)
	assert.ErrorContains(t, err, "header is longer than")
	line := "WARC/1.0\r\nWARC-Type: " + strings.Repeat("x", 1<<20) + "\r\n\r\n"
	_, err = (*Reader)(nil).Pages(t.Context(), "x.warc", strings.NewReader(line), nil)
	assert.ErrorContains(t, err, "header is longer than")

	budget := saved.NewBudget(3 << 20) // for all files of an upload together
	for i := range 4 {
		_, err = (*Reader)(nil).Pages(t.Context(), "x.html", bytes.NewReader(zeros[:1<<20]), budget)
		assert.Equal(t, i == 3, err != nil, i)
	}
}

func TestSavedFrom(t *testing.T) {
	page := "<!DOCTYPE html>\n<!-- saved from url=(0029)https://a.example/guides?x=1 -->\n<h1>x</h1>"
	assert.Equal(t, []string{"https://a.example/guides?x=1 " + page}, savedIn(t, "x.html", page))
}

func mhtmlFile(encoding, body string) string {
	return "From: <Saved by a browser>\r\nSnapshot-Content-Location: http://a.example/page\r\nMIME-Version: 1.0\r\nContent-Type: multipart/related;\r\n\ttype=\"text/html\";\r\n\tboundary=\"--b--\"\r\n\r\n" +
		"----b--\r\nContent-Type: image/png\r\nContent-Location: http://a.example/x.png\r\n\r\nPNG\r\n" +
		"----b--\r\nContent-Type: text/html\r\nContent-Transfer-Encoding: " + encoding + "\r\nContent-Location: http://a.example/page\r\n\r\n" + body + "\r\n----b----\r\n"
}

func TestMHTML(t *testing.T) {
	want := []string{"http://a.example/page <h1>Größe</h1>"}
	assert.Equal(t, want, savedIn(t, "x.mhtml", mhtmlFile("quoted-printable", "<h1>Gr=C3=B6=C3=9F=\r\ne</h1>")))
	assert.Equal(t, want, savedIn(t, "saved", mhtmlFile("base64", strings.Join(strings.SplitAfter(base64.StdEncoding.EncodeToString([]byte("<h1>Größe</h1>")), "P"), "\r\n "))))
	assert.Equal(t, want, savedIn(t, "x.mht", mhtmlFile("8bit", "<h1>Größe</h1>")))
}

func TestPlainPages(t *testing.T) {
	assert.Equal(t, []string{" <h1>x</h1>"}, savedIn(t, "x.html", "<h1>x</h1>"))
	assert.Equal(t, []string{" "}, savedIn(t, "x.html", ""))
	_, err := (*Reader)(nil).Pages(t.Context(), "x.html", strings.NewReader(strings.Repeat("x", saved.LargestSaved+1)), nil)
	assert.ErrorContains(t, err, "larger than 20 MiB")
}

// A file as Debian's wget writes it, made here.
func TestWARCByWget(t *testing.T) {
	wget, err := exec.LookPath("wget")
	if err != nil {
		t.Fatal("Debian's package wget is not installed; `make test` installs it")
	}
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		fmt.Fprintf(w, "<h1>Page %s</h1>", r.URL.Path)
	}))
	defer srv.Close()
	dir := t.TempDir()
	cmd := exec.Command(wget, "-q", "--no-proxy", "-O", "/dev/null", "--warc-file=w", srv.URL+"/one", srv.URL+"/two")
	cmd.Dir = dir
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
	f, err := os.Open(filepath.Join(dir, "w.warc.gz"))
	require.NoError(t, err)
	defer f.Close()
	pages, err := (*Reader)(nil).Pages(t.Context(), "w.warc.gz", f, nil)
	require.NoError(t, err)
	require.Len(t, pages, 2)
	assert.Equal(t, srv.URL+"/one", pages[0].URL)
	assert.Equal(t, "<h1>Page /two</h1>", string(pages[1].Body))
}

func FuzzPages(f *testing.F) {
	f.Add("x.warc", []byte(warcFile()))
	f.Add("x.mhtml", []byte(mhtmlFile("base64", "PGgxPg==")))
	f.Add("x.html", []byte("<p>"))
	f.Add("x.warc.gz", []byte("\x1f\x8b\x08\x00\x00\x00\x00\x00\x00\x03"))
	f.Fuzz(func(t *testing.T, name string, b []byte) {
		pages, err := (*Reader)(nil).Pages(t.Context(), name, bytes.NewReader(b), saved.NewBudget(1<<20))
		if err == nil && len(pages) == 0 {
			t.Fatal("neither pages nor an error")
		}
	})
}
