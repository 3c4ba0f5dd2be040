package main

import (
	"bytes"
	"context"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"corpulan/localpg"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A file that cannot be written whole leaves the older one as it was. /dev/full is
// a full disk (null(4)); a folder without room is one that a quota of file size
// stands for.
func TestAFullDiskSparesTheOlderFile(t *testing.T) {
	dir := t.TempDir()
	name := filepath.Join(dir, "brief.md")
	require.NoError(t, os.WriteFile(name, []byte("the older brief"), 0o600))
	// The limit on file size fails the write as a full disk does (setrlimit(2)).
	var before syscall.Rlimit
	require.NoError(t, syscall.Getrlimit(syscall.RLIMIT_FSIZE, &before))
	require.NoError(t, syscall.Setrlimit(syscall.RLIMIT_FSIZE, &syscall.Rlimit{Cur: 4096, Max: before.Max}))
	err := replaceFile(name, bytes.Repeat([]byte("x"), 100_000))
	require.NoError(t, syscall.Setrlimit(syscall.RLIMIT_FSIZE, &before))
	require.Error(t, err)
	content, err := os.ReadFile(name)
	require.NoError(t, err)
	assert.Equal(t, "the older brief", string(content))
	left, err := os.ReadDir(dir)
	require.NoError(t, err)
	assert.Len(t, left, 1, "nothing else is left behind")
	assert.Error(t, replaceFile("/dev/full", []byte("x")))
	assert.Error(t, replaceFile(filepath.Join(dir, "no", "such", "folder"), nil))

	require.NoError(t, os.Symlink(name, filepath.Join(dir, "link")))
	require.NoError(t, replaceFile(filepath.Join(dir, "link"), []byte("new")))
	content, err = os.ReadFile(name)
	require.NoError(t, err)
	assert.Equal(t, "new", string(content))
	info, err := os.Lstat(filepath.Join(dir, "link"))
	require.NoError(t, err)
	assert.NotZero(t, info.Mode()&os.ModeSymlink, "a link stays one")
	info, err = os.Stat(name)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "and nobody else may read it now")
}

// Ctrl-C ends a command that waits for a pipe.
func TestInterruptedOnAPipe(t *testing.T) {
	in, never := io.Pipe()
	defer never.Close()
	ctx, cancel := context.WithCancel(t.Context())
	var out, errs bytes.Buffer
	done := make(chan int)
	go func() { done <- run(ctx, []string{"read", "-"}, stdio{in, &out, &errs}) }()
	cancel()
	assert.Equal(t, exitFailed, <-done)
	assert.Equal(t, "corpulan read: interrupted\n", errs.String())
}

// A WARC that breaks off gives the pages before that, and says so.
func TestReadOfACutWARC(t *testing.T) {
	page := "<article><h1>Winter</h1><p>The tyre grips on ice.</article>"
	record := func(url string) string {
		return "WARC/1.1\r\nWARC-Type: resource\r\nWARC-Target-URI: " + url + "\r\nContent-Type: text/html\r\nContent-Length: " + itoa(len(page)) + "\r\n\r\n" + page + "\r\n\r\n"
	}
	whole := record("http://a.example/") + record("http://b.example/")
	code, out, errs := call(t, whole[:len(whole)-30], "read", "-")
	assert.Equal(t, exitDone, code)
	assert.Equal(t, 1, strings.Count(out, "\n"))
	assert.Contains(t, errs, "the file breaks off in record 2")
}

// Two demos on one folder: the second says whose it is and leaves the first
// alone. RESET takes away what is the demo's and nothing else. A database that
// dies is noticed.
func TestDemosOnOneFolder(t *testing.T) {
	bin := filepath.Join(t.TempDir(), "corpulan")
	out, err := exec.Command("go", "build", "-o", bin, "corpulan/cmd/corpulan").CombinedOutput()
	require.NoError(t, err, string(out))
	folder, err := localpg.TempDir()
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(folder) })
	mine := filepath.Join(folder, "thesis.odt")
	require.NoError(t, os.WriteFile(mine, []byte("x"), 0o600))
	demo := func(args ...string) (*exec.Cmd, *bytes.Buffer, func(string)) {
		cmd := exec.Command(bin, append([]string{"demo", "--listen", "127.0.0.1:0", "--data", folder}, args...)...)
		stdout, err := cmd.StdoutPipe()
		require.NoError(t, err)
		var errs bytes.Buffer
		cmd.Stderr = &errs
		require.NoError(t, cmd.Start())
		t.Cleanup(func() { _ = cmd.Process.Kill() })
		said := make(chan string, 100)
		go func() {
			defer close(said)
			var all strings.Builder
			b := make([]byte, 4096)
			for {
				n, err := stdout.Read(b)
				all.Write(b[:n])
				said <- all.String()
				if err != nil {
					return
				}
			}
		}()
		return cmd, &errs, func(want string) {
			t.Helper()
			deadline := time.After(60 * time.Second)
			for {
				select {
				case text, ok := <-said:
					if strings.Contains(text, want) {
						return
					}
					if !ok {
						t.Fatalf("it never said %q: %s", want, errs.String())
					}
				case <-deadline:
					t.Fatalf("it never said %q", want)
				}
			}
		}
	}
	first, _, until := demo()
	until("demo is at ")
	for _, args := range [][]string{nil, {"--reset"}} {
		second, errs, _ := demo(args...)
		assert.Error(t, second.Wait())
		assert.Contains(t, errs.String(), "a demo runs there already, at http://localhost:")
		assert.Contains(t, errs.String(), itoa(first.Process.Pid))
	}
	require.NoError(t, first.Process.Signal(syscall.SIGINT))
	require.NoError(t, first.Wait(), "it ran on all the while")

	again, errs, until := demo("--reset")
	until("demo is at ")
	assert.FileExists(t, mine)
	pid, err := os.ReadFile(filepath.Join(folder, "postgres", "postmaster.pid"))
	require.NoError(t, err)
	number, _, _ := strings.Cut(string(pid), "\n")
	require.NoError(t, exec.Command("kill", "-9", number).Run())
	assert.Error(t, again.Wait())
	assert.Contains(t, errs.String(), "the demo's database ended by itself")
}
