package draw

import (
	"slices"

	"corpulan/core/message"
)

// Mark is a mark of ours, in a sentence. docs/marks.md says more.
type Mark struct {
	Name, Says message.Message
	in         []string // pages that have it, by their names
}

// marks are all there are, in the order of docs/marks.md.
var marks = []Mark{
	{"Presence", "one mark for each kept page in the order of ranks, the larger the more the page uses it; hollow where it does not.", []string{"evidence", "brief", "against", "sources"}},
	{"Range", "a line from the lower to the upper quartile of the pages that use it, with a bar at the median; a pointer is ours.", []string{"gather", "field", "evidence", "brief", "two"}},
	{"Fit", "from 0 to 100: a tick for each kept page, a thick line from quartile to quartile, the dashed stroke is the aim, the pointer the draft.", []string{"draft"}},
	{"Lines in a draft", "solid for a term, double where it is overdone, dotted for a name, dashed for a figure without a source, wavy for the language; a wash is copied and counts for nothing.", []string{"draft"}},
	{"Ribbon", "a page from top to end as a band of its sections; sections of one theme share a tint.", []string{"field"}},
	{"Leaders against followers", "a bar for how much oftener the first ranks (filled) or the others (hollow) use a term; beside it how sure that is.", []string{"field", "evidence"}},
	{"Coverage", "a block for a section of its own, a ring for a passage in another section, a dot where the page says nothing of it.", []string{"field", "evidence"}},
	{"Small numbers in a margin", "the ranks of the pages behind a line; they open the sentences.", []string{"brief", "evidence"}},
	{"Lozenge", "it is in the brief; with a line through it, it was dropped by hand.", []string{"evidence", "brief"}},
	{"Map", "a circle is a group of keywords: the further right the harder, the higher the more searched, the larger the more to gain; a double line is a group made by hand.", []string{"demand"}},
	{"Months", "twelve columns, the oldest month first, as high as the group was searched; behind them how many times the mean the best month is.", []string{"demand"}},
	{"Standing", "a cell for each keyword and page, from 0 to 100; it opens the places that the figure is made of.", []string{"standing"}},
	{"Slate", "the pillar page in the middle, its articles round it; strong lines link to the pillar page and back, thin ones link siblings.", []string{"slate"}},
}

// Marks are the marks that a page has, and the others.
func Marks(page string) (here, others []Mark) {
	for _, m := range marks {
		if slices.Contains(m.in, page) {
			here = append(here, m)
		} else {
			others = append(others, m)
		}
	}
	return here, others
}
