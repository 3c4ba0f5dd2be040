package fit_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"
	"corpulan/core/fit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func pageOf(t testing.TB, rank int, body string) corpus.RankedPage {
	t.Helper()
	return corpustest.PageIn(t, "en", rank, fmt.Sprintf("s%d.example", rank), body)
}

// articles are three pages on winter riding, each of its own sentences.
func articles(t testing.TB) []corpus.RankedPage {
	var pages []corpus.RankedPage
	for i := range 3 {
		say := func(lines ...string) string {
			var b strings.Builder
			for n := range 4 {
				for k, l := range lines {
					fmt.Fprintf(&b, "%s on day %d of week %d. ", l, n+2, k+i+3)
				}
			}
			return "<p>" + b.String() + "</p>"
		}
		pages = append(pages, pageOf(t, i+1, "<h1>Winter riding</h1>"+say("Winter riding is calm when you know what to check")+
			"<h2>Studded tyres</h2>"+say("On black ice the studded tyres of a bicycle grip when nothing else does", "A carbide stud bites into the ice where rubber slides")+
			"<h2>Bar mitts</h2>"+say("Bar mitts keep your hands warm when it is below freezing point", "With bar mitts you can wear thin gloves and still brake")+
			"<h2>Rear lights</h2>"+say("Run two rear lights so that a flat battery never leaves you dark", "The rear lights are checked before you set off")+
			"<h2>How often should I clean the chain?</h2>"+say("Clean the chain once a week and put on a wet lube afterwards")))
	}
	return pages
}

func briefOf(t testing.TB) brief.Brief {
	t.Helper()
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: articles(t), Asked: []string{"How often should I clean the chain?"}})
	require.NoError(t, err)
	b := brief.Compose(e, brief.Choices{}, brief.Setting{})
	require.Greater(t, len(b.Outline), 2)
	require.Greater(t, len(b.Terms), 4)
	return b
}

func score(t testing.TB, b brief.Brief, body string) fit.Fit {
	t.Helper()
	return fit.Of(&b, pageOf(t, 1, body).Doc, nil)
}

// What cannot be raised without saying something: headings alone, a list of terms, doubled
// text and another subject stay low; a page of the field does not.
func TestNobodyGetsThereWithoutSentences(t *testing.T) {
	b := briefOf(t)
	var heads, terms, framed strings.Builder
	heads.WriteString("<h1>Winter riding</h1>")
	b.Each(func(s *brief.Section) { fmt.Fprintf(&heads, "<h2>%s</h2>", s.Heading) })
	for _, q := range b.Questions {
		fmt.Fprintf(&heads, "<h2>%s</h2>", q.Text)
	}
	for range 30 {
		for _, x := range b.Terms {
			terms.WriteString(x.Term + ", ")
		}
	}
	for i, x := range b.Terms {
		fmt.Fprintf(&framed, "<p>The %s and the %s is in the winter. You %s with %s and %s.</p>", x.Term, b.Terms[(i+1)%len(b.Terms)].Term, x.Term, b.Terms[(i+2)%len(b.Terms)].Term, b.Terms[(i+3)%len(b.Terms)].Term)
	}
	other := "<h1>Cakes</h1>" + strings.Repeat("<p>You beat the butter with the sugar until it is white, and then you add the eggs to it one by one.</p>", 3) + strings.Repeat("<p>The oven is at a hundred and eighty degrees, and the cake stays in it for as long as it takes.</p>", 3)
	for name, x := range map[string]struct {
		body string
		most float64
	}{
		"headings alone": {heads.String(), 25}, "a list of terms": {"<h1>Winter riding</h1><p>" + terms.String() + "</p>", 25},
		"headings and a list of terms": {heads.String() + "<p>" + terms.String() + "</p>", 25}, "terms in the same few sentences": {framed.String(), 45}, "another subject": {other, 25}, "next to nothing": {"<p>A word.</p>", 10},
	} {
		assert.Less(t, score(t, b, x.body).Fit, x.most, name)
	}
	whole := fit.Of(&b, articles(t)[1].Doc, nil)
	assert.Greater(t, whole.Fit, 60.0, "a page of the field")
	for _, p := range whole.Parts {
		assert.GreaterOrEqual(t, p.Score, 0.0)
		assert.LessOrEqual(t, p.Score, 1.0, p.Name)
	}
	text := "<h1>Winter riding</h1><h2>Bar mitts</h2><p>Bar mitts keep your hands warm when it is below freezing point. With bar mitts you can wear thin gloves and still brake.</p>"
	once, often := score(t, b, text), score(t, b, text+strings.Repeat("<p>Bar mitts keep your hands warm when it is below freezing point. With bar mitts you can wear thin gloves and still brake.</p>", 20))
	assert.Equal(t, once.Fit, often.Fit, "the same paragraph counts once")
}

// Adding what is missing never lowers the fit, whatever the draft has already.
func TestAddingWhatIsMissingNeverLowers(t *testing.T) {
	b := briefOf(t)
	all := []string{"On black ice the studded tyres of a bicycle grip when nothing else does.", "A carbide stud bites into the ice where rubber slides.", "Bar mitts keep your hands warm when it is below freezing point.",
		"With them you can wear thin gloves and still brake in time.", "Run two rear lights so that a flat battery never leaves you dark.", "Clean the chain once a week and put on a wet lube afterwards.", "Winter riding is calm when you know what to check before."}
	rapid.Check(t, func(r *rapid.T) {
		order := rapid.Permutation(all).Draw(r, "order")
		n := rapid.IntRange(0, len(all)-1).Draw(r, "sentences")
		before := score(t, b, "<h1>Winter riding</h1><p>"+strings.Join(order[:n], " ")+"</p>")
		after := score(t, b, "<h1>Winter riding</h1><p>"+strings.Join(order[:n+1], " ")+"</p>")
		if after.Fit < before.Fit {
			r.Fatalf("%.1f fell to %.1f by %q", before.Fit, after.Fit, order[n])
		}
		if after.Fit < 0 || after.Fit > 100 {
			r.Fatalf("%f is no fit", after.Fit)
		}
	})
}

// The order of paragraphs within a section is of no account.
func TestOrderIsOfNoAccount(t *testing.T) {
	b := briefOf(t)
	lines := []string{"<p>On black ice the studded tyres of a bicycle grip when nothing else does.</p>", "<p>A carbide stud bites into the ice where rubber slides.</p>", "<p>Run two rear lights so that a flat battery never leaves you dark.</p>"}
	one := score(t, b, "<h1>Winter riding</h1>"+strings.Join(lines, ""))
	slices.Reverse(lines)
	assert.Equal(t, one.Fit, score(t, b, "<h1>Winter riding</h1>"+strings.Join(lines, "")).Fit)
}

// A term beyond its fence costs, and one in a heading alone gives little.
func TestTermsOverdoneAndInHeadings(t *testing.T) {
	b := brief.Brief{Keyword: "x", Language: "en", Terms: []brief.Term{{Key: "t", Term: "wet lube", Tier: "staple", Lower: 2, Upper: 3, Most: 4}}}
	says := func(body string) fit.Item {
		for _, p := range score(t, b, body).Parts {
			if p.Name == fit.Terms {
				return slices.Concat(p.Missing, p.Overdone, p.Met)[0]
			}
		}
		return fit.Item{}
	}
	uses := func(n int) string {
		var s strings.Builder
		for i := range n {
			fmt.Fprintf(&s, "%s put the wet lube on it for the %dth time of the week. ", []string{"You", "We", "They", "I"}[i%4], i+3)
		}
		return "<h1>Chain</h1><p>" + s.String() + "</p>"
	}
	assert.Zero(t, says(uses(0)+"<p>You do nothing at all with the chain of it.</p>").Score)
	assert.InDelta(t, 0.7, says(uses(1)).Score, 1e-9)
	assert.InDelta(t, 1, says(uses(2)).Score, 1e-9)
	assert.InDelta(t, 1, says(uses(4)).Score, 1e-9)
	assert.InDelta(t, 0.5, says(uses(8)).Score, 1e-9)
	assert.Equal(t, "overdone", says(uses(8)).Says.String())
	form := strings.NewReplacer("We", "You", "They", "You", "I ", "You ").Replace(uses(8))
	assert.Equal(t, "not used", says(form).Says.String(), "a form filled in is no text")
	assert.InDelta(t, 0.1, says("<h1>Chain</h1><h2>Wet lube</h2><p>You do nothing at all with the chain of it.</p>").Score, 1e-9)
}

// Containment as Broder (1997, "On the resemblance and containment of documents", section 2)
// defines it, |S(A) ∩ S(B)| / |S(A)|, worked by hand with w = 5.
func TestCloseness(t *testing.T) {
	draft := pageOf(t, 1, "<p>one two three four five six seven eight nine ten and then something else came along quietly</p>").Doc
	// Of the draft's 13 shingles of its 17 words the page has 6: those within its first ten words.
	page := pageOf(t, 4, "<p>before it one two three four five six seven eight nine ten after it</p>")
	got := fit.Close(draft, []corpus.RankedPage{page, pageOf(t, 2, "<p>nothing of this stands in the other text anywhere</p>")})
	require.Len(t, got, 1)
	assert.Equal(t, 4, got[0].Rank)
	assert.InDelta(t, 6.0/13, got[0].Share, 1e-9)
	assert.Equal(t, 10, got[0].Longest)
	require.Len(t, got[0].Passages, 1)
	assert.Equal(t, "one two three four five six seven eight nine ten", got[0].Passages[0].Text)
	whole := fit.Close(draft, []corpus.RankedPage{{Rank: 1, Doc: draft}})
	assert.InDelta(t, 1, whole[0].Share, 1e-9)
	assert.Empty(t, fit.Close(pageOf(t, 1, "<p>too short</p>").Doc, []corpus.RankedPage{page}))
}

func BenchmarkFit3000Words(b *testing.B) {
	e, err := evidence.Compute(b.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: articles(b)})
	require.NoError(b, err)
	doc := brief.Compose(e, brief.Choices{}, brief.Setting{})
	for i := range 80 - len(doc.Terms) {
		doc.Terms = append(doc.Terms, brief.Term{Key: fmt.Sprint(i), Term: fmt.Sprintf("word%d thing", i), Tier: "frequent", Lower: 1, Upper: 3, Most: 5})
	}
	var body strings.Builder
	for i := range 180 {
		fmt.Fprintf(&body, "<p>On black ice the studded tyres of a bicycle grip when word%d thing number%d does not do it.</p>", i%80, i)
	}
	draft := pageOf(b, 1, "<h1>Winter riding</h1>"+body.String()).Doc
	for b.Loop() {
		fit.Of(&doc, draft, nil)
	}
}
