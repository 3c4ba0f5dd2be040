package store_test

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"corpulan/core/reading"
	"corpulan/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// ofKind are the titles and texts that were found of a kind.
func ofKind(t *testing.T, st *store.Store, sc store.Scope, typed, kind string) (texts []string) {
	t.Helper()
	p, err := sc.Publication(t.Context())
	require.NoError(t, err)
	found, err := st.Across([]int64{p.ID}).Search(t.Context(), typed, 20)
	require.NoError(t, err, typed)
	for _, f := range found {
		if f.Kind == kind {
			texts = append(texts, f.Text)
		}
	}
	return texts
}

// What stands only in old rows is found behind any number of newer ones; what stands in the
// newest comes first.
func TestSearchReachesWhatIsOld(t *testing.T) {
	st, sc, _, g := begun(t)
	exec := func(sql string, args ...any) {
		t.Helper()
		_, err := st.SQL().ExecContext(t.Context(), sql, args...)
		require.NoError(t, err)
	}
	exec(`insert into results (publication_id, study_id, gathering_id, rank, url, host, title, snippet, state)
		select publication_id, study_id, id, n, 'http://h.example/' || n, 'h.example', case when n <= 3 then 'Snowdrift ' || n else 'Thaw ' || n end, 'all of winter', 'waiting'
		from gatherings, generate_series(1, 1500) n where id = $1`, g.ID)
	assert.Len(t, ofKind(t, st, sc, "snowdrift", "page"), 3)
	assert.Empty(t, ofKind(t, st, sc, "avalanche", "page"))
	common := ofKind(t, st, sc, "winter", "page")
	require.Len(t, common, 20)
	assert.Contains(t, common[0], "Thaw 1500")

}

// Of a long page the part around the words is shown, whatever is typed besides letters.
func TestSearchShowsTheWordsInALongPage(t *testing.T) {
	st, sc, s, g := begun(t)
	_, err := st.Found(t.Context(), *g, []store.Result{{PublicationID: g.PublicationID, StudyID: s.ID, GatheringID: g.ID, Rank: 1, URL: "http://a.example/", Host: "a.example", State: store.Waiting, Kept: true}}, nil, nil, nil)
	require.NoError(t, err)
	results, err := sc.Results(t.Context(), g.ID)
	require.NoError(t, err)
	text := strings.Repeat("Ice and grit upon the road in the morning. ", 2000) + "A lone Überschuh of neoprene keeps the foot warm. " + strings.Repeat("More of the road. ", 500)
	doc := &reading.Reading{Engine: reading.Engine, Title: "Roads", Sections: []reading.Section{{Heading: "Feet", Text: text}}}
	c := &store.Capture{URL: "http://a.example/", FinalURL: "http://a.example/", Status: 200, Body: []byte("x"), Size: 1, Digest: []byte("d")}
	require.NoError(t, st.KeepPage(t.Context(), results[0], c, doc, ""))
	for _, typed := range []string{"neoprene", "überschuh", "road neoprene", "NEOPRENE (grit[morning+?", `neoprene.* \foot`, "neopr"} {
		if found := ofKind(t, st, sc, typed, "text"); assert.Len(t, found, 1, typed) {
			assert.Contains(t, found[0], "Überschuh", typed)
			assert.Contains(t, found[0], "\x02", typed)
			assert.Regexp(t, `^…\x{a0}(Ice|and|grit|upon|the|road|in|morning|A)\b`, strings.NewReplacer("\x02", "", "\x03", "").Replace(found[0]), "whole words")
		}
	}
	assert.Empty(t, ofKind(t, st, sc, "neoprene galoshes", "text"), "every word has to stand there")
	assert.Regexp(t, "^\x02Roads\x03 Feet Ice and .*\u00a0…$", ofKind(t, st, sc, "roads", "text")[0], "from its beginning")
	assert.Empty(t, ofKind(t, st, sc, "?!", "text"))
}

// The counts that the desk shows of a gathering are those of its pages, whatever was done to them.
func TestADeskCountsWhatIsThere(t *testing.T) {
	ctx := t.Context()
	st, sc, s, g := begun(t)
	same := func(after string) {
		t.Helper()
		lines, err := sc.StudiesOf(ctx, []int64{s.ID})
		require.NoError(t, err)
		pages, err := sc.Results(ctx, g.ID)
		require.NoError(t, err)
		want := [4]int{len(pages)}
		for _, r := range pages {
			switch {
			case r.State == store.Failed:
				want[2]++
			case r.State == store.Read:
				want[1]++
				if r.Kept && !r.Own {
					want[3]++
				}
			}
		}
		l := lines[s.ID]
		assert.Equal(t, want, [4]int{l.Results, l.Pages, l.Failures, l.KeptPages}, after)
	}
	same("nothing")
	var found []store.Result
	for n := 1; n <= 5; n++ {
		found = append(found, store.Result{PublicationID: g.PublicationID, StudyID: s.ID, GatheringID: g.ID, Rank: n, URL: fmt.Sprintf("http://h%d.example/", n), Host: fmt.Sprintf("h%d.example", n), State: store.Waiting, Kept: true})
	}
	_, err := st.Found(ctx, *g, found, nil, nil, nil)
	require.NoError(t, err)
	same("results")
	results, err := sc.Results(ctx, g.ID)
	require.NoError(t, err)
	sketch := make([]uint64, 128)
	for i := range sketch {
		sketch[i] = uint64(i)
	}
	for i, r := range results[:4] {
		doc := &reading.Reading{Engine: reading.Engine, Title: "A page", Sketch: []uint64{uint64(i)}}
		if i < 2 {
			doc.Sketch = sketch // the second says what the first says
		}
		c := &store.Capture{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte(r.URL), Size: 1, Digest: []byte(r.URL)}
		require.NoError(t, st.KeepPage(ctx, r, c, doc, ""))
		same("a page")
	}
	require.NoError(t, st.FailPage(ctx, results[4], "gone", "It is gone."))
	same("a failure, and with it the end")
	lines, err := sc.StudiesOf(ctx, []int64{s.ID})
	require.NoError(t, err)
	assert.Equal(t, 3, lines[s.ID].KeptPages, "the page that says the same is set aside")
	_, err = sc.SetKept(ctx, s.ID, []int64{results[0].ID}, false, "A shop")
	require.NoError(t, err)
	same("setting aside")
	_, err = sc.SetKept(ctx, s.ID, []int64{results[1].ID}, true, "")
	require.NoError(t, err)
	same("keeping")
	_, _, err = sc.AddPages(ctx, s.ID, []string{"http://added.example/"}, store.InField)
	require.NoError(t, err)
	same("adding")
	_, _, err = sc.Retry(ctx, s.ID, results[4].ID)
	require.NoError(t, err)
	same("trying again")
	require.NoError(t, st.ProposeAgain(ctx, g.ID))
	same("reading again")
}

// Whoever changes a publication does not keep others from beginning studies in it.
func TestALockedRowCanBeReferredTo(t *testing.T) {
	st, sc, _, _ := begun(t)
	p, err := sc.Publication(t.Context())
	require.NoError(t, err)
	_, err = sc.EditPublication(t.Context(), func(*string, *store.Settings) error {
		ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second) // it would wait for the end of this
		defer cancel()
		_, err := st.In(p.ID).CreateStudy(ctx, &store.Study{Keyword: "another", Language: "en", Country: "gb", Depth: 10})
		return err
	})
	require.NoError(t, err)
}
