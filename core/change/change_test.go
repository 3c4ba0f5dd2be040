package change_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"corpulan/core/change"
	"corpulan/core/corpus"
	"corpulan/core/message"
	"corpulan/core/reading"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// doc is a page of sections: its heading, then its sentences, blocks apart by bars.
func doc(t *testing.T, url string, sections ...string) *corpus.Doc {
	t.Helper()
	var b strings.Builder
	b.WriteString("<html lang=en><title>Winter tyres</title><article><h1>Winter tyres</h1>")
	for _, s := range sections {
		heading, text, _ := strings.Cut(s, ": ")
		if heading != "" {
			fmt.Fprintf(&b, "<h2>%s</h2>", heading)
		}
		for block := range strings.SplitSeq(text, "|") {
			fmt.Fprintf(&b, "<p>%s</p>", block)
		}
	}
	r, err := reading.Read(reading.Page{URL: url, Body: []byte(b.String() + "</article>")})
	require.NoError(t, err)
	return corpus.Prepare(r, "en")
}

const (
	intro   = "Cold roads ask for other rubber than warm ones do, and for some patience in the morning."
	studs   = "Studded tyres grip on ice where nothing else does. They are loud on dry roads and slow. Fit them from November to March."
	air     = "Let some air out of the tyre on snow. A wider tyre carries you at a lower pressure. Pump it up again for dry roads."
	storing = "Store the summer tyres in a dark room. Keep them away from heat and from oil. Hang them up without their wheels."
)

func field(t *testing.T, n int, sections func(i int) []string) (g change.Gathering) {
	t.Helper()
	for i := range n {
		url := fmt.Sprintf("https://h%d.example/tyres", i)
		g.Results = append(g.Results, change.Result{Rank: i + 1, URL: url, Kept: true, Doc: doc(t, url, sections(i)...)})
	}
	return g
}

func compare(t *testing.T, before, after change.Gathering) *change.Movement {
	t.Helper()
	m, err := change.Compare(t.Context(), change.Input{Keyword: "winter tyres", Language: "en", Before: before, After: after})
	require.NoError(t, err)
	return m
}

func TestNothingMoves(t *testing.T) {
	g := field(t, 6, func(i int) []string {
		return []string{": " + intro, "Studs: " + studs, fmt.Sprintf("Air %d: %s", i, air)}
	})
	again := field(t, 6, func(i int) []string {
		return []string{": " + intro, "Studs: " + studs, fmt.Sprintf("Air %d: %s", i, air)}
	})
	g.Asked, again.Asked = []string{"Are studs legal?"}, []string{"are studs  legal?"}
	m := compare(t, g, again)
	assert.True(t, m.Still(), "%+v", m)
	assert.Len(t, m.Ranks, 6)
	assert.Len(t, m.Pages, 6)
	for _, p := range m.Pages {
		assert.Equal(t, 1., p.Stayed)
	}
}

func TestPlaces(t *testing.T) {
	g := field(t, 5, func(i int) []string { return []string{fmt.Sprintf("Tyre %d: %s", i, studs)} })
	was := change.Gathering{Results: g.Results[:4]}
	now := change.Gathering{}
	for rank, i := range []int{2, 0, 1, 4} { // 3 is gone, 4 has come
		r := g.Results[i]
		r.Rank = rank + 1
		now.Results = append(now.Results, r)
	}
	m := compare(t, was, now)
	said := []string{}
	for _, p := range m.Ranks {
		said = append(said, fmt.Sprintf("%s %s %d-%d", p.URL[8:10], p.How, p.Before, p.After))
	}
	assert.Equal(t, []string{"h2 up 3-1", "h0 down 1-2", "h1 down 2-3", "h4 new 0-4", "h3 gone 4-0"}, said)
	out, err := json.Marshal(m.Ranks[3])
	require.NoError(t, err)
	assert.Contains(t, string(out), `"before":null,"after":4`)
}

// A page whose address has changed is the same page: by where the old address leads to, or by
// what it says.
func TestAChangedAddressIsOnePage(t *testing.T) {
	text := []string{"Studs: " + studs, "Air: " + air, "Storing: " + storing}
	was := change.Gathering{Results: []change.Result{
		{Rank: 1, URL: "https://h.example/old", Also: []string{"https://h.example/moved"}, Kept: true, Doc: doc(t, "https://h.example/old", text...)},
		{Rank: 2, URL: "https://g.example/2025/tyres", Kept: true, Doc: doc(t, "https://g.example/2025/tyres", text[1:]...)},
	}}
	now := change.Gathering{Results: []change.Result{
		{Rank: 1, URL: "https://g.example/2026/tyres", Kept: true, Doc: doc(t, "https://g.example/2026/tyres", text[1:]...)},
		{Rank: 2, URL: "https://www.h.example/moved/?utm_source=x", Kept: true, Doc: doc(t, "https://h.example/moved", text...)},
	}}
	m := compare(t, was, now)
	require.Len(t, m.Ranks, 2)
	assert.Equal(t, change.Up, m.Ranks[0].How)
	assert.Equal(t, "https://g.example/2025/tyres", m.Ranks[0].Was)
	assert.Equal(t, change.Down, m.Ranks[1].How)
	assert.Len(t, m.Pages, 2)
	assert.Empty(t, m.Rewritten())
}

func TestSectionsAndSentences(t *testing.T) {
	was := doc(t, "https://h.example/", ": "+intro, "Studs: "+studs, "Air: "+air, "Storing: "+storing)
	now := doc(t, "https://h.example/", ": "+intro,
		"Storing tyres: "+storing, // moved up, with another heading
		"Studs: Studded tyres grip on ice where nothing else does. They are very loud on dry roads and slow. Fit them from November to March. Police may stop you in May.",
		"Rims: Salt eats rims within one winter. Wash them with warm water each week.")
	c := change.Text(was, now)
	assert.Equal(t, []string{"Storing tyres", "They are very loud on dry roads and slow.", "Police may stop you in May.", "Rims", "Salt eats rims within one winter.", "Wash them with warm water each week."}, c.Added)
	assert.Equal(t, []string{"They are loud on dry roads and slow.", "Air", "Let some air out of the tyre on snow.", "A wider tyre carries you at a lower pressure.", "Pump it up again for dry roads.", "Storing"}, c.Cut)
	assert.Equal(t, []change.Rewritten{{Before: "Storing", After: "Storing tyres"}, {Before: "They are loud on dry roads and slow.", After: "They are very loud on dry roads and slow."}}, c.Rewritten)
	assert.Positive(t, c.Moved)
	states := []string{}
	for _, s := range c.Sections {
		states = append(states, fmt.Sprintf("%s %s<%s", s.State, s.Heading, s.HeadingWas))
	}
	slices.Sort(states)
	assert.Equal(t, []string{"added Rims<", "cut Air<", "rewritten Storing tyres<Storing", "rewritten Studs<"}, states)
}

func TestWordByWord(t *testing.T) {
	was := doc(t, "https://h.example/", "Studs: "+studs)
	now := doc(t, "https://h.example/", "Studs: Studded tyres grip on ice where nothing else does. They are rather noisy on dry roads and slow. Fit them from November to March.")
	var edited []change.DiffLine
	for _, l := range change.Lines(was, now) {
		if l.State == change.Edited {
			edited = append(edited, l)
		}
	}
	require.Len(t, edited, 1)
	assert.Equal(t, []change.Piece{{change.Stays, "They are "}, {change.Cut, "loud"}, {change.Added, "rather noisy"}, {change.Stays, " on dry roads and slow."}}, edited[0].Pieces)
}

// A term that two of ten pages took up has risen; one that a single page took up has not: nothing
// rests on one page.
func TestTheSmallestChangeWorthShowing(t *testing.T) {
	with := func(pages int) change.Gathering {
		return field(t, 10, func(i int) []string {
			s := []string{fmt.Sprintf("Studs: %s", studs), fmt.Sprintf("Air: Page %d says this by itself. %s", i, air)}
			if i < pages {
				s = append(s, fmt.Sprintf("Carbide spikes: The carbide spikes of set %d wear slowly. Carbide spikes are dear. Ask for carbide spikes.", i))
			}
			return s
		})
	}
	terms := func(m *change.Movement) (list []string) {
		for _, f := range m.Terms {
			list = append(list, fmt.Sprintf("%s %s %d-%d", f.Text, f.How, f.Before, f.After))
		}
		return list
	}
	assert.Empty(t, terms(compare(t, with(3), with(4))))
	assert.Contains(t, terms(compare(t, with(3), with(6))), "carbide spikes risen 3-6")
	assert.Contains(t, terms(compare(t, with(0), with(2))), "carbide spikes new 0-2")
	assert.Contains(t, terms(compare(t, with(4), with(0))), "carbide spikes gone 4-0")
	m := compare(t, with(2), with(6))
	require.NotEmpty(t, m.Themes)
	assert.Equal(t, "Carbide spikes", m.Themes[0].Text)
	assert.Equal(t, []int{1, 2}, m.Themes[0].RanksWas)
	assert.Equal(t, []int{1, 2, 3, 4, 5, 6}, m.Themes[0].Ranks)
}

func TestQuestionsOfTheResultsPage(t *testing.T) {
	g := field(t, 4, func(i int) []string { return []string{"Studs: " + studs, "Air: " + air} })
	was, now := g, g
	was.Asked = []string{"Are studded tyres legal?", "How much air do tyres need on snow?"}
	now.Asked = []string{"How much air do tyres need on snow?", "When do I fit studded tyres?"}
	was.Related, now.Related = []string{"ice tyres"}, []string{"Ice tyres", "tyre chains"}
	m := compare(t, was, now)
	assert.Equal(t, change.OnResults{New: []string{"When do I fit studded tyres?"}, Gone: []string{"Are studded tyres legal?"}}, m.Asked)
	assert.Equal(t, change.OnResults{New: []string{"tyre chains"}, Gone: []string{}}, m.Related)
	texts := []string{}
	for _, q := range m.Questions {
		assert.True(t, q.Results)
		texts = append(texts, q.Text)
	}
	assert.ElementsMatch(t, []string{"When do I fit studded tyres?", "Are studded tyres legal?"}, texts)
}

// A gathering that failed half-way takes no terms from the field: what was read only once is
// left out of both sides, and said.
func TestAGatheringThatFailedHalfWay(t *testing.T) {
	g := field(t, 8, func(i int) []string {
		s := []string{"Studs: " + studs, "Air: " + air}
		if i >= 4 {
			s = append(s, "Storing: "+storing)
		}
		return s
	})
	half := change.Gathering{Results: slices.Clone(g.Results)}
	for i := 4; i < 8; i++ {
		half.Results[i].Doc = nil
	}
	m := compare(t, g, half)
	assert.Empty(t, m.Terms)
	assert.Empty(t, m.Themes)
	assert.Equal(t, 8, m.Counted(change.Same))
	assert.Equal(t, "4 pages were read in one of the gatherings only, and are left out of both fields.", message.Joined(" ", m.Notes...).String())
	assert.Equal(t, m.Words.Before, m.Words.After)

	nothing := compare(t, g, change.Gathering{})
	assert.Equal(t, 8, nothing.Counted(change.Gone))
	assert.Empty(t, nothing.Terms)
}

// Things that pages list come, go, rise and fall in the lists that have them.
func TestListedThingsMove(t *testing.T) {
	list := func(names ...string) []string {
		sections := []string{": " + intro}
		for i, n := range names {
			sections = append(sections, fmt.Sprintf("%d. %s, best for rain: It holds on wet roads and costs £%d in most shops.", i+1, n, 30+i))
		}
		return sections
	}
	before := field(t, 5, func(i int) []string { return list("Icegrip 160", "Glint Courier 100", "Fen Studder 110") })
	after := field(t, 5, func(i int) []string { return list("Hoarfrost Cargo 90", "Icegrip 160", "Glint Courier 100") })
	by := map[string]change.Finding{}
	for _, f := range compare(t, before, after).Listed {
		by[f.Text] = f
	}
	assert.Equal(t, change.New, by["Hoarfrost Cargo 90"].How)
	assert.Equal(t, change.Gone, by["Fen Studder 110"].How)
	assert.Equal(t, change.Fallen, by["Icegrip 160"].How)
	assert.Equal(t, []float64{1, 2}, []float64{by["Icegrip 160"].PlaceWas, by["Icegrip 160"].Place})
	assert.Empty(t, compare(t, before, before).Listed)
}
