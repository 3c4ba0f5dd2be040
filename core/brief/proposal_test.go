package brief

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"
	"corpulan/core/language"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// A brief opens as a proposal, in which every text says what it comes from; where the field says nothing of this page alone, nothing stands.
func TestProposalsSayWhatTheyComeFrom(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	b := Compose(e, Choices{}, Setting{})
	for _, name := range FieldNames() {
		switch name {
		case FieldOwner, FieldWriter, FieldDue, FieldNotes, FieldKind, FieldLength, FieldSecondary: // a person's, or elsewhere in the brief
			continue
		case FieldStatus:
			assert.Equal(t, Proposed, b.Field(name))
			continue
		}
		switch name {
		case FieldGoal, FieldAudience, FieldVoice, FieldPointOfView, FieldCallToAction, FieldAvoid, FieldSummary, FieldMetaDescription, FieldShortAnswer, FieldMedia:
			assert.Empty(t, b.Field(name), name)
		default:
			assert.NotEmpty(t, b.Field(name), name)
			assert.NotEmpty(t, b.Why[name], name)
		}
	}
	assert.NotEmpty(t, b.Front.Kind)
	assert.NotEmpty(t, b.Words.Why)
	b.Each(func(s *Section) {
		if !s.Gone {
			assert.NotNil(t, s.Best)
			assert.LessOrEqual(t, len(s.Best), maxBest)
			for _, r := range s.Best {
				assert.Contains(t, s.Sources, r, s.Heading)
			}
		}
	})
	empty := Compose(compute(evidence.Input{Keyword: "x", Language: "en"}), Choices{}, Setting{})
	assert.NotContains(t, empty.Fields.Goal, "0")
}

// What a person typed goes before what the publication says, that before the kind of page,
// and that before the evidence.
func TestWhoFillsAField(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	var c Choices
	c.Type(FieldKind, "product")
	s := Setting{Publication: "Quillfen Cycles", Version: 3, Address: "https://quillfen.example/", Defaults: map[string]string{FieldVoice: "Warm and dry."}}
	b := Compose(e, c, s)
	assert.Equal(t, "Warm and dry.", b.Fields.Voice)
	assert.Equal(t, "as Quillfen Cycles has it", b.Why[FieldVoice].String())
	assert.Contains(t, b.Fields.CallToAction, "Buy or ask")
	assert.Equal(t, "as in every product or service page", b.Why[FieldCallToAction].String())
	assert.Equal(t, Composed, b.Front.Status)
	assert.Equal(t, "https://quillfen.example/winter-riding", b.Address)
	assert.Contains(t, b.Fields.StructuredData, "Product")
	c.Type(FieldVoice, "")
	b = Compose(e, c, s)
	assert.Empty(t, b.Fields.Voice, "emptied by hand")
	assert.Empty(t, b.Why[FieldVoice])
	c.Type(FieldKind, "no longer there")
	assert.NotEmpty(t, Compose(e, c, s).Front.Kind)
}

func TestAddresses(t *testing.T) {
	assert.Equal(t, "/fahrrad-fuer-strasse", addressOf("", "Fahrrad für Straße", language.For("de")))
	assert.Equal(t, "https://a.example/velo-d-ete", addressOf("https://a.example", "Vélo d’été", language.For("fr")))
	assert.Equal(t, "/vinterdack-pa-hjul-for-oar", addressOf("", "Vinterdäck på hjul för öar", language.For("sv")))
}

func TestLengths(t *testing.T) {
	for typed, want := range map[string][2]int{"1,200": {1200, 1200}, "900 to 1,300 words": {900, 1300}, "1.300–900": {900, 1300}, "1 page": {1, 1}} {
		lower, upper, ok := LengthIn(typed)
		assert.True(t, ok, typed)
		assert.Equal(t, want, [2]int{lower, upper}, typed)
	}
	for _, typed := range []string{"", "long", "1 2 3", "0", "9999999999999999999", "-"} {
		_, _, ok := LengthIn(typed)
		assert.False(t, ok, typed)
	}
}

// Every kind of page has a name, a use, and headings in all languages; taking one is edits
// that can be turned round.
func TestTemplates(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	for _, x := range Templates() {
		assert.NotEmpty(t, x.About)
		for _, s := range x.Sections {
			for _, code := range language.Codes() {
				assert.NotEmpty(t, s.Heading(code), "%s in %s", x.Name, code)
			}
		}
		var c Choices
		edits, err := c.Use(e, x)
		require.NoError(t, err)
		for _, edit := range edits {
			require.NoError(t, c.Apply(edit), x.Key)
		}
		b := Compose(e, c, Setting{})
		assert.Equal(t, x.Name, b.Front.Kind)
		assert.Empty(t, b.Why[FieldKind])
		own := 0
		b.Each(func(s *Section) {
			if strings.HasPrefix(s.Key, OwnPrefix) {
				own++
				assert.NotEmpty(t, s.Note)
			}
		})
		assert.Equal(t, len(x.Sections), own, x.Key)
		again, err := c.Use(e, x)
		require.NoError(t, err)
		assert.Empty(t, again, "taken twice it is the same")
		for i := len(edits) - 1; i >= 0; i-- {
			require.NoError(t, c.Apply(edits[i].Reversed()))
		}
		assert.Empty(t, typed(c))
		assert.Empty(t, c.Marks)
	}
	// One that a publication saved brings the texts, the parts and the sections back.
	var c Choices
	c.Type(FieldVoice, "Dry.")
	c.Type(FieldParts, "terms\n-openings\noutline\n")
	c.Set(OwnSection(e, "Our rule"))
	saved := Compose(e, c, Setting{}).Template("1", "Ours")
	assert.Equal(t, "Dry.", saved.Fields[FieldVoice])
	assert.NotContains(t, saved.Fields, FieldAudience, "a proposal is not saved")
	var fresh Choices
	edits, err := fresh.Use(e, saved)
	require.NoError(t, err)
	for _, x := range edits {
		require.NoError(t, fresh.Apply(x))
	}
	b := Compose(e, fresh, Setting{Templates: []Template{saved}})
	assert.Equal(t, "Ours", b.Front.Kind)
	assert.Equal(t, "Dry.", b.Fields.Voice)
	assert.Equal(t, PartTerms, b.Parts[0].Name)
	for _, p := range b.Parts {
		assert.Equal(t, p.Name == PartOpenings, p.Hidden, p.Name)
	}
	found := false
	b.Each(func(s *Section) { found = found || s.Heading == "Our rule" })
	assert.True(t, found, "%+v", saved.Sections)
}

// take makes a brief one of a kind of page.
func take(t require.TestingT, c *Choices, e *evidence.Evidence, kind Template) {
	edits, err := c.Use(e, kind)
	require.NoError(t, err)
	for _, x := range edits {
		require.NoError(t, c.Apply(x))
	}
}

// Whatever kinds of page a brief goes through, in the end it is as if only the last had been taken,
// whether the outline follows the evidence or is a person's own.
func TestNoKindLeavesAnythingBehind(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	rapid.Check(t, func(t *rapid.T) {
		var c Choices
		if rapid.Bool().Draw(t, "a section of one's own") {
			c.Set(OwnSection(e, "At a glance")) // as some kinds have it too
		}
		if rapid.Bool().Draw(t, "by hand") {
			outline := Compose(e, c, Setting{}).Outline
			lines := LinesOf(outline)
			slices.Reverse(lines[1:])
			for _, x := range c.Arrange(e, outline, lines) {
				require.NoError(t, c.Apply(x))
			}
		}
		if rapid.Bool().Draw(t, "it stands") {
			take(t, &c, e, rapid.SampledFrom(Templates()).Draw(t, "before"))
			for _, x := range c.Stand(e, Compose(e, c, Setting{}), 1) {
				require.NoError(t, c.Apply(x))
			}
		}
		through := c.Clone()
		kinds := rapid.SliceOfN(rapid.SampledFrom(Templates()), 1, 6).Draw(t, "kinds")
		for _, kind := range kinds {
			take(t, &through, e, kind)
		}
		take(t, &c, e, kinds[len(kinds)-1])
		was, is := Compose(e, c, Setting{}), Compose(e, through, Setting{})
		assert.ElementsMatch(t, LinesOf(was.Outline), LinesOf(is.Outline))
		was.Outline, is.Outline = nil, nil
		assert.Equal(t, was, is)
		// A section that went and came again has its heading from the kind, and not from when it stood.
		kept := func(c Choices) []string {
			return slices.DeleteFunc(keysOf(typed(c)), func(name string) bool { return strings.HasPrefix(name, HeadingPrefix+OwnPrefix) })
		}
		assert.ElementsMatch(t, kept(c), kept(through))
	})
}

// A section that a kind of page brought and a person has worked on is the person's.
func TestAKindLeavesWhatAPersonMade(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	kinds := map[string]Template{}
	for _, x := range Templates() {
		kinds[x.Key] = x
	}
	key := OwnSection(e, "How we chose").Key
	for _, place := range []string{HeadingPrefix, NotePrefix, WordsPrefix, CuttingAtPrefix, ""} {
		var c Choices
		take(t, &c, e, kinds["list"])
		words := "Chosen by hand"
		switch place {
		case "":
		case CuttingAtPrefix:
			c.Type(CuttingAtPrefix+"1", key)
		default:
			c.Type(place+key, words)
		}
		take(t, &c, e, kinds["guide"])
		b := Compose(e, c, Setting{})
		assert.Equal(t, place != "", LinesOf(b.Outline).has(key), place)
		if place == NotePrefix {
			assert.Equal(t, words, c.noteOn(key))
		}
	}
}

// Parts stand in the order they were given, the others where they usually do; none is lost.
func TestParts(t *testing.T) {
	var c Choices
	c.Type(FieldParts, "terms\nnonsense\n-openings\nown:1\nown:2\nterms\n")
	c.Type(PartTitlePrefix+"1", "Approvals")
	c.Type(PartPrefix+"1", "Ask first")
	list := parts(c, "")
	assert.Len(t, list, len(UsualParts())+1)
	var names []string
	for _, p := range list {
		names = append(names, p.Name)
	}
	assert.Equal(t, []string{PartOutline, PartComparison, PartTerms}, names[:3])
	assert.Contains(t, names, "own:1")
	assert.NotContains(t, names, "own:2", "it has no title")
	var again Choices
	for name, text := range map[string]string{FieldParts: PartsText(list), PartTitlePrefix + "1": "Approvals", PartPrefix + "1": "Ask first"} {
		again.Type(name, text)
	}
	assert.Equal(t, list, parts(again, ""))
}

// From the first edit the outline is the person's: a theme that comes later is offered, and
// not imposed, and a theme whose label changes keeps its place.
func TestNewEvidenceIsOffered(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	var c Choices
	b := Compose(e, c, Setting{})
	require.Greater(t, len(b.Outline), 1)
	l, err := LinesOf(b.Outline).Step(b.Outline[1].Key, Up)
	require.NoError(t, err)
	for _, x := range c.Arrange(e, b.Outline, l) {
		require.NoError(t, c.Apply(x))
	}
	moved := Compose(e, c, Setting{})
	assert.Equal(t, l, LinesOf(moved.Outline))
	assert.Empty(t, moved.Offers)
	// One theme less decided about: it is offered.
	gone := b.Outline[1]
	c.Clear(ThemeKind, gone.Key)
	c.Type(FieldOutline, Lines(l).without(func(key string) bool { return key == gone.Key }).String())
	later := Compose(e, c, Setting{})
	assert.Equal(t, -1, LinesOf(later.Outline).At(gone.Key))
	require.Len(t, later.Offers, 1)
	assert.Equal(t, gone.Heading, later.Offers[0].Heading)
	c.Set(Mark{ThemeKind, gone.Key, gone.Heading, Adopted})
	assert.GreaterOrEqual(t, LinesOf(Compose(e, c, Setting{}).Outline).At(gone.Key), 0, "adopted elsewhere it comes where it usually stands")
}

// The grade asked for is the first number of its field, within what a text for people has.
func TestGrade(t *testing.T) {
	for text, want := range map[string]int{"": PlainGrade, "Grade 6 or below; the pages read at 4 to 9.": 6, "12": 12, "plain": PlainGrade, "0": PlainGrade, "900": PlainGrade} {
		b := Brief{Fields: Fields{ReadingGrade: text}}
		assert.Equal(t, want, b.Grade(), text)
	}
	e := field(t, "a.example", "b.example", "c.example")
	assert.Regexp(t, `^Grade 8 or below; the kept pages read at \d+ to \d+\.$`, Compose(e, Choices{}, Setting{}).Fields.ReadingGrade)
}

// A fact keeps the page that it was adopted from when that page counts no more, in the brief and in
// whatever is kept of it; taken back, nothing stays.
func TestAFactKeepsItsSource(t *testing.T) {
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", "<h1>Winter riding</h1><p>A pair of studded winter tyres costs £60 in most shops.</p>"),
		corpustest.Page(t, 2, "b.example", "<h1>Winter riding</h1><p>Nobody counts what cannot be counted in the snow of the winter.</p>")}
	before, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(t, err)
	require.Len(t, before.Facts, 1)
	var c Choices
	apply := func(e *evidence.Evidence, state State) {
		for _, x := range c.DecideOn(e, Mark{FactKind, before.Facts[0].Key, before.Facts[0].Text, state}) {
			require.NoError(t, c.Apply(x))
		}
	}
	apply(before, Adopted)
	want := Compose(before, c, Setting{}).Facts[0]
	assert.Equal(t, []int{1}, want.Sources)
	assert.Contains(t, want.URL, "a.example")
	assert.Equal(t, "Winter riding", want.Title)
	aside, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages[1:], Beside: pages[:1]})
	require.NoError(t, err)
	lost, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages[1:]})
	require.NoError(t, err)
	for e, gone := range map[*evidence.Evidence]bool{aside: false, lost: true} {
		want.Sources, want.Gone = []int{}, gone
		assert.Equal(t, []Fact{want}, Compose(e, c, Setting{}).Facts)
	}
	apply(lost, "")
	assert.Empty(t, typed(c))
	assert.Empty(t, c.Marks)
}

// Each kind of page has a goal, a call to action, links, a length and an order of its own: what the field says goes before, and what a
// person typed before that.
func TestKindsOfPagesDiffer(t *testing.T) {
	e := field(t, "a.example", "b.example", "c.example")
	of := func(kind string, c Choices) Brief {
		edits, err := c.Use(e, template(t, kind))
		require.NoError(t, err)
		for _, x := range edits {
			require.NoError(t, c.Apply(x))
		}
		return Compose(e, c, Setting{})
	}
	seen, guide := map[string]string{}, of("guide", Choices{})
	for _, k := range Templates() {
		b := of(k.Key, Choices{})
		says := fmt.Sprint(b.Fields.Goal, b.Fields.CallToAction, b.Fields.Summary, b.Fields.StructuredData, b.Links.InwardWanted)
		assert.Empty(t, seen[says], "%s is as %s", k.Key, seen[says])
		seen[says] = k.Key
		if k.Words[1] > 0 {
			assert.True(t, k.Words[0] <= b.Words.Target && b.Words.Target <= k.Words[1], "%s has %d words", k.Key, b.Words.Target)
			within := k.Words[0] <= guide.Words.Target && guide.Words.Target <= k.Words[1]
			assert.NotEqual(t, within, strings.Contains(b.Words.Why.In(english{}), "another kind"), b.Words.Why)
		}
	}
	news := of("news", Choices{})
	for i := 2; i < len(news.Outline)-1; i++ { // behind what such pages open with
		assert.GreaterOrEqual(t, news.Outline[i-1].Pages, news.Outline[i].Pages)
	}
	long := "900"
	typed := Choices{}
	require.NoError(t, typed.Apply(typed.Write(FieldLength, &long, nil)))
	assert.Equal(t, 900, of("news", typed).Words.Target)
}

func template(t *testing.T, key string) Template {
	x, ok := templateOf(key, nil)
	require.True(t, ok, key)
	return x
}
