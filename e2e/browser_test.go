// Package e2e drives the real program in headless Chromium.
package e2e

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"corpulan/localpg"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// built is the program, built once for all tests of a run.
var built = sync.OnceValues(func() (string, error) {
	dir, err := os.MkdirTemp("", "corpulan-bin-")
	if err != nil {
		return "", err
	}
	bin := filepath.Join(dir, "corpulan")
	if out, err := exec.Command("go", "build", "-o", bin, "corpulan/cmd/corpulan").CombinedOutput(); err != nil {
		return "", fmt.Errorf("%w: %s", err, out)
	}
	return bin, nil
})

func TestMain(m *testing.M) {
	code := m.Run()
	if bin, err := built(); err == nil {
		_ = os.RemoveAll(filepath.Dir(bin))
	}
	os.Exit(code)
}

// program runs its demo on a data folder of the test's
// own. It is stopped as Ctrl-C would when the test ends.
func program(t *testing.T) (address string) {
	t.Helper()
	bin, err := built()
	require.NoError(t, err)
	data, err := localpg.TempDir() // t.TempDir is out of reach for the user postgres
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(data) })
	cmd := exec.Command(bin, "demo", "--listen", "127.0.0.1:0", "--data", data)
	var errs strings.Builder
	cmd.Stderr = &errs
	stdout, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() {
		_ = cmd.Process.Signal(syscall.SIGINT)
		if err := cmd.Wait(); err != nil {
			t.Errorf("the program did not stop in good order: %v", err)
		}
		if errs.Len() > 0 {
			t.Errorf("the program complained: %s", errs.String())
		}
		if _, err := os.Stat(filepath.Join(data, "postgres", "postmaster.pid")); err == nil {
			t.Error("a PostgreSQL was left running")
		}
	})
	lines := bufio.NewScanner(stdout)
	for lines.Scan() {
		if _, rest, ok := strings.Cut(lines.Text(), "demo is at "); ok {
			go func() { _, _ = io.Copy(io.Discard, stdout) }()
			return strings.TrimSuffix(rest, "/")
		}
	}
	t.Fatalf("the program printed no address: %s", errs.String())
	return ""
}

// browser is one tab at 1280x800.
type browser struct {
	*testing.T
	ctx  context.Context
	base string
	mu   sync.Mutex
	said []string // errors and exceptions on the console
}

func open(t *testing.T, base string) *browser {
	t.Helper()
	path, err := exec.LookPath("chromium")
	if err != nil {
		t.Skip("Debian's package chromium is not installed; `make test` installs it")
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox, chromedp.DisableGPU,
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("force-prefers-reduced-motion", true), chromedp.Flag("disable-sync", true),
		chromedp.Flag("disable-quic", true), chromedp.WindowSize(1280, 800))
	ctx, stop := chromedp.NewExecAllocator(t.Context(), options...)
	t.Cleanup(stop)
	ctx, stop = chromedp.NewContext(ctx)
	t.Cleanup(stop)
	b := &browser{T: t, ctx: ctx, base: base}
	// The first call starts the browser, which lives as long as its context.
	require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(1280, 800)))
	b.visit("/")
	go func() {
		for m, err := range chromedp.Console(ctx) {
			if err != nil {
				return
			}
			if m.Type == chromedp.ConsoleError || m.Type == chromedp.ConsoleException {
				b.mu.Lock()
				b.said = append(b.said, m.Text+" "+m.URL)
				b.mu.Unlock()
			}
		}
	}()
	return b
}

// patience is how long one step may take on a slow machine; nothing waits that
// long unless it fails.
const patience = 30 * time.Second

func (b *browser) do(steps ...chromedp.Action[chromedp.Void]) {
	b.Helper()
	ctx, stop := context.WithTimeout(b.ctx, patience)
	defer stop()
	require.NoError(b, chromedp.Do(ctx, steps...))
}

func (b *browser) visit(path string) {
	b.Helper()
	b.do(chromedp.Navigate(b.base + path))
}

// js evaluates an expression in the page.
func js[T any](b *browser, expression string) T {
	b.Helper()
	ctx, stop := context.WithTimeout(b.ctx, patience)
	defer stop()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
	require.NoError(b, err, expression)
	return v
}

// until waits for an expression to become true, across navigations.
func (b *browser) until(expression string) {
	b.Helper()
	ctx, stop := context.WithTimeout(b.ctx, patience)
	defer stop()
	ready := `document.readyState === "complete" && (` + expression + `)` // scripts are deferred
	for {
		v, err := chromedp.Run(ctx, chromedp.Evaluate[bool](ready))
		if err == nil && v {
			return
		}
		select {
		case <-ctx.Done():
			b.Fatalf("never came true: %s\non the page: %s", expression, js[string](b, "location.href+' '+document.body.innerText.slice(0, 1500)"))
		case <-time.After(30 * time.Millisecond):
		}
	}
}

func (b *browser) untilText(text string) {
	b.Helper()
	b.until(fmt.Sprintf("document.body.innerText.includes(%q)", text))
}

func (b *browser) keys(keys ...string) {
	b.Helper()
	for _, k := range keys {
		b.do(chromedp.KeyEvent(k))
	}
}

// clean fails the test if the console held an error, but for those that hold
// one of the expected texts.
func (b *browser) clean(expected ...string) {
	b.Helper()
	b.mu.Lock()
	defer b.mu.Unlock()
	for _, said := range b.said {
		if !slices.ContainsFunc(expected, func(e string) bool { return strings.Contains(said, e) }) {
			b.Errorf("on the console: %s", said)
		}
	}
}
