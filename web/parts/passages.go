package parts

import (
	"strings"

	"corpulan/web/kit"
)

// Passage is a place in a page: a heading, and how its text begins.
type Passage struct {
	Rank    int
	Place   string
	Heading string
	Text    string
	Words   int
	Section int
}

func HeadingOf(an *kit.Analysis, rank, section int) string {
	for _, p := range an.Pages {
		if p.Rank == rank && section < len(p.Doc.Reading.Sections) {
			return p.Doc.Reading.Sections[section].Heading
		}
	}
	return ""
}

// SectionText is how the text of a section begins.
func SectionText(an *kit.Analysis, rank, section, enough int) string {
	for _, p := range an.Pages {
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
