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

	"corpulan/core/reading"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// page reads HTML as the page of a host.
func page(t testing.TB, rank int, host, html string) Page {
	t.Helper()
	r, err := reading.Read(reading.Page{URL: "http://" + host + "/page", Body: []byte(`<html lang="en"><body><article>` + html + `</article></body></html>`)})
	require.NoError(t, err)
	return Page{Rank: rank, Doc: Prepare(r, "en")}
}

// demoField reads the stand-in's articles on winter bike commuting.
func demoField(t testing.TB) []Page {
	t.Helper()
	var files []string
	for _, pattern := range []string{"*/guides/*.html", "*/tips/*.html", "*/ask/*.html", "*/learn/*.html", "*/journal/*.html", "*/advice/*.html", "*/features/*.html", "*/transport/cycling/*.html", "spokeandkettle.example/2025/11/*.html"} {
		found, err := filepath.Glob("../../standin/sites/" + pattern)
		require.NoError(t, err)
		files = append(files, found...)
	}
	require.GreaterOrEqual(t, len(files), 10)
	var pages []Page
	for i, f := range files[:] {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		r, err := reading.Read(reading.Page{URL: "http://" + strings.TrimSuffix(strings.TrimPrefix(filepath.ToSlash(f), "../../standin/sites/"), ".html"), Body: b})
		require.NoError(t, err)
		pages = append(pages, Page{Rank: i + 1, Doc: Prepare(r, "en")})
	}
	return pages
}

func termNamed(e *Evidence, text string) *Term {
	for i := range e.Terms {
		for _, s := range e.Terms[i].Shapes {
			if s.Text == text {
				return &e.Terms[i]
			}
		}
	}
	return nil
}

func TestTermShapesAreOneTerm(t *testing.T) {
	pages := []Page{
		page(t, 1, "a.example", `<h1>On it</h1><p>An e-bike needs a charger. The ebike charger is heavy, and every e bike has one.</p>`),
		page(t, 2, "b.example", `<h1>More</h1><p>E-bikes are quick. A studded tyre grips. Our e-bike is parked.</p>`),
		page(t, 3, "c.example", `<h1>Less</h1><p>Studded tyres grip; the studded tyre’s pins wear.</p>`),
	}
	e := compute(Input{Keyword: "winter riding", Language: "en", Pages: pages})
	bike := termNamed(e, "e-bike")
	require.NotNil(t, bike)
	assert.Equal(t, []int{3, 2, 0}, bike.Counts, "hyphen, joined and open spelling, singular and plural")
	assert.Equal(t, "e-bike", bike.Text)
	tyre := termNamed(e, "studded tyre")
	require.NotNil(t, tyre)
	assert.Equal(t, []int{0, 1, 2}, tyre.Counts)
}

func TestWhatIsNoTerm(t *testing.T) {
	text := `<h1>Guide</h1><p>You should get the best out of it, really. In January 2026 the ride was 12 km. Northlane says: wear wool gloves, and keep the wool gloves dry.</p><pre>npm install gloves</pre>`
	e := compute(Input{Keyword: "winter riding", Language: "en", Pages: []Page{
		page(t, 1, "northlane.example", text), page(t, 2, "other.example", text), page(t, 3, "third.example", strings.ReplaceAll(text, "wool", "silk"))}})
	for _, junk := range []string{"you", "best", "get", "really", "2026", "12 km", "npm", "npm install", "should get", "ride was"} {
		assert.Nil(t, termNamed(e, junk), junk)
	}
	for _, flagged := range []string{"northlane", "January", "Northlane", "km"} {
		if term := termNamed(e, flagged); term != nil {
			assert.False(t, term.Recommended(), flagged)
		}
	}
	require.NotNil(t, termNamed(e, "wool gloves"))
	assert.Nil(t, termNamed(e, "silk gloves"), "one page only")
}

func TestTiers(t *testing.T) {
	for _, c := range []struct {
		pages, of int
		want      Tier
	}{{6, 10, Staple}, {5, 10, Frequent}, {3, 10, Frequent}, {2, 10, Occasional}, {1, 10, Hapax}, {1, 1, Hapax}, {2, 2, Staple}, {2, 3, Staple}} {
		assert.Equal(t, c.want, TierOf(c.pages, c.of), fmt.Sprint(c))
	}
}

// The number beside a term is the number of places its concordance shows, page
// by page: every count can be followed to its sentences.
func TestEveryCountHasItsSentences(t *testing.T) {
	pages := demoField(t)
	e := compute(Input{Keyword: "winter bike commuting", Language: "en", Pages: pages})
	require.Greater(t, len(e.Terms), 200)
	for _, term := range e.Terms {
		counts := make([]int, len(pages))
		for _, line := range Concordance(pages, term.Keys...) {
			for i, p := range pages {
				if p.Rank == line.Rank {
					counts[i]++
				}
			}
		}
		assert.Equal(t, term.Counts, counts, term.Text)
	}
	for _, x := range e.Entities {
		if x.Mentions > 1 {
			assert.NotEmpty(t, Mentions(pages, x.Name), x.Name)
		}
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
		assert.Equal(t, RangeOf(using), term.Use, term.Text)
		assert.False(t, term.Pages < 2 && term.Recommended(), term.Text)
		assert.Contains(t, []Tier{Staple, Frequent, Occasional}, term.Tier, term.Text)
	}
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
	figures := func(order []Page) map[string]string {
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
		e := compute(Input{Keyword: "winter", Language: "en", Pages: []Page{page(t, 1, "a.example", strings.Repeat(text, n)), page(t, 2, "b.example", strings.Repeat(text, n))}})
		out := map[string]Range{}
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
	var pages []Page
	for i, n := range []int{20, 22, 24, 26, 400} {
		pages = append(pages, page(t, i+1, fmt.Sprintf("s%d.example", i), "<p>"+strings.Repeat("The chain is clean now. ", n)+"</p>"))
	}
	m := compute(Input{Keyword: "chain", Language: "en", Pages: pages}).Figure("words")
	assert.Equal(t, []int{5}, m.Outliers)
	assert.Equal(t, 4, m.Target.N)
	assert.Less(t, m.Target.Upper, 200.0)
	assert.Equal(t, 5, m.N)
}

func TestEntities(t *testing.T) {
	pages := []Page{
		page(t, 1, "a.example", `<p>We rode to Utrecht with the Road Surface Laboratory. Winter was cold, and the Laboratory measured it. Then Dr. Hartwell spoke about the LED lamp.</p><p>In Utrecht the Road Surface Laboratory has a track.</p>`),
		page(t, 2, "b.example", `<p>Cold winter mornings in Utrecht are long, says Dr. Hartwell. We like winter. Tyres matter, and so do tyres with an LED lamp.</p>`),
	}
	e := compute(Input{Keyword: "winter riding", Language: "en", Pages: pages})
	types := map[string]EntityType{}
	for _, x := range e.Entities {
		types[x.Name] = x.Type
	}
	assert.Equal(t, PlaceType, types["Utrecht"])
	assert.Equal(t, OrganisationType, types["Road Surface Laboratory"])
	assert.Equal(t, PersonType, types["Dr Hartwell"], fmt.Sprint(types))
	assert.Equal(t, AbbreviationType, types["LED"])
	for _, no := range []string{"Winter", "Cold", "Tyres", "In", "Then", "We"} {
		assert.NotContains(t, types, no)
	}
}

func TestThemes(t *testing.T) {
	cold := `<p>Wear wool gloves and a windproof jacket. The jacket vents; the gloves are thin. Under the jacket a wool layer, on the hands gloves.</p>`
	pages := []Page{
		page(t, 1, "a.example", `<h1>Guide</h1><h2>Dressing for the cold</h2>`+cold+`<h2>Tyre pressure</h2><p>Lower it by ten psi. Pressure falls in frost.</p><h2>Conclusion</h2><p>Ride on and on.</p>`),
		page(t, 2, "b.example", `<h1>Tips</h1><h2>What to wear</h2>`+cold+`<h2>Check your tyre pressure</h2><p>Every week, with a gauge. Pressure is free.</p><h2>Conclusion</h2><p>That was all of it.</p>`),
	}
	e := compute(Input{Keyword: "winter riding", Language: "en", Pages: pages})
	together := map[string][]string{}
	for _, th := range e.Themes {
		for _, m := range th.Members {
			together[th.Label] = append(together[th.Label], m.Text)
		}
	}
	assert.ElementsMatch(t, []string{"Tyre pressure", "Check your tyre pressure"}, together["Tyre pressure"])
	met := false
	for _, members := range together {
		met = met || slices.Contains(members, "Dressing for the cold") && slices.Contains(members, "What to wear")
	}
	assert.True(t, met, "headings that share no word meet by their sections: %v", together)
	for _, th := range e.Themes {
		assert.False(t, th.Label == "Conclusion" && th.Recommended())
	}
}

func TestCitations(t *testing.T) {
	link := `<p>As the <a href="http://lab.example/report">laboratory's report</a> says, ice is slippery when it is nearly melting.</p>`
	e := compute(Input{Keyword: "ice", Language: "en", Pages: []Page{page(t, 1, "a.example", link), page(t, 2, "b.example", link), page(t, 3, "c.example", `<p>And <a href="http://alone.example/">this one</a> only here in this text.</p>`)}})
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
	var pages []Page
	for i := range n {
		p := *demo[i%len(demo)].Doc
		p.Host = fmt.Sprintf("host%d.example", i) // else repeated headings would be taken for a site's
		pages = append(pages, Page{Rank: i + 1, Doc: &p})
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
