package study_test

import (
	"strings"
	"testing"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fourPages are pages of two matters; two of them have the second.
func fourPages() []string {
	ice := []string{"On ice a studded tyre grips where nothing else does.", "A tyre with studs holds on frozen lanes, and a plain one slides.", "Carbide studs bite into ice; the studded tyre is loud on tarmac.", "Fit the studded tyres in November and ride them gently at first."}
	wash := []string{"Salt eats a chain, so rinse it with warm water and wipe it dry.", "Wash the chain after each salted road, then oil it with wet lube."}
	var pages []string
	for i, x := range ice {
		page := "<h2>Studded tyres</h2><p>" + strings.Repeat(x+" ", 4+i) + "</p>"
		if i < len(wash) {
			page += "<h2>Washing the chain</h2><p>" + strings.Repeat(wash[i]+" ", 5+i) + "</p>"
		}
		pages = append(pages, page)
	}
	return pages
}

func headings(b brief.Brief) (list []string) {
	b.Each(func(s *brief.Section) { list = append(list, s.Heading) })
	return list
}

// Every state is kept as the document it was, that before the first edit too; restored it is that
// document again, whatever pages were set aside meanwhile, and the step is undone like any other.
func TestEveryStateIsADocument(t *testing.T) {
	d := newDesk(t)
	d.withPages(fourPages()...)
	ctx := t.Context()
	now := func() *analysis.Analysis {
		t.Helper()
		a, err := analysis.NewAnalyst(nil, nil, analysis.Whole)
		require.NoError(t, err)
		an, err := a.Analyse(ctx, d.scope, d.study)
		require.NoError(t, err)
		return an
	}
	document := func(revision int) *brief.Brief {
		t.Helper()
		b, _, err := study.Document(ctx, d.scope, now(), revision)
		require.NoError(t, err)
		return b
	}
	proposed := now().Brief
	require.Contains(t, headings(proposed), "Washing the chain")
	goal := "Sell wax"
	_, _, err := d.me.Write(ctx, d.study.ID, study.Typing{Field: brief.FieldGoal, Text: &goal})
	require.NoError(t, err)
	require.NotNil(t, document(0), "what was proposed before anybody did anything")
	assert.Equal(t, headings(proposed), headings(*document(0)))
	assert.Equal(t, "Sell wax", document(1).Fields.Goal)

	for _, r := range d.results()[:2] { // both that wash
		_, err = d.me.Keep(ctx, d.study.ID, []int64{r.ID}, false, "")
		require.NoError(t, err)
	}
	goal = "Sell brushes"
	_, _, err = d.me.Write(ctx, d.study.ID, study.Typing{Field: brief.FieldGoal, Was: &[]string{"Sell wax"}[0], Text: &goal})
	require.NoError(t, err)
	assert.NotContains(t, headings(now().Brief), "Washing the chain")
	assert.Contains(t, headings(*document(1)), "Washing the chain", "the state stays what it was")
	assert.NotContains(t, headings(*document(2)), "Washing the chain")

	done, err := d.me.Restore(ctx, d.study.ID, 1)
	require.NoError(t, err)
	restored := now().Brief
	assert.Equal(t, headings(*document(1)), headings(restored))
	assert.Equal(t, "Sell wax", restored.Fields.Goal)
	assert.Equal(t, document(1).TitleTag, restored.TitleTag)
	assert.Equal(t, document(1).Words.Target, restored.Words.Target)
	assert.NotNil(t, now().Saved.Choices.Data().Stands, "it stands on what is there no more")
	assert.NotZero(t, done.Change)
	_, err = d.me.Undo(ctx, d.study.ID)
	require.NoError(t, err)
	assert.NotContains(t, headings(now().Brief), "Washing the chain")
	assert.Nil(t, now().Saved.Choices.Data().Stands)

	// A state of before documents were kept is its choices by the evidence of today.
	_, err = d.store.SQL().ExecContext(ctx, "delete from brief_documents")
	require.NoError(t, err)
	assert.Nil(t, document(1))
	_, err = d.me.Restore(ctx, d.study.ID, 1)
	require.NoError(t, err)
	assert.Equal(t, "Sell wax", now().Brief.Fields.Goal)
	assert.NotContains(t, headings(now().Brief), "Washing the chain")
	// One that no program can read counts for nothing.
	_, err = d.store.SQL().ExecContext(ctx, "update brief_documents set body = 'broken'")
	require.NoError(t, err)
	assert.Nil(t, document(now().Saved.Revision))
	other := d.store.In(d.study.PublicationID + 1)
	_, err = other.Document(ctx, now().Saved.ID, 1)
	require.ErrorIs(t, err, store.ErrNotFound, "of another publication")
}
