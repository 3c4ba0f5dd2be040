package brief

import (
	"slices"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"
	"corpulan/core/questions"
	"corpulan/core/vocabulary"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const wool = `<p>Wear wool gloves and a windproof jacket. The jacket vents; the gloves are thin. Under the jacket a wool layer, on the hands gloves.</p>`

func fieldOf(t *testing.T, headings ...string) *evidence.Evidence {
	t.Helper()
	var pages []corpus.RankedPage
	for i, h := range headings {
		host := string(rune('a'+i)) + ".example"
		pages = append(pages, corpustest.Page(t, i+1, host, `<h1>Guide `+host+`</h1><h2>`+h+`</h2>`+wool+`<h2>Tyre pressure</h2><p>Lower it by ten psi on `+host+`. Pressure falls in frost.</p><h2>Is it `+host+`?</h2><p>How cold is too cold for gloves?</p>`))
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(t, err)
	return e
}

// clothes is the key of the theme that holds a heading.
func clothes(t *testing.T, e *evidence.Evidence, heading string) string {
	t.Helper()
	for _, th := range e.Themes {
		for _, m := range th.Members {
			if m.Text == heading {
				return th.Key
			}
		}
	}
	require.Fail(t, "no theme holds "+heading)
	return ""
}

// Decisions made when words had other stems find the term and the question by their words.
func TestChoicesOutliveTheirStems(t *testing.T) {
	e := fieldOf(t, "Winter gloves", "Winter gloves and jackets", "Jackets")
	var c Choices
	made := []string{"glovse"} // as an older stemmer left it
	require.NoError(t, c.Apply(c.Decide(Mark{TermKind, "glovse", "gloves", Adopted}, made)))
	require.NoError(t, c.Apply(c.Decide(Mark{QuestionKind, "how cold glovse", "How cold is too cold for gloves?", Dropped}, made)))
	require.NoError(t, c.Apply(c.Decide(Mark{TermKind, "spatul", "spatulas", Adopted}, []string{"spatul"})))
	today := c.On(e)
	i := slices.IndexFunc(e.Terms, func(t vocabulary.Term) bool { return t.Text == "gloves" })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, Adopted, today.State(TermKind, e.Terms[i].Key))
	q := slices.IndexFunc(e.Questions, func(q questions.Question) bool { return q.Text == "How cold is too cold for gloves?" })
	require.GreaterOrEqual(t, q, 0)
	assert.Equal(t, Dropped, today.State(QuestionKind, e.Questions[q].Key))
	for _, x := range Compose(e, c, Setting{}).Terms {
		assert.Equal(t, x.Term == "spatulas", x.Gone, x.Term)
	}
}

// The pages that come move the medoid: the theme's label and key are others, and
// what was decided, noted and dropped is still about it.
func TestChoicesFollowAThemeWhoseLabelMoves(t *testing.T) {
	before := fieldOf(t, "Winter gloves", "Winter gloves and jackets")
	after := fieldOf(t, "Winter gloves", "Winter gloves and jackets", "Jackets", "Winter jackets", "Jackets for winter", "The winter jacket")
	then := clothes(t, before, "Winter gloves")
	now := clothes(t, after, "Winter gloves")
	require.NotEqual(t, then, now, "the medoid has moved")
	require.NotEqual(t, "", now)

	for _, state := range []State{Adopted, Dropped} {
		var c Choices
		require.NoError(t, c.Apply(c.Decide(Mark{ThemeKind, then, "Winter gloves", state}, Made(before, ThemeKind, then))))
		note := "Say which are waterproof"
		require.NoError(t, c.Apply(c.Write(NotePrefix+then, &note, Made(before, ThemeKind, then))))
		today := c.On(after)
		assert.Equal(t, state, today.State(ThemeKind, now))
		assert.Equal(t, note, today.noteOn(now))
		anew := c.DecideOn(after, Mark{ThemeKind, now, "Winter jacket", Adopted})
		for _, edit := range anew {
			assert.Equal(t, then, edit.Key, "a new decision takes the old one's place")
		}
		assert.Equal(t, state, c.On(before).State(ThemeKind, then), "and back again")
		b := Compose(after, c, Setting{})
		in := 0
		each(b.Outline, func(s *Section) {
			if s.Key == now {
				in++
				assert.Equal(t, note, s.Note)
			}
			assert.False(t, s.Gone)
		})
		assert.Equal(t, state == Adopted, in == 1)
	}
}

// With its pages a finding goes; what was decided waits for it.
func TestChoicesWaitForAFindingThatIsGone(t *testing.T) {
	with, without := fieldOf(t, "Winter gloves", "Warm winter gloves"), fieldOf(t, "Lamps", "Bright lamps")
	key := clothes(t, with, "Winter gloves")
	var c Choices
	require.NoError(t, c.Apply(c.Decide(Mark{ThemeKind, key, "Winter gloves", Adopted}, []string{"glove winter"})))
	gone := Compose(without, c, Setting{})
	assert.True(t, sectionOf(gone, "Winter gloves").Gone)
	assert.Equal(t, Adopted, c.On(with).State(ThemeKind, clothes(t, with, "Winter gloves")))
}

// The results page puts its own wording first: the question is the same.
func TestChoicesFollowAQuestionWhoseWordingChanges(t *testing.T) {
	e := fieldOf(t, "Gloves", "Warm gloves")
	require.NotEmpty(t, e.Questions)
	var key string
	for _, q := range e.Questions {
		if q.Text == "How cold is too cold for gloves?" {
			key = q.Key
		}
	}
	require.NotEmpty(t, key)
	var c Choices
	require.NoError(t, c.Apply(c.Decide(Mark{QuestionKind, key, "How cold is too cold for gloves?", Dropped}, Made(e, QuestionKind, key))))
	for i := range e.Questions {
		if e.Questions[i].Key == key {
			e.Questions[i].Key = "another key"
		}
	}
	assert.Equal(t, Dropped, c.On(e).State(QuestionKind, "another key"))
}

// A key that its finding has left may be another's: both keep their own.
func TestAKeyThatIsTakenOver(t *testing.T) {
	before := fieldOf(t, "Winter gloves", "Winter gloves and jackets")
	after := fieldOf(t, "Winter gloves", "Winter gloves and jackets", "Jackets", "Winter jackets", "Jackets for winter", "The winter jacket")
	then, now := clothes(t, before, "Winter gloves"), clothes(t, after, "Winter gloves")
	other := clothes(t, after, "Tyre pressure")
	for i := range after.Themes {
		if after.Themes[i].Key == other {
			after.Themes[i].Key = then
		}
	}
	var c Choices
	require.NoError(t, c.Apply(c.Decide(Mark{ThemeKind, then, "Winter gloves", Dropped}, Made(before, ThemeKind, then))))
	assert.Equal(t, Dropped, c.On(after).State(ThemeKind, now))
	assert.Empty(t, c.On(after).State(ThemeKind, then), "nothing was decided about tyres")
	for _, edit := range c.DecideOn(after, Mark{ThemeKind, then, "Tyre pressure", Adopted}) {
		require.NoError(t, c.Apply(edit))
	}
	assert.Equal(t, Adopted, c.On(after).State(ThemeKind, then))
	assert.Equal(t, Dropped, c.On(after).State(ThemeKind, now))
}

// Notes of two sections that have become one stand together, and both are kept.
func TestNotesOfThemesThatMeet(t *testing.T) {
	e := fieldOf(t, "Winter gloves", "Warm winter gloves")
	key := clothes(t, e, "Winter gloves")
	var c Choices
	one, two := "One", "Two"
	require.NoError(t, c.Apply(c.Write(NotePrefix+"a", &one, []string{"glove winter"})))
	require.NoError(t, c.Apply(c.Write(NotePrefix+"b", &two, []string{"glove warm winter"})))
	assert.Equal(t, "One\nTwo", c.On(e).noteOn(key))
	assert.Len(t, c.typedAt(ThemeKind), 2)

	// What is typed then takes the place of both, and can be undone.
	assert.Equal(t, "One\nTwo", *c.TypedOn(e, NotePrefix+key))
	three := "One\nTwo\nThree"
	edits := c.WriteOn(e, NotePrefix+key, &three)
	for _, edit := range edits {
		require.NoError(t, c.Apply(edit))
	}
	assert.Equal(t, three, *c.TypedOn(e, NotePrefix+key))
	assert.Len(t, c.typedAt(ThemeKind), 1)
	for _, edit := range slices.Backward(edits) {
		require.NoError(t, c.Apply(edit.Reversed()))
	}
	assert.Equal(t, "One\nTwo", *c.TypedOn(e, NotePrefix+key))
}

// Two decisions that have come to be about one finding are taken back at once.
func TestDecisionsThatMeet(t *testing.T) {
	e := fieldOf(t, "Winter gloves", "Warm winter gloves")
	key := clothes(t, e, "Winter gloves")
	var c Choices
	require.NoError(t, c.Apply(c.Decide(Mark{ThemeKind, "a", "Winter gloves", Adopted}, []string{"glove winter"})))
	require.NoError(t, c.Apply(c.Decide(Mark{ThemeKind, "b", "Warm winter gloves", Dropped}, []string{"glove warm winter"})))
	assert.Equal(t, Dropped, c.On(e).State(ThemeKind, key), "the later stands")
	for _, edit := range c.DecideOn(e, Mark{ThemeKind, key, "Winter gloves", ""}) {
		require.NoError(t, c.Apply(edit))
	}
	assert.Empty(t, c.On(e).State(ThemeKind, key))
	assert.Empty(t, c.Marks)
}
