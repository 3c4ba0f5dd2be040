package says

import (
	"strings"

	"corpulan/core/language"
	"corpulan/core/reading"
)

// Form is what form a short answer has: what is shown above the results is made of steps,
// a list, a table, or a paragraph of 40 to 60 words. Common practice, no published source.
type Form string

// The forms.
const (
	Steps Form = "steps"
	List  Form = "list"
	Table Form = "table"
	Prose Form = "40 to 60 words"
)

// fewestItems is from how many items on, or cells, an answer is a list or a table. Our own.
const fewestItems = 3

// formOf is the form of the text of a section.
func formOf(s reading.Section, kind language.QuestionKind) Form {
	items, cells := 0, 0
	for k := range s.Blocks() {
		switch k {
		case reading.LineItem:
			items++
		case reading.LineCell:
			cells++
		}
	}
	switch {
	case cells >= 2*fewestItems:
		return Table
	case items >= fewestItems && kind == language.How:
		return Steps
	case items >= fewestItems:
		return List
	}
	return Prose
}

// block is a block of a section's text with its content stems.
type block struct {
	text  string
	stems map[string]bool
}

// How much of a section is looked at for the passage that answers, and how much of that is
// shown, in bytes. Our own bounds.
const (
	maxBlocks   = 60
	longestText = 320
)

// blocksOf are the first blocks of a section, read once.
func (t *Texts) blocksOf(page, section int) []block {
	at := [2]int{page, section}
	if list, ok := t.blocks[at]; ok {
		return list
	}
	list := []block{}
	for kind, line := range t.Docs[page].Reading.Sections[section].Blocks() {
		if len(list) == maxBlocks {
			break
		}
		if kind == reading.LineCode {
			continue
		}
		b := block{line, map[string]bool{}}
		for _, s := range t.Language.ContentStems(line[:min(len(line), 4*longestText)]) {
			b.stems[s] = true
		}
		list = append(list, b)
	}
	t.blocks[at] = list
	return list
}

// answerText is how the answer begins: of the blocks of a section the first that has the
// most of what is asked about.
func (t *Texts) answerText(page, section int, stems []string) string {
	best, most := "", -1
	for _, b := range t.blocksOf(page, section) {
		n := 0
		for _, s := range stems {
			if b.stems[s] {
				n++
			}
		}
		if n > most {
			best, most = b.text, n
		}
	}
	if len(best) > longestText {
		cut := strings.LastIndexByte(best[:longestText], ' ')
		best = strings.ToValidUTF8(best[:max(cut, 0)], "") + " …"
	}
	return best
}
