package reading

import (
	"fmt"
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/text"
)

// ProposeAside says why a page had better not count in the field of a market
// with this language (a BCP 47 tag) and keyword; empty if it should. A person decides.
func (r *Reading) ProposeAside(market, keyword string) string {
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
	return r.offSubject(market, keyword)
}

// offSubject tells a page that has fewer than half of the keyword's words anywhere, in
// whatever form or compound: it is about something else. Half is our own.
func (r *Reading) offSubject(market, keyword string) string {
	lang := language.For(market)
	stems := lang.ContentStems(keyword)
	slices.Sort(stems)
	stems = slices.Compact(stems)
	if len(stems) == 0 || !lang.IsRead() {
		return ""
	}
	have := map[string]bool{}
	note := func(line string) {
		folded := text.Fold(line + ".")
		for _, s := range stems {
			have[s] = have[s] || strings.Contains(folded, s)
		}
		if len(have) < len(stems) || slices.ContainsFunc(stems, func(s string) bool { return !have[s] }) {
			for _, s := range lang.ContentStems(line) {
				if slices.Contains(stems, s) {
					have[s] = true
				}
			}
		}
	}
	note(r.Title)
	for _, s := range r.Sections {
		note(s.Heading)
		note(s.Text)
		found := 0
		for _, ok := range have {
			if ok {
				found++
			}
		}
		if 2*found >= len(stems) {
			return ""
		}
	}
	return fmt.Sprintf("About something else: it has fewer than half of the words of “%s”", keyword)
}
