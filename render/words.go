package render

import (
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/brief"
)

// Ranks names pages by their ranks: "1, 3, 4".
func Ranks(ranks []int) string {
	s := make([]string, len(ranks))
	for i, r := range ranks {
		s[i] = strconv.Itoa(r)
	}
	return strings.Join(s, ", ")
}

// ranksOf says which pages say a thing; nothing where there are none, such as
// for what only the results page says.
func ranksOf(in brief.Speech, ranks []int) string {
	if len(ranks) == 0 {
		return ""
	}
	if len(ranks) == 1 {
		return in.Put("rank %s", Ranks(ranks))
	}
	return in.Put("ranks %s", Ranks(ranks))
}

// Times says how often a term is wanted: "2 to 5 times".
func Times(in brief.Speech, lower, upper int) string {
	switch {
	case upper <= 1:
		return in.Put("once")
	case lower == upper:
		return in.Put("%d times", lower)
	}
	return in.Put("%d to %d times", lower, upper)
}

// lengthOf says how long the page is to be: "900 to 1,300 words, about 1,100".
func lengthOf(in brief.Speech, w brief.WordRange) string {
	if w.Lower == w.Upper {
		return in.Put("about %d words", w.Target)
	}
	return in.Put("%d to %d words, about %d", w.Lower, w.Upper, w.Target)
}

// measured says how long a text is, and how wide where results are shown.
func measured(in brief.Speech, s string, width func(string) int) string {
	if s == "" {
		return ""
	}
	return in.Put("%d characters, %d px", utf8.RuneCountInString(s), width(s))
}

// span is a range in whole numbers: "3 to 6", "4".
func span(in brief.Speech, r brief.Range) string {
	lower, upper := fmt.Sprintf("%.0f", r.Lower), fmt.Sprintf("%.0f", r.Upper)
	if lower == upper {
		return lower
	}
	return in.Put("%s to %s", lower, upper)
}

func pages(in brief.Speech, n int) string {
	if n == 1 {
		return in.Put("1 page")
	}
	return in.Put("%d pages", n)
}

// Item is a line below a section: what to do, with what, and which pages say so.
type Item struct {
	Does, Text, Note string
	Ranks            []int // of the pages to read
}

// ItemsOf are the lines below a section of the outline, but for its note: what to say, to
// answer and to use, and what to read.
func ItemsOf(s Block) []Item {
	var list []Item
	for _, p := range s.Points {
		c, does := p.First(), s.in.Put("Say")
		if p.Kind == brief.ThingKind {
			does = s.in.Put("List")
		}
		note := c.Short
		if !s.Short {
			note = ranksOf(s.in, p.Ranks) + inBrackets(c.Short)
		}
		list = append(list, Item{Does: does, Text: c.Text, Note: note})
	}
	for _, q := range s.Questions {
		list = append(list, Item{Does: s.in.Put("Answer"), Text: q.First().Text})
	}
	if s.Show != "" {
		note := ""
		if !s.Short {
			note = ranksOf(s.in, s.ShownBy)
		}
		list = append(list, Item{Does: s.in.Put("Show"), Text: s.Show, Note: note})
	}
	for _, r := range s.Also {
		list = append(list, Item{Does: s.in.Put("Also"), Text: r.First().Text, Note: r.First().Note})
	}
	if len(s.Terms) > 0 {
		list = append(list, Item{Does: s.in.Put("Use"), Text: strings.Join(s.Terms, ", ")})
	}
	for _, x := range s.Cuttings {
		list = append(list, Item{Does: s.in.Put("Cutting"), Text: quoted(x), Note: sourceOf(s.in, x)})
	}
	if len(s.Best) > 0 {
		list = append(list, Item{Does: s.in.Put("Read first"), Text: ranksOf(s.in, s.Best), Ranks: s.Best})
	}
	return list
}

// quoted is a cutting as it stands in a document, with the note on it.
func quoted(x brief.Cutting) string {
	s := "“" + oneLine(x.Text) + "”"
	if x.Kind == "question" {
		s = oneLine(x.Text)
	}
	if x.Note != "" {
		s += " (" + oneLine(x.Note) + ")"
	}
	return s
}

// sourceOf names where a cutting is from.
func sourceOf(in brief.Speech, x brief.Cutting) string {
	if x.URL == "" {
		return in.Put("the results page of %s", x.Date)
	}
	return strings.Trim(or(x.Title, x.URL)+", "+x.URL+", "+in.Put("captured %s", x.Date), ", ")
}

// uses says how often a term of a brief is wanted.
func uses(in brief.Speech, t brief.Term) string {
	if t.AtWill {
		return in.Put("at will, about %d times", t.Median)
	}
	return Times(in, t.Lower, t.Upper)
}

// usesShort is uses in figures: "2–5×", "~14×".
func usesShort(t brief.Term) string {
	switch {
	case t.AtWill:
		return fmt.Sprintf("~%d×", t.Median)
	case t.Lower == t.Upper:
		return fmt.Sprintf("%d×", t.Lower)
	}
	return fmt.Sprintf("%d–%d×", t.Lower, t.Upper)
}

// run is a block whose rows stand in a line: "Also treated by some: Brakes, Rain (Which tyres?)."
func run(k Block) string {
	var list []string
	for _, r := range k.Rows {
		list = append(list, r.First().Text+inBrackets(r.First().Note))
	}
	return strings.TrimPrefix(k.Text+": ", ": ") + strings.Join(list, "; ") + "."
}

// sectionNote says how long a section of the outline is, and in the dossier which pages have it; nothing where there is nothing to say.
func sectionNote(s Block) string {
	about := ""
	if s.Words > 0 {
		about = s.in.Put("About %d words", s.Words)
		if s.WordsSet {
			about += ", " + s.in.Put("set by hand")
		}
	}
	if s.Short {
		return about
	}
	has := s.in.Put("%v have it: %v", pages(s.in, s.Pages), ranksOf(s.in, s.Ranks))
	if s.Pages == 1 {
		has = s.in.Put("1 page has it: %v", ranksOf(s.in, s.Ranks))
	}
	switch {
	case s.Gone:
		has = s.in.Put("on no kept page any more")
	case len(s.Ranks) == 0:
		has = s.in.Put("no page has it")
	}
	return strings.TrimPrefix(about+"; "+has, "; ")
}

func questionNote(in brief.Speech, q brief.Question) string {
	var parts []string
	if q.OnResults {
		parts = append(parts, in.Put("asked on the results page"))
	}
	if len(q.AskedBy) > 0 {
		parts = append(parts, in.Put("asked by %v", ranksOf(in, q.AskedBy)))
	}
	if len(q.AnsweredBy) > 0 {
		parts = append(parts, in.Put("answered by %v", ranksOf(in, q.AnsweredBy)))
	} else {
		parts = append(parts, in.Put("answered by no page"))
	}
	if q.Section != "" {
		parts = append(parts, in.Put("under “%s”", q.Section))
	}
	return strings.Join(parts, "; ")
}

// questionShort is questionNote without the ranks, and says where it is placed.
func questionShort(in brief.Speech, q brief.Question) string {
	var parts []string
	if q.OnResults {
		parts = append(parts, in.Put("asked on the results page"))
	}
	switch n := len(q.AnsweredBy); n {
	case 0:
		parts = append(parts, in.Put("answered by nobody"))
	case 1:
		parts = append(parts, in.Put("answered on 1 page"))
	default:
		parts = append(parts, in.Put("answered on %d pages", n))
	}
	if q.Section != "" {
		parts = append(parts, in.Put("under “%s”", q.Section))
	}
	return strings.Join(parts, "; ")
}

func or(values ...string) string {
	for _, v := range values {
		if v != "" {
			return v
		}
	}
	return ""
}
