package gather

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
)

func ranked(t *testing.T, name, content, column string) []string {
	t.Helper()
	items, err := ParseRanks(name, strings.NewReader(content), column)
	require.NoError(t, err)
	var list []string
	for _, it := range items {
		list = append(list, fmt.Sprintf("%d %s %s", it.Rank, it.URL, it.Title))
	}
	return list
}

func TestParseRanks(t *testing.T) {
	want := []string{"1 http://a.example/x One, two", "2 https://b.example/ Two"}
	for name, content := range map[string]string{
		"comma.csv":     "Position,URL,Title\n2,b.example,Two\n1,http://a.example/x,\"One, two\"\n",
		"semicolon.csv": "\xEF\xBB\xBFTitle;Rank;Landing page\n\"One, two\";1;http://a.example/x\n\nTwo;2.0;b.example/\n",
		"tab.tsv":       "URL\tTitle\nhttp://a.example/x\tOne, two\nb.example\tTwo\nhttp://a.example/x\tAgain\n",
		"latin.csv":     "Platz;Adresse;Titel\n1;http://a.example/x;One, two\n2;b.example;Two\n3;keine;\xfcber\n",
		"odd ranks.csv": "#,url,title\n#1,http://a.example/x,\"One, two\"\nn/a,b.example,Two\n",
	} {
		assert.Equal(t, want, ranked(t, name, content, ""), name)
	}
	assert.Equal(t, []string{"1 http://a.example/x ", "2 https://b.example/ "}, ranked(t, "bare.csv", "1,http://a.example/x\n2,b.example\n", ""), "no names at all")
	assert.Equal(t, []string{"1 http://a.example/x "}, ranked(t, "named.csv", "mine,theirs\nhttp://a.example/x,http://b.example/\n", "mine"))
	assert.Equal(t, []string{"1 https://b.example/ "}, ranked(t, "named.csv", "mine,theirs\nhttp://a.example/x,b.example\n", "theirs"))
}

func TestParseRanksFromASpreadsheet(t *testing.T) {
	f := excelize.NewFile()
	for i, row := range [][]any{{"Pos", "Page URL", "Title"}, {2, "https://b.example/", "Two"}, {1, "http://a.example/x", "One"}} {
		require.NoError(t, f.SetSheetRow("Sheet1", fmt.Sprintf("A%d", i+1), &row))
	}
	var b bytes.Buffer
	require.NoError(t, f.Write(&b))
	assert.Equal(t, []string{"1 http://a.example/x One", "2 https://b.example/ Two"}, ranked(t, "ranks.xlsx", b.String(), ""))
}

func TestBadRanks(t *testing.T) {
	_, err := ParseRanks("x.csv", strings.NewReader("keyword,volume\nwinter,100\n"), "")
	var which *WhichColumn
	require.ErrorAs(t, err, &which)
	assert.Equal(t, []string{"keyword", "volume"}, which.Columns)
	for name, content := range map[string]string{"empty.csv": "", "blank.csv": "\n,\n", "binary.csv": "\x01\x00\x02", "no.xlsx": "not a spreadsheet", "cut.xlsx": "PK\x03\x04rubbish"} {
		_, err := ParseRanks(name, strings.NewReader(content), "")
		assert.Error(t, err, name)
	}
}

func FuzzParseRanks(f *testing.F) {
	f.Add("x.csv", "URL,Rank\nhttp://a.example/,1\n", "")
	f.Add("x.xlsx", "PK\x03\x04", "URL")
	f.Fuzz(func(t *testing.T, name, content, column string) {
		items, err := ParseRanks(name, strings.NewReader(content), column)
		for i, it := range items {
			if err == nil && (it.Rank != i+1 || it.URL == "") {
				t.Fatalf("%+v", it)
			}
		}
	})
}
