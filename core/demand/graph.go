package demand

import (
	"cmp"
	"context"
	"math"
	"slices"

	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Graph is a list whose keywords have been compared with each other: what costs is done once,
// and it is parted at any width in little time. It never changes once made.
type Graph struct {
	list    []Keyword
	keys    []string
	all     []about
	edges   []edge
	reasons map[int]message.Message // to leave a keyword out, by the rules
	known   int                     // keywords whose results are known
}

// about is what a keyword is compared and summed up by.
type about struct {
	signs
	stems []string
	near  []map[string]float64 // words near each of the vector's, nil for none
	norm  float64              // of the vector, among words near each other
	hosts map[string]bool
	wish  int      // of wishesOf; -1 for none
	site  string   // the site it names; empty for none
	named []string // the words it does so with
}

// Options are how a list is grouped.
type Options struct {
	Language string
	Width    float64 // 0, narrow, to 1, wide
	Results  Results // of queries, where they are known
	Year     int     // the present one; 0 where nobody says
	Hand     Hand
	Curve    Curve // DefaultCurve where none is given
}

// NewGraph compares the keywords of a list. done is called now and then with how many of them
// have been; nil for nobody. Its only error is ctx's.
func NewGraph(ctx context.Context, list []Keyword, o Options, done func(n int)) (*Graph, error) {
	lang := language.For(o.Language)
	g := &Graph{list: list, keys: keysOf(list), reasons: map[int]message.Message{}}
	words := vocabularyOf(list, lang)
	g.all = aboutOf(list, o.Results, lang, words.misspelt())
	for i, k := range list {
		if g.all[i].results != nil {
			g.known++
		}
		if why := pastYear(k, o.Year); why != "" {
			g.reasons[i] = why
		}
	}
	for _, reasons := range []map[int]message.Message{otherMeanings(list, g.all, lang), words.otherLanguages()} {
		for i, why := range reasons {
			if g.reasons[i] == "" {
				g.reasons[i] = why
			}
		}
	}
	var err error
	g.edges, err = likenesses(ctx, g.all, meaningOf(list, lang), done)
	return g, err
}

// Len is how many keywords there are; Known, of how many the results are known.
func (g *Graph) Len() int { return len(g.list) }

// Known is described at Len.
func (g *Graph) Known() int { return g.known }

// The mean likeness that holds a group together, of narrow and of wide ones. Our own: measured on
// labelled queries, see docs/evaluation.md.
const (
	narrowest = 0.9
	widest    = 0.25
)

// Part makes groups of the graph at a width, with what a person did.
func (g *Graph) Part(o Options) Grouping {
	lang := language.For(o.Language)
	out := Grouping{Groups: []Group{}, Out: []Out{}, Width: math.Min(math.Max(o.Width, 0), 1)}
	if o.Curve == nil {
		o.Curve = DefaultCurve()
	}
	at := make([]int, len(g.list)) // among those that are in; -1 for the others
	var in []int
	for i, k := range g.list {
		at[i] = -1
		switch byHand, byRule := o.Hand.Out[g.keys[i]], g.reasons[i]; {
		case byHand != "":
			out.Out = append(out.Out, Out{k.Text, message.Message(byHand), true})
		case byRule != "" && !o.Hand.In[g.keys[i]]:
			out.Out = append(out.Out, Out{Keyword: k.Text, Reason: byRule})
		default:
			at[i] = len(in)
			in = append(in, i)
		}
	}
	if len(in) == 0 {
		return out
	}
	edges := make([]stats.Edge, 0, len(g.edges))
	for _, e := range g.edges {
		if at[e.a] >= 0 && at[e.b] >= 0 {
			edges = append(edges, stats.Edge{A: at[e.a], B: at[e.b], Weight: e.w})
		}
	}
	keys := make([]string, len(in))
	for n, i := range in {
		keys[n] = g.keys[i]
	}
	of := stats.NewGraph(len(in), edges).Dense(narrowest*math.Pow(widest/narrowest, out.Width), o.Hand.heldIn(keys))
	members := make([][]int, slices.Max(of)+1)
	for n, c := range of {
		members[c] = append(members[c], in[n])
	}
	wishes := wishesOf(lang)
	for _, m := range members {
		out.Groups = append(out.Groups, g.summed(m, o, lang, wishes))
	}
	slices.SortStableFunc(out.Groups, func(a, b Group) int { return cmp.Compare(b.Volume.Value, a.Volume.Value) })
	return out
}

// aboutOf prepares keywords for comparison.
func aboutOf(list []Keyword, results Results, lang *language.Language, meant map[string]string) []about {
	all := make([]about, len(list))
	df, light := map[string]int{}, map[string]bool{}
	wishes, split, things := wishesOf(lang), compounds(list, lang), productsOf(list, lang)
	for i, k := range list {
		a := &all[i]
		a.stems, a.wish = stemsWith(lang, respelled(k.Text, meant), split), -1
		for _, s := range a.stems {
			df[s]++
		}
		text.EachWord(k.Text, func(w text.Span) {
			if folded := text.Fold(w.Of(k.Text)); lang.Light(folded) {
				light[lang.StemFolded(folded)] = true
			}
		})
		for n, w := range wishes {
			if a.wish < 0 && w.phrases.Find(k.Text) != "" {
				a.wish = n
			}
		}
		if a.wish < 0 && things.names(k.Text) {
			a.wish = compares
		}
		if urls, ok := results[Same(k.Text)]; ok {
			a.results, a.hosts = resultsOf(urls)
			a.site, a.named = siteNamed(k.Text, urls)
		}
	}
	for i := range all {
		all[i].weigh(df, light, len(list))
		if all[i].site != "" && !slices.ContainsFunc(all[i].named, func(w string) bool { return df[lang.StemFolded(w)] <= maxOthers }) {
			all[i].site = ""
		}
		all[i].kind, all[i].asks = lang.KindOfQuestion(list[i].Text)
	}
	return all
}
