package demand

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func table(lines ...string) (rows [][]string) {
	for _, l := range lines {
		rows = append(rows, strings.Split(l, ";"))
	}
	return rows
}

// Exports as tools of several countries write them: titles above the header, thousands with points, ranges, months in one cell, a sum below.
func TestExportsAsTheyAre(t *testing.T) {
	rows := table("Bericht Winter;;;;", "Erstellt am 03.11.2026;;;;", ";;;;", "Suchbegriff;Suchvol.;KD-Wert;Gebot €;Trendreihe 12M",
		"fahrrad winterfest machen;1.900;34;0,45;880|1.000|1.300|1.900|2.400|1.900|720|480|390|320|390|590",
		"fahrrad im winter lagern;100 – 1.000;41;1.234,50;90|100|120|200|300|250|80|60|50|40|40|60",
		"e-bike akku;<10;12;1.200;", "Gesamt;3.000;;;", ";;;;")
	c := Recognise(rows)
	assert.Equal(t, []Column{KeywordField, VolumeField, DifficultyField, CostField, TrendField}, c.Fields)
	assert.Equal(t, 3, c.Skipped)
	list, dropped, err := Read(rows, c)
	require.NoError(t, err)
	require.Len(t, list, 3)
	assert.Equal(t, Of(1900), list[0].Volume)
	assert.InDelta(t, 316.2, list[1].Volume.Value, 0.1, "a range goes by powers of ten")
	assert.Equal(t, Of(10), list[2].Volume)
	assert.Equal(t, Of(1234.5), list[1].Cost)
	assert.Equal(t, Of(1200), list[2].Cost, "the column writes cents with commas")
	require.Len(t, list[0].Trend, 12)
	assert.Equal(t, Of(2400), list[0].Trend[4])
	assert.Empty(t, list[2].Trend)
	require.Len(t, dropped, 1)
	assert.Equal(t, 8, dropped[0].Row)

	rows = table("Keyword;Difficulty;Click price", "bike lamps;1.200;$0.45", "total;2.000;$1,200.50", "total war;10;")
	list, dropped, err = Read(rows, Recognise(rows))
	require.NoError(t, err)
	assert.Empty(t, dropped, "a keyword in the middle of a list sums nothing up")
	assert.Equal(t, Of(1.2), list[0].Difficulty)
	assert.Equal(t, Of(1200.5), list[1].Cost)
}

// Which sign marks thousands is told by the cells that say so; where none does nobody knows.
func TestThousands(t *testing.T) {
	for mark, cells := range map[byte][]string{'.': {"0,45", "1.234"}, ',': {"0.45", "1,234"}, 0: {"1.234", "1,234", "12"}} {
		assert.Equal(t, mark, thousandsIn(cells), cells)
	}
	assert.Equal(t, byte('.'), thousandsIn([]string{"1.234,5", "0.5", "2,25"}))
	for cell, months := range map[string]int{"1|2|3|4|5|6": 6, "[10, 20, 30, 40, 50, 60, 70]": 7, "0.1,0.2,0.5,1,0.8,0.3": 6, "1.000 / 2.000": 0, "a|b|c|d|e|f": 0, "": 0} {
		assert.Len(t, trendIn(cell), months, cell)
	}
}

// Columns that nobody reads are named if something stands in them; what is remembered of a header holds for tables with that
// header, however it is written, and for no other.
func TestUnreadAndRememberedColumns(t *testing.T) {
	rows := [][]string{{"Exported on Monday"}, {"Keyword", "Volume", "Prio Z", "Leer"}, {"winter tyres", "1900", "2.10", ""}}
	c := Recognise(rows)
	assert.Equal(t, []string{"Prio Z"}, c.Unread(rows))
	again := Recognise([][]string{{"KEYWORD", "volume", "prio z", "leer"}, {"bike chain", "20", "1", ""}})
	assert.Equal(t, c.HeaderOf(rows), again.HeaderOf([][]string{{"KEYWORD", "volume", "prio z", "leer"}}))
	known := c.Remembered([]string{"keyword", "volume", "cost", ""})
	assert.Equal(t, []Column{KeywordField, VolumeField, CostField, ""}, known.Fields)
	assert.Empty(t, known.Doubts)
	assert.Equal(t, c, c.Remembered([]string{"keyword"}), "of a narrower table nothing is known")
	assert.Empty(t, Recognise([][]string{{"winter tyres"}, {"bike chain"}}).HeaderOf([][]string{{"winter tyres"}}), "a list without a header is of no source")
}
