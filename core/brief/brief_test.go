package brief

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/core/vocabulary"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// field is three small pages that share themes, terms and a question.
func field(t testing.TB, hosts ...string) *evidence.Evidence {
	t.Helper()
	var pages []corpus.RankedPage
	for i, host := range hosts {
		html := `<html lang="en"><title>Winter riding | ` + host + `</title><body><article><h1>Winter riding</h1><p>A studded tyre is what you want on ice, and bar mitts on the handlebar.</p>
			<h2>Tyre pressure</h2><p>` + strings.Repeat("Lower the tyre pressure by ten psi for more grip on ice. ", 3+i) + `</p>
			<h2>What to wear</h2><p>` + strings.Repeat("Wear a windproof jacket, wool gloves and bar mitts when it freezes. ", 4+i) + `</p>
			<h3>Wool gloves</h3><p>` + strings.Repeat("Wool gloves stay warm when the wool is damp. ", 3+i) + `</p>
			<h2>Do I need studded tyres?</h2><p>` + strings.Repeat("On ice the studded tyres of this house hold when nothing else does. ", 2+i) + `</p></article>`
		r, err := reading.Read(reading.Page{URL: "http://" + host + "/p", Body: []byte(html)})
		require.NoError(t, err)
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "en")})
	}
	return compute(evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages, Asked: []string{"How do I stop my glasses fogging?"}})
}

func names(b Brief) (list []string) {
	for _, t := range b.Terms {
		list = append(list, t.Term)
	}
	return list
}

func headings(b Brief) (list []string) {
	each(b.Outline, func(s *Section) { list = append(list, fmt.Sprintf("%d %s", s.Level, s.Heading)) })
	return list
}

func sectionOf(b Brief, heading string) (of Section) {
	b.Each(func(s *Section) {
		if s.Heading == heading {
			of = *s
		}
	})
	return of
}

func TestTheProposal(t *testing.T) {
	b := Compose(field(t, "a.example", "b.example", "c.example"), Choices{}, Setting{})
	assert.Equal(t, []string{"2 Tyre pressure", "3 Do I need studded tyres?", "2 What to wear", "3 Wool gloves"}, headings(b), "as many sections as its length has room for")
	b.Each(func(s *Section) {
		assert.Equal(t, s.Level > TopLevel, s.Folded, s.Heading)
		assert.Equal(t, s.Folded, s.Words == 0, s.Heading)
	})
	assert.Contains(t, names(b), "bar mitts")
	assert.Contains(t, names(b), "tyre pressure")
	assert.Equal(t, "Winter riding, step by step", b.TitleTag)
	assert.LessOrEqual(t, len([]rune(b.MetaDescription)), longestMeta)
	assert.NotContains(t, b.MetaDescription, "?")
	require.Len(t, b.Questions, 2)
	assert.Empty(t, b.Questions[0].AnsweredBy, "asked on the results page, answered by nobody")
	for _, x := range b.Terms {
		assert.NotEmpty(t, x.Sources, x.Term)
		assert.GreaterOrEqual(t, x.Lower, 1)
		assert.LessOrEqual(t, x.Lower, x.Upper)
	}
	each(b.Outline, func(s *Section) { assert.Len(t, s.Sources, 3, s.Heading) })
}

func TestTheOutlineAddsUp(t *testing.T) {
	b := Compose(field(t, "a.example", "b.example", "c.example"), Choices{}, Setting{})
	sum := b.OpeningWords
	for _, s := range b.Outline {
		sum += s.Words
		children := 0
		for _, c := range s.Children {
			children += c.Words
		}
		assert.LessOrEqual(t, children, s.Words, s.Heading)
	}
	assert.Equal(t, b.Words.Target, sum)
}

func TestShareOutAlwaysAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		total := rapid.IntRange(0, 20_000).Draw(t, "total")
		parts := rapid.SliceOfN(rapid.Float64Range(1, 5000), 1, 30).Draw(t, "parts")
		sum := 0
		for i, s := range shareOut(total, parts) {
			if s < 0 {
				t.Fatalf("share %d is %d", i, s)
			}
			sum += s
		}
		if sum != total {
			t.Fatalf("%d of %d shared out", sum, total)
		}
	})
}

func TestChoicesDecide(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	proposal := Compose(e, Choices{}, Setting{})
	dropped := proposal.Terms[0]
	var c Choices
	c.Set(Mark{TermKind, dropped.Key, dropped.Term, Dropped})
	c.Set(Mark{ThemeKind, proposal.Outline[0].Key, proposal.Outline[0].Heading, Dropped})
	c.Type(FieldGoal, "Sell nothing")
	c.Type(FieldTitleTag, "")
	c.Note(proposal.Outline[1].Key, "Name the wool")
	b := Compose(e, c, Setting{})
	assert.NotContains(t, names(b), dropped.Term)
	assert.Len(t, b.Terms, len(proposal.Terms)-1)
	assert.NotContains(t, headings(b), "2 "+proposal.Outline[0].Heading)
	assert.Equal(t, "Sell nothing", b.Fields.Goal)
	assert.Empty(t, b.TitleTag, "an emptied field stays empty")
	assert.Equal(t, "Name the wool", b.Outline[0].Note)
	c.Clear(TermKind, dropped.Key)
	assert.Equal(t, names(proposal), names(Compose(e, c, Setting{})), "a decision taken back leaves the proposal")
}

// What a person adopted stays in the brief when its pages are set aside, and
// says that no kept page has it.
func TestNothingAdoptedIsLost(t *testing.T) {
	var c Choices
	c.Set(Mark{TermKind, "unicorn bell", "unicorn bell", Adopted})
	c.Set(Mark{EntityKind, "utrecht", "Utrecht", Adopted})
	c.Set(Mark{QuestionKind, "how bell", "How loud is the bell?", Adopted})
	c.Set(Mark{ThemeKind, "bell", "Bells", Adopted})
	b := Compose(field(t, "a.example", "b.example"), c, Setting{})
	last := b.Terms[len(b.Terms)-1]
	assert.Equal(t, []any{"unicorn bell", true, 1}, []any{last.Term, last.Gone, last.Lower})
	assert.True(t, b.Entities[len(b.Entities)-1].Gone)
	assert.True(t, b.Questions[len(b.Questions)-1].Gone)
	assert.True(t, sectionOf(b, "Bells").Gone)
	sum := b.OpeningWords
	for _, s := range b.Outline {
		sum += s.Words
	}
	assert.Equal(t, b.Words.Target, sum)
}

// An adopted theme is found again when its label has moved to another of its headings.
func TestAnAdoptedThemeFollowsItsHeadings(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	var c Choices
	c.Set(Mark{ThemeKind, "an older key", "WHAT TO WEAR", Dropped})
	assert.NotContains(t, headings(Compose(e, c, Setting{})), "2 What to wear")
	assert.NotContains(t, strings.Join(headings(Compose(e, c, Setting{})), " "), "WHAT")
}

func TestAnEmptyField(t *testing.T) {
	b := Compose(compute(evidence.Input{Keyword: "winter", Language: "en"}), Choices{}, Setting{})
	assert.Equal(t, Schema, b.Schema)
	assert.Empty(t, b.Outline)
	assert.Equal(t, defaultTarget, b.Words.Target)
	assert.NotNil(t, b.Terms)
}

func TestFitting(t *testing.T) {
	assert.Equal(t, "short", fitting("short", 60))
	assert.Equal(t, "a title that is far too long for the results page and so is", fitting("a title that is far too long for the results page and so is cut", 60))
	assert.Len(t, []rune(fitting(strings.Repeat("x", 90), 60)), 60)
	assert.Equal(t, "LED lamps", lowerFirst("LED lamps"))
	assert.Equal(t, "what to wear", lowerFirst("What to wear"))
}

func compute(in evidence.Input) *evidence.Evidence {
	e, err := evidence.Compute(context.Background(), in)
	if err != nil {
		panic(err)
	}
	return e
}

// Where the field disagrees a range would tell nothing; there is always a fence.
func TestRangesThatTellNothing(t *testing.T) {
	e := &evidence.Evidence{Sources: make([]evidence.Source, 3)}
	term := func(lower, median, upper float64, words int) Term {
		return termOf(e, vocabulary.Term{Text: "tyre", Counts: make([]int, 3), Rate: stats.Range{Lower: lower, Median: median, Upper: upper, N: 3}}, words)
	}
	far := term(10.8, 18.4, 33.5, 1850)
	assert.Equal(t, []any{20, 34, 62, true}, []any{far.Lower, far.Median, far.Upper, far.AtWill})
	near := term(2, 3, 5, 1000)
	assert.Equal(t, []any{2, 5, false, 10}, []any{near.Lower, near.Upper, near.AtWill, near.Most})
	few := term(0.1, 0.2, 0.3, 1000)
	assert.Equal(t, []any{1, 1, 2, false}, []any{few.Lower, few.Upper, few.Most, few.AtWill}, "never under one, and a fence above it")
}
