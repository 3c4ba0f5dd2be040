package evidence

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/corpus"
)

// Citation is an address that pages of the field link to.
type Citation struct {
	URL     string   `json:"url"`
	Texts   []string `json:"texts"`
	Pages   int      `json:"pages"`
	Sources []int    `json:"sources"`
}

// citations lists the outward addresses that pages of at least two sites give.
func citations(f *corpus.Field) []Citation {
	found := map[string]*Citation{}
	sites := map[string]map[string]bool{}
	for i, d := range f.Docs {
		for _, l := range d.Reading.Links {
			if !l.External {
				continue
			}
			c := found[l.URL]
			if c == nil {
				c = &Citation{URL: l.URL, Texts: []string{}}
				found[l.URL], sites[l.URL] = c, map[string]bool{}
			}
			c.Pages++
			c.Sources = append(c.Sources, f.Ranks[i])
			sites[l.URL][d.Site] = true
			if l.Text != "" && !slices.Contains(c.Texts, l.Text) {
				c.Texts = append(c.Texts, l.Text)
			}
		}
	}
	list := []Citation{}
	for url, c := range found {
		if len(sites[url]) >= 2 {
			list = append(list, *c)
		}
	}
	slices.SortFunc(list, func(a, b Citation) int { return cmp.Or(b.Pages-a.Pages, strings.Compare(a.URL, b.URL)) })
	return list
}
