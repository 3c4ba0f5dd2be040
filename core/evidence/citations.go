package evidence

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/address"
	"corpulan/core/corpus"
)

// Citation is an address that pages of the field link to, or a site of several such.
type Citation struct {
	URL       string     `json:"url"`
	Texts     []string   `json:"texts"`
	Pages     int        `json:"pages"`
	Sources   []int      `json:"sources"`
	Kind      string     `json:"kind,omitempty"` // of site, by what its address shows
	Sentences []Sentence `json:"sentences"`      // that the links stand in, one a page
}

// Sentence is a sentence of a page.
type Sentence struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Text    string `json:"text"`
}

// citations lists the outward addresses that pages of at least two sites give.
func citations(f *corpus.Field) []Citation {
	return cited(f, func(url string) string { return url })
}

// citedSites lists the outward sites that pages of at least two sites give, whichever of
// their addresses.
func citedSites(f *corpus.Field) []Citation {
	return cited(f, func(url string) string { return address.Parse(url).Site() })
}

func cited(f *corpus.Field, as func(url string) string) []Citation {
	found := map[string]*Citation{}
	sites := map[string]map[string]bool{}
	for i, d := range f.Docs {
		for _, l := range d.Reading.Links {
			name := as(l.URL)
			if !l.External || name == "" || name == d.Site {
				continue
			}
			c := found[name]
			if c == nil {
				c = &Citation{URL: name, Texts: []string{}, Sources: []int{}, Kind: kindOfSite(l.URL), Sentences: []Sentence{}}
				found[name], sites[name] = c, map[string]bool{}
			}
			if !slices.Contains(c.Sources, f.Ranks[i]) {
				c.Pages++
				c.Sources = append(c.Sources, f.Ranks[i])
				if s, ok := sentenceOf(d, f.Ranks[i], l.Text); ok {
					c.Sentences = append(c.Sentences, s)
				}
			}
			sites[name][d.Site] = true
			if l.Text != "" && !slices.Contains(c.Texts, l.Text) {
				c.Texts = append(c.Texts, l.Text)
			}
		}
	}
	list := []Citation{}
	for name, c := range found {
		if len(sites[name]) >= 2 {
			list = append(list, *c)
		}
	}
	slices.SortFunc(list, func(a, b Citation) int { return cmp.Or(b.Pages-a.Pages, strings.Compare(a.URL, b.URL)) })
	return list
}

// sentenceOf finds the sentence that a link's text stands in.
func sentenceOf(d *corpus.Doc, rank int, anchor string) (Sentence, bool) {
	if len(anchor) < 2 {
		return Sentence{}, false
	}
	for i := range d.Sentences {
		if s := &d.Sentences[i]; !s.Heading && strings.Contains(s.Text, anchor) {
			return Sentence{rank, s.Section, strings.TrimSpace(s.Text)}, true
		}
	}
	return Sentence{}, false
}

// kindOfSite tells what sort of site an address is of, by its ending, its host and its
// path; "" where nothing shows it. The signs are common practice, no published source.
func kindOfSite(url string) string {
	at := address.Parse(url)
	host, path := at.Host(), strings.ToLower(url)
	has := func(s string, parts ...string) bool {
		return slices.ContainsFunc(parts, func(p string) bool { return strings.Contains(s, p) })
	}
	labels := strings.Split(host, ".")
	under := func(names ...string) bool {
		return slices.ContainsFunc(labels[max(0, len(labels)-2):], func(l string) bool { return slices.Contains(names, l) })
	}
	switch {
	case under("gov", "gouv", "gob", "mil", "europa") || has(host, "council", "bund.de", "government"):
		return "authority"
	case under("edu", "ac") || has(host, "university", "uni-", "universit"):
		return "university"
	case has(host, "doi.org", "pubmed", "journal", "arxiv") || has(path, "/doi/", "/abstract", "/journal"):
		return "study"
	case has(host, "wiki", "encyclop", "lexikon"):
		return "encyclopedia"
	case has(host, "statist", "data.") || has(path, "/dataset", "/statistics"):
		return "statistics"
	case strings.HasSuffix(path, ".pdf"):
		return "document"
	case has(host, "forum", "community") || has(path, "/forum", "/thread", "/questions/"):
		return "forum"
	case has(host, "shop", "store") || has(path, "/product", "/shop/", "/cart", "/p/"):
		return "shop"
	case has(host, "video", "tube") || has(path, "/watch"):
		return "video"
	case has(host, "news", "times", "post", "zeitung") || has(path, "/news/", "/article"):
		return "press"
	}
	return ""
}
