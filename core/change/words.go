package change

import (
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/text"
)

// LineState is what became of a line.
type LineState string

// The states of lines and of pieces of them.
const (
	Stays  LineState = "same"
	Added  LineState = "added"
	Cut    LineState = "cut"
	Edited LineState = "rewritten"
	Moved  LineState = "moved" // it stood elsewhere
)

// DiffLine is a heading or a sentence of two versions laid over each other.
type DiffLine struct {
	State   LineState
	Heading bool
	Level   int // of a heading
	Pieces  []Piece
}

// Piece is a stretch of a line.
type Piece struct {
	State LineState // Stays, Added or Cut
	Text  string
}

// Lines lays two versions of a text over each other: what was cut stands before what took its
// place, and what was reworded is compared word by word.
func Lines(before, after *corpus.Doc) []DiffLine {
	was, is := unitsOf(before), unitsOf(after)
	hunks := scripts(was, is)
	twins(was, is, hunks)
	reword(was, is)
	line := func(d *corpus.Doc, u unit, state LineState, pieces ...Piece) DiffLine {
		l := DiffLine{State: state, Heading: u.heading, Pieces: pieces}
		if u.heading {
			l.Level = d.Reading.Sections[u.section].Level
		}
		if len(pieces) == 0 {
			piece := state
			if state == Moved {
				piece = Stays
			}
			l.Pieces = []Piece{{piece, u.text}}
		}
		return l
	}
	var lines []DiffLine
	a := 0
	stay := func(to int) {
		for ; a < to; a++ {
			lines = append(lines, line(after, is[a], Stays))
		}
	}
	for _, h := range hunks {
		stay(h.A0)
		b := h.B0
		cutTo := func(to int) {
			for ; b < to; b++ {
				if was[b].twin < 0 && was[b].like < 0 { // what has moved, or was reworded, is shown where it now stands
					lines = append(lines, line(before, was[b], Cut))
				}
			}
		}
		for ; a < h.A1; a++ {
			switch u := is[a]; {
			case u.twin >= 0:
				lines = append(lines, line(after, u, Moved))
			case u.like >= 0:
				if u.like >= b && u.like < h.B1 {
					cutTo(u.like)
				}
				lines = append(lines, line(after, u, Edited, Pieces(was[u.like].text, u.text)...))
			default:
				lines = append(lines, line(after, u, Added))
			}
		}
		cutTo(h.B1)
	}
	stay(len(is))
	return lines
}

// Pieces compares two versions of a sentence word by word. What stays and what was cut make the
// older one, what stays and what was added the newer.
func Pieces(before, after string) []Piece {
	was, is := pieces(before), pieces(after)
	var list []Piece
	cut, added, held := "", "", "" // held: what stays between two edits, and is no word
	flush := func() {
		for _, x := range []Piece{{Cut, cut}, {Added, added}, {Stays, held}} {
			if x.Text != "" {
				list = append(list, x)
			}
		}
		cut, added, held = "", "", ""
	}
	for _, e := range Script(was, is) {
		if e.Stays {
			s := strings.Join(was[e.B0:e.B1], "")
			if held += s; text.CountWords(s) > 0 {
				flush()
			}
			continue
		}
		// Two words changed side by side read as one change.
		if cut+added != "" {
			cut, added = cut+held, added+held
		} else if held != "" {
			list = append(list, Piece{Stays, held})
		}
		held = ""
		cut += strings.Join(was[e.B0:e.B1], "")
		added += strings.Join(is[e.A0:e.A1], "")
	}
	flush()
	return list
}

// pieces are the words of a text, and what stands between them.
func pieces(s string) (list []string) {
	add := func(t string) {
		if t != "" {
			list = append(list, t)
		}
	}
	at := 0
	text.EachWord(s, func(w text.Span) {
		add(s[at:w.Start])
		add(w.Of(s))
		at = w.End
	})
	add(s[at:])
	return list
}
