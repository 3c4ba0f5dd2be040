package demand

import (
	"maps"
	"regexp"
	"strconv"

	"corpulan/core/address"
	"corpulan/core/language"
	"corpulan/core/message"
)

// Out is a keyword that is worth no page as it stands, and why.
type Out struct {
	Keyword string          `json:"keyword"`
	Reason  message.Message `json:"reason"`
	ByHand  bool            `json:"by_hand,omitempty"`
}

var aYear = regexp.MustCompile(`\b(19|20)\d\d\b`)

// pastYear says that a keyword is bound to a year that is past.
func pastYear(k Keyword, year int) message.Message {
	if year == 0 {
		return ""
	}
	for _, m := range aYear.FindAllString(k.Text, -1) {
		if y, err := strconv.Atoi(m); err == nil && y < year {
			return message.Of("it asks for %d, which is past", y)
		}
	}
	return ""
}

// When results pages tell that a keyword is meant otherwise than the rest of its list. Our own.
const (
	fewestKnown = 20   // keywords whose results are known
	fewestHosts = 2    // sites that two of them share, to be of one subject
	maxApart    = 0.05 // of the known ones, that a subject of its own has at most to be no part of the list's
)

// otherMeanings says which keywords lead to none of the pages and sites that the others lead
// to, though they share words with them: they are another trade's. Where results are known of
// few, and where the list has several subjects, nothing is said.
func otherMeanings(list []Keyword, all []about, lang *language.Language) map[int]message.Message {
	var known []int
	for i := range list {
		if len(all[i].results) > 0 {
			known = append(known, i)
		}
	}
	if len(known) < fewestKnown {
		return nil
	}
	root := subjects(known, all).root
	size := map[int]int{}
	words := map[int]map[string]int{} // of each subject, its stems
	for _, i := range known {
		r := root(i)
		size[r]++
		if words[r] == nil {
			words[r] = map[string]int{}
		}
		for _, s := range all[i].stems {
			words[r][s]++
		}
	}
	few := max(1, int(maxApart*float64(len(known))))
	maps.DeleteFunc(words, func(r int, _ map[string]int) bool { return size[r] <= few })
	said := map[int]message.Message{}
	for _, i := range known {
		if size[root(i)] > few {
			continue
		}
		if word, n := rarestShared(all[i].stems, words); n > 0 {
			said[i] = message.Of("another meaning: of its first results none is a page that one of the %v with “%s” leads to", others(n), lang.WordOf(list[i].Text, word))
		}
	}
	return said
}

// rarestShared is the rarest of the stems that stand in other subjects, and how many keywords of
// theirs have it: it says most of what was meant.
func rarestShared(stems []string, words map[int]map[string]int) (word string, least int) {
	for _, s := range stems {
		n := 0
		for _, of := range words {
			n += of[s]
		}
		if n > 0 && (least == 0 || n < least) {
			word, least = s, n
		}
	}
	return word, least
}

// subjects joins the keywords that lead to one address, or to several sites in common.
func subjects(known []int, all []about) forest {
	parent := make(forest, len(all))
	for i := range parent {
		parent[i] = i
	}
	byPlace, byHost := map[string][]int{}, map[string][]int{}
	for _, i := range known {
		for u := range all[i].results {
			byPlace[u] = append(byPlace[u], i)
		}
		for h := range all[i].hosts {
			byHost[h] = append(byHost[h], i)
		}
	}
	for _, with := range byPlace { // an address in common is enough
		for _, o := range with[1:] {
			parent[parent.root(o)] = parent.root(with[0])
		}
	}
	for _, i := range known { // of sites, some: great ones stand for everything
		shared := map[int]int{}
		for h := range all[i].hosts {
			with := byHost[h]
			for _, o := range with[:min(len(with), commonest)] {
				if shared[o]++; o != i && shared[o] == fewestHosts {
					parent[parent.root(o)] = parent.root(i)
				}
			}
		}
	}
	return parent
}

// forest has for each node one that stands for it, or the node itself.
type forest []int

// root is the node that stands for all of a tree; paths are halved on the way (Tarjan & van
// Leeuwen 1984).
func (f forest) root(i int) int {
	for f[i] != i {
		f[i] = f[f[i]]
		i = f[i]
	}
	return i
}

func others(n int) message.Message {
	if n == 1 {
		return "other keywords, such as the one"
	}
	return message.Of("other %d keywords", n)
}

// resultsOf are the keys of the first results, and their sites.
func resultsOf(urls []string) (pages, hosts map[string]bool) {
	pages, hosts = map[string]bool{}, map[string]bool{}
	for _, u := range urls[:min(len(urls), FirstResults)] {
		a := address.Parse(u)
		pages[a.Key()] = true
		hosts[a.Host()] = true
	}
	return pages, hosts
}
