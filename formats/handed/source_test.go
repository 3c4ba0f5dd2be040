package handed

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/core/draft"
	"corpulan/formats/pdf"

	"codeberg.org/go-pdf/fpdf"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func textOf(n *draft.Node) string {
	var parts []string
	for _, b := range n.Blocks() {
		mark := ""
		if b.Heading > 0 {
			mark = strings.Repeat("#", b.Heading) + " "
		}
		parts = append(parts, mark+b.Text)
	}
	return strings.Join(parts, "\n")
}

// The example of section 1.3 of WebVTT (W3C), with its voices, notes and settings; cues of one
// speaker are one paragraph.
func TestWebVTT(t *testing.T) {
	n, err := (*Reader)(nil).Source(t.Context(), "interview.vtt", []byte(`WEBVTT

NOTE a comment, which nobody says

00:11.000 --> 00:13.000
<v Roger Bingham>We are in New York City

00:13.000 --> 00:16.000
<v Roger Bingham>We’re actually at the Lucern Hotel, just down the street

00:16.000 --> 00:18.000 align:start size:50%
<v Roger Bingham>from the American Museum of Natural History

00:18.000 --> 00:20.000
<v Neil deGrasse Tyson>Didn’t we talk about <i>enough</i> in that conversation?
`))
	require.NoError(t, err)
	assert.Equal(t, "Roger Bingham: We are in New York City We’re actually at the Lucern Hotel, just down the street from the American Museum of Natural History\n"+
		"Neil deGrasse Tyson: Didn’t we talk about enough in that conversation?", textOf(n))
}

// SubRip as its program documents it (number, span with a comma, lines, an empty line), from memory.
func TestSubRip(t *testing.T) {
	n, err := (*Reader)(nil).Source(t.Context(), "talk.txt", []byte("1\r\n00:02:16,612 --> 00:02:19,376\r\nSenator, we're making\r\nour final approach.\r\n\r\n2\r\n00:02:19,482 --> 00:02:21,609\r\nVery good, Lieutenant.\r\n\r\n3\r\n00:02:30,000 --> 00:02:31,000\r\n<i>Thank you.</i>\r\n"))
	require.NoError(t, err, "it is known by what is in it")
	assert.Equal(t, "Senator, we're making our final approach. Very good, Lieutenant.\nThank you.", textOf(n), "a pause ends a paragraph")
}

// Eight hours of speech become parts by time, in time.
func TestALongTranscript(t *testing.T) {
	var b strings.Builder
	b.WriteString("WEBVTT\n\n")
	for s := 0; s < 8*3600; s += 4 {
		fmt.Fprintf(&b, "%02d:%02d:%02d.000 --> %02d:%02d:%02d.000\nThe chain of bike %d was cleaned with wax. \n\n", s/3600, s/60%60, s%60, (s+4)/3600, (s+4)/60%60, (s+4)%60, s)
	}
	n, err := (*Reader)(nil).Source(t.Context(), "day.vtt", []byte(b.String()))
	require.NoError(t, err)
	heads := 0
	for _, x := range n.Blocks() {
		if x.Heading > 0 {
			heads++
		}
	}
	assert.Equal(t, 16, heads)
	assert.Contains(t, textOf(n), "## 7:30–8:00")
}

func TestExtrasThatCannotBeRead(t *testing.T) {
	for name, c := range map[string]struct{ file, says string }{
		"a.pdf":  {"no pdf", "is none"},
		"b.pdf":  {"%PDF-1.7\n%%EOF", "damaged"},
		"c.vtt":  {"WEBVTT\n\n", "nobody says anything"},
		"d.docx": {"no zip", "nothing that can be read"},
		"e.bin":  {"\x7fELF\x00\x00", "nothing that can be read"},
		"f.txt":  {" \n ", "no text"},
		"g.srt":  {"1\nsoon --> later\nWhat?\n", "damaged"},
	} {
		_, err := (*Reader)(nil).Source(t.Context(), name, []byte(c.file))
		require.Error(t, err, name)
		assert.Contains(t, err.Error(), c.says, name)
	}
}

// A PDF of pictures only has no text; an encrypted one is refused.
func TestPDFsWithoutText(t *testing.T) {
	p := fpdf.New("P", "mm", "A4", "")
	p.AddPage()
	p.Rect(10, 10, 50, 50, "F")
	var b strings.Builder
	require.NoError(t, p.Output(&b))
	_, err := (*Reader)(nil).Source(t.Context(), "scan.pdf", []byte(b.String()))
	require.ErrorIs(t, err, pdf.ErrNoText)

	p = fpdf.New("P", "mm", "A4", "")
	p.SetProtection(0, "secret", "owner")
	p.AddPage()
	p.SetFont("Helvetica", "", 12)
	p.Cell(40, 10, "nobody reads this")
	b.Reset()
	require.NoError(t, p.Output(&b))
	_, err = (*Reader)(nil).Source(t.Context(), "locked.pdf", []byte(b.String()))
	require.ErrorIs(t, err, pdf.ErrEncrypted)
}

// The words of pdftotext (poppler) on PDFs that other programs' authors made: the reference files
// of fpdf. Nearly all of them come out, and nearly no others.
func TestAgainstPDFToText(t *testing.T) {
	if _, err := exec.LookPath("pdftotext"); err != nil {
		t.Fatal("pdftotext is not here")
	}
	out, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", "codeberg.org/go-pdf/fpdf").Output()
	require.NoError(t, err)
	dir := filepath.Join(strings.TrimSpace(string(out)), "pdf", "reference")
	for _, name := range []string{"Fpdf_MultiCell.pdf", "Fpdf_AddUTF8Font.pdf", "Fpdf_CellFormat_codepage.pdf", "Fpdf_ClipText.pdf", "Fpdf_SplitLines_tables.pdf", "Fpdf_AddPage.pdf"} {
		file, err := os.ReadFile(filepath.Join(dir, name))
		if err != nil {
			continue
		}
		theirs, err := exec.Command("pdftotext", filepath.Join(dir, name), "-").Output()
		require.NoError(t, err)
		n, err := (*Reader)(nil).Source(t.Context(), name, file)
		require.NoError(t, err, name)
		lost, extra := differ(string(theirs), textOf(n))
		assert.Less(t, lost, 0.08, "%s: of pdftotext's words", name)
		assert.Less(t, extra, 0.08, "%s: of ours", name)
	}
}

// differ is the share of words of a that b has not, and of b that a has not.
func differ(a, b string) (lost, extra float64) {
	words := func(s string) map[string]int {
		m := map[string]int{}
		for _, w := range strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !('a' <= r && r <= 'z' || r > 127) }) {
			m[w]++
		}
		return m
	}
	x, y := words(a), words(b)
	share := func(x, y map[string]int) float64 {
		all, gone := 0, 0
		for w, n := range x {
			all += n
			gone += max(n-y[w], 0)
		}
		return float64(gone) / float64(max(all, 1))
	}
	return share(x, y), share(y, x)
}

func FuzzExtra(f *testing.F) {
	for _, s := range []string{"WEBVTT\n\n00:01.000 --> 00:02.000\n<v A>b", "1\n00:00:01,000 --> 00:00:02,000\nx\n", "%PDF-1.4\n1 0 obj\n<<>>\nendobj\ntrailer<</Root 1 0 R>>\n%%EOF", "# h\n\ntext", "PK\x03\x04"} {
		f.Add("a.txt", []byte(s))
	}
	f.Fuzz(func(t *testing.T, name string, file []byte) {
		if n, err := (*Reader)(nil).Source(t.Context(), name, file); err == nil && n == nil {
			t.Fatal("neither a text nor an error")
		}
	})
}
