package handed

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"os/exec"
	"runtime"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"corpulan/core/message"
	"corpulan/formats/manuscript"
	"corpulan/formats/pdf"
	"corpulan/formats/saved"

	"codeberg.org/go-pdf/fpdf"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The tests' program is its own child, and two that never end.
func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == "hoard" {
		bound(maxMemory, maxSeconds)
		for all := [][]byte{}; ; {
			all = append(all, bytes.Repeat([]byte("x"), 8<<20))
		}
	}
	if len(os.Args) > 1 && os.Args[1] == "spin" {
		bound(maxMemory, 1)
		for n := 0; ; n++ {
			runtime.KeepAlive(n)
		}
	}
	if len(os.Args) > 1 && os.Args[1] == Command {
		if err := Serve(os.Stdin, os.Stdout); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	os.Exit(m.Run())
}

func apart(t testing.TB) *Reader {
	t.Helper()
	program, err := os.Executable()
	require.NoError(t, err)
	return New(program, "", 2)
}

func pdfOf(t testing.TB, text string) []byte {
	t.Helper()
	p := fpdf.New("P", "mm", "A4", "")
	p.AddPage()
	p.SetFont("Helvetica", "", 12)
	p.Cell(40, 10, text)
	var b bytes.Buffer
	require.NoError(t, p.Output(&b))
	return b.Bytes()
}

// What a process apart reads is what this one reads, to the error and its message.
func TestApartIsTheSame(t *testing.T) {
	r, here := apart(t), (*Reader)(nil)
	same := func(name string, a, b any, err, otherwise error) {
		t.Helper()
		assert.Equal(t, b, a, name)
		if otherwise == nil {
			require.NoError(t, err, name)
			return
		}
		require.Error(t, err, name)
		assert.Equal(t, message.OfError(otherwise), message.OfError(err), name)
		for _, k := range known() {
			assert.Equal(t, assert.ObjectsAreEqual(true, isOf(otherwise, k)), isOf(err, k), "%s: %v", name, k)
		}
	}
	for name, file := range map[string]string{"a.pdf": string(pdfOf(t, "A chain wants wax.")), "a.vtt": "WEBVTT\n\n00:01.000 --> 00:02.000\n<v Wren>Ice", "b.pdf": "none", "c.pdf": "%PDF-1.7\n%%EOF", "d.txt": " ", "e.bin": "\x7fELF\x00\x00",
		"f.md": "---\ntitle: T\n---\n# Tyres\n\n- *one*\n- [two](https://a.example/)\n"} {
		a, err := r.Source(t.Context(), name, []byte(file))
		b, otherwise := here.Source(t.Context(), name, []byte(file))
		same(name, a, b, err, otherwise)
		a, err = r.Draft(t.Context(), name, strings.NewReader(file))
		b, otherwise = here.Draft(t.Context(), name, strings.NewReader(file))
		same("draft "+name, a, b, err, otherwise)
	}
	for name, file := range map[string]string{"a.warc": warcFile(), "b.warc": warcFile() + "rubbish\r\n", "c.mhtml": mhtmlFile("base64", "PGgxPg=="), "d.html": "<p>x", "e.warc": record("warcinfo", "", "x", "y"), "f.html.gz": "\x1f\x8b\x08"} {
		theirs, ours := saved.NewBudget(1<<20), saved.NewBudget(1<<20)
		a, err := r.Pages(t.Context(), name, strings.NewReader(file), theirs)
		b, otherwise := here.Pages(t.Context(), name, strings.NewReader(file), ours)
		same(name, a, b, err, otherwise)
		assert.Equal(t, ours.Left(), theirs.Left(), name)
	}
	for name, file := range map[string]string{"a.csv": "URL;Rank\nhttps://a.example/;1\n", "b.csv": "", "c.xlsx": "PK\x03\x04", "d.csv": "a,b\n" + strings.Repeat("x,y\n", 20)} {
		a, err := r.Table(t.Context(), name, strings.NewReader(file), 10)
		b, otherwise := here.Table(t.Context(), name, strings.NewReader(file), 10)
		same(name, a, b, err, otherwise)
	}
	for name, file := range map[string]string{"pages": "<urlset><url><loc>https://a.example/</loc><lastmod>2026-11-30</lastmod></url></urlset>", "an index": "<sitemapindex><sitemap><loc>https://a.example/b.xml</loc></sitemap></sitemapindex>",
		"lines": "https://a.example/\nnothing\n", "none": "<html>", "cut": "<urlset><url><loc>https://a.example/</loc></url><url>"} {
		a, err := r.Sitemap(t.Context(), []byte(file))
		b, otherwise := here.Sitemap(t.Context(), []byte(file))
		same("sitemap: "+name, a, b, err, otherwise)
	}
}

func isOf(err, k error) bool {
	for ; err != nil; err = unwrap(err) {
		if err == k {
			return true
		}
	}
	return false
}

func unwrap(err error) error {
	u, ok := err.(interface{ Unwrap() error })
	if !ok {
		return nil
	}
	return u.Unwrap()
}

// A budget is one for all files of an upload, whichever process reads them.
func TestABudgetApart(t *testing.T) {
	r, budget := apart(t), saved.NewBudget(3<<20)
	for i := range 4 {
		_, err := r.Pages(t.Context(), "x.html", bytes.NewReader(make([]byte, 1<<20)), budget)
		assert.Equal(t, i == 3, err != nil, i)
		if i == 3 {
			assert.ErrorIs(t, err, saved.ErrTooMuch)
		}
	}
}

// zipOf packs parts, each of which is a text many times over.
func zipOf(t testing.TB, parts map[string][]string) []byte {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for name, texts := range parts {
		w, err := z.Create(name)
		require.NoError(t, err)
		for _, x := range texts {
			_, err = io.WriteString(w, x)
			require.NoError(t, err)
		}
	}
	require.NoError(t, z.Close())
	return b.Bytes()
}

// sheetOf is a workbook whose one sheet has rows of a cell in the last column there is.
func sheetOf(t testing.TB, rows int) []byte {
	t.Helper()
	var b strings.Builder
	b.WriteString(`<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>`)
	for i := 1; i <= rows; i++ {
		fmt.Fprintf(&b, `<row r="%d"><c r="XFD%d"><v>1</v></c></row>`, i, i)
	}
	b.WriteString(`</sheetData></worksheet>`)
	const types = `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`
	const root = `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`
	const book = `<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="s" sheetId="1" r:id="r1"/></sheets></workbook>`
	const rels = `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`
	return zipOf(t, map[string][]string{"[Content_Types].xml": {types}, "_rels/.rels": {root}, "xl/workbook.xml": {book}, "xl/_rels/workbook.xml.rels": {rels}, "xl/worksheets/sheet1.xml": {b.String()}})
}

// loopingPDF is a PDF of few bytes whose pages are their own children.
func loopingPDF() []byte {
	var b bytes.Buffer
	b.WriteString("%PDF-1.4\n")
	var at []int
	for _, o := range []string{"<</Type/Catalog/Pages 2 0 R>>", "<</Type/Pages/Count 9/Kids[2 0 R]>>"} {
		at = append(at, b.Len())
		fmt.Fprintf(&b, "%d 0 obj%s endobj\n", len(at), o)
	}
	x := b.Len()
	b.WriteString("xref\n0 3\n0000000000 65535 f \n")
	for _, n := range at {
		fmt.Fprintf(&b, "%010d 00000 n \n", n)
	}
	fmt.Fprintf(&b, "trailer<</Root 1 0 R/Size 3>>\nstartxref\n%d\n%%%%EOF", x)
	return b.Bytes()
}

// Files made to do harm are refused in bounded time, whatever they are, and this process is not
// touched by them: it is the children that end.
func TestFilesMadeToDoHarm(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a minute")
	}
	r := apart(t)
	deep := "%PDF-1.4\n1 0 obj\n" + strings.Repeat("[", 30<<20) + "\nendobj\nxref\n0 2\n0000000000 65535 f \n0000000009 00000 n \ntrailer<</Root 1 0 R/Size 2>>\nstartxref\n" + fmt.Sprint(9+8+30<<20+8) + "\n%%EOF"
	harm := map[string]func(context.Context) error{
		"pages in a circle": func(ctx context.Context) error {
			_, err := r.Source(ctx, "a.pdf", loopingPDF())
			return err
		},
		"lists in lists": func(ctx context.Context) error {
			_, err := r.Source(ctx, "b.pdf", []byte(deep))
			return err
		},
		"column XFD": func(ctx context.Context) error {
			_, err := r.Table(ctx, "c.xlsx", bytes.NewReader(sheetOf(t, 20_000)), 100_000)
			return err
		},
		"front matter": func(ctx context.Context) error {
			_, err := r.Draft(ctx, "d.md", strings.NewReader("---\na: "+strings.Repeat("[", 20_000)+"\n---\nx"))
			return err
		},
		"a DOCX of one text": func(ctx context.Context) error {
			_, err := r.Draft(ctx, "e.docx", bytes.NewReader(zipOf(t, map[string][]string{"word/document.xml": {"<w:document><w:body><w:p>", strings.Repeat("<w:r><w:t>x</w:t></w:r>", 1_000_000)}})))
			return err
		},
	}
	var mu sync.Mutex
	took := map[string]time.Duration{}
	t.Run("all", func(t *testing.T) {
		for name, do := range harm {
			t.Run(name, func(t *testing.T) {
				t.Parallel()
				began := time.Now()
				err := do(t.Context())
				mu.Lock()
				took[name] = time.Since(began)
				mu.Unlock()
				t.Logf("%v: %v", time.Since(began), err)
				require.Error(t, err)
			})
		}
	})
	for name, d := range took {
		assert.Less(t, d, maxWaiting, name)
	}
}

// What memory and time a process may take the system sees to.
func TestBoundsOfAProcess(t *testing.T) {
	for does, says := range map[string]string{"hoard": "more than 640 MB of memory", "spin": "more than 20 seconds"} {
		cmd := exec.CommandContext(t.Context(), os.Args[0], does)
		said := &beginning{}
		cmd.Stderr = said
		err := cmd.Run()
		require.Error(t, err, does)
		assert.ErrorContains(t, gaveUp(err, t.Context(), said.String()), says)
		assert.LessOrEqual(t, cmd.ProcessState.SysUsage().(*syscall.Rusage).Maxrss, int64(700<<10), "%s: kB", does)
	}
}

// A process that does not begin, one that is not waited for any longer, and one that ends early.
func TestProcessesThatFail(t *testing.T) {
	_, err := New("/nowhere/corpulan", "", 1).Source(t.Context(), "a.md", []byte("x"))
	require.ErrorContains(t, err, "reading what was handed in")
	ended, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = apart(t).Source(ended, "a.md", []byte("x"))
	require.ErrorIs(t, err, context.Canceled)
	_, err = New("/bin/false", "", 1).Source(t.Context(), "a.md", []byte("x"))
	require.ErrorContains(t, err, "came to no end")

	full := apart(t)
	full.turns = make(chan struct{}, 1)
	full.turns <- struct{}{}
	short, cancel := context.WithTimeout(t.Context(), 20*time.Millisecond)
	defer cancel()
	_, err = full.Draft(short, "a.md", strings.NewReader("x"))
	require.ErrorIs(t, err, context.DeadlineExceeded, "it waits for its turn, and no longer than it is waited for")
	require.NotErrorIs(t, err, manuscript.ErrNoDraft)
	require.NotErrorIs(t, err, pdf.ErrNoText)
}
