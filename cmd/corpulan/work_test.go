package main

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"corpulan/formats/handed"
	"corpulan/queue"
	"corpulan/standin"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == handed.Command { // this program called by itself
		os.Exit(run(context.Background(), os.Args[1:], stdio{os.Stdin, os.Stdout, os.Stderr}))
	}
	lists, err := filepath.Abs("../../lists")
	if err == nil {
		err = os.Setenv("CORPULAN_LISTS", lists)
	}
	if err != nil {
		panic(err)
	}
	storetest.Main(m)
}

// A worker process killed with kill -9 in mid-gathering: another finishes, no
// page is lost and none kept twice. These are real processes on one database.
func TestAKilledWorkersJobsAreFinishedByAnother(t *testing.T) {
	bin := filepath.Join(t.TempDir(), "corpulan")
	out, err := exec.Command("go", "build", "-o", bin, "corpulan/cmd/corpulan").CombinedOutput()
	require.NoError(t, err, string(out))
	web, err := standin.Start(1500 * time.Millisecond)
	require.NoError(t, err)
	defer func() { _ = web.Stop(t.Context()) }()
	st, url := storetest.Open(t)
	ctx := t.Context()
	publication, err := st.EnsurePublication(ctx, "Quillfen Cycles", "")
	require.NoError(t, err)
	scope := st.In(publication.ID)
	q, err := queue.New(st)
	require.NoError(t, err)
	begun := store.Study{Keyword: "winter bike commuting", Language: "en", Country: "gb", Depth: 20}
	require.NoError(t, study.For(scope, q, "test").Begin(ctx, &begun, nil))
	work := func() *exec.Cmd {
		cmd := exec.Command(bin, "work", "--workers", "3", "--search", web.SearchTemplate())
		cmd.Env = append(os.Environ(), "DATABASE_URL="+url, "CORPULAN_SIMULATED_WEB="+web.Address())
		cmd.Stderr = os.Stderr
		require.NoError(t, cmd.Start())
		return cmd
	}
	states := func() map[store.State]int {
		g, err := scope.LatestGathering(ctx, begun.ID)
		require.NoError(t, err)
		results, err := scope.Results(ctx, g.ID)
		require.NoError(t, err)
		n := map[store.State]int{}
		for _, r := range results {
			n[r.State]++
		}
		return n
	}
	first := work()
	require.Eventually(t, func() bool { n := states(); return n[store.Read] >= 1 && n[store.Fetching] >= 1 }, 30*time.Second, 5*time.Millisecond)
	require.NoError(t, first.Process.Kill())
	_ = first.Wait()
	cut := states()
	assert.Positive(t, cut[store.Fetching], "it died in the middle of fetching")
	second := work()
	defer func() { _ = second.Process.Kill(); _ = second.Wait() }()
	require.Eventually(t, func() bool {
		g, err := scope.LatestGathering(ctx, begun.ID)
		return err == nil && g.State == store.Done
	}, 60*time.Second, 20*time.Millisecond, "%v", states())
	assert.Equal(t, map[store.State]int{store.Read: 14, store.Failed: 1}, states())
	captures := 0
	require.NoError(t, st.SQL().QueryRowContext(ctx, fmt.Sprintf("select count(*) from captures where study_id = %d", begun.ID)).Scan(&captures))
	assert.Equal(t, 14, captures, "each page once")
}
