package demand

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"

	"corpulan/core/language"
	"corpulan/core/text"
)

// Group is the keywords of one page.
type Group struct {
	Name        string    `json:"name"` // the keyword with the most volume, else the plainest
	Keywords    []Keyword `json:"keywords"`
	Volume      Figure    `json:"volume"`     // of all together
	Difficulty  Figure    `json:"difficulty"` // median
	Cost        Figure    `json:"cost"`       // median
	Intent      string    `json:"intent"`
	IntentWhy   string    `json:"intent_why"`
	Questions   []string  `json:"questions"`
	Seasonality Figure    `json:"seasonality"` // of the month with the most searches against the mean of all; 1 for none
	Shared      bool      `json:"shared"`      // shared results had a say
}

// Out is a keyword that is worth no page as it stands, and why.
type Out struct {
	Keyword string `json:"keyword"`
	Reason  string `json:"reason"`
}

// Grouping is what a list comes to.
type Grouping struct {
	Groups []Group `json:"groups"`
	Out    []Out   `json:"out"`
}

// Options are how a list is grouped.
type Options struct {
	Language string
	Width    float64 // 0, narrow, to 1, wide
	Results  Results // of queries, where they are known
	Year     int     // the present one; 0 where nobody says
}

// The mean likeness that holds a group together, of narrow and of wide ones. Our own: measured on
// labelled queries, see docs/evaluation.md.
const (
	narrowest = 0.9
	widest    = 0.2
)

// GroupOf groups keywords into pages' worth.
func GroupOf(list []Keyword, o Options) Grouping {
	lang := language.For(o.Language)
	g := Grouping{Groups: []Group{}, Out: []Out{}}
	var in []Keyword
	for _, k := range list {
		if why := outOf(k, o.Year); why != "" {
			g.Out = append(g.Out, Out{k.Text, why})
			continue
		}
		in = append(in, k)
	}
	edges := likenesses(in, o.Results, lang)
	width := math.Min(math.Max(o.Width, 0), 1)
	of := Dense(len(in), edges, narrowest*math.Pow(widest/narrowest, width))
	members := map[int][]Keyword{}
	most := -1
	for i, c := range of {
		members[c] = append(members[c], in[i])
		most = max(most, c)
	}
	wishes := wishesOf(lang)
	for c := range most + 1 {
		g.Groups = append(g.Groups, summed(members[c], o, lang, wishes))
	}
	slices.SortStableFunc(g.Groups, func(a, b Group) int { return cmp.Compare(b.Volume.Value, a.Volume.Value) })
	return g
}

var aYear = regexp.MustCompile(`\b(19|20)\d\d\b`)

// outOf says why a keyword is worth no page as it stands: it is bound to a past year.
func outOf(k Keyword, year int) string {
	if year == 0 {
		return ""
	}
	for _, m := range aYear.FindAllString(k.Text, -1) {
		if y, err := strconv.Atoi(m); err == nil && y < year {
			return fmt.Sprintf("it asks for %d, which is past", y)
		}
	}
	return ""
}

// summed makes a group of keywords.
func summed(list []Keyword, o Options, lang *language.Language, wishes []wish) Group {
	slices.SortStableFunc(list, func(a, b Keyword) int {
		return cmp.Or(cmp.Compare(b.Volume.Value, a.Volume.Value), cmp.Compare(len(stemsOf(lang, a.Text)), len(stemsOf(lang, b.Text))))
	})
	g := Group{Name: list[0].Text, Keywords: list, Questions: []string{}}
	var difficulty, cost []float64
	months := []float64{}
	known := 0
	for _, k := range list {
		if k.Volume.Known {
			g.Volume = Of(g.Volume.Value + k.Volume.Value)
		}
		if k.Difficulty.Known {
			difficulty = append(difficulty, k.Difficulty.Value)
		}
		if k.Cost.Known {
			cost = append(cost, k.Cost.Value)
		}
		if _, asks := lang.KindOfQuestion(k.Text); asks { // queries have no question mark
			g.Questions = append(g.Questions, k.Text)
		}
		for i, m := range k.Trend {
			if i == len(months) {
				months = append(months, 0)
			}
			months[i] += m.Value
		}
		if _, ok := o.Results[Same(k.Text)]; ok {
			known++
		}
	}
	g.Shared = known > 1
	g.Difficulty, g.Cost, g.Seasonality = median(difficulty), median(cost), seasonality(months)
	g.Intent, g.IntentWhy = intentOf(list, wishes)
	return g
}

func median(x []float64) Figure {
	if len(x) == 0 {
		return Figure{}
	}
	slices.Sort(x)
	if n := len(x); n%2 == 0 {
		return Of((x[n/2-1] + x[n/2]) / 2)
	}
	return Of(x[len(x)/2])
}

// fewestMonths is how many months show a season at the least: a year.
const fewestMonths = 12 // common practice, no published source

func seasonality(months []float64) Figure {
	sum, most := 0.0, 0.0
	for _, m := range months {
		sum += m
		most = max(most, m)
	}
	if len(months) < fewestMonths || sum == 0 {
		return Figure{}
	}
	return Of(math.Round(100*most*float64(len(months))/sum) / 100)
}

// The intents of a query, after Broder (2002) with the trade's "commercial" between
// informational and transactional.
const (
	informational = "informational"
	commercial    = "commercial"
	transactional = "transactional"
)

// wish is an intent with the phrases of queries that say it.
type wish struct {
	intent, what string
	phrases      *text.Phrases
}

func wishesOf(lang *language.Language) []wish {
	t := lang.Title
	return []wish{{transactional, "buy", text.NewPhrases(t.Buying...)}, {commercial, "compare", text.NewPhrases(t.Comparing...)}, {informational, "ask or explain", text.NewPhrases(t.Explaining...)}}
}

// intentOf tells what most of a group's searches want, by the words of its queries, weighed by
// volume where that is known, and how many say so. Queries without such a word are informational.
func intentOf(list []Keyword, of []wish) (intent, why string) {
	weight, count := make([]float64, len(of)), make([]int, len(of))
	rest, all := 0, 0.0
	for _, k := range list {
		w := 1.0
		if k.Volume.Known {
			w = k.Volume.Value
		}
		all += w
		found := false
		for i, x := range of {
			if !found && x.phrases.Find(k.Text) != "" {
				weight[i] += w
				count[i]++
				found = true
			}
		}
		if !found {
			rest++
		}
	}
	best := -1
	for i := range of {
		if count[i] > 0 && 2*weight[i] >= all && (best < 0 || weight[i] > weight[best]) {
			best = i
		}
	}
	if best < 0 {
		return informational, fmt.Sprintf("%d of %d queries name the matter alone", rest, len(list))
	}
	return of[best].intent, fmt.Sprintf("%d of %d queries %s", count[best], len(list), of[best].what)
}
