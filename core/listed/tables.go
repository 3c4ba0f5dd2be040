package listed

import (
	"strings"

	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// What makes a table a list of things, our own: how many stand in it, and how many are named, fewer where its own head says
// that they are.
const (
	fewestInTable = 2
	namedInTable  = 0.6
	namedByHead   = 0.4
)

// tables are the lists of things that the tables of a page are.
func (f *finder) tables(page int) (found []list) {
	for _, t := range f.Docs[page].Reading.Tables {
		if l := f.rowsOf(page, t); len(l.entries) > 0 {
			found = append(found, l)
		}
	}
	return found
}

// rowsOf is the list that a table is: things in its rows, else in its columns.
func (f *finder) rowsOf(page int, t reading.Table) list {
	if len(t.Rows) < 2 || len(t.Rows[0]) < 2 {
		return list{}
	}
	rows, turned := t.Rows, turn(t.Rows)
	column, share, byHead := f.nameColumn(rows)
	across, shareAcross, _ := f.nameColumn(turned)
	if across == 0 && !byHead && shareAcross >= namedInTable && shareAcross > share {
		rows, column, share = turned, 0, shareAcross
	}
	if column < 0 || share < namedByHead || share < namedInTable && !byHead {
		return list{}
	}
	head, body := rows[0], rows[1:]
	l := list{}
	for _, row := range body {
		if column >= len(row) || f.naming(row[column]) == noName {
			continue
		}
		h := f.read(f.fullName(head, row, column))
		e := entry{page: page, Place: Place{Rank: f.Ranks[page], Section: t.Section, Position: len(l.entries) + 1, By: ByRow, Name: h.name, Verdict: h.verdict}}
		p := saying{finder: f, e: &e, section: t.Section}
		for c, cell := range row {
			if c != column && c < len(head) && !(byHead && f.Language.IsLabel(language.LabelName, head[c])) {
				p.cell(head[c], cell)
			}
		}
		l.entries = append(l.entries, e)
	}
	if len(l.entries) < fewestInTable {
		return list{}
	}
	for i := range l.entries {
		l.entries[i].Of = len(l.entries)
	}
	l.sure = byHead || f.compares(l.entries) || f.isListTitle(f.Docs[page].Reading) || f.inTitle(page, l.entries)
	return l
}

// inTitle tells whether the title of a page names two of the things, as "X or Y?" does.
func (f *finder) inTitle(page int, entries []entry) bool {
	r := f.Docs[page].Reading
	title, n := " "+wordsOf(r.Title)+" "+wordsOf(titleOf(r))+" ", 0
	for _, e := range entries {
		if strings.Contains(title, " "+wordsOf(e.Name)+" ") {
			n++
		}
	}
	return n >= fewestInTable
}

// fullName is the name in a row, with what a second column of names adds: maker and model.
func (f *finder) fullName(head, row []string, column int) string {
	name := row[column]
	for c := column + 1; c < min(len(head), len(row)); c++ {
		if more := row[c]; f.Language.IsLabel(language.LabelName, head[column]) && f.Language.IsLabel(language.LabelName, head[c]) && more != "" && !strings.Contains(text.Fold(more), text.Fold(name)) {
			return name + " " + more
		} else if strings.Contains(more, name) && f.Language.IsLabel(language.LabelName, head[c]) {
			return more
		}
	}
	return name
}

// compares tells whether most entries have a price or a verdict.
func (f *finder) compares(entries []entry) bool {
	n := 0
	for _, e := range entries {
		if len(e.Prices) > 0 || e.Verdict != "" {
			n++
		}
	}
	return 2*n > len(entries)
}

// nameColumn is the column of a table that names things, which share of its cells below the head is named, and whether the
// head says so.
func (f *finder) nameColumn(rows [][]string) (column int, share float64, byHead bool) {
	const first = 3 // columns that are looked at; our own
	column = -1
	for c := range min(len(rows[0]), first) {
		named, cells := 0, 0
		for _, row := range rows[1:] {
			if c >= len(row) || row[c] == "" {
				continue
			}
			cells++
			if f.read(row[c]).named >= surely {
				named++
			}
		}
		if cells < fewestInTable {
			continue
		}
		s := float64(named) / float64(cells)
		if f.Language.IsLabel(language.LabelName, rows[0][c]) && s >= namedByHead {
			return c, s, true
		}
		if s > share {
			column, share = c, s
		}
	}
	return column, share, false
}

// cell takes what a cell tells of a thing, below its head.
func (p *saying) cell(head, cell string) {
	if cell == "" || p.Language.IsLabel(language.LabelPressed, cell) {
		return
	}
	if p.labelOf(head) == "" && len(p.e.Prices) == 0 {
		if one, ok := p.money(cell); ok && len(one.Text) >= len(cell)-2 && p.Language.Cues(language.LabelPrice, head) > 0 {
			p.prices(cell)
			return
		}
	}
	if head != "" {
		p.pair(pair{head, cell})
	}
}

// turn makes rows of columns.
func turn(rows [][]string) [][]string {
	wide := 0
	for _, r := range rows {
		wide = max(wide, len(r))
	}
	turned := make([][]string, wide)
	for c := range turned {
		turned[c] = make([]string, len(rows))
		for r, row := range rows {
			if c < len(row) {
				turned[c][r] = row[c]
			}
		}
	}
	return turned
}
