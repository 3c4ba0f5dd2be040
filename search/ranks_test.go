package search

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"testing"

	"corpulan/formats/sheet"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
)

func ranked(t *testing.T, name, content, column string) []string {
	t.Helper()
	items, err := ranksIn(name, strings.NewReader(content), column)
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

// Position 5 stays rank 5; what cannot be ranks gives the order, or nothing.
func TestRanksAreKept(t *testing.T) {
	assert.Equal(t, []string{"2 http://b.example/ ", "5 http://a.example/ "}, ranked(t, "x.csv", "Position,URL\n5,http://a.example/\n2,http://b.example/\n", ""))
	assert.Equal(t, []string{"1 http://b.example/ ", "2 http://a.example/ "}, ranked(t, "x.csv", "Position,URL\n5.4,http://a.example/\n2.1,http://b.example/\n", ""), "averages")
	assert.Equal(t, []string{"1 http://a.example/ ", "2 http://b.example/ "}, ranked(t, "x.csv", "Position,URL\n1,http://a.example/\n1,http://b.example/\n", ""), "two firsts")
	assert.Equal(t, []string{"1 http://a.example/ ", "2 http://b.example/ "}, ranked(t, "x.csv", "Position,URL\nhigh,http://a.example/\nlow,http://b.example/\n", ""))
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
	_, err := ranksIn("x.csv", strings.NewReader("mine,theirs\nwinter.bike,bike.shop\n"), "")
	var which *WhichColumn
	require.ErrorAs(t, err, &which, "either may be the addresses")
	assert.Equal(t, []string{"mine", "theirs"}, which.Columns)
	_, err = ranksIn("x.csv", strings.NewReader("Keyword,Volume,Difficulty,CPC\nwinter tyres,100,0.55,1.20\nbar mitts,90,0.31,0.85\n"), "")
	assert.ErrorIs(t, err, ErrNoAddresses, "0.55 is no address")
	_, err = ranksIn("x.csv", strings.NewReader("URL,volume\n12.5,100\n"), "URL")
	assert.ErrorContains(t, err, `the column "URL" holds no addresses`)
	for name, content := range map[string]string{"empty.csv": "", "blank.csv": "\n,\n", "binary.csv": "\x01\x00\x02", "no.xlsx": "not a spreadsheet", "cut.xlsx": "PK\x03\x04rubbish"} {
		_, err := ranksIn(name, strings.NewReader(content), "")
		assert.Error(t, err, name)
	}
}

func FuzzParseRanks(f *testing.F) {
	f.Add("x.csv", "URL,Rank\nhttp://a.example/,1\n", "")
	f.Add("x.xlsx", "PK\x03\x04", "URL")
	f.Fuzz(func(t *testing.T, name, content, column string) {
		items, err := ranksIn(name, strings.NewReader(content), column)
		for i, it := range items {
			if err == nil && (it.Rank < 1 || i > 0 && it.Rank <= items[i-1].Rank || it.URL == "") {
				t.Fatalf("%+v", it)
			}
		}
	})
}

// ranksIn are the ranks in a file.
func ranksIn(name string, in io.Reader, column string) ([]Item, error) {
	rows, err := sheet.Read(name, in, MaxRanks)
	if err != nil {
		return nil, err
	}
	return ParseRanks(rows, column)
}
