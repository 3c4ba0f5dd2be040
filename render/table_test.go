package render

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/message"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
)

// Every kind of finding as a table, read back: a cell for each column, and the
// uses per page add up to the uses.
func TestFindingsAsTables(t *testing.T) {
	e := compute(demoField(t))
	for _, kind := range brief.Kinds() {
		table := FindingsTable(e, kind, nil)
		var out bytes.Buffer
		require.NoError(t, CSV(&out, table))
		rows, err := csv.NewReader(bytes.NewReader(out.Bytes())).ReadAll()
		require.NoError(t, err, kind)
		require.Len(t, rows, len(table.Rows)+1)
		assert.Contains(t, out.String(), "\r\n", "RFC 4180, section 2")
		for _, row := range rows {
			assert.Len(t, row, len(table.Columns), kind)
		}
		out.Reset()
		require.NoError(t, XLSX(&out, table))
		book, err := excelize.OpenReader(&out)
		require.NoError(t, err, kind)
		cells, err := book.GetRows(table.Name)
		require.NoError(t, err)
		require.Len(t, cells, len(rows), kind)
		for i, c := range table.Columns {
			assert.Equal(t, c.String(), cells[0][i])
		}
		require.NoError(t, book.Close())
		names := map[string]bool{}
		for _, c := range table.Columns {
			assert.False(t, names[c.String()], "two columns are called %s", c)
			names[c.String()] = true
		}
	}
	terms := FindingsTable(e, brief.TermKind, nil)
	first := len(terms.Columns) - len(e.Sources)
	for i, row := range terms.Rows {
		sum := 0
		for _, v := range row[first:] {
			sum += v.(int)
		}
		assert.Equal(t, e.Terms[i].Count, sum, row[0])
	}
}

// What a page says never becomes a formula.
func TestTablesAreGuarded(t *testing.T) {
	table := Table{Name: "terms", Columns: []message.Message{"term", "uses"}, Rows: [][]any{{"=cmd|' /C calc'!A0", 3}, {"+1", -2}, {"a \"quoted\", text\nin two lines", 1.5}, {"@x", 0}}}
	var out bytes.Buffer
	require.NoError(t, CSV(&out, table))
	rows, err := csv.NewReader(strings.NewReader(out.String())).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"term", "uses"}, {"'=cmd|' /C calc'!A0", "3"}, {"'+1", "-2"}, {"a \"quoted\", text\nin two lines", "1.5"}, {"'@x", "0"}}, rows)
	out.Reset()
	require.NoError(t, XLSX(&out, table))
	book, err := excelize.OpenReader(&out)
	require.NoError(t, err)
	formula, err := book.GetCellFormula("terms", "A2")
	require.NoError(t, err)
	assert.Empty(t, formula)
	value, err := book.GetCellValue("terms", "A2")
	require.NoError(t, err)
	assert.Equal(t, "=cmd|' /C calc'!A0", value)
	require.NoError(t, book.Close())
}
