package evidence

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"corpulan/core/reading"
)

// Share is how much of the field serves one intent, and what says so.
type Share struct {
	Kind    string   `json:"kind"` // informational, commercial, transactional or navigational (Broder 2002, with the trade's "commercial")
	Share   float64  `json:"share"`
	Signals []string `json:"signals"`
	Sources []int    `json:"sources"`
}

var (
	buying    = regexp.MustCompile(`(?i)\b(buy|shop|sale|price|order|deals?|in stock|free delivery)\b`)
	comparing = regexp.MustCompile(`(?i)\b(best|top \d+|review(s|ed)?|vs\.?|versus|compared|comparison)\b`)
)

// intent sorts each page to one intent by its kind and its title's words.
func (f *field) intent() []Share {
	by := map[string]*Share{}
	for i, d := range f.docs {
		kind, signal := intentOf(d.Reading)
		s := by[kind]
		if s == nil {
			s = &Share{Kind: kind}
			by[kind] = s
		}
		s.Sources = append(s.Sources, f.ranks[i])
		s.Signals = append(s.Signals, fmt.Sprintf("rank %d: %s", f.ranks[i], signal))
	}
	list := []Share{}
	for _, s := range by {
		s.Share = float64(len(s.Sources)) / float64(len(f.docs))
		list = append(list, *s)
	}
	slices.SortFunc(list, func(a, b Share) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), strings.Compare(a.Kind, b.Kind))
	})
	return list
}

func intentOf(r *reading.Reading) (kind, signal string) {
	switch {
	case r.Kind == reading.Home:
		return "navigational", "the first page of a site"
	case r.Kind == reading.Product || r.Kind == reading.Category:
		return "transactional", "a " + string(r.Kind) + " page"
	case buying.MatchString(r.Title):
		return "transactional", "the title says “" + buying.FindString(r.Title) + "”"
	case r.Kind == reading.Comparison:
		return "commercial", "a comparison"
	case comparing.MatchString(r.Title):
		return "commercial", "the title says “" + comparing.FindString(r.Title) + "”"
	}
	return "informational", "a page of kind " + string(r.Kind)
}

// Citation is an address that pages of the field link to.
type Citation struct {
	URL     string   `json:"url"`
	Texts   []string `json:"texts"`
	Pages   int      `json:"pages"`
	Sources []int    `json:"sources"`
}

// citations lists the outward addresses that pages of at least two hosts give.
func (f *field) citations() []Citation {
	found := map[string]*Citation{}
	hosts := map[string]map[string]bool{}
	for i, d := range f.docs {
		for _, l := range d.Reading.Links {
			if !l.External {
				continue
			}
			c := found[l.URL]
			if c == nil {
				c = &Citation{URL: l.URL}
				found[l.URL], hosts[l.URL] = c, map[string]bool{}
			}
			c.Pages++
			c.Sources = append(c.Sources, f.ranks[i])
			hosts[l.URL][d.Host] = true
			if l.Text != "" && !slices.Contains(c.Texts, l.Text) {
				c.Texts = append(c.Texts, l.Text)
			}
		}
	}
	list := []Citation{}
	for url, c := range found {
		if len(hosts[url]) >= 2 {
			list = append(list, *c)
		}
	}
	slices.SortFunc(list, func(a, b Citation) int { return cmp.Or(b.Pages-a.Pages, strings.Compare(a.URL, b.URL)) })
	return list
}
