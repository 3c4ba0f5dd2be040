package demand

import (
	"fmt"
	"slices"
	"testing"

	"corpulan/core/message"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func graphOf(t testing.TB, list []Keyword, o Options) *Graph {
	t.Helper()
	g, err := NewGraph(t.Context(), list, o, nil)
	require.NoError(t, err)
	return g
}

// group finds the group that holds a keyword.
func group(t testing.TB, g Grouping, keyword string) Group {
	t.Helper()
	for _, x := range g.Groups {
		if slices.ContainsFunc(x.Keywords, func(k Keyword) bool { return k.Text == keyword }) {
			return x
		}
	}
	require.Fail(t, "no group holds "+keyword)
	return Group{}
}

func texts(list []Keyword) (out []string) {
	for _, k := range list {
		out = append(out, k.Text)
	}
	slices.Sort(out)
	return out
}

func plain(words ...string) (list []Keyword) {
	for i, w := range words {
		list = append(list, Keyword{Text: w, Volume: Of(float64(1000 - i))})
	}
	return list
}

// What a person did holds at every width and when the list grows: moved, joined, split, named,
// thrown out, taken in again.
func TestByHand(t *testing.T) {
	list := plain("bike lights", "bike light mount", "bike light battery", "winter gloves", "gloves for winter", "chain oil", "oil for chains", "bike lights 2019")
	o := Options{Language: "en", Width: 0.3, Year: 2026}
	g := graphOf(t, list, o)
	part := func(width float64, h Hand) Grouping {
		x := o
		x.Width, x.Hand = width, h
		return g.Part(x)
	}
	before := part(0.3, Hand{})
	assert.Equal(t, group(t, before, "winter gloves").Key, group(t, before, "gloves for winter").Key)
	moved := Hand{}.Move([]string{"bike light battery"}, group(t, before, "winter gloves"), before.Groups)
	for _, width := range []float64{0, 0.3, 1} {
		x := group(t, part(width, moved), "bike light battery")
		assert.Equal(t, []string{"bike light battery", "gloves for winter", "winter gloves"}, texts(x.Keywords), width)
		assert.True(t, x.ByHand)
	}
	joined := Hand{}.Join([]Group{group(t, before, "chain oil"), group(t, before, "winter gloves")})
	x := group(t, part(0, joined), "winter gloves")
	assert.Equal(t, []string{"chain oil", "gloves for winter", "oil for chains", "winter gloves"}, texts(x.Keywords))
	assert.Equal(t, "chain oil", x.Name, "joined under the name of the first")
	split := joined.Split([]string{"gloves for winter"}, part(0.3, joined).Groups)
	assert.Equal(t, []string{"gloves for winter"}, texts(group(t, part(1, split), "gloves for winter").Keywords), "though its words are another's")
	assert.Equal(t, []string{"chain oil", "oil for chains", "winter gloves"}, texts(group(t, part(0, split), "chain oil").Keywords))
	// The word that a group is held by may go: the others stay together, and keep their name.
	gone := joined.Split([]string{x.Key}, part(0.3, joined).Groups)
	assert.Equal(t, []string{"gloves for winter", "oil for chains", "winter gloves"}, texts(group(t, part(0, gone), "winter gloves").Keywords))
	assert.Equal(t, "chain oil", group(t, part(0, gone), "winter gloves").Name)
	// What was together by likeness alone does not follow what was taken out of it.
	apart := Hand{}.Split([]string{"gloves for winter"}, before.Groups)
	for _, width := range []float64{0, 1} {
		assert.Equal(t, []string{"gloves for winter"}, texts(group(t, part(width, apart), "gloves for winter").Keywords))
	}
	named := Hand{}.Rename(group(t, before, "chain oil"), "Oil")
	assert.Equal(t, "Oil", group(t, part(0.3, named), "oil for chains").Name)
	assert.Equal(t, "chain oil", group(t, part(0.3, named.Rename(group(t, part(0.3, named), "chain oil"), "")), "chain oil").Name)
	assert.Equal(t, []Out{{Keyword: "bike lights 2019", Reason: message.Of("it asks for %d, which is past", 2019)}}, before.Out)
	out := Hand{}.ThrowOut([]string{"chain oil"}, "not ours").TakeIn([]string{"bike lights 2019"})
	assert.Equal(t, []Out{{"chain oil", "not ours", true}}, part(0.3, out).Out)
	assert.Empty(t, part(0.3, out.TakeIn([]string{"chain oil"})).Out)
	// A list that grows: the new one joins those it is like, which stay together.
	more := append(slices.Clone(list), Keyword{Text: "warm winter gloves"})
	grown := graphOf(t, more, o)
	y := o
	y.Hand, y.Width = moved, 0.8
	assert.Contains(t, texts(group(t, grown.Part(y), "bike light battery").Keywords), "warm winter gloves")
	loose := joined.Loosen(x)
	assert.Equal(t, names2(before), names2(part(0.3, loose)))
}

// Whatever a person does, each keyword is in one group or out, and those put together are.
func TestNoKeywordIsLost(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		words := []string{"bike", "light", "glove", "winter", "chain", "oil"}
		seen := map[string]bool{}
		var list []Keyword
		for range rapid.IntRange(1, 14).Draw(r, "n") {
			w := rapid.SampledFrom(words).Draw(r, "a") + " " + rapid.SampledFrom(words).Draw(r, "b")
			if !seen[w] {
				seen[w] = true
				list = append(list, Keyword{Text: w})
			}
		}
		h := Hand{}.Clone()
		for range rapid.IntRange(0, 5).Draw(r, "acts") {
			g := GroupOf(list, Options{Language: "en", Width: 0.5, Hand: h})
			k := Same(rapid.SampledFrom(list).Draw(r, "k").Text)
			switch kind := rapid.IntRange(0, 4).Draw(r, "kind"); {
			case kind == 0:
				h = h.Split([]string{k}, g.Groups)
			case kind == 1 && len(g.Groups) > 0:
				h = h.Move([]string{k}, rapid.SampledFrom(g.Groups).Draw(r, "to"), g.Groups)
			case kind == 2 && len(g.Groups) > 1:
				h = h.Join(slices.Clone(g.Groups[:2]))
			case kind == 3:
				h = h.ThrowOut([]string{k}, "no")
			default:
				h = h.TakeIn([]string{k})
			}
		}
		o := Options{Language: "en", Width: rapid.Float64Range(0, 1).Draw(r, "width"), Hand: h}
		g := GroupOf(list, o)
		of, keys := map[string]int{}, map[string]bool{}
		for i, x := range g.Groups {
			if keys[x.Key] {
				r.Fatalf("two groups are called %q", x.Key)
			}
			keys[x.Key] = true
			for _, k := range x.Keywords {
				of[Same(k.Text)] = i + 1
			}
		}
		if len(of)+len(g.Out) != len(list) {
			r.Fatalf("%d in groups, %d out, of %d", len(of), len(g.Out), len(list))
		}
		for a, wa := range h.Of {
			for b, wb := range h.Of {
				if of[a] > 0 && of[b] > 0 && (wa == wb) != (of[a] == of[b]) {
					r.Fatalf("%q and %q: by hand %q and %q, in groups %d and %d", a, b, wa, wb, of[a], of[b])
				}
			}
		}
	})
}

// A keyword that leads to none of the sites the others lead to is another trade's, if it shares
// a word with them; where a list has two subjects, neither is.
func TestOtherMeanings(t *testing.T) {
	var list []Keyword
	results := Results{}
	add := func(text string, site string, n int) {
		list = append(list, Keyword{Text: text})
		for i := range 10 {
			results[Same(text)] = append(results[Same(text)], fmt.Sprintf("http://%s%d.example/%d", site, i, n))
		}
	}
	for i := range 25 {
		add(fmt.Sprintf("bike tyre matter%d", i), "bike", i)
	}
	add("car tyre", "car", 1)
	add("apple cake", "cake", 1)
	g := GroupOf(list, Options{Language: "en", Width: 0.5, Results: results})
	require.Len(t, g.Out, 1)
	assert.Equal(t, "car tyre", g.Out[0].Keyword)
	assert.Equal(t, "another meaning: of its first results none is a page that one of the other 25 keywords with “tyre” leads to", g.Out[0].Reason.String())
	for i := range 10 {
		add(fmt.Sprintf("car tyre thing%d", i), "car", i)
	}
	assert.Empty(t, GroupOf(list, Options{Language: "en", Width: 0.5, Results: results}).Out)
}

// A query that names a site wants to go there; one whose matter a site is called after does not.
func TestSitesThatAreNamed(t *testing.T) {
	list := plain("quillfen cycles opening hours", "winter bike", "winter bike tyres", "winter bike light", "winter bike chain")
	results := Results{"quillfen cycles opening hours": {"https://quillfencycles.example/hours"}}
	for _, k := range list[1:] {
		results[Same(k.Text)] = []string{"https://winterbike.example/"}
	}
	g := GroupOf(list, Options{Language: "en", Width: 0, Results: results})
	x := group(t, g, "quillfen cycles opening hours")
	assert.Equal(t, navigational, x.Intent)
	assert.Equal(t, "1 of 1 queries name the site quillfencycles.example", x.IntentWhy.Message().String())
	assert.Equal(t, informational, group(t, g, "winter bike tyres").Intent)
}
