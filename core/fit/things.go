package fit

import (
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/message"
	"corpulan/core/text"
)

// How much of a thing that a page lists is to be said, in words, and how many things make a table of them worth having. Our own.
const (
	wordsOfThing = 20
	fewestInRows = 3
	rowOfTable   = 10 // words that a row takes to write
)

// things scores the things that a brief lists: each by what is said where it is named, and the table that compares them by how
// many of them have a row.
func (t *measured) things(b *brief.Brief) Part {
	var items []Item
	var weights []float64
	headings, prose := folded(t.headings), folded(t.prose)
	for _, p := range b.Picks {
		item := Item{Key: p.Key, Text: message.Text(p.Name), Says: "not listed", Section: -1, Effort: wordsOfThing}
		if n, at, named := t.saidOf(names(p.Name), headings, prose); named {
			item.Score, item.Where, item.Section = min(1, float64(n)/wordsOfThing), t.heading(at), at
			if item.Says = "listed"; item.Score < 1 {
				item.Says = message.Of("named, with %d words on it", n)
			}
		}
		items, weights = append(items, item), append(weights, 1)
	}
	if len(b.Picks) >= fewestInRows && len(b.Criteria) > 0 {
		n := 0
		for _, p := range b.Picks {
			if t.hasRow(names(p.Name)) {
				n++
			}
		}
		item := Item{Key: "comparison", Text: "the table that compares them", Says: "no table", Section: -1, Effort: rowOfTable * len(b.Picks), Score: float64(n) / float64(len(b.Picks))}
		if n > 0 {
			item.Says = message.Of("%d of %d have a row", n, len(b.Picks))
		}
		items, weights = append(items, item), append(weights, 2)
	}
	return part(Things, items, weights)
}

// names are the ways in which a draft may name a thing: in full, or without the maker's name before it, where that leaves two
// words.
func names(thing string) []string {
	full := text.Fold(thing)
	list := []string{full}
	if _, rest, ok := strings.Cut(full, " "); ok && strings.Contains(rest, " ") {
		list = append(list, rest)
	}
	return list
}

func mentions(folded string, names []string) bool {
	return slices.ContainsFunc(names, func(name string) bool { return corpus.HasWord(folded, name) })
}

// folded are texts of sentences, folded.
func folded(sentences []*corpus.Sentence) []string {
	list := make([]string, len(sentences))
	for i, s := range sentences {
		list[i] = text.Fold(s.Text)
	}
	return list
}

// saidOf counts the words that a draft says of a thing: below the heading that names it, else in the sentences that do.
func (t *measured) saidOf(names, headings, prose []string) (words, section int, named bool) {
	for i, h := range headings {
		if mentions(h, names) {
			for _, s := range t.prose {
				if s.Section == t.headings[i].Section {
					words += wordsIn(s)
				}
			}
			return words, t.headings[i].Section, true
		}
	}
	for i, s := range prose {
		if mentions(s, names) {
			if !named {
				section, named = t.prose[i].Section, true
			}
			words += wordsIn(t.prose[i])
		}
	}
	return words, section, named
}

// hasRow tells whether a table of the draft has a thing in a row or a column of its own.
func (t *measured) hasRow(names []string) bool {
	for _, table := range t.doc.Reading.Tables {
		for i, row := range table.Rows {
			for j, cell := range row {
				if (i == 0 || j == 0) && mentions(text.Fold(cell), names) {
					return true
				}
			}
		}
	}
	return false
}
