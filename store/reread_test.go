package store_test

import (
	"testing"

	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestRereadTakesThePlaceOfOlderReadings(t *testing.T) {
	st, _ := storetest.Open(t)
	sc := st.In(publication(t, st, "Quillfen Cycles").ID)
	study, g := study(t, sc)
	results := gathered(t, st, g, "http://a.example/1", "http://a.example/2", "http://a.example/3")
	for _, r := range results {
		keep(t, st, r, "") // by engine 1
	}
	_, err := sc.SetKept(t.Context(), study.ID, []int64{results[1].ID}, true, "")
	require.NoError(t, err)

	aside := func(r *reading.Reading, language, keyword string) message.Message {
		assert.Equal(t, study.Language, language)
		return "Hardly any text"
	}
	seen := 0
	for after := int64(0); ; {
		c, err := st.NextOutdated(t.Context(), 2, after)
		if err != nil {
			require.ErrorIs(t, err, store.ErrNotFound)
			break
		}
		after = c.ID
		if seen++; seen == 3 {
			continue // this one could not be read again
		}
		touched, err := st.Reread(t.Context(), c, &reading.Reading{Engine: 2, Title: "Anew"}, aside)
		require.NoError(t, err)
		assert.Equal(t, []int64{g.ID}, touched)
		_, err = st.Reread(t.Context(), c, &reading.Reading{Engine: 2, Title: "Anew"}, aside)
		require.NoError(t, err, "twice is once")
	}
	assert.Equal(t, 3, seen)

	after, err := sc.Results(t.Context(), g.ID)
	require.NoError(t, err)
	var ids []int64
	for _, r := range after {
		ids = append(ids, *r.ReadingID)
	}
	docs, err := sc.Readings(t.Context(), ids)
	require.NoError(t, err)
	assert.Equal(t, "Anew", docs[ids[0]].Title)
	assert.False(t, after[0].Kept, "what nobody has decided is proposed anew")
	assert.Equal(t, "Hardly any text", after[0].Reason.Message().String())
	assert.True(t, after[1].Kept, "what a person decided stays")
	assert.Equal(t, 1, docs[ids[2]].Engine, "an older reading is better than none")
	assert.True(t, after[2].Kept)
	var n int
	require.NoError(t, st.SQL().QueryRowContext(t.Context(), "select count(*) from readings").Scan(&n))
	assert.Equal(t, 3, n, "the older ones are gone")
}
