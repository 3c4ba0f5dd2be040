package questions

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

// advised is the form that suits a question: that of most answers where it is no prose,
// else steps where "how to" is asked, a list where several things are ("which", "what
// are"), prose for all others.
func advised(kind language.QuestionKind, text string, answers []Answer) Form {
	if f := usual(answers); f != "" && f != Prose {
		return f
	}
	folded := strings.ToLower(text)
	switch {
	case strings.HasPrefix(folded, "how to "), strings.HasPrefix(folded, "how do "), strings.HasPrefix(folded, "how can "):
		return Steps
	case kind == language.Which && len(answers) > 0, strings.HasPrefix(folded, "what are the "):
		return List
	}
	return Prose
}

// usual is the form that most answers have, the first of them where two are as common; ""
// where nobody answers.
func usual(answers []Answer) Form {
	best, most := Form(""), 0
	for _, f := range []Form{Prose, Steps, List, Table} {
		n := 0
		for _, a := range answers {
			if a.Form == f {
				n++
			}
		}
		if n > most {
			best, most = f, n
		}
	}
	return best
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
func (a *answerer) blocksOf(page, section int) []block {
	at := [2]int{page, section}
	if list, ok := a.blocks[at]; ok {
		return list
	}
	list := []block{}
	for kind, line := range a.Docs[page].Reading.Sections[section].Blocks() {
		if len(list) == maxBlocks {
			break
		}
		if kind == reading.LineCode {
			continue
		}
		b := block{line, map[string]bool{}}
		for _, s := range a.Language.ContentStems(line[:min(len(line), 4*longestText)]) {
			b.stems[s] = true
		}
		list = append(list, b)
	}
	a.blocks[at] = list
	return list
}

// answerText is how the answer begins: of the blocks of a section the first that has the
// most of what is asked about.
func (a *answerer) answerText(page, section int, stems []string) string {
	best, most := "", -1
	for _, b := range a.blocksOf(page, section) {
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
