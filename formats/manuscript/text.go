package manuscript

import (
	"strings"

	"corpulan/core/draft"
	"corpulan/core/fit"
)

// Text is a draft to hand over.
type Text struct {
	Node     *draft.Node
	Language string
	Answers  []fit.Answer // the questions it answers
}

// TitleOf is a draft's title tag, else its first heading.
func TitleOf(n *draft.Node) string {
	title := n.Title()
	n.Each(func(x *draft.Node) bool {
		if title == "" && x.Type == draft.Heading {
			title = strings.Join(strings.Fields(x.Plain()), " ")
		}
		return title == ""
	})
	return title
}
