package render

import (
	"fmt"
	"io"
	"strings"
	"time"

	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/formats/docx"
	"corpulan/formats/opml"

	ics "github.com/arran4/golang-ical"
)

// Slate is a slate as it is handed over.
type Slate struct {
	Name  string
	ID    string // tells it from others, for calendars
	Pages []SlatePage
	Links []demand.Link
}

// SlatePage is a page of a slate with what people say of it.
type SlatePage struct {
	demand.Planned
	Name  string // as it is called
	Owner string
	Due   string // 2006-01-02; empty for none
	Note  string
	State string
}

// figure is a figure as a cell of a table has it: empty where it is not known.
func figure(f demand.Figure) any {
	if !f.Known {
		return ""
	}
	return f.Value
}

// GroupsTable is the groups of a list, a row for each keyword with its group before it.
func GroupsTable(g demand.Grouping) Table {
	t := Table{Name: "groups", Columns: []message.Message{"group", "keyword", "volume", "difficulty", "cost per click", "group volume", "group difficulty", "group cost per click", "intent", "seasonality", "potential", "position", "page"}}
	for _, x := range g.Groups {
		for _, k := range x.Keywords {
			t.Rows = append(t.Rows, []any{x.Name, k.Text, figure(k.Volume), figure(k.Difficulty), figure(k.Cost), figure(x.Volume), figure(x.Difficulty), figure(x.Cost), message.Message(x.Intent), figure(x.Seasonality), figure(x.Potential), figure(k.Position), k.Address})
		}
	}
	for _, o := range g.Out {
		t.Rows = append(t.Rows, []any{message.Of("out: %v", o.Reason), o.Keyword, "", "", "", "", "", "", "", "", "", "", ""})
	}
	return t
}

// SlateTable is the pages of a slate, in their order.
func SlateTable(s Slate) Table {
	t := Table{Name: "slate", Columns: []message.Message{"order", "page", "keyword", "secondary keywords", "pillar", "kind", "intent", "volume", "difficulty", "gain", "effort", "owner", "due", "state", "own page", "why", "note", "links to"}}
	names := map[string]string{}
	for _, p := range s.Pages {
		names[p.Key] = p.Name
	}
	for i, p := range s.Pages {
		var links []string
		for _, l := range s.Links {
			if l.From == p.Key {
				links = append(links, fmt.Sprintf("%s (“%s”)", names[l.To], l.Anchor))
			}
		}
		pillar := ""
		if p.Pillar {
			pillar = "pillar"
		}
		t.Rows = append(t.Rows, []any{i + 1, p.Name, p.Keyword, strings.Join(p.Secondary, "; "), message.Message(pillar), message.Message(p.Kind), message.Message(p.Intent), figure(p.Volume), figure(p.Difficulty), figure(p.Gain), p.Effort, p.Owner, p.Due, message.Message(p.State), p.Own, message.Message(p.Why), p.Note, strings.Join(links, "; ")})
	}
	return t
}

// SlateOPML writes a slate as OPML 2.0: the pillar page with its articles below it, and under
// each the keywords it is to answer.
func SlateOPML(w io.Writer, s Slate) error {
	var pillar *opml.Outline
	var rest []opml.Outline
	for _, p := range s.Pages {
		o := opml.Outline{Text: opml.Line(p.Name)}
		for _, k := range p.Secondary {
			o.Children = append(o.Children, opml.Outline{Text: opml.Line(k)})
		}
		if p.Pillar && pillar == nil {
			pillar = &o
			continue
		}
		rest = append(rest, o)
	}
	if pillar != nil {
		pillar.Children = append(pillar.Children, rest...)
		rest = []opml.Outline{*pillar}
	}
	return opml.Write(w, s.Name, s.Name, rest)
}

// SlateCalendar writes the days on which pages of a slate are due as iCalendar (RFC 5545): an
// event of a whole day for each; made is when this was written. A slate without such a day is a
// calendar without events, which RFC 5545 (section 3.6) does not allow, and so ErrNoDays.
func SlateCalendar(w io.Writer, s Slate, made time.Time) error {
	cal := ics.NewCalendar()
	cal.SetProductId("-//Corpulan//slate//EN")
	cal.SetXWRCalName(opml.Line(s.Name))
	for _, p := range s.Pages {
		day, err := time.Parse(time.DateOnly, p.Due)
		if err != nil {
			continue
		}
		e := cal.AddEvent(fmt.Sprintf("%x@%s.slate.corpulan", p.Key, s.ID))
		e.SetDtStampTime(made)
		e.SetAllDayStartAt(day)
		e.SetAllDayEndAt(day.AddDate(0, 0, 1))
		e.SetSummary(opml.Line(p.Name))
		e.SetTimeTransparency(ics.TransparencyTransparent)
		about := []string{"Keyword: " + p.Keyword, "Kind: " + p.Kind}
		if p.Owner != "" {
			about = append(about, "Owner: "+p.Owner)
		}
		if p.State != "" {
			about = append(about, "State: "+p.State)
		}
		if p.Note != "" {
			about = append(about, p.Note)
		}
		e.SetDescription(strings.Map(docx.XMLRune, strings.Join(about, "\n")))
	}
	if len(cal.Events()) == 0 {
		return ErrNoDays
	}
	return cal.SerializeTo(w, ics.WithNewLineWindows)
}

// ErrNoDays says that no page of a slate has a day on which it is due.
var ErrNoDays = message.Errorf("no page of this slate has a day on which it is due")
