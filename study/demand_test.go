package study_test

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"sync"
	"testing"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// demandDesk is a desk with a list of keywords.
type demandDesk struct {
	desk
	list     store.KeywordList
	demander *analysis.Demander
}

func newDemandDesk(t *testing.T) demandDesk {
	t.Helper()
	d := newDesk(t)
	l, err := d.me.NewList(t.Context(), "Winter", "en", "gb")
	require.NoError(t, err)
	_, err = d.scope.PutKeywords(t.Context(), l.ID, []demand.Keyword{
		{Text: "winter", Volume: demand.Of(5000), Difficulty: demand.Of(60)}, {Text: "winter gloves", Volume: demand.Of(900), Difficulty: demand.Of(20)}, {Text: "gloves for winter", Volume: demand.Of(100)},
		{Text: "winter lights", Volume: demand.Of(700), Difficulty: demand.Of(30)}, {Text: "bar mitts", Volume: demand.Of(300), Difficulty: demand.Of(10)}, {Text: "pogies", Volume: demand.Of(50)}, {Text: "chain lube", Volume: demand.Of(400)},
	})
	require.NoError(t, err)
	require.NoError(t, d.scope.SetWidth(t.Context(), l.ID, 0.2))
	m, err := analysis.NewDemander(context.Background())
	require.NoError(t, err)
	return demandDesk{d, l, m}
}

func (d demandDesk) groups() *analysis.Groups {
	d.Helper()
	l, err := d.scope.List(d.Context(), d.list.ID)
	require.NoError(d, err)
	for {
		g, progress, err := d.demander.Groups(d.Context(), d.scope, l, -1)
		require.NoError(d, err)
		if progress == nil {
			return g
		}
	}
}

// with is the group that a keyword is in.
func (d demandDesk) with(keyword string) demand.Group {
	d.Helper()
	for _, g := range d.groups().Groups {
		for _, k := range g.Keywords {
			if k.Text == keyword {
				return g
			}
		}
	}
	require.Fail(d, "no group has "+keyword)
	return demand.Group{}
}

// Groups follow what is known: new keywords, new results, and what a person did; two people who
// work on one list both keep what they did.
func TestGroupsFollow(t *testing.T) {
	d := newDemandDesk(t)
	ctx := t.Context()
	assert.Equal(t, d.with("winter gloves").Key, d.with("gloves for winter").Key)
	assert.NotEqual(t, d.with("bar mitts").Key, d.with("pogies").Key)
	addresses := []string{"http://a.example/1", "http://b.example/2", "http://c.example/3", "http://d.example/4"}
	for _, k := range []string{"bar mitts", "pogies"} {
		require.NoError(t, d.scope.KeepResultsPage(ctx, store.ResultsPage{Language: "en", Country: "gb", Key: k, Addresses: addresses}))
	}
	assert.Equal(t, d.with("bar mitts").Key, d.with("pogies").Key, "results that became known count at once")
	assert.Equal(t, 2, d.groups().Known)
	_, err := d.scope.PutKeywords(ctx, d.list.ID, []demand.Keyword{{Text: "pogies for handlebars"}})
	require.NoError(t, err)
	assert.Equal(t, 8, d.groups().Keywords)

	var work sync.WaitGroup
	for i, who := range []study.Commands{d.me, d.other} {
		work.Go(func() {
			for n := range 10 {
				_, err := who.EditHand(ctx, d.list.ID, "x", func(h demand.Hand) demand.Hand { return h.ThrowOut([]string{fmt.Sprintf("key %d %d", i, n)}, "no") })
				assert.NoError(t, err)
			}
		})
	}
	work.Wait()
	l, err := d.scope.List(ctx, d.list.ID)
	require.NoError(t, err)
	assert.Len(t, l.Plan.Data().Hand.Out, 20)
	done, err := d.me.TurnPlan(ctx, store.Subject{List: d.list.ID}, false)
	if err != nil { // the other was the last
		assert.ErrorIs(t, err, store.ErrStale)
		assert.Equal(t, "x", done.Said.String())
	}
	_, err = study.For(d.scope, nil, "nobody").TurnPlan(ctx, store.Subject{List: d.list.ID}, false)
	assert.ErrorIs(t, err, study.ErrNothing)
}

// The page of our own site that stands in results is ours for the group.
func TestOurPagesInResults(t *testing.T) {
	d := newDemandDesk(t)
	ctx := t.Context()
	require.NoError(t, d.scope.KeepResultsPage(ctx, store.ResultsPage{Language: "en", Country: "gb", Key: "chain lube", Addresses: []string{"http://x.example/", "http://shop.example/chain"}}))
	assert.Empty(t, d.groups().Own(d.with("chain lube")).Page)
	require.NoError(t, d.me.SetDefault(ctx, study.AddressField, "", "http://shop.example"))
	own := d.groups().Own(d.with("chain lube"))
	assert.Equal(t, "http://shop.example/chain", own.Page)
	assert.Equal(t, demand.Of(2), own.Position)
	require.NoError(t, d.me.SetCurve(ctx, demand.Curve{.5, .4, .3}))
	assert.Equal(t, demand.Of(160), d.groups().Own(d.with("chain lube")).Now, "400 searches at .4")
}

// A slate grows and changes without losing what people said of its pages.
func TestASlateGrows(t *testing.T) {
	d := newDemandDesk(t)
	ctx := t.Context()
	_, err := d.me.MakeSlate(ctx, "", d.groups(), []string{"no such"})
	assert.ErrorIs(t, err, store.ErrNotFound)
	slate, err := d.me.MakeSlate(ctx, "", d.groups(), []string{"winter", "winter gloves", "winter lights"})
	require.NoError(t, err)
	plan := func() store.SlatePlan {
		s, err := d.scope.Slate(ctx, slate.ID)
		require.NoError(t, err)
		return s.Plan.Data()
	}
	assert.Equal(t, "winter", plan().Name)
	require.True(t, plan().Pages[0].Pillar)
	_, err = d.me.SetPage(ctx, slate, "winter gloves", "owner", nil, "Ida")
	require.NoError(t, err)
	done, err := d.me.AddToSlate(ctx, slate, d.groups(), []string{"chain lube", "winter gloves"})
	require.NoError(t, err)
	assert.Equal(t, "1 pages put into the slate", done.Said.String())
	p := plan()
	require.Len(t, p.Pages, 4)
	i := slices.IndexFunc(p.Pages, func(x store.SlatePage) bool { return x.Key == "winter gloves" })
	assert.Equal(t, "Ida", p.Pages[i].Owner)
	assert.Equal(t, []string{"gloves for winter"}, p.Pages[i].Secondary)
	into := map[string]int{}
	for _, l := range p.Links {
		into[l.To]++
	}
	assert.Equal(t, 3, into["winter"], "links are proposed anew")
	_, err = d.me.TakePage(ctx, slate, "winter")
	require.NoError(t, err)
	assert.Contains(t, plan().Notes, message.Kept("No page is the pillar: choose one."))
	_, err = d.me.MakePillar(ctx, slate, "winter lights")
	require.NoError(t, err)
	assert.Equal(t, "winter lights", plan().Pages[0].Key)
	_, err = d.me.MovePage(ctx, slate, "chain lube", -99)
	require.NoError(t, err)
	assert.Equal(t, "chain lube", plan().Pages[0].Key)
	_, err = d.me.BringPage(ctx, slate, d.groups(), d.with("pogies").Key)
	require.NoError(t, err)
	assert.Len(t, plan().Pages, 4)
	for field, value := range map[string]string{"kind": "no kind", "due": "2026-13-01", "colour": "blue"} {
		_, err := d.me.SetPage(ctx, slate, "chain lube", field, nil, value)
		assert.Error(t, err, field)
	}
	for range 6 {
		_, err := d.me.TurnPlan(ctx, store.Subject{Slate: slate.ID}, false)
		require.NoError(t, err)
	}
	assert.Len(t, plan().Pages, 3, "as it was made")
	_, err = d.me.TurnPlan(ctx, store.Subject{Slate: slate.ID}, false)
	assert.ErrorIs(t, err, study.ErrNothing)

	// Two who begin the studies at once begin each one once.
	var work sync.WaitGroup
	begun := make(chan int, 4)
	for range 4 {
		work.Go(func() {
			n, err := d.me.BeginStudies(ctx, slate.ID, nil, 10)
			assert.NoError(t, err)
			begun <- n
		})
	}
	work.Wait()
	close(begun)
	sum := 0
	for n := range begun {
		sum += n
	}
	assert.Equal(t, 3, sum)
	have, err := d.scope.SlateStudies(ctx, slate.ID)
	require.NoError(t, err)
	b, err := d.scope.Brief(ctx, have["winter gloves"])
	require.NoError(t, err)
	assert.Equal(t, "gloves for winter", *b.Choices.Data().TypedIn(brief.FieldSecondary))
	assert.Contains(t, b.Said.Message().String(), "From the slate")
	// Another plan with the same keywords takes the studies that are there.
	_, err = d.store.SQL().ExecContext(ctx, "delete from slate_studies")
	require.NoError(t, err)
	n, err := d.me.BeginStudies(ctx, slate.ID, nil, 10)
	require.NoError(t, err)
	assert.Equal(t, 3, n)
	again, err := d.scope.SlateStudies(ctx, slate.ID)
	require.NoError(t, err)
	assert.Equal(t, have, again)
}

// A table is read at once where its columns are plain, and waits where they are not; one that
// holds no keywords says so.
func TestTables(t *testing.T) {
	d := newDemandDesk(t)
	ctx := t.Context()
	said, asks, err := d.me.TakeTable(ctx, d.list.ID, study.Table{Name: "a.csv", Rows: [][]string{{"Keyword", "Volume"}, {"Winter-Gloves", "1.000"}, {"new one", "5"}, {"", "9"}}})
	require.NoError(t, err)
	assert.False(t, asks)
	assert.Equal(t, "1 keywords are new, 1 were known. 1 rows were left out, the first in row 4: there is no keyword in it.", said.String())
	_, asks, err = d.me.TakeTable(ctx, d.list.ID, study.Table{Name: "b.csv", Rows: [][]string{{"1", "2"}, {"3", "4"}}})
	require.NoError(t, err)
	assert.True(t, asks)
	_, err = d.me.ReadTable(ctx, d.list.ID, demand.Columns{Fields: []demand.Column{"", ""}})
	assert.ErrorIs(t, err, demand.ErrNoKeywords)
	_, err = d.scope.File(ctx, d.list.ID)
	assert.NoError(t, err, "the table still waits")
	_, err = study.UnpackRows([]byte("no gzip"))
	assert.Error(t, err)
	assert.Equal(t, []string{"bar mitts", "pogies"}, analysis.Lines(" bar mitts \n\n=pogies\r\n"))
}

// What closes the program ends a comparison that is under way.
func TestComparingEndsWithTheProgram(t *testing.T) {
	d := newDemandDesk(t)
	closing, stop := context.WithCancel(context.Background())
	m, err := analysis.NewDemander(closing)
	require.NoError(t, err)
	stop()
	_, _, err = m.Groups(t.Context(), d.scope, d.list, -1)
	assert.True(t, errors.Is(err, context.Canceled), "%v", err)
}
