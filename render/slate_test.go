package render

import (
	"bytes"
	"encoding/csv"
	"encoding/xml"
	"strings"
	"testing"
	"time"

	"corpulan/core/demand"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
)

func someSlate() Slate {
	return Slate{Name: "Winter & ice", ID: "7", Links: []demand.Link{{From: "b", To: "a", Anchor: "winter riding"}}, Pages: []SlatePage{
		{Planned: demand.Planned{Key: "a", Keyword: "winter riding", Pillar: true, Kind: "pillar", Volume: demand.Of(900)}, Name: "Winter riding", Due: "2026-12-01"},
		{Planned: demand.Planned{Key: "b", Keyword: "bar mitts", Secondary: []string{"pogies", "=cmd|'/c calc'!A1"}, Kind: "supporting"}, Name: "Bar mitts; and, \"gloves\"", Owner: "Ida", Due: "2027-01-31", State: "begun", Note: "First line\nsecond, " + strings.Repeat("long line of what is to be said ", 9) + "ende 😀"},
		{Planned: demand.Planned{Key: "c", Keyword: "chain"}, Name: "=1+1"},
	}}
}

// The calendar by RFC 5545, read by a reader that is not the writer's: whole days, texts
// escaped and folded.
func TestSlateCalendar(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, SlateCalendar(&b, someSlate(), time.Date(2026, 11, 26, 8, 0, 0, 0, time.UTC)))
	for line := range strings.SplitSeq(b.String(), "\r\n") {
		assert.LessOrEqual(t, len(line), 75, "section 3.1: lines of at most 75 octets")
		assert.NotContains(t, line, "\n", "section 3.1: lines end in CRLF")
	}
	cal, err := ical.NewDecoder(bytes.NewReader(b.Bytes())).Decode()
	require.NoError(t, err)
	events := cal.Events()
	require.Len(t, events, 2, "whoever has no day has no event")
	text := func(e ical.Event, name string) string {
		s, err := e.Props.Text(name)
		require.NoError(t, err)
		return s
	}
	assert.Equal(t, `Bar mitts; and, "gloves"`, text(events[1], ical.PropSummary))
	description := text(events[1], ical.PropDescription)
	assert.Contains(t, description, "Owner: Ida\n")
	assert.Contains(t, description, "ende 😀")
	start, err := events[1].DateTimeStart(time.UTC)
	require.NoError(t, err)
	assert.Equal(t, "2027-01-31", start.Format(time.DateOnly))
	end, err := events[1].DateTimeEnd(time.UTC)
	require.NoError(t, err)
	assert.Equal(t, "2027-02-01", end.Format(time.DateOnly))
	assert.NotEqual(t, text(events[0], ical.PropUID), text(events[1], ical.PropUID))
	assert.ErrorIs(t, SlateCalendar(&b, Slate{}, time.Now()), ErrNoDays)
}

// Tables by RFC 4180 and as a workbook, without formulas; the outline as OPML.
func TestSlateTables(t *testing.T) {
	s := someSlate()
	var b bytes.Buffer
	require.NoError(t, CSV(&b, SlateTable(s)))
	rows, err := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(b.Bytes(), []byte("\ufeff")))).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 4)
	assert.Equal(t, "Winter riding (“winter riding”)", rows[2][17])
	assert.Equal(t, "900", rows[1][7])
	assert.Empty(t, rows[2][7])
	assert.NotEqual(t, byte('='), rows[3][1][0], "no spreadsheet takes it for a formula")
	b.Reset()
	require.NoError(t, XLSX(&b, SlateTable(s)))
	f, err := excelize.OpenReader(bytes.NewReader(b.Bytes()))
	require.NoError(t, err)
	cells, err := f.GetRows(f.GetSheetName(0))
	require.NoError(t, err)
	assert.Len(t, cells, 4)

	g := demand.GroupOf([]demand.Keyword{{Text: "bar mitts", Volume: demand.Of(5)}, {Text: "old 2019"}}, demand.Options{Language: "en", Year: 2026})
	b.Reset()
	require.NoError(t, CSV(&b, GroupsTable(g)))
	assert.Contains(t, b.String(), "bar mitts,bar mitts,5,")
	assert.Contains(t, b.String(), `"out: it asks for 2019, which is past",old 2019`)

	b.Reset()
	require.NoError(t, SlateOPML(&b, s))
	var doc struct {
		Outlines []struct {
			Text  string `xml:"text,attr"`
			Below []struct {
				Text  string `xml:"text,attr"`
				Below []struct {
					Text string `xml:"text,attr"`
				} `xml:"outline"`
			} `xml:"outline"`
		} `xml:"body>outline"`
	}
	require.NoError(t, xml.Unmarshal(b.Bytes(), &doc))
	require.Len(t, doc.Outlines, 1)
	assert.Equal(t, "Winter riding", doc.Outlines[0].Text)
	require.Len(t, doc.Outlines[0].Below, 2)
	assert.Len(t, doc.Outlines[0].Below[0].Below, 2)
}
