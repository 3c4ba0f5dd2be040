package parts

import (
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/message"
	"corpulan/web/kit"
)

// Passage is a place in a page: a heading, and how its text begins.
type Passage struct {
	Rank    int
	Place   message.Message
	Heading string
	Text    string
	Words   int
	Section int
	Made    bool // the text is put together, and cannot be cut
}

func HeadingOf(pages []corpus.RankedPage, rank, section int) string {
	for _, p := range pages {
		if p.Rank == rank && section < len(p.Doc.Reading.Sections) {
			return p.Doc.Reading.Sections[section].Heading
		}
	}
	return ""
}

// SectionText is how the text of a section begins.
func SectionText(pages []corpus.RankedPage, rank, section, enough int) string {
	for _, p := range pages {
		if p.Rank == rank && section < len(p.Doc.Reading.Sections) {
			t := strings.ReplaceAll(p.Doc.Reading.Sections[section].Text, "\n", " ")
			if len([]rune(t)) > enough {
				return kit.Shorten(t, enough) + "…"
			}
			return t
		}
	}
	return ""
}

// FewLines is some four lines of the pane, in characters.
const FewLines = 420
