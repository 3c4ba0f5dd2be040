package sheet

import (
	"bytes"
	"fmt"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
)

// The rows of a table are the same as CSV with commas, semicolons or tabs (RFC 4180 for the quotes),
// in UTF-8 or UTF-16, and as XLSX.
func TestRows(t *testing.T) {
	want := [][]string{{"URL", "Rank, now"}, {"https://a.example/ä", "1"}, {"say \"so\"", "2\n3"}}
	f := excelize.NewFile()
	for i, row := range want {
		for k, cell := range row {
			at, err := excelize.CoordinatesToCellName(k+1, i+1)
			require.NoError(t, err)
			require.NoError(t, f.SetCellValue("Sheet1", at, cell))
		}
	}
	var book bytes.Buffer
	require.NoError(t, f.Write(&book))
	utf16 := []byte{0xFF, 0xFE}
	for _, r := range "a\tb\nö\t2\n" {
		utf16 = append(utf16, byte(r), byte(r>>8))
	}
	for name, file := range map[string]string{
		"commas.csv":     "URL,\"Rank, now\"\r\nhttps://a.example/ä,1\r\n\"say \"\"so\"\"\",\"2\n3\"\r\n",
		"semicolons.csv": "\xef\xbb\xbfURL;Rank, now\nhttps://a.example/ä;1\n\"say \"\"so\"\"\";\"2\n3\"\n",
		"tabs.tsv":       "URL\tRank, now\nhttps://a.example/ä\t1\n\"say \"\"so\"\"\"\t\"2\n3\"\n",
		"book.xlsx":      book.String(),
		"unnamed":        book.String(),
	} {
		rows, err := Read(name, strings.NewReader(file), 10)
		require.NoError(t, err, name)
		assert.Equal(t, want, rows, name)
	}
	rows, err := Read("u.csv", bytes.NewReader(utf16), 10)
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"a", "b"}, {"ö", "2"}}, rows)
}

// What sets cells apart is what most lines have alike: commas within cells, months in one cell, titles and quotes are no marks.
func TestWhatSetsCellsApart(t *testing.T) {
	for want, head := range map[rune]string{
		'\t': "Keyword\tVolume\tTrend\nlamps\t10\t[1, 2, 3, 4, 5, 6]\ntyres, studded\t20\t[1, 2, 3, 4, 5, 6]\n",
		';':  "Report, winter; of 2026\n\nKeyword;Cost;Trend\na;0,45;1,2,3\nb;0,30;1,2,3\n",
		',':  "Keyword,Volume\n\"a; b; c\",1\n\"d\ne; f; g; h\",2\n",
	} {
		assert.Equal(t, string(want), string(markOf(head)), head)
	}
	assert.Equal(t, ";", string(markOf("Keyword;Volume\n27.5\" tyres, studded;10\n29\" tyres, wide;20\n")), "inches are no quotes")
	assert.Equal(t, ";", string(markOf("a;b\n\"say \"\"so\"\", he, said\";1\n")), "quotes within quotes")
}

// A row too many tells that there are more, and columns end where no list goes on.
func TestTablesAreBounded(t *testing.T) {
	rows, err := Read("x.csv", strings.NewReader(strings.Repeat("a,b\n", 50)), 10)
	require.NoError(t, err)
	assert.Len(t, rows, 11)
	rows, err = Read("x.csv", strings.NewReader(strings.Repeat("a,", 500)), 10)
	require.NoError(t, err)
	assert.Len(t, rows[0], maxColumns)
	for name, c := range map[string]struct{ file, says string }{
		"a.csv":  {"a\x00b", "no CSV, TSV or XLSX"},
		"b.xlsx": {"a,b", "cannot be read"},
		"c.csv":  {strings.Repeat("x", largestTable+1), "larger than 20 MiB"},
		"d":      {"PK\x03\x04broken", "cannot be read"},
	} {
		_, err := Read(name, strings.NewReader(c.file), 10)
		assert.ErrorContains(t, err, c.says, name)
	}
}

// wide is a workbook of rows with a cell in the last column there is: filled up, 20,000 of them would
// be 330 million cells.
func wide(t *testing.T, rows int) *bytes.Buffer {
	t.Helper()
	var sheet strings.Builder
	sheet.WriteString(`<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>`)
	for i := 1; i <= rows; i++ {
		fmt.Fprintf(&sheet, `<row r="%d"><c r="A%d" t="inlineStr"><is><t>http://s%d.example/</t></is></c><c r="XFD%d"><v>1</v></c></row>`, i, i, i, i)
	}
	sheet.WriteString(`</sheetData></worksheet>`)
	f := excelize.NewFile()
	f.Pkg.Store("xl/worksheets/sheet1.xml", []byte(sheet.String()))
	f.Sheet.Delete("xl/worksheets/sheet1.xml")
	var b bytes.Buffer
	require.NoError(t, f.Write(&b))
	return &b
}

func TestCellsFarToTheRight(t *testing.T) {
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	rows, err := Read("wide.xlsx", wide(t, 2000), 5000)
	require.NoError(t, err)
	assert.Len(t, rows, 2000)
	assert.Equal(t, "http://s2000.example/", rows[1999][0])
	_, err = Read("wider.xlsx", wide(t, 20_000), 100_000)
	require.ErrorContains(t, err, "too wide")
	runtime.ReadMemStats(&after)
	assert.Less(t, (after.Sys-before.Sys)>>20, uint64(300), "MB taken from the system")
}

func FuzzRead(f *testing.F) {
	f.Add("a.csv", []byte("a;b\n1;2\n"))
	f.Add("a.xlsx", []byte("PK\x03\x04"))
	f.Add("a.tsv", []byte("\xff\xfea\x00\t\x00"))
	f.Fuzz(func(t *testing.T, name string, file []byte) {
		rows, err := Read(name, bytes.NewReader(file), 100)
		if err == nil && len(rows) > 101 {
			t.Fatal("more rows than were asked for")
		}
	})
}
