package evidence

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/entities"
	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// demoField reads the stand-in's articles on winter bike commuting.
func demoField(t testing.TB) []corpus.RankedPage {
	t.Helper()
	var files []string
	for _, pattern := range []string{"*/guides/*.html", "*/tips/*.html", "*/ask/*.html", "*/learn/*.html", "*/journal/*.html", "*/advice/*.html", "*/features/*.html", "*/transport/cycling/*.html", "spokeandkettle.example/2025/11/*.html"} {
		found, err := filepath.Glob("../../standin/sites/" + pattern)
		require.NoError(t, err)
		files = append(files, found...)
	}
	require.GreaterOrEqual(t, len(files), 10)
	var pages []corpus.RankedPage
	for i, f := range files[:] {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		r, err := reading.Read(reading.Page{URL: "http://" + strings.TrimSuffix(strings.TrimPrefix(filepath.ToSlash(f), "../../standin/sites/"), ".html"), Body: b})
		require.NoError(t, err)
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "en")})
	}
	return pages
}

// The number beside a term is the number of places its concordance shows, page
// by page: every count can be followed to its sentences.
func TestEveryCountHasItsSentences(t *testing.T) {
	pages := demoField(t)
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: pages})
	require.Greater(t, len(e.Terms), 200)
	for _, term := range e.Terms {
		counts := make([]int, len(pages))
		for _, line := range corpus.Concordance(pages, term.Keys...) {
			for i, p := range pages {
				if p.Rank == line.Rank {
					counts[i]++
				}
			}
		}
		assert.Equal(t, term.Counts, counts, term.Text)
	}
	for _, x := range e.Entities {
		lines := corpus.Mentions(pages, x.Variants...)
		if x.Type == entities.ConceptType { // a term, whose words may be turned
			lines = corpus.Concordance(pages, language.For("en").PhraseKey(x.Name))
		}
		assert.NotEmpty(t, lines, x.Name)
	}
}

// What holds of every field: a term of a single page is never recommended,
// page counts agree with counts, ranges with the counts they are taken from.
func TestTermsAreConsistent(t *testing.T) {
	pages := demoField(t)
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: pages})
	for _, term := range e.Terms {
		using, total := []float64{}, 0
		for _, n := range term.Counts {
			total += n
			if n > 0 {
				using = append(using, float64(n))
			}
		}
		assert.Equal(t, term.Pages, len(using), term.Text)
		assert.Equal(t, term.Count, total, term.Text)
		assert.Equal(t, stats.RangeOf(using), term.Use, term.Text)
		assert.False(t, term.Pages < 2 && term.Recommended(), term.Text)
		assert.Contains(t, []vocabulary.Tier{vocabulary.Staple, vocabulary.Frequent, vocabulary.Occasional}, term.Tier, term.Text)
	}
}

// Whoever wants them first is given the terms with what every later figure says of them, but for names among them, which are found
// after, and nothing else.
func TestTheTermsComeFirst(t *testing.T) {
	var first *Evidence
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: demoField(t), First: func(x *Evidence) { first = x }})
	require.NotNil(t, first)
	require.Len(t, first.Terms, len(e.Terms))
	for i, term := range e.Terms {
		term.Flag = first.Terms[i].Flag
		assert.Equal(t, first.Terms[i], term)
	}
	assert.Equal(t, e.Contrast, first.Contrast)
	assert.Empty(t, first.Themes)
}

func asJSON(t testing.TB, v any) string {
	t.Helper()
	b, err := json.Marshal(v)
	require.NoError(t, err)
	return string(b)
}

func TestTheSamePagesGiveTheSameEvidence(t *testing.T) {
	pages := demoField(t)
	in := Input{Keyword: "winter bike commuting", Language: "en", Pages: pages, Asked: []string{"Is it safe to cycle to work in winter?"}}
	want := asJSON(t, compute(in))
	for range 3 {
		assert.True(t, want == asJSON(t, compute(in)), "evidence differs between runs")
	}
}

// The order of the pages changes nothing but ranks.
func TestPageOrderChangesNoFigure(t *testing.T) {
	pages := demoField(t)
	figures := func(order []corpus.RankedPage) map[string]string {
		e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: order})
		m := map[string]string{"words": asJSON(t, e.Figure("words").Range)}
		for _, term := range e.Terms {
			m["term "+term.Key] = fmt.Sprintf("%d %d %v %.6f %s %s %s", term.Pages, term.Count, term.Use, term.Spread, term.Tier, term.Flag, term.Text)
		}
		for _, x := range e.Entities {
			m["entity "+x.Key] = fmt.Sprint(x.Pages, x.Mentions, x.Type)
		}
		m["questions"], m["themes"] = fmt.Sprint(len(e.Questions)), fmt.Sprint(len(e.Themes))
		return m
	}
	want := figures(pages)
	shuffled := slices.Clone(pages)
	rand.New(rand.NewPCG(7, 7)).Shuffle(len(shuffled), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
	assert.Equal(t, want, figures(shuffled))
}

// A page doubled changes no density: the rates of its terms stay as they are.
func TestADoubledPageChangesNoRate(t *testing.T) {
	text := `<p>A studded tyre grips on ice. The studded tyre is slow on tarmac, and wool gloves are warm. Wool gloves dry slowly.</p>`
	rates := func(n int) string {
		e := compute(Input{Keyword: "winter", Language: "en", Pages: []corpus.RankedPage{corpustest.Page(t, 1, "a.example", strings.Repeat(text, n)), corpustest.Page(t, 2, "b.example", strings.Repeat(text, n))}})
		out := map[string]stats.Range{}
		for _, term := range e.Terms {
			out[term.Key] = term.Rate
		}
		return asJSON(t, out)
	}
	assert.Equal(t, rates(1), rates(2))
}

// A set-aside page leaves no trace.
func TestASetAsidePageLeavesNoTrace(t *testing.T) {
	pages := demoField(t)
	kept := slices.Clone(pages[:6])
	before := asJSON(t, compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: kept}))
	compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: pages})
	assert.True(t, before == asJSON(t, compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: kept})))
}

func TestAnEmptyField(t *testing.T) {
	e := compute(Input{Keyword: "winter", Language: "en"})
	assert.Empty(t, e.Terms)
	assert.Empty(t, e.Themes)
	assert.Zero(t, e.Figure("words").N)
	assert.NotContains(t, asJSON(t, e), "null,", "lists are empty, not missing")
}

func TestMeasuresLeaveOutliersOutOfTargets(t *testing.T) {
	var pages []corpus.RankedPage
	for i, n := range []int{20, 22, 24, 26, 400} {
		pages = append(pages, corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), "<p>"+strings.Repeat("The chain is clean now. ", n)+"</p>"))
	}
	m := compute(Input{Keyword: "chain", Language: "en", Pages: pages}).Figure("words")
	assert.Equal(t, []int{5}, m.Outliers)
	assert.Equal(t, 4, m.Target.N)
	assert.Less(t, m.Target.Upper, 200.0)
	assert.Equal(t, 5, m.N)
}

func TestCitations(t *testing.T) {
	link := `<p>As the <a href="http://lab.example/report">laboratory's report</a> says, ice is slippery when it is nearly melting.</p>`
	e := compute(Input{Keyword: "ice", Language: "en", Pages: []corpus.RankedPage{corpustest.Page(t, 1, "a.example", link), corpustest.Page(t, 2, "b.example", link), corpustest.Page(t, 3, "c.example", `<p>And <a href="http://alone.example/">this one</a> only here in this text.</p>`)}})
	require.Len(t, e.Citations, 1)
	assert.Equal(t, "http://lab.example/report", e.Citations[0].URL)
	assert.Equal(t, []int{1, 2}, e.Citations[0].Sources)
}

// BenchmarkCompute20 is the work of one kept/set-aside click: evidence anew
// over twenty prepared pages. The budget is 100 ms.
func BenchmarkCompute20(b *testing.B) { benchmarkCompute(b, 20) }

// BenchmarkCompute100 has a budget of 500 ms.
func BenchmarkCompute100(b *testing.B) { benchmarkCompute(b, 100) }

func benchmarkCompute(b *testing.B, n int) {
	demo := demoField(b)
	var pages []corpus.RankedPage
	for i := range n {
		p := *demo[i%len(demo)].Doc
		p.Host = fmt.Sprintf("host%d.example", i) // else repeated headings would be taken for a site's
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: &p})
	}
	for b.Loop() {
		compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: pages})
	}
}

func compute(in Input) *Evidence {
	e, err := Compute(context.Background(), in)
	if err != nil {
		panic(err)
	}
	return e
}

// What the house ignores is proposed neither as a term nor as a name.
func TestTheHouseIsHeededInNames(t *testing.T) {
	pages := demoField(t)
	flag := func(in Input) (flag string) {
		for _, x := range compute(in).Entities {
			if x.Name == "Millgate Bridge" {
				flag = x.Flag.String() + "."
			}
		}
		return flag
	}
	in := Input{Keyword: "winter bike commuting", Language: "en", Pages: pages}
	require.Equal(t, ".", flag(in), "a name of the field")
	in.House = []house.Entry{{Kind: house.Ignore, Term: "millgate bridge"}}
	assert.Contains(t, flag(in), "house lexicon")
}

// Things that pages list are neither themes nor terms; what they are compared by is.
func TestListedThingsAreNoMatters(t *testing.T) {
	thing := func(h string) string {
		return "<h2>" + h + "</h2><p>It has studs of carbide along the shoulders, weighs little and rolls well on tarmac that is cold and wet.</p>"
	}
	grip := "<h2>Grip on ice</h2><p>Carbide studs hold on sheet ice where rubber slides, and two rows of them are enough for most roads that are gritted.</p>"
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", "<h1>Best studded tyres</h1>"+thing("1. Icegrip 160: best for commuters")+thing("2. Northpin Traverse: best on ruts")+thing("3. Fen Studder: cheapest")+grip),
		corpustest.Page(t, 2, "b.example", "<h1>Studded tyres</h1>"+thing("Best overall: Icegrip 160")+thing("Best budget: Fen Studder")+thing("Best on ruts: Northpin Traverse")+strings.Replace(grip, "hold on", "bite into", 1)),
	}
	e, err := Compute(t.Context(), Input{Keyword: "studded tyres", Language: "en", Pages: pages})
	require.NoError(t, err)
	require.Len(t, e.Listed, 3)
	assert.Equal(t, 2, e.Listed[0].Pages)
	for _, x := range e.Themes {
		assert.NotContains(t, x.Label, "Icegrip")
		assert.NotContains(t, x.Label, "Studder")
	}
	for _, x := range e.Terms {
		if x.Recommended() {
			assert.NotContains(t, []string{"Icegrip 160", "Fen Studder", "Northpin Traverse"}, x.Text)
		}
	}
	assert.True(t, slices.ContainsFunc(e.Themes, func(x themes.Theme) bool { return x.Pages == 2 && x.Label == "Grip on ice" }))
}
