package reading

import (
	"fmt"

	"corpulan/core/language"
)

// ProposeAside says why a page had better not count in the field of a market
// with this language (a BCP 47 tag); empty if it should. A person decides.
func (r *Reading) ProposeAside(market string) string {
	if r.Barrier != "" {
		return "Not the content: " + r.Barrier
	}
	switch r.Kind {
	case Forum:
		return "A forum thread"
	case Video:
		return "A video with little text"
	case Home:
		return "A site's first page"
	case Thin:
		return fmt.Sprintf("Hardly any text (%d words)", r.Counts.Words)
	case Category:
		return "A shop category"
	case Directory:
		return "A directory"
	}
	if r.Detected != "" && language.Base(market) != r.Detected {
		return fmt.Sprintf("In another language (%s)", language.Name(r.Detected))
	}
	return ""
}
