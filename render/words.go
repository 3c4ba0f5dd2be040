package render

import (
	"fmt"
	"strconv"
	"strings"

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
func ranksOf(ranks []int) string {
	if len(ranks) == 0 {
		return ""
	}
	return "ranks " + Ranks(ranks)
}

// Times says how often a term is wanted: "2 to 5 times".
func Times(lower, upper int) string {
	switch {
	case upper <= 1:
		return "once"
	case lower == upper:
		return fmt.Sprintf("%d times", lower)
	}
	return fmt.Sprintf("%d to %d times", lower, upper)
}

// uses says how often a term of a brief is wanted.
func uses(t brief.Term) string {
	if t.AtWill {
		return fmt.Sprintf("at will, about %d times", t.Median)
	}
	return Times(t.Lower, t.Upper)
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

// sectionNote says how long a section of the outline is, and which pages have it.
func sectionNote(s Block) string {
	has := fmt.Sprintf("%d pages have it: %s", s.Pages, ranksOf(s.Ranks))
	switch {
	case s.Gone:
		has = "on no kept page any more"
	case len(s.Ranks) == 0:
		has = "no page has it"
	}
	return fmt.Sprintf("About %d words; %s", s.Words, has)
}

func questionNote(q brief.Question) string {
	var parts []string
	if q.OnResults {
		parts = append(parts, "asked on the results page")
	}
	if len(q.AskedBy) > 0 {
		parts = append(parts, "asked by ranks "+Ranks(q.AskedBy))
	}
	if len(q.AnsweredBy) > 0 {
		parts = append(parts, "answered by ranks "+Ranks(q.AnsweredBy))
	} else {
		parts = append(parts, "answered by no page")
	}
	return strings.Join(parts, "; ")
}

// questionShort is questionNote without the ranks, and says where it is placed.
func questionShort(q brief.Question) string {
	var parts []string
	if q.OnResults {
		parts = append(parts, "asked on the results page")
	}
	switch n := len(q.AnsweredBy); n {
	case 0:
		parts = append(parts, "answered by nobody")
	case 1:
		parts = append(parts, "answered on 1 page")
	default:
		parts = append(parts, fmt.Sprintf("answered on %d pages", n))
	}
	if q.Section != "" {
		parts = append(parts, "under “"+q.Section+"”")
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
