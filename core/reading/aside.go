package reading

import (
	"fmt"

	"corpulan/core/text"
)

// ProposeAside says why a page had better not count in a field of the given
// language (ISO 639-1, empty for any); empty if it should. A person decides.
func (r *Reading) ProposeAside(language string) string {
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
	if r.Detected != "" && text.BaseLanguage(language) != r.Detected {
		return fmt.Sprintf("In another language (%s)", r.Detected)
	}
	return ""
}
