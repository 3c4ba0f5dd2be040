package render

import "corpulan/core/brief"

// Mail is a short text that goes with a link to a brief, in its language; day is when the page is due,
// written YYYY-MM-DD, or empty.
func Mail(b brief.Brief, to, day, address string) string {
	in := b.In()
	about := in.Put("here is the brief for “%s”, about %d words:", b.Keyword, b.Words.Target)
	if day != "" {
		about = in.Put("here is the brief for “%s”, about %d words, by %s:", b.Keyword, b.Words.Target, in.DayOf(day))
	}
	return in.Put("Hello %s,", to) + "\n\n" + about + "\n" + address + "\n\n" + in.Put("It opens without an account. Remarks and what you tick come back to me.")
}
