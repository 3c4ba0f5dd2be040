package jobs_test

import (
	"context"
	"net/http"
	"testing"
	"time"

	"corpulan/core/reading"
	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/search"
	"corpulan/standin"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Captures that an older engine read are read again once a newer program works:
// every result shows the new reading, and what a person decided stays.
func TestOlderReadingsAreMadeAgain(t *testing.T) {
	web, err := standin.Start(0)
	require.NoError(t, err)
	t.Cleanup(func() { _ = web.Stop(context.Background()) })
	st, url := storetest.Open(t)
	config := jobs.Config{Store: st, URL: url, Count: 4, Provider: search.OpenSearch{Template: web.SearchTemplate(), Client: http.DefaultClient},
		Fetcher: gather.NewFetcher(gather.DefaultLimits(), gather.Guard{Simulated: web.Address()}.Dial)}

	var study store.Study
	var before []store.Result
	t.Run("gathered", func(t *testing.T) {
		b := benchOn(t, st, url, config.Provider, config.Fetcher)
		study = b.begin(t, "winter bike commuting")
		_, before = b.ended(t, study.ID)
	})
	sc := st.In(study.PublicationID)
	kept := before[0]
	_, err = sc.SetKept(t.Context(), study.ID, []int64{kept.ID}, false, "Not our kind")
	require.NoError(t, err)
	_, err = st.SQL().ExecContext(t.Context(), `update readings set engine = 1, document = jsonb_set(document, '{title}', '"As it was read once"')`)
	require.NoError(t, err)

	w, err := jobs.StartWorkers(t.Context(), config)
	require.NoError(t, err)
	t.Cleanup(func() {
		ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
		defer cancel()
		assert.NoError(t, w.Stop(ctx))
	})
	require.Eventually(t, func() bool {
		var older int
		err := st.SQL().QueryRowContext(t.Context(), `select count(*) from readings where engine < $1`, reading.Engine).Scan(&older)
		return err == nil && older == 0
	}, 30*time.Second, 20*time.Millisecond)

	after, err := sc.Results(t.Context(), before[0].GatheringID)
	require.NoError(t, err)
	for i, r := range after {
		if r.State != store.Read {
			continue
		}
		docs, err := sc.Readings(t.Context(), []int64{*r.ReadingID})
		require.NoError(t, err)
		assert.Equal(t, reading.Engine, docs[*r.ReadingID].Engine)
		assert.NotEqual(t, "As it was read once", docs[*r.ReadingID].Title)
		if r.ID != kept.ID {
			assert.Equal(t, before[i].Kept, r.Kept, r.URL)
			assert.Equal(t, before[i].Reason, r.Reason, r.URL)
		}
	}
	assert.False(t, after[0].Kept)
	assert.Equal(t, "Not our kind", after[0].Reason.Message().String())
}
