package e2e

import (
	"bufio"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"corpulan/localpg"
	"corpulan/standin"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// installation runs `serve` as for real: nobody is signed in. It gives its address, and the link
// by which the first owner makes an account.
func installation(t *testing.T) (address, join string) {
	t.Helper()
	bin, err := built()
	require.NoError(t, err)
	data, err := localpg.TempDir()
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(data) })
	cluster, err := localpg.Start(t.Context(), filepath.Join(data, "postgres"), "fsync=off")
	require.NoError(t, err)
	t.Cleanup(func() { _ = cluster.Stop() })
	database, err := cluster.EnsureDatabase(t.Context(), "team")
	require.NoError(t, err)
	sim, err := standin.Start(200 * time.Millisecond)
	require.NoError(t, err)
	t.Cleanup(func() { _ = sim.Stop(t.Context()) })
	cmd := exec.Command(bin, "serve", "--listen", "127.0.0.1:0", "--publication", "Quillfen Cycles", "--search", sim.SearchTemplate(), "--secret", filepath.Join(t.TempDir(), "secret"))
	cmd.Env = append(os.Environ(), "DATABASE_URL="+database, "CORPULAN_SIMULATED_WEB="+sim.Address())
	cmd.Stderr = os.Stderr
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { _ = cmd.Process.Signal(syscall.SIGTERM); _ = cmd.Wait() })
	for lines := bufio.NewScanner(out); lines.Scan(); {
		line := strings.TrimSpace(lines.Text())
		if i := strings.Index(line, "/join/"); i >= 0 {
			join = line[i:]
		}
		if _, at, ok := strings.Cut(line, "is at "); ok {
			go func() { _, _ = io.Copy(io.Discard, out) }()
			return strings.TrimSuffix(at, "/"), join
		}
	}
	t.Fatal("the program printed no address")
	return "", ""
}

// fill types into the fields of a form by their names, and presses Enter.
func (b *browser) fill(pairs ...string) {
	b.Helper()
	for i := 0; i+1 < len(pairs); i += 2 {
		b.do(chromedp.SendKeys(chromedp.CSS(fmt.Sprintf("main [name=%s]", pairs[i])), pairs[i+1]))
	}
	b.keys(kb.Enter)
}

// Two people in two browsers: the owner makes the first account by the link of the console,
// invites an editor, gives them a brief; they are told, write into it and are seen by name. Who
// may only read finds no button. A link to a study leads through signing in to where it points.
func TestTwoPeopleOfATeam(t *testing.T) {
	t.Parallel()
	at, join := installation(t)
	ida, wren := open(t, at), open(t, at)
	ida.visit("/")
	ida.untilText("Nobody has an account yet.")
	ida.visit(join)
	ida.fill("email", "ida@quillfen.example", "name", "Ida Holm", "password", "a long winter evening")
	ida.untilText("No studies yet.")
	ida.do(chromedp.SendKeys(chromedp.CSS("#keyword"), "winter bike commuting"))
	ida.keys(kb.Enter)
	ida.untilText("kept.")
	ida.until(`!document.querySelector("[data-running]")`)
	ida.visit("/people")
	ida.fill("email", "wren@quillfen.example")
	ida.untilText("Send this link to wren@quillfen.example")
	link := js[string](ida, `document.querySelector(".made-link").value`)
	link = link[strings.Index(link, "/join/"):]

	wren.visit(link)
	wren.untilText("For wren@quillfen.example, as strategist.")
	wren.fill("name", "Wren Asher", "password", "another winter evening")
	wren.untilText("winter bike commuting")
	js[any](ida, `fetch("/people/2/role", {method: "POST", body: new URLSearchParams({role: "editor"})}).then(() => 0)`)
	wren.visit("/")
	assert.Equal(t, 0, js[int](wren, fmt.Sprintf(count, ".begin")), "an editor begins no study")

	ida.visit("/studies/1/brief")
	ida.do(chromedp.SendKeys(chromedp.CSS(`[data-field=writer] input[name=value]`), "Wren Asher"))
	ida.until(state("writer") + ` === "saved"`)
	wren.visit("/")
	wren.untilText("Ida Holm asks you to write “winter bike commuting”")
	wren.do(chromedp.Click(chromedp.CSS(".for-you a")))
	wren.until(`location.pathname.endsWith("/brief")`)
	wren.do(chromedp.SendKeys(chromedp.CSS(`[data-field=notes] textarea`), "Ask the workshop."))
	wren.until(state("notes") + ` === "saved"`)
	ida.visit("/studies/1/history")
	ida.untilText("Wren Asher")
	ida.untilText("Typed: Notes")

	js[any](ida, `fetch("/people/2/role", {method: "POST", body: new URLSearchParams({role: "reader"})}).then(() => 0)`)
	for _, place := range []string{"/", "/studies/1/gather", "/studies/1/evidence", "/studies/1/brief", "/studies/1/draft"} {
		wren.visit(place)
		assert.Equal(t, 0, js[int](wren, `[...document.querySelectorAll("main form[method=post] button, main [hx-post]")].filter(x => !x.closest(".for-you, .columns")).length`), place)
	}
	assert.Contains(t, js[string](wren, `fetch("/studies/1/brief").then(r => r.text())`), "Ask the workshop.")

	js[any](ida, `fetch("/sign-out", {method: "POST"}).then(() => 0)`)
	ida.visit("/studies/1/evidence?tab=themes")
	ida.until(`location.pathname === "/sign-in"`)
	ida.fill("email", "ida@quillfen.example", "password", "a long winter evening")
	ida.until(`location.pathname + location.search === "/studies/1/evidence?tab=themes"`)
	ida.clean("401 (Unauthorized)")
	wren.clean()
}
