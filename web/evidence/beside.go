package evidence

import (
	"fmt"
	"slices"
	"strconv"

	"corpulan/core/message"
	"corpulan/core/themes"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// atRank is the page that was asked for first, 0 for none.
func atRank(c *gin.Context) int {
	n, err := strconv.Atoi(c.Query("at"))
	if err != nil {
		return 0
	}
	return n
}

// wholeSection is how much of a section stands in a column, in characters.
const wholeSection = 1200

// PlaceOfPassage is where the section of a passage can be read in the captured text.
func (b sourcesBody) PlaceOfPassage(p parts.Passage) string {
	return fmt.Sprintf("/studies/%d/pages/%d/sections/%d", b.StudyID, b.places[p.Rank], p.Section)
}

// fillTheme sets what the pages say of a theme side by side: under their headings, and in
// passing.
func fillTheme(b *sourcesBody, an *kit.Analysis, t themes.Theme) {
	b.Text = t.Label
	b.About = message.Of("%v in a section, %v in passing", message.Counted(t.Pages, "page"), message.Counted(len(t.Coverage)-t.Pages, "page"))
	for _, m := range t.Members {
		b.Beside = append(b.Beside, parts.Passage{Rank: m.Rank, Place: "section", Heading: m.Text, Text: parts.SectionText(an.Pages, m.Rank, m.Section, wholeSection), Words: m.Words, Section: m.Section})
	}
	for _, c := range t.Coverage {
		if c.How == themes.InPassing {
			b.Beside = append(b.Beside, parts.Passage{Rank: c.Rank, Place: "in passing", Heading: parts.HeadingOf(an.Pages, c.Rank, c.Section), Text: c.Text + " …", Words: c.Words, Section: c.Section})
		}
	}
	first := func(rank int) int { // the page that was asked for comes first
		if rank == b.At {
			return 0
		}
		return rank
	}
	slices.SortStableFunc(b.Beside, func(x, y parts.Passage) int { return first(x.Rank) - first(y.Rank) })
	for _, other := range an.Evidence.Themes {
		if other.Key != t.Key && other.Pages > 1 && len(b.Others) < maxOthers {
			b.Others = append(b.Others, themeChoice{other.Label, other.Members[0].Text})
		}
	}
	b.Points = an.Evidence.PointsOf(t.Key)
}

// maxOthers is how many other themes a heading can be moved to from the list.
const maxOthers = 40

// themeChoice is a theme that headings can be moved to, by one of its headings.
type themeChoice struct{ Label, Heading string }
