package parts

import (
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strconv"

	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/listed"
	"corpulan/core/message"
	"corpulan/core/questions"
	"corpulan/core/stats"
	"corpulan/core/vocabulary"
	"corpulan/web/kit"
)

// FindingRow is one finding of any kind, in the one table that shows them all.
type FindingRow struct {
	StudyID int64
	Kind    brief.Kind
	Key     string
	Text    string
	Note    string // type, tier, flag
	In      bool   // in the brief
	State   brief.State
	Pages   int
	Of      int
	Counts  []int // per page
	Sources []evidence.Source
	Total   int
	Range   stats.Range
	Term    *vocabulary.Term // of a term
	Thing   *listed.Thing    // of a listed thing
	Place   string           // of a listed thing: the median of its places
	Price   string           // of a listed thing
	Lead    string           // text of the first term of its semantic field
	Even    int              // percent: how evenly the pages that use a term do so
	Most    float64          // the scale of the range marks
	More    message.Message
	Flagged message.Message
	Long    string         // what an abbreviation stands for
	Title   string         // of the page that a fact is from
	Form    string         // that a short answer should have
	Perhaps []string       // questions that may be the same
	Asked   demand.Keyword // what a list knows of it as a query
	Listed  bool           // lists of keywords are there, so that there is a column for it
	Swap    bool           // it replaces itself on the page (htmx out of band)
}

// ID is the row's id in the page; a key may hold spaces, an id may not.
func (r FindingRow) ID() string {
	h := fnv.New64a()
	_, _ = h.Write([]byte(r.Key))
	return fmt.Sprintf("row-%s-%x", r.Kind, h.Sum64())
}

// Noted is the note as it is said.
func (r FindingRow) Noted() message.Message {
	switch r.Kind {
	case brief.EntityKind:
		return message.Label(r.Note, "names")
	case brief.PointKind, brief.ThingKind: // a theme, or verdicts, in the words of pages
		return message.Text(r.Note)
	}
	return message.Message(r.Note)
}

// Findings lists everything of one kind as rows.
func Findings(an *kit.Analysis, kind brief.Kind) []FindingRow {
	e := an.Evidence
	choices := an.Choices
	in := inBrief(an.Brief, kind)
	row := func(key, text string) FindingRow {
		return FindingRow{StudyID: an.Study.ID, Kind: kind, Key: key, Text: text, In: in[key], State: choices.State(kind, key), Of: len(e.Sources), Sources: e.Sources, Asked: an.Figures[key], Listed: len(an.Figures) > 0}
	}
	var rows []FindingRow
	lang := language.For(e.Language)
	names := map[string]string{} // of findings that others name
	most := 1.0
	found := e.Findings(kind)
	for _, f := range found {
		names[f.Key] = f.Text
		if f.Pages >= 2 && f.Flag == "" {
			most = max(most, f.Range.Upper)
		}
	}
	for _, f := range found {
		r := row(f.Key, f.Text)
		r.Note, r.Flagged, r.More, r.Long = f.Note, f.Flag, f.More, f.Long
		r.Pages, r.Counts, r.Total, r.Range, r.Most, r.Even = f.Pages, f.Counts, f.Total, f.Range, most, f.Even
		switch x := f.Of.(type) { // what one kind alone shows
		case *vocabulary.Term:
			r.Term, r.Lead = x, names[x.Field]
		case *listed.Thing:
			r.Thing, r.Flagged = x, f.More
			if place := PlaceOf(x); !math.IsInf(place, 1) {
				r.Place = strconv.FormatFloat(place, 'f', -1, 64)
			}
			r.Price, _ = brief.PriceOf(*x, lang)
		case *evidence.Fact:
			r.Title = x.Title
		case *questions.Question:
			r.Form = string(x.Form)
			for _, k := range x.Perhaps {
				if text := names[k]; text != "" {
					r.Perhaps = append(r.Perhaps, text)
				}
			}
		}
		rows = append(rows, r)
	}
	return rows
}

// PlaceOf is the median of a thing's places in the lists that have it; beyond all where none has.
func PlaceOf(t *listed.Thing) float64 {
	var places []float64
	for _, n := range t.Positions {
		if n > 0 {
			places = append(places, float64(n))
		}
	}
	if len(places) == 0 {
		return math.Inf(1)
	}
	return stats.RangeOf(places).Median
}

// inBrief are the keys of a kind that are in a brief.
func inBrief(b brief.Brief, kind brief.Kind) map[string]bool {
	in := map[string]bool{}
	for _, m := range b.Holds() {
		if m.Kind == kind {
			in[m.Key] = true
		}
	}
	return in
}

// saidBy marks the pages of some ranks.
func saidBy(e *evidence.Evidence, ranks []int) []int {
	counts := make([]int, len(e.Sources))
	for i, s := range e.Sources {
		if slices.Contains(ranks, s.Rank) {
			counts[i] = 1
		}
	}
	return counts
}
