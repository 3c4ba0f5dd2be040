package fit_test

import (
	"fmt"
	"os/exec"
	"slices"
	"strconv"
	"strings"
	"testing"
	"unicode/utf16"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/draft"
	"corpulan/core/evidence"
	"corpulan/core/fit"
	"corpulan/core/language"
	"corpulan/core/stats"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"pgregory.net/rapid"
)

func draftOf(t testing.TB, s string) *draft.Node {
	t.Helper()
	root, err := html.Parse(strings.NewReader(s))
	require.NoError(t, err)
	n, err := draft.FromHTML(root, "")
	require.NoError(t, err)
	return n
}

// marked is the text that a mark stands on.
func marked(t testing.TB, n *draft.Node, m fit.Mark) string {
	t.Helper()
	units := utf16.Encode([]rune(n.Blocks()[m.Block].Text))
	require.LessOrEqual(t, m.To, len(units))
	return string(utf16.Decode(units[m.From:m.To]))
}

// Marks stand on what they are about, as the editor counts, and there are as many of a term as
// its part counts.
func TestMarks(t *testing.T) {
	b := brief.Brief{Keyword: "winter riding", Language: "en", Words: brief.WordRange{Lower: 10, Upper: 500},
		Terms: []brief.Term{{Key: "tyr stud", Term: "studded tyres", Tier: "staple", Lower: 2, Upper: 3, Most: 4}, {Key: "chain", Term: "chain", Tier: "staple", Lower: 1, Upper: 1, Most: 1}}, Entities: []brief.Entity{{Key: "h", Name: "Harrowmere"}}}
	long := "You ride " + strings.Repeat("on and on ", 9) + "to the place where it ends."
	n := draftOf(t, `<h1>Studded tyres</h1><p>😀 The <strong>studded</strong> tyre grips, and a studded tyre is loud.</p><p>In Harrowmere the chain is wet, and you wipe the chain.</p><p>`+long+`</p><p>`+strings.Repeat("It is a cold day for all of us. ", 15)+`</p><blockquote><p>The studded tyre of a quotation is not counted.</p></blockquote>`)
	doc := n.Read("", "en")
	f := fit.Of(&b, doc, nil)
	by := map[string][]string{}
	for _, m := range fit.Marks(&b, n, doc, nil, nil) {
		by[m.Kind] = append(by[m.Kind], marked(t, n, m))
		assert.NotEmpty(t, m.Says.String()+m.Key)
	}
	assert.Equal(t, []string{"studded tyre", "studded tyre"}, by[fit.MarkTerm])
	assert.Equal(t, []string{"chain", "chain"}, by[fit.MarkOverdone])
	assert.Equal(t, []string{"Harrowmere"}, by[fit.MarkEntity])
	assert.Equal(t, []string{long}, by[fit.MarkSentence])
	require.Len(t, by[fit.MarkParagraph], 1)
	assert.Equal(t, 9, f.Quoted)
	for _, p := range f.Parts {
		if p.Name == fit.Terms {
			assert.Equal(t, "2 of 2 to 3 times", p.Met[0].Says.String())
			assert.Equal(t, "chain", p.Overdone[0].Text.String())
		}
	}
}

// The longest run that two texts share, against looking at all pairs of places.
func TestTheLongestSharedRun(t *testing.T) {
	word := rapid.SampledFrom([]string{"ice", "tyre", "wheel", "salt", "chain"})
	rapid.Check(t, func(r *rapid.T) {
		a, b := rapid.SliceOfN(word, 5, 60).Draw(r, "a"), rapid.SliceOfN(word, 5, 60).Draw(r, "b")
		most := 0
		for i := range a {
			for k := range b {
				n := 0
				for i+n < len(a) && k+n < len(b) && a[i+n] == b[k+n] {
					n++
				}
				most = max(most, n)
			}
		}
		got := fit.Close(pageOf(t, 1, "<p>"+strings.Join(a, " ")+"</p>").Doc, []corpus.RankedPage{pageOf(t, 2, "<p>"+strings.Join(b, " ")+"</p>")})
		if most < 5 {
			assert.Empty(r, got)
			return
		}
		require.Len(r, got, 1)
		assert.LessOrEqual(r, got[0].Longest, most, "a run is one run on both sides")
		assert.GreaterOrEqual(r, got[0].Longest, 5)
	})
	// One run in each, and no word twice: the longest is found.
	numbered := func(from, to int) (words []string) {
		for i := from; i < to; i++ {
			words = append(words, fmt.Sprintf("w%da", i))
		}
		return words
	}
	text := pageOf(t, 1, "<p>"+strings.Join(append(numbered(0, 40), append(numbered(100, 130), numbered(40, 47)...)...), " ")+"</p>").Doc
	page := pageOf(t, 2, "<p>"+strings.Join(append(numbered(200, 220), append(numbered(100, 130), numbered(0, 12)...)...), " ")+"</p>")
	got := fit.Close(text, []corpus.RankedPage{page})[0]
	assert.Equal(t, 30, got.Longest)
	assert.Equal(t, []int{30, 12}, []int{got.Passages[0].Words, got.Passages[1].Words})
	assert.True(t, strings.HasPrefix(got.Passages[0].Theirs, "… w208a"), got.Passages[0].Theirs)
	assert.True(t, strings.HasSuffix(got.Passages[0].Theirs, "w11a"), got.Passages[0].Theirs)
}

// What is marked as quoted does not count as taken over; copied text is marked where it stands.
func TestQuotationsAndCopies(t *testing.T) {
	const said = "the studded tyre of a bicycle grips on black ice when nothing else does so well"
	page := pageOf(t, 3, "<p>We found that "+said+" in our test.</p>")
	free := draftOf(t, "<p>As we know, "+said+", and so on.</p>")
	close := fit.Close(free.Read("", "en"), []corpus.RankedPage{page})
	require.Len(t, close, 1)
	marks := fit.Marks(&brief.Brief{Language: "en"}, free, free.Read("", "en"), close, nil)
	require.Len(t, marks, 1)
	assert.Equal(t, said, marked(t, free, marks[0]))
	assert.Equal(t, "16 words as on page 3", marks[0].Says.String())
	for name, text := range map[string]string{"a quotation set apart": "<blockquote><p>" + said + "</p></blockquote><p>That is what they say.</p>", "marks of quotation": "<p>They say: “" + said + "”.</p>", "German marks": "<p>They say: „" + said + "“.</p>", "guillemets": "<p>They say: «" + said + "».</p>"} {
		assert.Empty(t, fit.Close(draftOf(t, text).Read("", "en"), []corpus.RankedPage{page}), name)
	}
}

// Every figure says where it comes from: a link beside it, a page that has it, or nothing.
func TestFigures(t *testing.T) {
	pages := []corpus.RankedPage{pageOf(t, 1, "<p>A winter tyre wants a pressure of 45 psi on a cold road. A helmet costs £35 in most shops.</p>"), pageOf(t, 2, "<p>The pressure of a winter tyre is 45 psi. The range of an e-bike is 40 km.</p>")}
	known := fit.NewKnown(pages, language.For("en"))
	n := draftOf(t, `<h2>45 psi</h2><p>Set the pressure of your winter tyre to 45 psi. The wall is 12 mm thick.</p><p>A winter helmet costs <a href="http://s1.example/page">£35</a> here. In the cold −5 °C is common.</p><p>The range of an e-bike is <a href="http://s1.example/page">40 km</a>.</p><p>It weighs 3 kg, says <a href="https://else.example/">a maker</a>.</p>`)
	var rows []string
	for _, f := range known.Figures(n, language.For("en")) {
		rows = append(rows, fmt.Sprintf("%s | %s | %v | %s", f.Text, f.Says(), f.Ranks, marked(t, n, f.Mark)))
	}
	at := pages[0].Doc.Reading.URL
	require.NotEmpty(t, at)
	assert.Equal(t, []string{
		"45 psi | no source is given | [1 2] | 45 psi",
		"12 mm | no source is given, and no page of the field has it | [] | 12 mm",
		"£35 | cited, and the captured page says so | [1] | £35",
		"−5 °C | no source is given, and no page of the field has it | [] | −5 °C",
		"40 km | cited, but the captured page does not say so | [2] | 40 km",
		"3 kg | cited | [] | 3 kg",
	}, rows, at)
}

// A number without a unit counts by the word that it stands before; a page that has another figure there is named.
func TestFiguresThatDiffer(t *testing.T) {
	pages := []corpus.RankedPage{pageOf(t, 1, "<p>A set of carbide studs lasts 3 winters of commuting. The lock weighs 2 kg.</p>"), pageOf(t, 2, "<p>Carbide studs last about 5 winters of commuting. Batteries like 10 degrees.</p>")}
	known := fit.NewKnown(pages, language.For("en"))
	var rows []string
	for _, f := range known.Figures(draftOf(t, `<p>Carbide studs last 5 winters of commuting. The frame lock weighs 4 kg. In 2026 the lock was new. There are 12.</p>`), language.For("en")) {
		rows = append(rows, fmt.Sprintf("%s %v %v %s", f.Text, f.Ranks, f.Differs, f.Says()))
	}
	assert.Equal(t, []string{
		"5 [2] [1] no source is given",
		"4 kg [] [1] another figure stands on rank 1",
		"2026 [] [] no source is given, and no page of the field has it",
		"12 [] [] no source is given, and no page of the field has it",
	}, rows)
}

// A cutting is used once its words stand in the text, in its order or another, and not before.
func TestUsedCuttings(t *testing.T) {
	cuttings := []brief.Cutting{{ID: "a", Text: "Wider tyres at lower pressure grip better on packed snow."}, {ID: "b", Text: "Carry the battery of an e-bike indoors and charge it at room temperature."}, {ID: "c", Text: "45 psi"}}
	used := func(s string) map[string]bool {
		return fit.Used(&brief.Brief{Cuttings: cuttings}, draftOf(t, s).Read("", "en"), language.For("en"))
	}
	assert.Empty(t, used("<h2>Wider tyres at lower pressure grip better on packed snow</h2><p>Something else is said of tyres and of snow.</p>"))
	assert.Equal(t, map[string]bool{"a": true}, used("<p>On packed snow a wide tyre is better. At a lower pressure wider tyres grip.</p>"))
	assert.Equal(t, map[string]bool{"b": true, "c": true}, used("<blockquote><p>Carry the battery of an e-bike indoors and charge it at room temperature.</p></blockquote><p>Pump it to 45 psi.</p>"))
}

// A fact is used where its figure stands among words of it, whatever the wording; the figure alone, or
// another figure of the same, is not it.
func TestUsedFacts(t *testing.T) {
	x := brief.Fact{Key: "k", Text: "A pair of studded tyres costs £60 in most shops of the town.", Figures: []string{"£60"}}
	for text, want := range map[string]bool{
		"Most shops of our town sell studded tyres. A pair is £60.":     true,
		"A pair of studded tyres costs £ 60 in most shops of the town.": true,
		"A pair of studded tyres costs £80 in most shops of the town.":  false,
		"A coat costs £60.": false,
	} {
		used := fit.Used(&brief.Brief{Facts: []brief.Fact{x}}, draftOf(t, "<p>"+text+"</p>").Read("", "en"), language.For("en"))
		assert.Equal(t, want, used[fit.FactKey(x)], text)
	}
}

// What a reader misses comes first, of that what brings most for a word, and what is gained is what is missing of 100.
func TestMissing(t *testing.T) {
	b := briefOf(t)
	f := fit.Of(&b, draftOf(t, "<h1>Winter riding</h1><p>Bar mitts keep your hands warm when it is below freezing point of water.</p>").Read("", "en"), nil)
	list := f.Missing()
	require.Greater(t, len(list), 5)
	gain, order := f.Fit, []string{}
	for _, p := range f.Parts {
		for _, x := range p.Missing {
			if x.Waits { // its gain comes with the length
				gain += x.Gain
				assert.False(t, slices.ContainsFunc(list, func(l fit.Lack) bool { return l.Text == x.Text }), x.Text.String())
			}
		}
	}
	worth := func(l fit.Lack) float64 { return l.Gain / float64(max(l.Effort, 1)) }
	for i, l := range list {
		gain += l.Gain
		if !slices.Contains(order, l.Part) {
			order = append(order, l.Part)
		}
		if i > 0 && list[i-1].Part == l.Part {
			assert.LessOrEqual(t, worth(l), worth(list[i-1]), l.Text)
		}
	}
	assert.Equal(t, fit.Questions, order[0], "what readers ask comes first")
	assert.Less(t, slices.Index(order, fit.Sections), slices.Index(order, fit.Terms), "matters come before words")
	assert.InDelta(t, 100, gain, 2, "all gains together lead to 100, but for rounding")
}

// The aim is the common one, a publication's own, or a step beyond the best page of the field.
func TestAim(t *testing.T) {
	none, some := fit.Field{}, fit.Field{Pages: []fit.PageFit{{Rank: 1, Fit: 58.2}, {Rank: 2, Fit: 61.4}}, Range: stats.RangeOf([]float64{58.2, 61.4})}
	for _, x := range []struct {
		set  int
		of   fit.Field
		want float64
	}{{0, some, 80}, {70, some, 70}, {fit.AimByField, some, 65}, {fit.AimByField, none, 80}, {fit.AimByField, fit.Field{Pages: []fit.PageFit{{Rank: 1, Fit: 99}}, Range: stats.RangeOf([]float64{99})}, 100}} {
		assert.InDelta(t, x.want, x.of.AimOf(x.set), 1e-9, "%d", x.set)
	}
	assert.InDelta(t, 61.4, some.Best(), 1e-9)
}

// A question in the running text with its answer behind it is answered; with nothing, or with
// the next question behind it, it is not.
func TestQuestionsInRunningText(t *testing.T) {
	b := brief.Brief{Keyword: "winter riding", Language: "en", Words: brief.WordRange{Lower: 10, Upper: 500}, Questions: []brief.Question{{Key: "q", Text: "How often should I clean the chain?"}}}
	answered := func(s string) fit.Item {
		for _, p := range fit.Of(&b, draftOf(t, s).Read("", "en"), nil).Parts {
			if p.Name == fit.Questions {
				return append(p.Met, p.Missing...)[0]
			}
		}
		return fit.Item{}
	}
	const answer = "Once a week is what most people need, and after each ride on a salted road as well."
	x := answered("<h2>Care</h2><p>How often should you clean the chain? " + answer + "</p>")
	assert.Equal(t, 1.0, x.Score)
	assert.Equal(t, answer, x.Passage)
	assert.Equal(t, "Care", x.Where)
	assert.Zero(t, answered("<p>How often should I clean the chain? Is it safe at all to ride on the road in the cold? "+answer+"</p>").Score)
	assert.Zero(t, answered("<p>How often should I clean the chain? Often.</p>").Score)
	assert.Zero(t, answered("<p>How long does a pair of gloves last? "+answer+"</p>").Score)
}

// The scores that texts may reach which say nothing of their own, and those that do.
func TestWhatDraftsMayReach(t *testing.T) {
	b := briefOf(t)
	pages := articles(t)
	whole := fit.OfField(&b, pages)
	assert.Equal(t, 3, whole.Range.N)
	for _, p := range whole.Pages {
		assert.Greater(t, p.Fit, 50.0)
	}
	var quoted strings.Builder
	for _, s := range pages[0].Doc.Reading.Sections {
		quoted.WriteString("<h2>" + s.Heading + "</h2><blockquote><p>" + s.Text + "</p></blockquote>")
	}
	all := draftOf(t, quoted.String()).Read("", "en")
	assert.Less(t, fit.Of(&b, all, nil).Fit, 25.0, "a page that is all quoted")
	assert.Empty(t, fit.Close(all, pages))
	copied := draftOf(t, "<h1>Winter riding</h1><p>"+strings.ReplaceAll(pages[0].Doc.Reading.Text(), "\n", " ")+"</p>").Read("", "en")
	close := fit.Close(copied, pages)
	assert.Greater(t, close[0].Share, 0.85, "a copied page may fit, and is said to be one")
	assert.Equal(t, 1, close[0].Rank)
}

// The grade that a draft is told is that of GNU style (Debian's package diction) for the same
// words.
func TestGradeOfADraftAgainstStyle(t *testing.T) {
	style, err := exec.LookPath("style")
	if err != nil {
		t.Fatal("Debian's package diction is not installed; `make test` installs it")
	}
	var text strings.Builder
	for i := range 12 {
		fmt.Fprintf(&text, "The rider checks the pressure of both tyres before the ride, and the lamp is tested after that. Nobody wants a puncture on a frozen bridge in the evening of day %s. ", []string{"one", "two", "three", "four"}[i%4])
	}
	grade := draftOf(t, "<p>"+text.String()+"</p>").Read("", "en").Reading.Readability.FleschKincaidGrade
	cmd := exec.CommandContext(t.Context(), style)
	cmd.Stdin = strings.NewReader(text.String())
	out, err := cmd.Output()
	require.NoError(t, err)
	_, after, found := strings.Cut(string(out), "Kincaid: ")
	require.True(t, found)
	theirs, err := strconv.ParseFloat(strings.Fields(after)[0], 64)
	require.NoError(t, err)
	assert.InDelta(t, theirs, grade, 1.0, "syllables are counted by a dictionary here, by a rule there")
}

// Names and superlatives are claims as well: those that no page has say so.
func TestClaims(t *testing.T) {
	pages := []corpus.RankedPage{pageOf(t, 1, "<p>The rim brakes of Halver are the best brakes for a wet hill. Ask at Halver.</p>")}
	known := fit.NewKnown(pages, language.For("en"))
	var rows []string
	for _, f := range known.Figures(draftOf(t, `<p>Rim brakes are the best brakes on a hill. On Monday we asked at Halver and at Orsund Works. It is the most reliable lamp.</p>`), language.For("en")) {
		rows = append(rows, fmt.Sprintf("%s %s %v", f.Kind, f.Text, f.Ranks))
	}
	assert.Equal(t, []string{"superlative best [1]", "name Halver [1]", "name Orsund Works []", "superlative most reliable []"}, rows)
	german := fit.NewKnown(nil, language.For("de")).Figures(draftOf(t, `<p>Im Winter fährt man am sichersten mit Spikes nach DIN.</p>`), language.For("de"))
	rows = nil
	for _, f := range german {
		rows = append(rows, f.Kind+" "+f.Text)
	}
	assert.Equal(t, []string{"superlative sichersten", "name DIN"}, rows, "nouns are no names where all have capitals")
}

// What is missing names the passage that is pointed at: a writer is believed where it stands in sentences of one's own, and says something.
func TestWhatAWriterSaysOfQuestions(t *testing.T) {
	b := brief.Brief{Keyword: "winter riding", Language: "en", Words: brief.WordRange{Lower: 10, Upper: 500}, Questions: []brief.Question{{Key: "q", Text: "How often should I clean the chain?"}}}
	const found = "Once a week is what most people need, and after each ride on a salted road as well."
	const other = "On Sundays the whole family stands in the yard with a brush, a rag and the small bottle of oil."
	page := "<h1>Winter riding</h1><p>How often should you clean the chain? " + found + "</p><p>" + other + "</p>"
	ask := func(page string, taken fit.Taken, j fit.Judgement) fit.Item {
		t.Helper()
		for _, p := range fit.OfJudged(&b, draftOf(t, page).Read("", "en"), taken, fit.Judged{"q": j}).Parts {
			if p.Name == fit.Questions {
				return slices.Concat(p.Met, p.Missing)[0]
			}
		}
		return fit.Item{}
	}
	x := ask(page, nil, fit.Judgement{})
	require.True(t, strings.HasPrefix(x.Passage, found))
	x = ask(page, nil, fit.Judgement{Text: x.Passage})
	assert.Zero(t, x.Score, "it does not answer")
	assert.True(t, x.Judged)
	x = ask(page, nil, fit.Judgement{Text: other})
	assert.Equal(t, 1.0, x.Score, "that another passage does not is of no account")
	x = ask("<h1>Winter riding</h1><p>"+other+"</p>", nil, fit.Judgement{})
	require.Zero(t, x.Score)
	x = ask("<h1>Winter riding</h1><p>"+other+"</p>", nil, fit.Judgement{Answers: true, Text: " On  Sundays the whole family stands in the yard with a brush, a rag and the small bottle of oil. And more."})
	assert.Equal(t, 1.0, x.Score)
	assert.Equal(t, other, x.Passage)
	x = ask("<h1>Winter riding</h1><p>"+other+"</p>", fit.Taken{strings.ToLower(other): 3}, fit.Judgement{Answers: true, Text: other})
	assert.Zero(t, x.Score, "what is copied answers nothing")
	x = ask("<h1>Winter riding</h1><p>How often you clean the chain is a good thing to know.</p>", nil, fit.Judgement{Answers: true, Text: "How often you clean the chain is a good thing to know."})
	assert.Zero(t, x.Score, "nor what only says the question")
	assert.Contains(t, x.Says.String(), "little more than the question", "and it is said")
	x = ask("<h1>Winter riding</h1><p>It is gone from here, and all is new to us.</p>", nil, fit.Judgement{Answers: true, Text: other})
	assert.Contains(t, x.Says.String(), "is gone, or does not count")
}

// Words of the body either count, or it is said why they do not.
func TestWhatDoesNotCountIsNamed(t *testing.T) {
	b := brief.Brief{Keyword: "winter riding", Language: "en", Words: brief.WordRange{Lower: 10, Upper: 500}, Questions: []brief.Question{{Key: "q", Text: "How often should I clean the chain?"}}, Terms: []brief.Term{{Key: "lamp", Term: "lamp", Tier: "staple", Lower: 1, Upper: 2, Most: 3}}}
	const own, theirs, ours = "We ride through the whole winter on the same old bike.", "The chain is wiped with a dry rag after each of the rides.", "Our shop is open on each day of the week but one."
	n := draftOf(t, "<h1>Winter riding</h1><p>"+own+" "+theirs+" "+ours+" "+own+"</p><p>How often should I clean the chain?</p><p>chain lube rag brush oil salt</p><blockquote><p>A quoted line of six.</p></blockquote>")
	f := fit.Of(&b, n.Read("", "en"), fit.Taken{strings.ToLower(theirs): 3}.And(fit.Taken{strings.ToLower(ours): 0}))
	assert.Equal(t, "11 of 65 words count: 13 stand on page 3, or nearly so, 12 stand on another page of ours, or nearly so, 11 were said before, or say the same with a word changed, 7 ask a question of the brief once more, 6 are lists of words, no sentences, 5 are marked as quoted, or are code", f.Counted().String())
	p := f.NextParagraph()
	assert.Positive(t, p.Gain)
	assert.Equal(t, "How often should I clean the chain?", p.On[0].String())
	assert.LessOrEqual(t, p.Words, 80)
}

// Dates of a text are claims, whole, and compared by the day, month or year that they name.
func TestDatesAreClaims(t *testing.T) {
	for _, x := range []struct{ lang, text, want string }{
		{"en", "On 3 March 2024 the rule for lamps changed, and on May 4 it was law.", "3 March 2024|May 4"},
		{"en", "It was the 3rd of June 2021, in 2019 there were 500 riders, and 2000 lumens.", "3rd of June 2021|2019"},
		{"en", "We opened on 2023-11-12 and shut on 12/11/2024.", "2023-11-12|12/11/2024"},
		{"de", "Seit dem 3. März 2024 gilt es, seit Mai 2021 nicht mehr, und am 4.5.2020 wurde es beschlossen.", "3. März 2024|Mai 2021|4.5.2020"},
		{"fr", "Depuis le 3 mars 2024, et en 2019 avec 30 vélos.", "3 mars 2024|2019"},
		{"es", "El 3 de marzo de 2024 cambió la norma.", "3 de marzo de 2024"},
	} {
		var got []string
		for _, f := range fit.NewKnown(nil, language.For(x.lang)).Figures(draftOf(t, "<p>"+x.text+"</p>"), language.For(x.lang)) {
			if f.Kind == fit.DateClaim {
				got = append(got, f.Text)
			}
		}
		slices.Sort(got)
		want := strings.Split(x.want, "|")
		slices.Sort(want)
		assert.Equal(t, want, got, x.text)
	}
	known := fit.NewKnown([]corpus.RankedPage{pageOf(t, 1, "<h1>Lamps</h1><p>The rule for bicycle lamps changed on 3 March 2024 in all the towns.</p>")}, language.For("en"))
	of := func(date string) fit.Figure {
		return known.Figures(draftOf(t, "<p>The rule for bicycle lamps changed "+date+" as we hear.</p>"), language.For("en"))[0]
	}
	assert.Equal(t, []int{1}, of("on 3 March 2024").Ranks)
	assert.Equal(t, []int{1}, of("in 2024").Ranks, "less exactly the same")
	assert.True(t, of("on 5 March 2024").SaidOtherwise())
	assert.True(t, of("in 2021").SaidOtherwise())
}

// What only a text has: words that it uses and no page, figures that it gives a source of its own for, answers that all pages owe.
func TestWhatOnlyADraftHas(t *testing.T) {
	pages := []corpus.RankedPage{pageOf(t, 1, "<h1>Lamps</h1><p>A lamp of 600 lumens is bright enough for the dark road to work.</p>"), pageOf(t, 2, "<h1>Lamps</h1><p>The lamp wants to be charged each night before the ride.</p>")}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "bike lamps", Language: "en", Pages: pages, Asked: []string{"How often should I clean the reflector?"}})
	require.NoError(t, err)
	b := brief.Brief{Keyword: "bike lamps", Language: "en", Words: brief.WordRange{Lower: 10, Upper: 500}, Questions: []brief.Question{{Key: e.Questions[0].Key, Text: e.Questions[0].Text}}}
	n := draftOf(t, `<h1>Bike lamps</h1><p>How often should you clean the reflector? Once a week with a damp cloth is what the salted road asks of most people who ride.</p><p>The gel pad under the clamp is what holds: with a gel pad we counted 12 crashes less <a href="http://tests.example/pads">in our test</a>. A lamp of 600 lumens is bright enough <a href="http://other.example/">as they say</a>.</p>`)
	doc := n.Read("", "en")
	a := fit.AloneIn(fit.Of(&b, doc, nil), doc, pages, fit.NewKnown(pages, language.For("en")).Figures(n, language.For("en")), e)
	assert.Equal(t, []string{"How often should I clean the reflector?"}, a.Answers)
	assert.Equal(t, []string{"gel pad"}, a.Terms)
	require.Len(t, a.Claims, 1, "600 lumens stand on a page")
	assert.Equal(t, "12", a.Claims[0].Text)
	assert.True(t, fit.AloneIn(fit.Fit{}, pages[0].Doc, pages, nil, e).Empty())
}
