package change_test

import (
	"context"
	"fmt"
	"slices"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/core/corpus"
	"corpulan/core/evidence"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func evidenceOf(t *testing.T, g change.Gathering) *evidence.Evidence {
	t.Helper()
	in := evidence.Input{Keyword: "winter tyres", Language: "en", Asked: g.Asked}
	for _, r := range g.Results {
		in.Pages = append(in.Pages, corpus.RankedPage{Rank: r.Rank, Doc: r.Doc})
	}
	e, err := evidence.Compute(context.Background(), in)
	require.NoError(t, err)
	return e
}

func apply(t *testing.T, c *brief.Choices, edits []brief.Edit) {
	t.Helper()
	for _, x := range edits {
		require.NoError(t, c.Apply(x))
	}
}

// A brief that stands does not change when its study is gathered again; what the new evidence
// asks of it is proposed, taken over or left, and can be undone.
func TestABriefStands(t *testing.T) {
	of := func(spikes, storage bool) change.Gathering {
		return field(t, 6, func(i int) []string {
			s := []string{fmt.Sprintf("Studs: Page %d tests each stud by hand. %s", i, studs), fmt.Sprintf("Air: Page %d says this by itself. %s", i, air)}
			if spikes {
				s = append(s, fmt.Sprintf("Carbide spikes: The carbide spikes of set %d wear slowly. Carbide spikes are dear. Ask for carbide spikes.", i))
			}
			if storage {
				s = append(s, fmt.Sprintf("Dark storage: Dark storage waits in room %d. Dark storage keeps rubber soft. Lock dark storage.", i))
			}
			return s
		})
	}
	before, after := of(true, false), of(false, true)
	after.Asked = []string{"Are studded tyres legal in town?"}
	was, now := evidenceOf(t, before), evidenceOf(t, after)
	setting := brief.Setting{Gathered: "2026-11-05"}
	var c brief.Choices
	require.Empty(t, change.Proposals(now, c, setting, nil), "a brief that follows has none")
	composed := brief.Compose(was, c, setting)
	apply(t, &c, c.Stand(was, composed, 7))
	assert.Empty(t, c.Stand(was, composed, 8), "it stands already")

	stands := brief.Compose(was, c, setting)
	assert.Equal(t, terms(composed), terms(stands))
	assert.Equal(t, headings(composed), headings(stands))
	assert.Equal(t, composed.TitleTag, stands.TitleTag)
	assert.Equal(t, composed.Words.Target, stands.Words.Target)
	assert.Empty(t, change.Proposals(was, c, setting, nil), "nothing has moved")

	later := brief.Compose(now, c, setting)
	assert.ElementsMatch(t, terms(composed), terms(later))
	assert.Equal(t, headings(composed), headings(later))
	assert.Equal(t, composed.TitleTag, later.TitleTag)

	all := change.Proposals(now, c, setting, compare(t, before, after))
	find := func(what change.What, kind brief.Kind, text string) change.Proposal {
		t.Helper()
		i := slices.IndexFunc(all, func(p change.Proposal) bool { return p.What == what && p.Kind == kind && p.Text == text })
		require.GreaterOrEqual(t, i, 0, "%s %s %s in %+v", what, kind, text, all)
		return all[i]
	}
	in, out := find(change.TakeIn, brief.TermKind, "dark storage"), find(change.TakeOut, brief.TermKind, "carbide spikes")
	section := find(change.TakeIn, brief.ThemeKind, "Dark storage")
	find(change.TakeIn, brief.QuestionKind, "Are studded tyres legal in town?")
	require.NotNil(t, in.Moved)
	assert.Equal(t, change.New, in.Moved.How)
	assert.Equal(t, 6, in.Moved.After)
	require.NotNil(t, out.Moved)
	assert.Equal(t, change.Gone, out.Moved.How)

	one := c.Clone()
	settle := func(c *brief.Choices, some []change.Proposal, take bool) {
		t.Helper()
		edits, err := change.Settle(now, *c, some, all, take)
		require.NoError(t, err)
		apply(t, c, edits)
	}
	settle(&one, []change.Proposal{in, out, section}, true)
	taken := brief.Compose(now, one, setting)
	assert.Contains(t, terms(taken), "dark storage")
	assert.NotContains(t, terms(taken), "carbide spikes")
	assert.Contains(t, headings(taken), "Dark storage")
	assert.EqualValues(t, 7, one.Stands.Gathering, "not all is settled")
	for _, p := range change.Proposals(now, one, setting, nil) {
		assert.NotContains(t, []string{in.ID(), out.ID(), section.ID()}, p.ID())
	}

	for _, take := range []bool{true, false} {
		every := c.Clone()
		settle(&every, all, take)
		assert.Nil(t, every.Stands, "it follows again")
		if b := brief.Compose(now, every, setting); take {
			assert.Contains(t, terms(b), "dark storage")
			assert.Contains(t, headings(b), "Dark storage")
			assert.NotContains(t, terms(b), "carbide spikes")
			assert.Contains(t, b.TitleTag, "dark storage")
		} else {
			assert.ElementsMatch(t, terms(later), terms(b), "left as it was")
			assert.Equal(t, later.TitleTag, b.TitleTag)
		}
	}

	free := c.Clone()
	apply(t, &free, free.Follow())
	assert.Nil(t, free.Stands)
	assert.Contains(t, terms(brief.Compose(now, free, setting)), "dark storage")
}

func terms(b brief.Brief) (list []string) {
	for _, t := range b.Terms {
		list = append(list, t.Term)
	}
	return list
}

func headings(b brief.Brief) (list []string) {
	b.Each(func(s *brief.Section) { list = append(list, s.Heading) })
	return list
}

// The headings of an outline that stands stay as they were worded, whatever a theme is called now.
func TestHeadingsStand(t *testing.T) {
	of := func(heading string) change.Gathering {
		return field(t, 6, func(i int) []string {
			return []string{fmt.Sprintf("%s: Page %d tests each stud by hand. %s", heading, i, studs), fmt.Sprintf("Air pressure: Page %d says this by itself. %s", i, air)}
		})
	}
	was, now := evidenceOf(t, of("Studs on ice")), evidenceOf(t, of("Grip from studs on ice"))
	var c brief.Choices
	composed := brief.Compose(was, c, brief.Setting{})
	require.Contains(t, headings(composed), "Studs on ice")
	apply(t, &c, c.Stand(was, composed, 1))
	assert.Equal(t, headings(composed), headings(brief.Compose(now, c, brief.Setting{})))
	apply(t, &c, c.Follow())
	assert.Empty(t, c.Sections, "nothing of a person's is left")
	assert.Contains(t, headings(brief.Compose(now, c, brief.Setting{})), "Grip from studs on ice")
}

// What newer pages say under a section that stands is proposed, point by point: what two of them say,
// under sections that the brief has.
func TestNewerPointsAreProposed(t *testing.T) {
	const rub = " Wax keeps the rust off a steel stud for a whole winter of salted roads."
	of := func(newer bool) change.Gathering {
		return field(t, 6, func(i int) []string {
			more := ""
			if newer && i < 3 {
				more = rub
			}
			s := []string{fmt.Sprintf("Studs on ice: Page %d tests each stud by hand. Studded tyres grip on ice where nothing else does.%s", i, more), fmt.Sprintf("Air pressure: Page %d says this by itself. %s", i, air)}
			if newer {
				s = append(s, fmt.Sprintf("Dark storage: Dark storage waits in room %d. Dark storage keeps rubber soft. Lock dark storage.", i))
			}
			return s
		})
	}
	was, now := evidenceOf(t, of(false)), evidenceOf(t, of(true))
	var c brief.Choices
	apply(t, &c, c.Stand(was, brief.Compose(was, c, brief.Setting{}), 1))
	all := change.Proposals(now, c, brief.Setting{}, nil)
	var points []change.Proposal
	for _, p := range all {
		if p.Kind == brief.PointKind && p.What == change.TakeIn {
			points = append(points, p)
			assert.GreaterOrEqual(t, p.Pages, 2, p.Text)
			assert.NotContains(t, p.Text, "Dark storage", "that section is not in the brief yet")
		}
	}
	i := slices.IndexFunc(points, func(p change.Proposal) bool {
		return p.Text == "Wax keeps the rust off a steel stud for a whole winter of salted roads."
	})
	require.GreaterOrEqual(t, i, 0, "%+v", all)
	said := func(c brief.Choices) (list []string) {
		b := brief.Compose(now, c, brief.Setting{})
		b.Each(func(s *brief.Section) {
			for _, p := range s.Points {
				list = append(list, p.Text)
			}
		})
		return list
	}
	before := said(c)
	assert.NotContains(t, before, points[i].Text)
	edits, err := change.Settle(now, c, points[i:i+1], all, true)
	require.NoError(t, err)
	apply(t, &c, edits)
	assert.ElementsMatch(t, append(before, points[i].Text), said(c))
}
