package main

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"corpulan/core/reading"
	"corpulan/localpg"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// pgTool is a client program of the server's own version.
func pgTool(t *testing.T, name string) string {
	t.Helper()
	bin, err := localpg.BinFolder()
	require.NoError(t, err)
	return filepath.Join(bin, name)
}

// A dump taken while the program runs, restored to another database as docs/operating.md says, is
// the same in every table, and the program goes on there: with its jobs, and its numbers.
func TestBackupAndRestore(t *testing.T) {
	st, address := storetest.Open(t)
	ctx := t.Context()
	p, err := st.EnsurePublication(ctx, "Quillfen Cycles", "")
	require.NoError(t, err)
	q, err := queue.New(st)
	require.NoError(t, err)
	s := store.Study{Keyword: "studded tyres", Language: "en", Country: "gb", Depth: 10}
	require.NoError(t, study.For(st.In(p.ID), q, "x").Begin(ctx, &s, nil))
	g, err := st.In(p.ID).LatestGathering(ctx, s.ID)
	require.NoError(t, err)
	_, err = st.Found(ctx, g, []store.Result{{PublicationID: p.ID, StudyID: s.ID, GatheringID: g.ID, Rank: 1, URL: "http://a.example/", Host: "a.example", State: store.Waiting, Kept: true}}, nil, nil, nil)
	require.NoError(t, err)
	results, err := st.In(p.ID).Results(ctx, g.ID)
	require.NoError(t, err)
	require.NoError(t, st.KeepPage(ctx, results[0], &store.Capture{URL: "http://a.example/", FinalURL: "http://a.example/", Status: 200, Body: []byte{0, 1, 255}, Size: 3, Digest: []byte("d")}, &reading.Reading{Engine: reading.Engine, Title: "Grüße"}, ""))

	dump := filepath.Join(t.TempDir(), "corpulan.dump")
	run := func(name string, args ...string) {
		t.Helper()
		var out bytes.Buffer
		cmd := exec.CommandContext(ctx, pgTool(t, name), args...)
		cmd.Stdout, cmd.Stderr = &out, &out
		require.NoError(t, cmd.Run(), "%s: %s", name, out.String())
	}
	run("pg_dump", "--format", "custom", "--file", dump, address)
	again := storetest.Empty(t)
	run("pg_restore", "--no-owner", "--dbname", again, dump)
	require.NoError(t, store.Migrate(ctx, again), "nothing is left to migrate")
	other, err := store.Open(ctx, again, nil, 0)
	require.NoError(t, err)
	defer other.Close()
	counts := func(st *store.Store) map[string]string {
		t.Helper()
		rows, err := st.SQL().QueryContext(ctx, "select relname from pg_stat_user_tables where relname not in ('river_leader', 'river_client') order by 1")
		require.NoError(t, err)
		defer rows.Close()
		var names []string
		for rows.Next() {
			var n string
			require.NoError(t, rows.Scan(&n))
			names = append(names, n)
		}
		require.NoError(t, rows.Err())
		sums := map[string]string{}
		for _, n := range names {
			var sum string
			require.NoError(t, st.SQL().QueryRowContext(ctx, fmt.Sprintf("select count(*) || ' ' || coalesce(md5(string_agg(x::text, '|' order by x::text)), '') from %s x", n)).Scan(&sum))
			sums[n] = sum
		}
		return sums
	}
	assert.Greater(t, len(counts(st)), 25)
	assert.Equal(t, counts(st), counts(other))
	more := store.Study{Keyword: "bar mitts", Language: "en", Country: "gb", Depth: 10}
	_, err = other.In(p.ID).CreateStudy(ctx, &more)
	require.NoError(t, err)
	assert.Greater(t, more.ID, s.ID)
	c, err := other.In(p.ID).Capture(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, []byte{0, 1, 255}, c.Body)
}

// The table of settings in the manual is what the program prints, and every file it names is there.
func TestTheManual(t *testing.T) {
	_, out, _ := call(t, "", "settings")
	b, err := os.ReadFile("../../docs/operating.md")
	require.NoError(t, err)
	manual := string(b)
	assert.Contains(t, manual, strings.TrimSpace(out), "run `corpulan settings`, and put its table into docs/operating.md")
	for _, m := range regexp.MustCompile(`docs/examples/[\w.-]+|cmd/corpulan/\w+\.go`).FindAllString(manual, -1) {
		_, err := os.Stat("../../" + m)
		assert.NoError(t, err, m)
	}
	for _, bad := range [][]string{{"serve", "--search", "x", "--mail", "m.example:587"}, {"serve", "--search", "x", "--pprof", "0.0.0.0:6060"}, {"serve", "--search", "x", "--log", "yaml"}, {"serve", "--search", "x", "--keep-captures", "1h"}, {"work", "--search", "x", "--openid-issuer", "y"}, {"serve", "--search", "x", "--openid-issuer", "https://i.example"}, {"migrate", "now"}} {
		t.Setenv("DATABASE_URL", "postgres://nobody@127.0.0.1:1/none")
		code, _, said := call(t, "", bad...)
		assert.Equal(t, exitWrongUse, code, "%v: %s", bad, said)
	}
	t.Setenv("CORPULAN_WORKERS", "many")
	code, _, said := call(t, "", "work", "--search", "x")
	assert.Equal(t, exitWrongUse, code)
	assert.Contains(t, said, "CORPULAN_WORKERS is no number")
}

// A secret is made once, for its owner alone, and the same for all who come.
func TestTheSecretFile(t *testing.T) {
	s := settings{secretFile: filepath.Join(t.TempDir(), "secret")}
	first, err := s.sealer()
	require.NoError(t, err)
	sealed, err := first.Seal("x", []byte("plain"))
	require.NoError(t, err)
	second, err := s.sealer()
	require.NoError(t, err)
	plain, err := second.Open("x", sealed)
	require.NoError(t, err)
	assert.Equal(t, "plain", string(plain))
	info, err := os.Stat(s.secretFile)
	require.NoError(t, err)
	assert.EqualValues(t, 0o600, info.Mode().Perm())
	require.NoError(t, os.WriteFile(s.secretFile, []byte("short"), 0o600))
	_, err = s.sealer()
	assert.Error(t, err)
}
