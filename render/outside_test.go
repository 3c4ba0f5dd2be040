package render

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/core/brief"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// long is a brief beyond all measure: an outline of 300 lines on three levels, titles of
// thousands of characters, from right to left, emoji, formulas, and markup in every field.
func long() brief.Brief {
	odd := []string{"=HYPERLINK(\"http://evil.example\")", "+1+1", "@SUM(A1)", "<script>alert(1)</script>", "ركوب الدراجة في الشتاء", "רכיבה בחורף", "🚲❄️ 👩‍🔧", "\u202Eturned", strings.Repeat("endless ", 700), strings.Repeat("x", 3000), "a\x00b\x0bc", "\xff\xfe"}
	b := nasty()
	b.Keyword, b.TitleTag, b.H1 = odd[8], odd[9], odd[4]
	b.Front = brief.Front{Publication: odd[3], Owner: odd[0], Writer: odd[6], Kind: odd[7]}
	b.Fields.Goal, b.Fields.Voice, b.Fields.Media = strings.Join(odd, "\n"), odd[10], odd[11]
	b.Outline = nil
	for i := range 100 {
		section := func(level int, below ...brief.Section) brief.Section {
			s := odd[(i+level)%len(odd)]
			return brief.Section{Key: fmt.Sprint(i, level), Level: level, Heading: fmt.Sprintf("%d %s", i, s), Words: 100, Note: s, Questions: []string{s}, Terms: []string{s, s}, Best: []int{1},
				Points: []brief.Point{{Text: s, Sources: []int{1}}}, Cuttings: []brief.Cutting{{Text: s, URL: "http://a.example/", Title: s, Date: "2026-11-25"}}, Children: below}
		}
		b.Outline = append(b.Outline, section(2, section(3, section(4))))
		b.Terms = append(b.Terms, brief.Term{Key: fmt.Sprint(i), Term: odd[i%len(odd)], Tier: "staple", Lower: 1, Median: 2, Upper: 3})
	}
	return b
}

// A PDF is sound by qpdf, which checks its structure and its streams.
func TestPDFByQPDF(t *testing.T) {
	program, err := exec.LookPath("qpdf")
	if err != nil {
		t.Fatal("qpdf is not installed; `make test` installs it")
	}
	for name, b := range map[string]brief.Brief{"nasty": nasty(), "full": full(t), "long": long()} {
		file := filepath.Join(t.TempDir(), name+".pdf")
		var out bytes.Buffer
		require.NoError(t, PDF(&out, b))
		require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
		said, err := exec.Command(program, "--check", file).CombinedOutput()
		assert.NoError(t, err, "%s: %s", name, said)
	}
}

// HTML is valid by html-validate, with its recommended rules but for those on style.
func TestHTMLByAValidator(t *testing.T) {
	program, err := filepath.Abs("../node_modules/.bin/html-validate")
	require.NoError(t, err)
	if _, err := os.Stat(program); err != nil {
		t.Fatal("html-validate is not installed; `make test` installs it")
	}
	folder := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(folder, ".htmlvalidate.json"), []byte(`{"root":true,"extends":["html-validate:standard"],"rules":{"long-title":"off","no-raw-characters":"off"}}`), 0o600))
	for name, b := range map[string]brief.Brief{"nasty": nasty(), "full": full(t), "long": long()} {
		require.NoError(t, os.WriteFile(filepath.Join(folder, name+".html"), []byte(write(t, "html", b)), 0o600))
	}
	cmd := exec.Command(program, "nasty.html", "full.html", "long.html")
	cmd.Dir = folder
	said, err := cmd.CombinedOutput()
	assert.NoError(t, err, string(said[:min(len(said), 3000)]))
}

// Whatever stands in a brief, every format is written, and the same each time.
func TestABriefBeyondMeasure(t *testing.T) {
	for _, f := range Formats() {
		var one, two bytes.Buffer
		require.NoError(t, f.Write(&one, long()), f.Name)
		require.NoError(t, f.Write(&two, long()), f.Name)
		assert.True(t, bytes.Equal(one.Bytes(), two.Bytes()), f.Name)
	}
}

func BenchmarkFormats(b *testing.B) {
	doc := long()
	for i := range doc.Outline { // of 150 lines, as they are
		doc.Outline[i].Heading, doc.Outline[i].Note, doc.Outline[i].Cuttings, doc.Outline[i].Children = "What to wear below freezing", "Name the gauge.", nil, doc.Outline[i].Children[:0]
	}
	for _, f := range Formats() {
		b.Run(f.Name, func(b *testing.B) {
			for b.Loop() {
				var out bytes.Buffer
				if err := f.Write(&out, doc); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
