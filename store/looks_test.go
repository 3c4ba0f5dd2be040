package store_test

import (
	"testing"

	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What others say and write of a study is new until its brief or draft was looked at; what one says oneself never is.
func TestNewsAndLooks(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx := t.Context()
	p := publication(t, st, "Looks")
	sc := st.In(p.ID).By(7)
	study := store.Study{Keyword: "winter bike commuting", Language: "en", Country: "gb", Depth: 10}
	_, err := sc.CreateStudy(ctx, &study)
	require.NoError(t, err)
	news := func(name string) store.News {
		all, err := st.Across([]int64{p.ID}).News(ctx, 7, name, []int64{study.ID})
		require.NoError(t, err)
		return all[study.ID]
	}
	assert.Equal(t, store.News{StudyID: study.ID}, news("Ada"))

	for _, by := range []string{"Ada", "Ben"} {
		require.NoError(t, sc.AddRemark(ctx, &store.Remark{StudyID: study.ID, Line: "h1", Author: by, Body: "Shorter?"}))
	}
	_, err = sc.BeginDraft(ctx, study.ID, []byte(`{}`))
	require.NoError(t, err)
	assert.False(t, news("Ada").NewDraft, "an empty draft is none")
	_, err = sc.SaveDraft(ctx, study.ID, edit(0, "Ben", 1))
	require.NoError(t, err)
	require.NoError(t, sc.KeepFit(ctx, study.ID, 61))
	fit := 61
	assert.Equal(t, store.News{StudyID: study.ID, Remarks: 2, NewRemarks: 1, Words: 3, Fit: &fit, NewDraft: true}, news("Ada"))
	assert.False(t, news("Ben").NewDraft, "one's own")

	others, err := sc.Look(ctx, store.Look{StudyID: study.ID, Who: sc.Person(), Name: "Ada", Place: "gather"}, false)
	require.NoError(t, err)
	assert.Empty(t, others)
	assert.Equal(t, 1, news("Ada").NewRemarks, "Gather does not show them")
	_, err = sc.Look(ctx, store.Look{StudyID: study.ID, Who: sc.Person(), Name: "Ada", Place: "brief"}, true)
	require.NoError(t, err)
	assert.Equal(t, store.News{StudyID: study.ID, Remarks: 2, Words: 3, Fit: &fit}, news("Ada"))

	others, err = sc.Look(ctx, store.Look{StudyID: study.ID, Who: "link 1", Name: "Cleo", Place: "draft"}, true)
	require.NoError(t, err)
	require.Len(t, others, 1)
	assert.Equal(t, "Ada", others[0].Name)
	assert.Equal(t, "brief", others[0].Place)

	elsewhere, err := st.Across([]int64{p.ID + 1}).News(ctx, 7, "Ada", []int64{study.ID})
	require.NoError(t, err)
	assert.Empty(t, elsewhere, "of another publication")
}
