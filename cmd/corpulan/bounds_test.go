package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// hostile are pages made to keep a reader busy, of some bytes each.
var hostile = map[string]func(size int) string{
	"tables in tables":   func(n int) string { return repeated("<table><tr><td>", n) },
	"boxes in boxes":     func(n int) string { return repeated("<div><p>ice ", n) },
	"lists in lists":     func(n int) string { return repeated("<ul><li>x", n) },
	"open marks":         func(n int) string { return repeated("<b><i><a href=x>", n) },
	"forms":              func(n int) string { return repeated("<form><select><option>a<input>", n) },
	"combining marks":    func(n int) string { return "<p>a" + repeated("\u0301", n) },
	"one word":           func(n int) string { return "<p>" + repeated("x", n) },
	"words of one sign":  func(n int) string { return "<p>" + repeated("a ", n) },
	"words, each once":   func(n int) string { return "<p>" + numbered("w%da ", n) },
	"headings":           func(n int) string { return numbered("<h2>Winter tyres %d</h2><p>On ice.</p>", n) },
	"questions":          func(n int) string { return numbered("<h3>Why do tyres slip %d?</h3><p>Because of ice.</p>", n) },
	"links":              func(n int) string { return numbered("<a href=/p%d>tyre</a> ", n) },
	"attributes":         func(n int) string { return "<p " + numbered("a%d=b ", n) + ">x</p>" },
	"entities":           func(n int) string { return "<p>" + repeated("&amp;&eacute; ", n) },
	"data within data":   func(n int) string { return `<script type="application/ld+json">` + repeated(`{"a":[`, n) + "</script>" },
	"figures":            func(n int) string { return "<p>" + numbered("It costs £%d in winter. ", n) },
	"names":              func(n int) string { return "<p>" + numbered("Ask Wren Quill%d of Alder House. ", n) },
	"lines of bold text": func(n int) string { return numbered("<p><b>Part %d</b></p><p>Words of it.</p>", n) },
}

func repeated(s string, size int) string { return strings.Repeat(s, size/len(s)) }

func numbered(format string, size int) string {
	var b strings.Builder
	for i := 0; b.Len() < size; i++ {
		fmt.Fprintf(&b, format, i)
	}
	return b.String()
}

func hostilePage(shape string, size int) string {
	return "<html lang=en><title>Winter tyres</title><body><article><h1>Winter tyres</h1>" + hostile[shape](size)
}

// Whatever a page is made of, four times as much of it takes hardly more than four times as long.
func TestHostilePagesTakeTimeInLineWithTheirLength(t *testing.T) {
	const small = 100 << 10
	dir := t.TempDir()
	for shape := range hostile {
		took := func(size int) time.Duration {
			file := filepath.Join(dir, "page.html")
			require.NoError(t, os.WriteFile(file, []byte(hostilePage(shape, size)), 0o600))
			best := time.Hour
			for tries := 0; tries < 2 && (tries == 0 || best < 300*time.Millisecond); tries++ {
				began := time.Now()
				code := run(context.Background(), []string{"evidence", "--keyword", "winter tyres", file}, stdio{strings.NewReader(""), io.Discard, io.Discard})
				assert.LessOrEqual(t, code, exitFailed, shape)
				best = min(best, time.Since(began))
			}
			return best
		}
		less, more := took(small), took(4*small)
		t.Logf("%s: %v, %v", shape, less, more)
		assert.Less(t, more, 9*less+time.Second, "%s: %v, and %v for four times as much", shape, less, more)
	}
}

// Every command takes any file of 8 MB in 10 seconds and 700 MB, or refuses it. Among what takes long.
func TestBoundsOfEveryCommand(t *testing.T) {
	if os.Getenv("CORPULAN_THOROUGH") == "" {
		t.Skip("takes some minutes; make thorough runs it")
	}
	const size, seconds, memory = 8 << 20, 10, 700 << 10 // kB
	dir := t.TempDir()
	program := filepath.Join(dir, "corpulan")
	out, err := exec.CommandContext(t.Context(), "go", "build", "-o", program, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	small := filepath.Join(dir, "small.html")
	require.NoError(t, os.WriteFile(small, []byte(hostilePage("headings", 20<<10)), 0o600))
	brief, err := exec.CommandContext(t.Context(), program, "brief", "--keyword", "winter tyres", small).Output()
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "brief.json"), brief, 0o600))
	measure := func(name string, args ...string) {
		cmd := exec.CommandContext(t.Context(), program, args...)
		began := time.Now()
		err := cmd.Run()
		took, used := time.Since(began), cmd.ProcessState.SysUsage().(*syscall.Rusage).Maxrss
		t.Logf("%s %s: %.1f s, %d MB, %v", args[0], name, took.Seconds(), used>>10, err)
		assert.LessOrEqual(t, cmd.ProcessState.ExitCode(), exitFailed, name)
		assert.Less(t, took.Seconds(), float64(seconds), "%s of %s", args[0], name)
		assert.Less(t, used, int64(memory), "%s of %s: kB", args[0], name)
	}
	file := filepath.Join(dir, "page.html")
	for shape := range hostile {
		require.NoError(t, os.WriteFile(file, []byte(hostilePage(shape, size)), 0o600))
		measure(shape, "read", file)
		measure(shape, "evidence", "--keyword", "winter tyres", file)
		measure(shape, "brief", "--keyword", "winter tyres", file)
		measure(shape, "check", "--brief", filepath.Join(dir, "brief.json"), file)
	}
	list := filepath.Join(dir, "list.csv")
	for name, line := range map[string]string{"long keywords": "winter ice%d tyre%d bar%d mitt%d cold%d ride%d\n", "near keywords": "winter tyre%[1]d of %[1]d\n", "many columns": strings.Repeat("x,", 1000) + "%d\n"} {
		var b strings.Builder
		b.WriteString("Keyword,Volume\n")
		for i := 0; b.Len() < size; i++ {
			j := i % 997
			fmt.Fprintf(&b, line, append([]any{i, j, j * 7 % 991, j * 13 % 983, j * 5 % 977, j * 3 % 971}, nil)[:max(strings.Count(line, "%d"), 1)]...)
		}
		require.NoError(t, os.WriteFile(list, []byte(b.String()), 0o600))
		measure(name, "group", list)
	}
}
