// Package e2e drives the real program in headless Chromium.
package e2e

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/url"
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
	"corpulan/store"
	"corpulan/store/storetest"

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
	lists, err := filepath.Abs("../lists")
	if err == nil {
		err = os.Setenv("CORPULAN_LISTS", lists)
	}
	if err != nil {
		panic(err)
	}
	code := storetest.Run(m)
	if bin, err := built(); err == nil {
		_ = os.RemoveAll(filepath.Dir(bin))
	}
	closeChromium()
	os.Exit(code)
}

// program runs the demo over a database of the test's own, with an empty desk. It is stopped as
// Ctrl-C would when the test ends.
func program(t *testing.T) (address string) {
	t.Helper()
	return run(t, storetest.URL(t))
}

// gathered is program with the demo's first keyword gathered already, as study 1.
func gathered(t *testing.T) (address string) {
	t.Helper()
	return run(t, storetest.Copy(t, "corpulan_gathered", func(ctx context.Context, url string) error {
		if err := store.Migrate(ctx, url); err != nil {
			return err
		}
		p, err := start(url)
		if err != nil {
			return err
		}
		return errors.Join(p.gather(ctx, "winter bike commuting"), p.stop())
	}))
}

// process is a running demo.
type process struct {
	cmd     *exec.Cmd
	data    string
	address string
	errs    strings.Builder
}

func run(t *testing.T, database string) (address string) {
	t.Helper()
	p, err := start(database)
	require.NoError(t, err)
	t.Cleanup(func() {
		if err := p.stop(); err != nil {
			t.Error(err)
		}
	})
	return p.address
}

// start runs the demo over a database, its simulated pages without delay, and waits until it
// answers.
func start(database string) (*process, error) {
	bin, err := built()
	if err != nil {
		return nil, err
	}
	p := &process{}
	if p.data, err = localpg.TempDir(); err != nil {
		return nil, err
	}
	p.cmd = exec.Command(bin, "demo", "--listen", "127.0.0.1:0", "--data", p.data, "--database", database, "--delay", "0s")
	p.cmd.Stderr = &p.errs
	stdout, err := p.cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := p.cmd.Start(); err != nil {
		return nil, err
	}
	lines := bufio.NewScanner(stdout)
	for lines.Scan() {
		if _, rest, ok := strings.Cut(lines.Text(), "demo is at "); ok {
			go func() { _, _ = io.Copy(io.Discard, stdout) }()
			p.address = strings.TrimSuffix(rest, "/")
			return p, nil
		}
	}
	return nil, fmt.Errorf("the program printed no address: %s", p.errs.String())
}

// stop ends the program as Ctrl-C would; it has to go in good order, and without a complaint.
func (p *process) stop() error {
	defer os.RemoveAll(p.data)
	_ = p.cmd.Process.Signal(syscall.SIGINT)
	if err := p.cmd.Wait(); err != nil {
		return fmt.Errorf("the program did not stop in good order: %w: %s", err, p.errs.String())
	}
	if p.errs.Len() > 0 {
		return fmt.Errorf("the program complained: %s", p.errs.String())
	}
	return nil
}

// gather begins a study and waits until all its pages are in and counted: on a slow machine whoever
// looks first gets the evidence of those that were in a moment ago, which is drawn anew later.
func (p *process) gather(ctx context.Context, keyword string) error {
	jar, err := cookiejar.New(nil)
	if err != nil {
		return err
	}
	client := &http.Client{Jar: jar}
	ask := func(method, path string, form url.Values) (string, error) {
		req, err := http.NewRequestWithContext(ctx, method, p.address+path, strings.NewReader(form.Encode()))
		if err != nil {
			return "", err
		}
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		resp, err := client.Do(req)
		if err != nil {
			return "", err
		}
		defer resp.Body.Close()
		b, err := io.ReadAll(resp.Body)
		return string(b), err
	}
	if _, err := ask(http.MethodGet, "/", nil); err != nil { // which signs the visitor in
		return err
	}
	if _, err := ask(http.MethodPost, "/studies", url.Values{"keyword": {keyword}, "language": {"en"}, "country": {"gb"}, "depth": {"20"}}); err != nil {
		return err
	}
	ctx, stop := context.WithTimeout(ctx, patience)
	defer stop()
	for {
		page, err := ask(http.MethodGet, "/studies/1/gather", nil)
		if err != nil {
			return err
		}
		document, err := ask(http.MethodGet, "/studies/1/brief", nil)
		if err != nil {
			return err
		}
		if strings.Contains(page, `id="gather-bar"`) && !strings.Contains(page, "data-running") &&
			strings.Contains(document, `id="document"`) && !strings.Contains(document, "being counted") {
			return nil
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(50 * time.Millisecond):
		}
	}
}

// chromium is one browser for all journeys, each in a context of its own: cookies and storage are
// nobody else's.
var (
	chromium = sync.OnceValues(startChromium)
	ended    = func() {}
)

func closeChromium() { ended() }

func startChromium() (context.Context, error) {
	path, err := exec.LookPath("chromium")
	if err != nil {
		return nil, fmt.Errorf("Debian's package chromium is not installed; `make test` installs it: %w", err)
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox, chromedp.DisableGPU,
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("force-prefers-reduced-motion", true), chromedp.Flag("disable-sync", true),
		chromedp.Flag("disable-quic", true), chromedp.WindowSize(1280, 800))
	ctx, stop := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, end := chromedp.NewContext(ctx)
	ended = func() { end(); stop() }
	// The first call starts the browser, which lives as long as its context.
	return ctx, chromedp.Do(ctx, chromedp.EmulateViewport(1280, 800))
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
	parent, err := chromium()
	require.NoError(t, err)
	ctx, stop := chromedp.NewContext(parent, chromedp.WithNewBrowserContext())
	t.Cleanup(stop)
	b := &browser{T: t, ctx: ctx, base: base}
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
	for pause := 15 * time.Millisecond; ; pause = min(pause*3/2, 120*time.Millisecond) {
		v, err := chromedp.Run(ctx, chromedp.Evaluate[bool](ready))
		if err == nil && v {
			return
		}
		select {
		case <-ctx.Done():
			b.Fatalf("never came true: %s\non the page: %s", expression, js[string](b, "location.href+' '+document.body.innerText.slice(0, 1500)"))
		case <-time.After(pause):
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

// goes presses g and a letter until the place is there. For a second after something was typed no
// key acts, and one that is pressed then is taken for more of the text.
func (b *browser) goes(letter, place string) {
	b.Helper()
	end := time.Now().Add(patience)
	for time.Now().Before(end) {
		b.keys("g", letter)
		for range 40 { // a place may take a moment to come
			if strings.HasSuffix(js[string](b, "location.pathname"), place) {
				return
			}
			_ = chromedp.Do(b.ctx, chromedp.Sleep(30*time.Millisecond))
		}
	}
	b.Fatalf("g %s does not lead to %s", letter, place)
}
