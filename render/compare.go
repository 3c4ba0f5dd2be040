package render

import (
	"fmt"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/core/text"
)

// DocumentLine is a line of a brief, as two of them are compared: the part or the section it belongs
// to, and what it says.
type DocumentLine struct{ Under, Text string }

// Lines are all lines of a brief, in their order.
func Lines(b brief.Brief) []DocumentLine {
	var lines []DocumentLine
	under := ""
	add := func(what string, texts ...string) {
		for _, t := range texts {
			if t = oneLine(t); t != "" {
				lines = append(lines, DocumentLine{under, strings.TrimPrefix(what+": ", ": ") + t})
			}
		}
	}
	for _, k := range Filled(b) {
		switch k.Form {
		case FactsForm:
			for _, r := range k.Rows {
				if r.Label != "Version" {
					add(r.Label, r.First().Text)
				}
			}
		case TypedForm:
			for l := range strings.Lines(k.Text) {
				add(k.Label, l)
			}
		case PartForm:
			under = k.Text
		case SectionForm:
			under = "Outline"
			add("", fmt.Sprintf("%s %s (%d words)", strings.Repeat("›", k.Level-1), k.Text, k.Words))
			under = k.Text
			for l := range strings.Lines(k.Note) {
				add("Note", l)
			}
			for _, x := range ItemsOf(k) {
				add(x.Does, x.Text)
			}
		case ListForm, TableForm:
			for _, r := range k.Rows {
				var cells []string
				for i, c := range r.Cells {
					if k.Form == ListForm || !k.Columns[i].Small {
						cells = append(cells, c.Text)
					}
				}
				add("", strings.Join(cells, "; "))
			}
		}
	}
	return lines
}

// Change is a place where two briefs differ: lines of the one that are gone, lines of the
// other that came. Where one line became another, its words tell how.
type Change struct {
	Under      string
	Gone, Came []Piece
}

// Piece is a stretch of text; Marked where it differs from its counterpart.
type Piece struct {
	Text   string
	Marked bool
}

// Compare tells where two briefs differ, line by line.
func Compare(a, b brief.Brief) []Change {
	return compareLines(Lines(a), Lines(b))
}

func compareLines(from, to []DocumentLine) []Change {
	var changes []Change
	for _, e := range change.Script(from, to) {
		if !e.Stays {
			changes = append(changes, inPairs(from[e.B0:e.B1], to[e.A0:e.A1])...)
		}
	}
	return changes
}

// alike is how much of two lines is the same where one may have become the other: the Dice
// coefficient of their words. The value is our own.
const alike = 0.4

// maxPairs is how many pairs of lines are looked at for one place; beyond it the lines stand
// apart. Our own: each pair takes some microseconds.
const maxPairs = 4000

// inPairs sets lines that are gone beside those that came in their place: each beside the
// first that it may have become, the others alone.
func inPairs(gone, came []DocumentLine) []Change {
	var changes []Change
	pairs := 0
	for _, g := range gone {
		at := slices.IndexFunc(came, func(c DocumentLine) bool {
			pairs++
			return pairs <= maxPairs && g.Under == c.Under && change.Likeness(g.Text, c.Text) >= alike
		})
		if at < 0 {
			changes = append(changes, Change{g.Under, []Piece{{g.Text, true}}, nil})
			continue
		}
		for _, c := range came[:at] {
			changes = append(changes, Change{c.Under, nil, []Piece{{c.Text, true}}})
		}
		x := Change{Under: g.Under}
		x.Gone, x.Came = Words(g.Text, came[at].Text)
		changes = append(changes, x)
		came = came[at+1:]
	}
	for _, c := range came {
		changes = append(changes, Change{c.Under, nil, []Piece{{c.Text, true}}})
	}
	return changes
}

// Words parts two texts into stretches, those marked that only one of them has.
func Words(a, b string) (gone, came []Piece) {
	from, to := pieces(a), pieces(b)
	add := func(list []Piece, words []string, marked bool) []Piece {
		if len(words) == 0 {
			return list
		}
		return append(list, Piece{Text: strings.Join(words, ""), Marked: marked})
	}
	for _, e := range change.Script(from, to) {
		gone, came = add(gone, from[e.B0:e.B1], !e.Stays), add(came, to[e.A0:e.A1], !e.Stays)
	}
	return gone, came
}

// pieces are the words of a text, each with what stands behind it.
func pieces(s string) (list []string) {
	at := 0
	for _, w := range text.Words(s) {
		if at > 0 && w.Start > at {
			list[len(list)-1] += s[at:w.Start]
		} else if w.Start > at {
			list = append(list, s[at:w.Start])
		}
		list, at = append(list, s[w.Start:w.End]), w.End
	}
	if at < len(s) {
		list = append(list, s[at:])
	}
	return list
}
