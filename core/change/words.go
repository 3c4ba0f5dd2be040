package change

import (
	"corpulan/core/corpus"
	"corpulan/core/text"

	"github.com/sergi/go-diff/diffmatchpatch"
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

// Line is a heading or a sentence of two versions laid over each other.
type Line struct {
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
func Lines(before, after *corpus.Doc) []Line {
	was, is := unitsOf(before), unitsOf(after)
	hunks := scripts(was, is)
	twins(was, is, hunks)
	reword(was, is)
	line := func(d *corpus.Doc, u unit, state LineState, pieces ...Piece) Line {
		l := Line{State: state, Heading: u.heading, Pieces: pieces}
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
	var lines []Line
	a := 0
	stay := func(to int) {
		for ; a < to; a++ {
			lines = append(lines, line(after, is[a], Stays))
		}
	}
	for _, h := range hunks {
		stay(h.a0)
		b := h.b0
		cutTo := func(to int) {
			for ; b < to; b++ {
				if was[b].twin < 0 && was[b].like < 0 { // what has moved, or was reworded, is shown where it now stands
					lines = append(lines, line(before, was[b], Cut))
				}
			}
		}
		for ; a < h.a1; a++ {
			switch u := is[a]; {
			case u.twin >= 0:
				lines = append(lines, line(after, u, Moved))
			case u.like >= 0:
				if u.like >= b && u.like < h.b1 {
					cutTo(u.like)
				}
				lines = append(lines, line(after, u, Edited, Pieces(was[u.like].text, u.text)...))
			default:
				lines = append(lines, line(after, u, Added))
			}
		}
		cutTo(h.b1)
	}
	stay(len(is))
	return lines
}

// Pieces compares two versions of a sentence word by word. What stays and what was cut make the
// older one, what stays and what was added the newer.
func Pieces(before, after string) []Piece {
	number := map[string]int{}
	var texts []string
	code := func(s string) []rune {
		var runes []rune
		add := func(t string) {
			if t == "" {
				return
			}
			n, ok := number[t]
			if !ok {
				n = len(number)
				number[t] = n
				texts = append(texts, t)
			}
			runes = append(runes, runeOf(n))
		}
		at := 0
		text.EachWord(s, func(w text.Span) {
			add(s[at:w.Start])
			add(w.Of(s))
			at = w.End
		})
		add(s[at:])
		return runes
	}
	a, b := code(before), code(after)
	named := map[rune]string{}
	for n, t := range texts {
		named[runeOf(n)] = t
	}
	var pieces []Piece
	cut, added, held := "", "", "" // held: what stays between two edits, and is no word
	flush := func() {
		for _, x := range []Piece{{Cut, cut}, {Added, added}, {Stays, held}} {
			if x.Text != "" {
				pieces = append(pieces, x)
			}
		}
		cut, added, held = "", "", ""
	}
	for _, d := range shortest(a, b) {
		s := ""
		for _, r := range d.Text {
			s += named[r]
		}
		if d.Type == diffmatchpatch.DiffEqual {
			if held += s; text.CountWords(s) > 0 {
				flush()
			}
			continue
		}
		// Two words changed side by side read as one change.
		if cut+added != "" {
			cut, added = cut+held, added+held
		} else if held != "" {
			pieces = append(pieces, Piece{Stays, held})
		}
		held = ""
		if d.Type == diffmatchpatch.DiffDelete {
			cut += s
		} else {
			added += s
		}
	}
	flush()
	return pieces
}
