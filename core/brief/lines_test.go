package brief

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// lines reads an outline written as "2 a", "3 b".
func lines(of ...string) Lines {
	var l Lines
	for _, s := range of {
		var x OutlineLine
		_, _ = fmt.Sscan(s, &x.Level, &x.Key)
		l = append(l, x)
	}
	return l
}

func TestSteps(t *testing.T) {
	was := lines("2 a", "3 b", "4 c", "3 d", "2 e")
	for _, step := range []struct {
		key  string
		way  Way
		want Lines
	}{
		{"a", Up, was}, {"e", Down, was}, {"b", Up, was}, {"a", In, was}, {"a", Out, was},
		{"a", Down, lines("2 e", "2 a", "3 b", "4 c", "3 d")},
		{"e", Up, lines("2 e", "2 a", "3 b", "4 c", "3 d")},
		{"d", Up, lines("2 a", "3 d", "3 b", "4 c", "2 e")},
		{"e", In, lines("2 a", "3 b", "4 c", "3 d", "3 e")},
		{"d", In, lines("2 a", "3 b", "4 c", "4 d", "2 e")},
		{"c", In, was}, // nothing stands before it there
		{"b", Out, lines("2 a", "3 d", "2 b", "3 c", "2 e")},
		{"c", Out, lines("2 a", "3 b", "3 c", "3 d", "2 e")},
	} {
		got, err := was.Step(step.key, step.way)
		require.NoError(t, err)
		assert.Equal(t, step.want, got, "%s %s", step.key, step.way)
	}
	deep := lines("2 a", "2 b", "3 c", "4 d")
	got, err := deep.Step("b", In)
	require.NoError(t, err)
	assert.Equal(t, deep, got, "what stands below it would lie too deep")
	_, err = was.Step("z", Up)
	assert.ErrorIs(t, err, ErrNoSection)
}

// Steps pass what is folded, which goes with the section it is said in; a section that is folded lets go of those below it.
func TestStepsPassWhatIsFolded(t *testing.T) {
	l := Lines{{2, "a", false}, {3, "in a", true}, {2, "b", false}, {3, "c", false}, {2, "rest", true}}
	up, err := l.Step("b", Up)
	require.NoError(t, err)
	assert.Equal(t, Lines{{2, "b", false}, {3, "c", false}, {2, "a", false}, {3, "in a", true}, {2, "rest", true}}, up)
	same, err := l.Step("b", Down)
	require.NoError(t, err)
	assert.Equal(t, l, same, "there is no way on")
	last, err := l.Put("a", "", "")
	require.NoError(t, err)
	assert.Equal(t, up, last, "the end is before what stands under none")
	folded, err := l.Fold("b", true)
	require.NoError(t, err)
	assert.Equal(t, Lines{{2, "a", false}, {3, "in a", true}, {2, "c", false}, {2, "b", true}, {2, "rest", true}}, folded)
	again, err := folded.Fold("b", false)
	require.NoError(t, err)
	assert.Equal(t, Lines{{2, "a", false}, {3, "in a", true}, {2, "c", false}, {2, "b", false}, {2, "rest", true}}, again)
	_, err = l.Fold("nothing", true)
	assert.ErrorIs(t, err, ErrNoSection)
}

func TestPutAndAdd(t *testing.T) {
	was := lines("2 a", "3 b", "2 c", "3 d")
	for _, put := range []struct {
		key, parent, before string
		want                Lines
	}{
		{"c", "", "a", lines("2 c", "3 d", "2 a", "3 b")},
		{"c", "a", "b", lines("2 a", "3 c", "4 d", "3 b")},
		{"c", "a", "", lines("2 a", "3 b", "3 c", "4 d")},
		{"b", "", "", lines("2 a", "2 c", "3 d", "2 b")},
		{"c", "b", "", lines("2 a", "3 b", "4 c", "4 d")}, // lifted to the deepest level
	} {
		got, err := was.Put(put.key, put.parent, put.before)
		require.NoError(t, err)
		assert.Equal(t, put.want, got, "%+v", put)
	}
	_, err := was.Put("a", "b", "")
	assert.ErrorIs(t, err, ErrOwnPart)
	for _, wrong := range [][3]string{{"z", "", ""}, {"a", "z", ""}, {"a", "", "z"}} {
		_, err := was.Put(wrong[0], wrong[1], wrong[2])
		assert.ErrorIs(t, err, ErrNoSection)
	}
	assert.Equal(t, lines("2 a", "3 b", "2 x", "2 c", "3 d"), was.Add("x", "a"))
	assert.Equal(t, lines("2 a", "3 b", "3 x", "2 c", "3 d"), was.Add("x", "b"))
	assert.Equal(t, lines("2 a", "3 b", "2 c", "3 d", "2 x"), was.Add("x", "gone"))
	assert.Equal(t, lines("2 b", "2 c", "3 d"), was.without(func(key string) bool { return key == "a" }))
	assert.Equal(t, lines("2 d"), lines("2 a", "3 b", "4 d").without(func(key string) bool { return key < "d" }))
}

// Whatever is moved, no section is lost or doubled, none lies too deep or too high, and what
// is kept reads back.
func TestMovingLosesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var l Lines
		level := TopLevel
		n := rapid.IntRange(1, 12).Draw(t, "sections")
		for i := range n {
			level = rapid.IntRange(TopLevel, min(level+1, DeepestLevel)).Draw(t, "level")
			if i == 0 {
				level = TopLevel
			}
			l = append(l, OutlineLine{level, fmt.Sprint("key ", i), rapid.Bool().Draw(t, "folded")})
		}
		keys := func(l Lines) []string {
			var list []string
			for _, x := range l {
				list = append(list, x.Key)
			}
			slices.Sort(list)
			return list
		}
		want := keys(l)
		key := func(name string) string { return fmt.Sprint("key ", rapid.IntRange(0, n-1).Draw(t, name)) }
		for range rapid.IntRange(1, 20).Draw(t, "moves") {
			next, err := l, error(nil)
			if rapid.Bool().Draw(t, "step") {
				next, err = l.Step(key("key"), rapid.SampledFrom([]Way{Up, Down, In, Out}).Draw(t, "way"))
				if err != nil {
					t.Fatal(err)
				}
			} else if next, err = l.Put(key("key"), key("parent"), ""); err != nil {
				continue
			}
			if l = next; !slices.Equal(want, keys(l)) {
				t.Fatalf("lost or doubled: %v", l)
			}
			for _, x := range l {
				if x.Level < TopLevel || x.Level > DeepestLevel {
					t.Fatalf("of level %d: %v", x.Level, l)
				}
			}
			var c Choices
			c.Type(FieldOutline, l.String())
			if !slices.Equal(l, c.Outline) {
				t.Fatalf("read back as %v: %v", c.Outline, l)
			}
		}
	})
}

// A question and a term that a person brought under a section stand there, also when the
// section's theme or the question is called otherwise by then.
func TestBroughtUnderASection(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	var c Choices
	b := Compose(e, c, Setting{})
	require.NotEmpty(t, b.Questions)
	last := b.Outline[len(b.Outline)-1]
	for _, x := range c.Arrange(e, b.Outline, LinesOf(b.Outline)) {
		require.NoError(t, c.Apply(x))
	}
	for _, name := range []string{AtField(QuestionKind, b.Questions[0].Key), AtField(TermKind, b.Terms[0].Key)} {
		require.True(t, KnownField(name), name)
		for _, x := range c.WriteOn(e, name, &last.Key) {
			require.NoError(t, c.Apply(x))
		}
	}
	now := Compose(e, c, Setting{})
	at := now.Outline[len(now.Outline)-1]
	assert.Contains(t, at.Questions, b.Questions[0].Text)
	assert.Contains(t, at.Terms, b.Terms[0].Term)
	assert.Equal(t, last.Heading, now.Questions[0].Section)
	later := field(t, "a.example", "b.example", "c.example", "d.example")
	now = Compose(later, c, Setting{})
	assert.Contains(t, now.Outline[len(now.Outline)-1].Terms, b.Terms[0].Term)
	gone := "no section"
	for _, x := range c.WriteOn(e, AtField(TermKind, b.Terms[0].Key), &gone) {
		require.NoError(t, c.Apply(x))
	}
	assert.NotPanics(t, func() { Compose(e, c, Setting{}) })
}
