package jobs_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"corpulan/analysis"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Once a gathering has ended its evidence is computed and kept: whoever opens it first, in
// whichever process, computes nothing.
func TestEvidenceIsThereWhenSomebodyLooks(t *testing.T) {
	b := newBench(t, items("http://one.example/a", "http://two.example/b"), site(t, func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		fmt.Fprintf(w, "<html lang=en><article><h1>Winter riding</h1><h2>Ice at %s</h2><p>On black ice the studded tyres of a bicycle grip when nothing else does, %s. %s</p></article>", r.Host, r.Host, strings.Repeat("Ride with "+r.Host+" in the winter. ", 60))
	}))
	g, _ := b.gather(t, "winter riding")
	require.Eventually(t, func() bool {
		n := 0
		err := b.store.SQL().QueryRowContext(t.Context(), "select count(*) from evidence where gathering_id = $1", g.ID).Scan(&n)
		return err == nil && n > 0
	}, 60*time.Second, 20*time.Millisecond)
	computed := 0
	a, err := analysis.NewAnalyst(func() { computed++ }, b.queue.Evidence, analysis.Whole)
	require.NoError(t, err)
	st, err := b.scope.Study(t.Context(), g.StudyID)
	require.NoError(t, err)
	an, err := a.Analyse(t.Context(), b.scope, st)
	require.NoError(t, err)
	assert.NotEmpty(t, an.Evidence.Sources)
	assert.Zero(t, computed)
}
