package demand

import (
	"strings"
	"unicode/utf8"

	"corpulan/core/address"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/text"
)

// The intents of a query, after Broder (2002) with the trade's "commercial" between
// informational and transactional.
const (
	informational = "informational"
	commercial    = "commercial"
	transactional = "transactional"
	navigational  = "navigational"
)

// wish is an intent with the phrases of queries that say it.
type wish struct {
	intent  string
	what    message.Message
	phrases *text.Phrases
}

// compares is the place among wishesOf of what asks to compare, or names a product and asks nothing else.
const compares = 1

func wishesOf(lang *language.Language) []wish {
	t := lang.Title
	return []wish{{transactional, "buy", text.NewPhrases(t.Buying...)}, {commercial, "compare", text.NewPhrases(t.Comparing...)}, {informational, "ask or explain", text.NewPhrases(t.Explaining...)}}
}

// intentOf tells what most of a group's searches want, by the words of its queries and the
// sites they name, weighed by volume where that is known, and how many say so. Queries without
// such a word are informational.
func (g *Graph) intentOf(members []int, of []wish) (intent string, why message.Kept) {
	weight, count := make([]float64, len(of)+1), make([]int, len(of)+1)
	rest, all, site := 0, 0.0, ""
	for _, i := range members {
		w := 1.0
		if g.list[i].Volume.Known {
			w = g.list[i].Volume.Value
		}
		all += w
		n := g.all[i].wish
		if g.all[i].site != "" {
			n, site = len(of), g.all[i].site
		}
		if n < 0 {
			rest++
			continue
		}
		weight[n] += w
		count[n]++
	}
	best := -1
	for i := range weight {
		if count[i] > 0 && 2*weight[i] >= all && (best < 0 || weight[i] > weight[best]) {
			best = i
		}
	}
	switch {
	case best < 0:
		return informational, message.Of("%d of %d queries name the matter alone", rest, len(members)).Keep()
	case best == len(of):
		return navigational, message.Of("%d of %d queries name the site %s", count[best], len(members), site).Keep()
	}
	return of[best].intent, message.Of("%d of %d queries %v", count[best], len(members), of[best].what).Keep()
}

// shortestSite is how many letters the name of a site has at least to be told in a query: many
// shorter ones are words. Our own.
const shortestSite = 6

// maxOthers is how many other keywords of the list may have all the words that a site is named
// by: what more of them have is the matter, after which a site may be called. Our own.
const maxOthers = 3

// siteNamed is the site that a query names, and the words it does so with: one of its first
// three results whose name some words of the query give when they are written together.
func siteNamed(query string, urls []string) (site string, by []string) {
	words := strings.Fields(Same(query))
	for _, u := range urls[:min(len(urls), aimed)] {
		a := address.Parse(u)
		label := strings.ReplaceAll(text.Fold(a.SiteLabel()), "-", "")
		if utf8.RuneCountInString(label) < shortestSite {
			continue
		}
		for i := range words {
			for j := i + 1; j <= len(words); j++ {
				if strings.Join(words[i:j], "") == label {
					return a.Site(), words[i:j]
				}
			}
		}
	}
	return "", nil
}
