package brief

import (
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/reading"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// page is one of the demo's, read once.
var page = func() func(t testing.TB, file string) *corpus.Doc {
	read := map[string]*corpus.Doc{}
	return func(t testing.TB, file string) *corpus.Doc {
		t.Helper()
		if read[file] == nil {
			body, err := os.ReadFile(file)
			require.NoError(t, err)
			r, err := reading.Read(reading.Page{URL: "https://" + strings.TrimPrefix(file, "../../standin/sites/"), Body: body})
			require.NoError(t, err)
			read[file] = corpus.Prepare(r, "en")
		}
		return read[file]
	}
}()

// demoOf is the evidence of some pages of the demo.
func demoOf(t testing.TB, files []string) *evidence.Evidence {
	t.Helper()
	var pages []corpus.RankedPage
	for i, f := range files {
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: page(t, f)})
	}
	return compute(evidence.Input{Keyword: "winter bike commuting", Language: "en", Pages: pages, Asked: []string{"Is it safe to cycle to work in winter?"}})
}

// commuting are the demo's pages about winter commuting, and some about other things.
func commuting(t testing.TB) (files []string) {
	t.Helper()
	for _, folder := range []string{"guides", "advice", "tips", "ask", "learn", "journal", "features"} {
		found, err := filepath.Glob("../../standin/sites/*/" + folder + "/*.html")
		require.NoError(t, err)
		files = append(files, found...)
	}
	require.Greater(t, len(files), 8)
	return files
}

func do(t require.TestingT, c *Choices, edits []Edit) {
	for _, x := range edits {
		require.NoError(t, c.Apply(x))
	}
}

// holds compares what a person's outline had with what it has now: no section, heading, point,
// question or term is missing, each under its section, in the order it had.
func holds(t *testing.T, was, is []Section) {
	var list, now []*Section
	each(was, func(s *Section) { list = append(list, s) })
	each(is, func(s *Section) { now = append(now, s) })
	english := language.For("en") // a term may be spelled otherwise
	within := func(what string, all, some []string) {
		at := 0
		for _, x := range some {
			i := slices.IndexFunc(all[at:], func(y string) bool { return y == x || english.PhraseKey(y) == english.PhraseKey(x) })
			require.GreaterOrEqual(t, i, 0, "%s: %q of %q in %q", what, x, some, all)
			at += i + 1
		}
	}
	texts := func(list []Point) (all []string) {
		for _, p := range list {
			all = append(all, p.Text)
		}
		return all
	}
	at := 0
	for _, s := range list {
		i := slices.IndexFunc(now[at:], func(o *Section) bool { return o.Heading == s.Heading })
		require.GreaterOrEqual(t, i, 0, "the section %q", s.Heading)
		o := now[at+i]
		at += i + 1
		assert.Equal(t, s.Level, o.Level, s.Heading)
		within("points of "+s.Heading, texts(o.Points), texts(s.Points))
		within("questions of "+s.Heading, o.Questions, s.Questions)
		within("terms of "+s.Heading, o.Terms, s.Terms)
	}
}

// Whatever pages come and go after a person has made the outline theirs, it loses nothing; where the
// brief stands its budgets do not change either. What no page has any more is marked.
func TestAnOutlineByHandLosesNothing(t *testing.T) {
	all := commuting(t)
	random := rand.New(rand.NewPCG(7, 7))
	some := func() []string {
		random.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
		return slices.Clone(all[:4+random.IntN(5)])
	}
	gone, tried := 0, 0
	for range 12 {
		e := demoOf(t, some())
		var c Choices
		b := Compose(e, c, Setting{})
		if len(b.Outline) < 2 {
			continue
		}
		tried++
		lines, err := LinesOf(b.Outline).Step(b.Outline[1].Key, Up)
		require.NoError(t, err)
		do(t, &c, c.Arrange(e, b.Outline, lines))
		mine := Compose(e, c, Setting{})
		assert.Equal(t, lines, LinesOf(mine.Outline))
		stands := c.Clone()
		do(t, &stands, stands.Stand(e, mine, 1))

		later := demoOf(t, some())
		holds(t, mine.Outline, Compose(later, c, Setting{}).Outline)
		kept := Compose(later, stands, Setting{})
		holds(t, mine.Outline, kept.Outline)
		words := func(b Brief) (list []string) {
			b.Each(func(s *Section) { list = append(list, fmt.Sprint(s.Heading, " ", s.Words)) })
			return list
		}
		assert.Equal(t, words(mine), words(kept))
		kept.Each(func(s *Section) {
			for _, p := range s.Points {
				if assert.Equal(t, len(p.Sources) == 0, p.Gone, p.Text); p.Gone {
					gone++
				}
			}
		})

		assert.Equal(t, mine.Outline, Compose(e, c, Setting{}).Outline, "nothing was kept of the pages between")
		do(t, &c, c.FreeOutline())
		assert.Empty(t, c.Sections)
	}
	assert.Greater(t, tried, 8)
	assert.Greater(t, gone, 10, "points that no page has any more")
}

// What a person drops of an outline that stands is gone, and what they adopt comes in.
func TestAnOutlineByHandObeys(t *testing.T) {
	all := commuting(t)
	e := demoOf(t, all[:8])
	var c Choices
	b := Compose(e, c, Setting{})
	do(t, &c, c.Arrange(e, b.Outline, LinesOf(b.Outline)))
	i := slices.IndexFunc(b.Outline, func(s Section) bool { return len(s.Points) > 1 && len(s.Terms) > 0 })
	require.GreaterOrEqual(t, i, 0)
	s := b.Outline[i]
	term := b.Terms[slices.IndexFunc(b.Terms, func(x Term) bool { return x.Term == s.Terms[0] })]
	do(t, &c, c.DecideOn(e, Mark{PointKind, s.Points[0].Key, s.Points[0].Text, Dropped}, Mark{TermKind, term.Key, term.Term, Dropped}))
	few := demoOf(t, all[5:9])
	for name, now := range map[string]Brief{"the same pages": Compose(e, c, Setting{}), "others": Compose(few, c, Setting{})} {
		o := now.Outline[i]
		assert.Equal(t, s.Heading, o.Heading, name)
		assert.NotContains(t, o.Terms, term.Term, name)
		assert.False(t, slices.ContainsFunc(o.Points, func(p Point) bool { return p.Key == s.Points[0].Key }), name)
		assert.Equal(t, s.Points[1].Text, o.Points[0].Text, name)
	}
	do(t, &c, c.DecideOn(e, Mark{ThemeKind, s.Key, s.Heading, Dropped}))
	assert.NotContains(t, headings(Compose(few, c, Setting{})), s.Heading)
}

// A state is restored as the document it was, whatever pages have come and gone since; where nothing
// has it follows the evidence as it did.
func TestAStateIsRestoredAsItWas(t *testing.T) {
	all := commuting(t)
	random := rand.New(rand.NewPCG(3, 9))
	some := func() []string {
		random.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
		return slices.Clone(all[:4+random.IntN(5)])
	}
	stood := 0
	for i := range 10 {
		e, setting := demoOf(t, some()), Setting{Gathered: "2026-11-05", Version: 3}
		var then Choices
		if i%2 == 1 { // by hand, and standing already
			b := Compose(e, then, setting)
			do(t, &then, then.Arrange(e, b.Outline, LinesOf(b.Outline)))
			do(t, &then, then.Stand(e, Compose(e, then, setting), 4))
		}
		goal := "Sell nothing"
		do(t, &then, []Edit{then.Write(FieldGoal, &goal, nil)})
		was := Compose(e, then, setting)
		body, err := was.Encode()
		require.NoError(t, err)
		document, err := Decode(body)
		require.NoError(t, err)

		var now Choices
		later := demoOf(t, some())
		do(t, &now, now.Restore(e, then, &document, 7, setting))
		assert.Equal(t, then, now, "by the same evidence it is the same choices")
		do(t, &now, now.To(Choices{}))
		do(t, &now, now.Restore(later, then, &document, 7, setting))
		is := Compose(later, now, setting)
		assert.Equal(t, document.says(), is.says())
		assert.Equal(t, headings(document), headings(is))
		assert.Equal(t, names(document), names(is))
		assert.Equal(t, "Sell nothing", is.Fields.Goal)
		if now.Stands != nil {
			stood++
		}
		do(t, &now, now.Restore(later, then, nil, 0, setting))
		assert.Equal(t, then, now, "without a document the choices alone come back")
	}
	assert.Greater(t, stood, 5)
	_, err := Decode([]byte("nothing"))
	require.Error(t, err)
	other, err := Brief{Schema: "another"}.Encode()
	require.NoError(t, err)
	_, err = Decode(other)
	require.ErrorContains(t, err, "schema")
}
