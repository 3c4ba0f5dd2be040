package brief

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/themes"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A description asks of the keyword, and then something else that another section answers; never what only has a common word of it.
func TestDescriptionsAskTwoThings(t *testing.T) {
	b := Brief{Keyword: "storing a bike over winter", Language: "en", Questions: []Question{
		{Text: "Do I need studded tyres for winter?", Kind: language.YesNo, AskedBy: []int{1}, Section: "Tyres"},
	}}
	assert.Empty(t, b.askedShort(), "winter alone is another subject")
	b.Questions = append(b.Questions,
		Question{Text: "Where is the best place for storing a bike?", Kind: language.Where, AskedBy: []int{1, 2}, Section: "Places"},
		Question{Text: "Where else can a bike stand?", Kind: language.Where, AskedBy: []int{3}, Section: "Racks"},
		Question{Text: "How should a bike be cleaned first?", Kind: language.How, AskedBy: []int{3}, Section: "Places"},
		Question{Text: "How much air does a bike want?", Kind: language.HowMuch, AskedBy: []int{3}, Section: "Air"})
	b.Questions = b.Questions[1:]
	assert.Equal(t, []string{"Where is the best place for storing a bike?", "How much air does a bike want?"}, b.askedShort())
}

// In every language: titles and descriptions, that fit, have the keyword, leave
// no place of the pattern open and are no list of headings.
func TestCandidatesInEveryLanguage(t *testing.T) {
	for _, code := range language.Codes() {
		var pages []corpus.RankedPage
		for i := range 3 {
			pages = append(pages, corpustest.PageIn(t, code, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>Kilometer</h1><h2>Alpha</h2><p>Alpha beta gamma delta epsilon%d zeta eta theta iota kappa.</p><h2>Omega</h2><p>Omega psi chi phi upsilon%d tau sigma rho pi omicron xi.</p><h2>Lambda</h2><p>Lambda mu nu lambda mu%d nu lambda mu nu lambda.</p>`, i, i, i)))
		}
		e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "kilometer alpha", Language: code, Pages: pages})
		require.NoError(t, err)
		b := Compose(e, Choices{}, Setting{})
		require.NotEmpty(t, b.Titles, code)
		for _, c := range b.Titles {
			assert.Contains(t, strings.ToLower(c.Text), "kilometer alpha", code)
			assert.LessOrEqual(t, c.Characters, longestCandidate)
			assert.LessOrEqual(t, c.Pixels, widestTitle)
			assert.NotEmpty(t, c.Pattern)
		}
		for _, c := range b.Descriptions {
			assert.NotContains(t, c.Text, "{", code)
			assert.False(t, strings.HasSuffix(c.Text, "?"), code)
			assert.LessOrEqual(t, utf8.RuneCountInString(c.Text), longestProposal)
		}
		assert.Equal(t, b.Titles[0].Text, b.TitleTag, "the first is proposed")
	}
}

// A title pattern that the field has comes first, and a year only where the field has one.
func TestCandidatesFollowTheField(t *testing.T) {
	var pages []corpus.RankedPage
	for i := range 3 {
		p := corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>Winter riding</h1><h2>Tyre pressure</h2><p>Lower the tyre pressure by %d psi when it freezes, for winter riding.</p>`, 10+i))
		p.Doc.Reading.Title = fmt.Sprintf("Winter riding in 202%d", 4+i)
		pages = append(pages, p)
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(t, err)
	b := Compose(e, Choices{}, Setting{})
	assert.Equal(t, "Winter riding in 2026", b.Titles[0].Text)
	assert.Contains(t, b.Titles[0].Pattern.String(), "3 of 3")
}

// A point worded by hand keeps its pages; one beyond those proposed comes in when adopted.
func TestPointsByHand(t *testing.T) {
	var says strings.Builder
	for _, s := range []string{"Lower the tyre pressure by ten psi in frost.", "Studded tyres bite into clear ice with carbide.", "Check every valve for salt once a week then.", "Wide tyres float over loose snow quite well.", "Old rubber hardens in cold and slides sooner.", "Pump the tyres indoors before a long ride out."} {
		fmt.Fprintf(&says, "<p>%s</p>", s)
	}
	var pages []corpus.RankedPage
	for i := range 3 {
		pages = append(pages, corpustest.Page(t, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>Winter riding %d</h1><h2>Tyres and pressure</h2>%s<p>Only%d here.</p>`, i, says.String(), i)))
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(t, err)
	plain := Compose(e, Choices{}, Setting{})
	require.NotEmpty(t, plain.Outline)
	points := plain.Outline[0].Points
	require.Len(t, points, maxPoints)
	all := e.PointsOf(plain.Outline[0].Key)
	require.Greater(t, len(all), maxPoints)
	var c Choices
	c.Set(Mark{PointKind, all[maxPoints].Key, all[maxPoints].Text, Adopted})
	require.NoError(t, c.Apply(c.Write(PointPrefix+points[0].Key, new("In our words."), nil)))
	edited := Compose(e, c, Setting{}).Outline[0].Points
	require.Len(t, edited, maxPoints+1)
	assert.Equal(t, "In our words.", edited[0].Text)
	assert.True(t, edited[0].Edited)
	assert.Equal(t, points[0].Sources, edited[0].Sources)
}

// The heading and the wording that a person gave go with their section and their point
// when those are called otherwise, are written in one place, and are undone.
func TestWordsOfAPersonFollowTheirFinding(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	i := slices.IndexFunc(e.Themes, func(th themes.Theme) bool { return th.Label == "Tyre pressure" })
	require.GreaterOrEqual(t, i, 0)
	old := e.Themes[i].Key
	var c Choices
	for _, edit := range c.WriteOn(e, HeadingPrefix+old, new("How hard to pump")) {
		require.NoError(t, c.Apply(edit))
	}
	points := e.PointsOf(old)
	require.NotEmpty(t, points)
	for _, edit := range c.WriteOn(e, PointPrefix+points[0].Key, new("Ours.")) {
		require.NoError(t, c.Apply(edit))
	}
	e.Themes[i].Key = "another key" // the label is another, the headings are the same
	for k := range e.Points {
		if e.Points[k].Theme == old {
			e.Points[k].Theme = "another key"
			e.Points[k].Points[0].Key = "another point"
		}
	}
	b := Compose(e, c.On(e), Setting{})
	j := slices.IndexFunc(b.Outline, func(s Section) bool { return s.Key == "another key" })
	require.GreaterOrEqual(t, j, 0)
	assert.Equal(t, "How hard to pump", b.Outline[j].Heading)
	require.NotEmpty(t, b.Outline[j].Points)
	assert.Equal(t, "Ours.", b.Outline[j].Points[0].Text)
	require.NotNil(t, c.TypedOn(e, HeadingPrefix+"another key"))
	edits := c.WriteOn(e, HeadingPrefix+"another key", nil)
	require.Len(t, edits, 1, "in the place where it was written")
	require.NoError(t, c.Apply(edits[0]))
	assert.Equal(t, "Tyre pressure", Compose(e, c.On(e), Setting{}).Outline[j].Heading)
	require.NoError(t, c.Apply(edits[0].Reversed()))
	assert.Equal(t, "How hard to pump", Compose(e, c.On(e), Setting{}).Outline[j].Heading)
}
