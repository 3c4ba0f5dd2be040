package evidence

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/message"
	"corpulan/core/reading"
)

// forms gives each page one voice for how it is made; listing counts the things that pages list.
func forms(f *corpus.Field, listing map[int]int) []Share {
	return shares(f, func(rank int, d *corpus.Doc) []vote {
		if n, kind := listing[rank], d.Reading.Kind; n >= fewestOfList && (kind == reading.Article || kind == reading.Thin) {
			return []vote{{"list", message.Of("lists %d things to choose from", n), 1}}
		}
		return []vote{formOf(d.Reading)}
	}, nil)
}

// formOf is the form of a page: what a writer would be asked to write.
func formOf(r *reading.Reading) vote {
	asking := 0
	for _, h := range r.Headings {
		if strings.HasSuffix(h.Text, "?") {
			asking++
		}
	}
	switch r.Kind {
	case reading.List:
		return vote{"list", "the title promises a list, and headings keep it", 1}
	case reading.Comparison:
		return vote{"comparison", "the title compares", 1}
	case reading.Article:
	default:
		return vote{string(r.Kind), builtAs(string(r.Kind)), 1}
	}
	switch {
	case len(r.HowTo) > 0 || slices.Contains(r.DataTypes, "HowTo"):
		return vote{"steps", "structured data holds steps", 1}
	case titlePhrases().stepping.Find(r.Title) != "":
		return vote{"steps", inTitle(titlePhrases().stepping.Find(r.Title)), 1}
	case len(r.Headings) >= 4 && 2*asking >= len(r.Headings):
		return vote{"questions and answers", "at least half of the headings ask", 1}
	case titlePhrases().guiding.Find(r.Title) != "":
		return vote{"guide", inTitle(titlePhrases().guiding.Find(r.Title)), 1}
	case len(r.Headings) >= 7:
		return vote{"guide", "an article of seven headings and more", 1}
	}
	return vote{"article", "running text under fewer than seven headings", 1}
}
