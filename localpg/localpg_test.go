package localpg

import (
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// folder is a temporary folder that the user postgres can reach.
func folder(t *testing.T) string {
	t.Helper()
	dir, err := os.MkdirTemp("", "corpulan-localpg-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	require.NoError(t, os.Chmod(dir, 0o755))
	return filepath.Join(dir, "data")
}

func TestAClusterKeepsItsDataAndStops(t *testing.T) {
	dir := folder(t)
	c, err := Start(t.Context(), dir, "fsync=off")
	require.NoError(t, err)
	url, err := c.EnsureDatabase(t.Context(), "corpulan")
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(url, "postgres://corpulan@127.0.0.1:"), "on loopback only")
	conn, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	_, err = conn.Exec(t.Context(), "create table kept (n int); insert into kept values (42)")
	require.NoError(t, err)
	require.NoError(t, conn.Close(t.Context()))
	process := c.cmd.Process
	require.NoError(t, c.Stop())
	require.NoError(t, c.Stop(), "twice is no error")
	assert.ErrorIs(t, process.Signal(syscall.Signal(0)), os.ErrProcessDone, "nothing runs on")

	c, err = Start(t.Context(), dir, "fsync=off")
	require.NoError(t, err)
	defer func() { _ = c.Stop() }()
	url, err = c.EnsureDatabase(t.Context(), "corpulan")
	require.NoError(t, err)
	assert.Equal(t, 42, number(t, url, "select n from kept"))
}

// A run that was killed leaves a server, or only its lock, behind.
func TestAKilledRunIsRecovered(t *testing.T) {
	dir := folder(t)
	first, err := Start(t.Context(), dir)
	require.NoError(t, err)
	// As after kill -9 of the program: nobody stopped the server.
	second, err := Start(t.Context(), dir)
	require.NoError(t, err, "the server left behind is stopped, a new one started")
	<-first.exited
	assert.Equal(t, 1, number(t, second.URL("postgres"), "select 1"))
	// As after a power cut: the lock is there, the server is not.
	require.NoError(t, second.cmd.Process.Kill())
	<-second.exited
	assert.FileExists(t, filepath.Join(dir, "postmaster.pid"))
	third, err := Start(t.Context(), dir)
	require.NoError(t, err)
	defer func() { _ = third.Stop() }()
	assert.Equal(t, 1, number(t, third.URL("postgres"), "select 1"))
}

func TestAFolderOutOfReachIsNamed(t *testing.T) {
	if os.Geteuid() != 0 {
		t.Skip("only root starts the server as another user")
	}
	dir := t.TempDir() // below a folder that only root may enter
	require.NoError(t, os.Chmod(dir, 0o700))
	_, err := Start(t.Context(), filepath.Join(dir, "data"))
	assert.ErrorContains(t, err, "cannot reach")
}

func number(t *testing.T, url, query string) int {
	t.Helper()
	conn, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer conn.Close(t.Context())
	var n int
	require.NoError(t, conn.QueryRow(t.Context(), query).Scan(&n))
	return n
}
