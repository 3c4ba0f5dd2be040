package reading

import (
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/text"
)

// ProposeAside says why a page had better not count in the field of a market
// with this language (a BCP 47 tag) and keyword; empty if it should. A person decides, and
// has decided what a page is about that they hand in: then no keyword is given.
func (r *Reading) ProposeAside(market, keyword string) message.Message {
	if r.Barrier != "" {
		return message.Of("Not the content: %v", r.Barrier.Message())
	}
	switch r.Kind {
	case Forum:
		return "A forum thread"
	case Video:
		return "A video with little text"
	case Home:
		return "A site's first page"
	case Thin:
		return message.Of("Hardly any text (%d words)", r.Counts.Words)
	case Category:
		return "A shop category"
	case Directory:
		return "A directory"
	case Reference:
		return "A reference page"
	}
	if r.Detected != "" && language.Base(market) != r.Detected {
		return message.Of("In another language (%v)", message.Named(r.Detected))
	}
	return r.offSubject(market, keyword)
}

// offSubject tells a page that has none of the keyword's words anywhere, in whatever form
// or compound: it is about something else. Pages that have some may use other words for
// the rest ("cycling in winter" for winter bike commuting), and are left to a person.
func (r *Reading) offSubject(market, keyword string) message.Message {
	lang := language.For(market)
	stems := lang.ContentStems(keyword)
	if len(stems) == 0 || !lang.IsRead() {
		return ""
	}
	has := func(line string) bool {
		folded := text.Fold(line + ".")
		if slices.ContainsFunc(stems, func(s string) bool { return strings.Contains(folded, s) }) {
			return true
		}
		return slices.ContainsFunc(lang.ContentStems(line), func(s string) bool { return slices.Contains(stems, s) })
	}
	if has(r.Title) {
		return ""
	}
	for _, s := range r.Sections {
		if has(s.Heading) || has(s.Text) {
			return ""
		}
	}
	return message.Of("About something else: it has none of the words of “%s”", keyword)
}
