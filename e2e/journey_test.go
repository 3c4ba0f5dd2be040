package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// begin goes to the study that was gathered before.
func (b *browser) begin() {
	b.Helper()
	b.visit("/studies/1/gather")
	b.untilText("14 of 15 pages answered, 1 failed")
}

const count = `document.querySelectorAll(%q).length`

// From a keyword to a brief, by keyboard, on the demo's web.
func TestFromAKeywordToABrief(t *testing.T) {
	t.Parallel()
	b := open(t, program(t))
	b.untilText("No studies yet")
	b.accessible("the empty desk", all)
	started := time.Now()
	b.visit("/")
	b.do(chromedp.SendKeys(chromedp.CSS("#keyword"), "winter bike commuting"))
	b.keys(kb.Enter)
	b.untilText("14 of 15 pages answered, 1 failed; 10 kept.")
	b.untilText("failed: The site refuses to give the page (403).")
	b.goes("b", "/brief")
	b.until(`document.querySelectorAll(".out").length >= 5`)
	t.Logf("from Enter to a proposed brief: %d ms", time.Since(started).Milliseconds())

	// Keep and set aside; every figure follows.
	b.goes("g", "/gather")
	b.untilText("10 kept.")
	b.keys("j", "j", " ")
	b.untilText("9 kept.")
	b.until(`document.querySelector("tr.current .rank")?.textContent === "2"`) // the current row survives the swap
	assert.Equal(t, "set aside: Set aside by hand", js[string](b, `document.querySelector("tr.current .state-cell").textContent`))
	b.goes("e", "/evidence")
	b.untilText("over 9 kept pages")
	b.goes("g", "/gather")
	b.untilText("9 kept.")
	b.keys("j", "j", " ")
	b.untilText("10 kept.")

	// Several at once, sorted, filtered; all proposals accepted with one key.
	js[any](b, `[...document.querySelectorAll("[data-sort]")].find(h => h.textContent === "Words").click(); 0`)
	b.until(`document.querySelector(".ranked tbody tr .rank").textContent === "14"`) // the thin page
	js[any](b, `[...document.querySelectorAll("[data-sort]")].find(h => h.textContent === "Rank").click(); 0`)
	b.until(`document.querySelector(".ranked tbody tr .rank").textContent === "1"`)
	js[any](b, `document.querySelector(".ranked tbody tr").focus(); 0`)
	b.keys("J", " ")
	b.untilText("8 kept.")
	b.keys("x", "k", "x", " ")
	b.untilText("10 kept.")
	b.keys("A")
	b.until(`!document.body.innerText.includes("proposed")`)

	// The page that was refused is handed in; the captures can be taken along.
	js[any](b, `document.querySelector("[data-hand-in]").click(); 0`)
	b.until(`document.querySelector("#hand-in.show") !== null`)
	js[any](b, `document.querySelector("#hand-in textarea").value = "<h1>Checklist</h1><p>" + "Check the lights and the brakes of the bike before every winter ride to work. ".repeat(20); 0`)
	b.do(chromedp.Click(chromedp.CSS("#hand-in .btn-primary")))
	b.untilText("11 kept.")
	b.until(`document.querySelector("#hand-in.show") === null && !document.body.innerText.includes("(403)")`)
	assert.Positive(t, js[int](b, `fetch(document.querySelector(".take a").href).then(r => r.arrayBuffer()).then(a => a.byteLength)`))
	b.do(chromedp.SendKeys(chromedp.CSS(".add textarea"), "http://loamandlever.example/journal/frost-and-the-daily-ride\nhttp://northlane.example/gone"))
	b.do(chromedp.Click(chromedp.CSS(".add button")))
	b.untilText("1 of 2 addresses added.")
	b.untilText("failed: The page is not there any more (404).")

	// Evidence: the sentences behind a term, drop, undo, adopt, filter.
	b.goes("e", "/evidence")
	b.untilText("over 11 kept pages")
	first := js[string](b, `document.querySelector(".finding a").textContent`)
	b.keys("j", "o")
	b.until(fmt.Sprintf(count+" > 5", ".concordance tr"))
	b.keys(kb.Escape)
	b.until(`document.getElementById("pane").hidden`)
	terms := js[string](b, `document.querySelector(".sheet-figures").textContent`)
	b.keys("d")
	b.untilText("Dropped: " + first)
	b.until(`document.querySelector("tr.current")?.classList.contains("dropped")`)
	assert.NotEqual(t, terms, js[string](b, `document.querySelector(".sheet-figures").textContent`), "the sheet follows")
	b.keys("u")
	b.untilText("Taken back: Dropped: " + first)
	b.until(`!document.querySelector("tr.dropped") && document.querySelector("tr.current .finding a").textContent === ` + fmt.Sprintf("%q", first)) // the row stays current
	b.keys("/")
	b.until(`document.activeElement.id === "filter"`)
	js[any](b, `document.activeElement.value = ""; 0`) // the driver types the key in spite of preventDefault
	b.do(chromedp.SendKeys(chromedp.CSS("#filter"), "glove"))
	b.until(`location.search.includes("filter=glove")`) // what is filtered can be shared
	b.until(`[...document.querySelectorAll(".findings-table tbody tr")].every(r => r.textContent.includes("glove"))`)
	b.do(chromedp.Click(chromedp.CSS(`.tabs nav a[href*=questions]`)))
	b.untilText("How do I stop my glasses fogging up when cycling?")
	unadopted := js[string](b, `document.querySelector("[data-key=a]").closest("tr").querySelector(".finding a").textContent.trim()`)
	b.do(chromedp.Click(chromedp.CSS("[data-key=a]")))
	b.untilText("Adopted: " + unadopted)

	// Brief: what was adopted is in it, what is typed is saved.
	b.goes("b", "/brief")
	b.untilText(unadopted)
	js[any](b, `document.querySelector("[data-field=title_tag] textarea").select(); 0`)
	b.do(chromedp.SendKeys(chromedp.CSS(`[data-field=title_tag] textarea`), "Riding to work through winter"))
	b.until(`document.querySelector('[data-field=title_tag] [data-state]').textContent === "saved"`)
	b.do(chromedp.SendKeys(chromedp.CSS(`.out textarea`), "Rank 2 does it best"))
	b.until(`document.querySelector('.out [data-state]').textContent === "saved"`)
	b.do(chromedp.Reload())
	b.until(`document.querySelector('[data-field=title_tag] textarea').value === "Riding to work through winter" && document.querySelector(".out textarea").value === "Rank 2 does it best"`)
	for _, f := range []string{"md", "html", "json"} {
		text := js[string](b, fmt.Sprintf(`fetch("/studies/1/brief/as/%s").then(r => r.text())`, f))
		assert.Contains(t, text, "Riding to work through winter", f)
		assert.Contains(t, text, "Rank 2 does it best", f)
	}
	b.do(chromedp.Click(chromedp.CSS(".out .margin a")))
	b.until(fmt.Sprintf(count+" > 1", ".side-by-side article"))
	b.keys(kb.Escape, "?")
	b.until(`document.querySelector("#keys.show") !== null`)
	b.clean()
}

// The other ways in, each in the browser: pasted addresses, a file of ranks, a
// saved results page, saved pages dropped at once, and the bookmarklet's window.
func TestWaysIn(t *testing.T) {
	t.Parallel()
	b := open(t, program(t))
	dir := t.TempDir()
	file := func(name, content string) string {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(content), 0o600))
		return path
	}
	keyword := 0 // the same again would be offered the study that exists
	begin := func(fill func()) {
		b.visit("/")
		keyword++
		b.do(chromedp.SendKeys(chromedp.CSS("#keyword"), fmt.Sprint("winter tyres ", keyword)))
		js[any](b, `document.querySelector(".bring").open = true; 0`)
		fill()
		b.do(chromedp.Click(chromedp.CSS(".begin-more button")))
	}
	choose := func(selector string, paths ...string) { b.do(chromedp.SetUploadFiles(chromedp.CSS(selector), paths)) }
	begin(func() {
		b.do(chromedp.SendKeys(chromedp.CSS(".bring textarea"), "http://tyrelab.example/tests/studded-against-winter-tyres\nhttp://icegripfaq.example/faq"))
	})
	b.untilText("All 2 pages answered; 2 kept.")
	begin(func() {
		choose(".bring [name=results]", file("ranks.csv", "Pos;Landing page;Titel\n2;http://icegripfaq.example/faq;Second\n1;http://rollingnorth.example/how-to/fit-studded-tyres;First\n"))
	})
	b.untilText("All 2 pages answered; 2 kept.")
	assert.Contains(t, js[string](b, `document.querySelector(".ranked tbody tr").innerText`), "First")
	begin(func() { choose(".bring [name=results]", file("odd.csv", "mine;theirs\nwinter.bike;bike.shop\n")) })
	b.untilText("Choose the column, and the file once more.")
	assert.Equal(t, "winter tyres 3", js[string](b, `document.getElementById("keyword").value`))
	page := ""
	for _, path := range []string{"carbidepost.example/studded-bike-tyres-guide", "icegripfaq.example/faq", "faults.example/refused", "faults.example/missing"} {
		page += fmt.Sprintf(`<li class="hit"><h3><a href="http://%s">A result of it</a></h3><p>Says this and that.</p></li>`, path)
	}
	begin(func() {
		choose(".bring [name=results]", file("results.html", `<base href="https://engine.example/"><ol>`+page+`</ol><div>How long do tyres last?</div>`))
	})
	b.untilText("2 of 4 pages answered, 2 failed; 2 kept.")
	b.untilText("How long do tyres last?")
	article := "<h1>Saved</h1><p>" + strings.Repeat("The studs of the tyre were sharp, and the ice of the lane was grey and thick. ", 20)
	choose(".add [name=file]", file("one.html", `<link rel="canonical" href="http://faults.example/refused">`+article),
		file("two.mhtml", "MIME-Version: 1.0\r\nContent-Type: multipart/related; boundary=b\r\n\r\n--b\r\nContent-Type: text/html\r\nContent-Location: http://faults.example/missing\r\n\r\n"+article+"\r\n--b--\r\n"))
	b.do(chromedp.Click(chromedp.CSS(".add [data-drop] button")))
	b.untilText("2 pages taken in.")
	b.untilText("3 kept.") // the second says the same as the first, to the letter
	// Files that say nothing of themselves: one dialog for all of them.
	choose(".add [name=file]", file("x1.html", article+"<p>Another text altogether, about lamps.</p>"), file("x2.html", article))
	b.do(chromedp.Click(chromedp.CSS(".add [data-drop] button")))
	b.until(`document.querySelector("#left-files.show") !== null && document.querySelectorAll("#left select").length === 2`)
	js[any](b, `const s = document.querySelector('#left [name="to:x1.html"]'); s.value = [...s.options].find(o => o.textContent.includes("icegripfaq")).value; s.dispatchEvent(new Event("change", {bubbles: true})); 0`)
	b.do(chromedp.Click(chromedp.CSS("#left-files .btn-primary")))
	b.untilText("1 page taken in.")
	b.until(`document.querySelector("#left-files.show") === null`)
	at := js[string](b, "location.pathname")
	b.visit(strings.Replace(at, "gather", "receive", 1))
	b.untilText("Waiting for the page you came from.")
	js[any](b, fmt.Sprintf(`window.postMessage({url: "https://members.example/only", html: %q}, "*"); 0`, article+"<p>Seen by members alone."))
	b.untilText("https://members.example/only")
	b.do(chromedp.Click(chromedp.CSS("[data-receive] button")))
	b.until(`location.pathname.endsWith("/gather") && document.querySelector(".ranked").innerText.includes("members.example")`)
	b.clean("422 (Unprocessable Entity)") // the file whose column had to be asked for
}

// reads sets the language of the interface.
func (b *browser) reads(language string) {
	b.visit("/account")
	js[any](b, fmt.Sprintf(`fetch("/account/reading", {method: "POST", body: new URLSearchParams({language: %q, mail: "1"})}).then(() => 0)`, language))
	b.visit("/account")
	b.until(fmt.Sprintf(`document.documentElement.lang === %q`, language))
}

// gatherAgain gathers a study again, and waits until all pages are in.
func (b *browser) gatherAgain(study string) {
	b.Helper()
	js[any](b, fmt.Sprintf(`fetch(%q, {method: "POST"}).then(() => 0)`, study+"/gather"))
	b.gathered(study)
}

// gathered waits until all pages of a study are in.
func (b *browser) gathered(study string) {
	b.Helper()
	b.visit(study + "/gather")
	b.until(`document.querySelector("#gather-bar") && !document.querySelector("#gather-bar").hasAttribute("data-running")`)
}

// TestScreenshots makes the pictures in docs/screenshots; see `make screenshots`.
func TestScreenshots(t *testing.T) {
	folder := os.Getenv("CORPULAN_SCREENSHOTS")
	if folder == "" {
		t.Skip("only `make screenshots` makes them")
	}
	b := open(t, gathered(t))
	shoot := func(name string) {
		js[any](b, `document.querySelector(".first-line")?.remove(); document.fonts.ready.then(() => 0)`) // it is there but once
		png, err := chromedp.Run(b.ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(folder, name+".png"), png, 0o644))
	}
	b.begin()
	b.keys("j", "j")
	shoot("gather")
	b.visit("/studies/1/field")
	shoot("field")
	b.visit("/studies/1/evidence")
	b.keys("j", "j", "j")
	shoot("evidence")
	js[any](b, `fetch("/studies/1/lexicon/read", {method: "POST", body: new URLSearchParams({csv: "ignore,Harrowmere\nprefer,tire,tyre\nmerge,dry lube,wet lube"})}).then(() => 0)`)
	b.visit("/studies/1/pages")
	shoot("beat")
	b.visit("/studies/1/network")
	shoot("network")
	b.visit("/studies/1/evidence?tab=themes&view=grid")
	b.until(fmt.Sprintf(count+" > 10", ".cover-table tbody tr"))
	js[any](b, `document.querySelector('.cover-table tbody tr:nth-child(6) td a').click(); 0`)
	b.until(fmt.Sprintf(count+" > 3", "#pane .side-by-side article"))
	shoot("coverage")
	b.visit("/studies/1/evidence?tab=openings")
	shoot("openings")
	b.visit("/studies/1/brief")
	js[any](b, `document.querySelector("details.candidates").open = true; 0`)
	shoot("brief")
	js[any](b, `document.querySelector(".outline").scrollIntoView({behavior: "instant"}); 0`)
	shoot("outline")
	b.do(chromedp.Click(chromedp.CSS(`.tools-end a[hx-get]`)))
	b.until(`!!document.querySelector("#pane .drawer-search input")`)
	b.do(chromedp.SendKeys(chromedp.CSS(`.drawer-search input`), "studded tyres\n"))
	b.until(fmt.Sprintf(count+" > 2", "#pane [data-cut-row]"))
	shoot("drawer")
	js[any](b, `fetch("/studies/1/outline", {method: "POST", body: new URLSearchParams({do: "add", key: "", value: "What it costs"})}).then(() => fetch("/studies/1/template", {method: "POST", body: new URLSearchParams({template: "comparison"})})).then(() => 0)`)
	link := b.link()
	b.visit(link)
	shoot("writer")
	b.halfADraft()
	b.atDraft(link + "/draft")
	js[any](b, `document.querySelector("#part-terms").open = true; 0`)
	shoot("draft")
	b.visit("/publication")
	shoot("publication")
	lights := js[string](b, `fetch("/studies", {method: "POST", body: new URLSearchParams({keyword: "best bike lights for commuting", language: "en", country: "gb", depth: "20"})}).then(r => r.url.match(/\/studies\/\d+/)[0])`)
	b.gathered(lights)
	b.visit(lights + "/evidence?tab=listed&view=criteria")
	b.until(fmt.Sprintf(count+" > 8", ".compared tbody tr"))
	shoot("listed")
	b.gatherAgain("/studies/1")
	b.visit("/studies/1/movement")
	shoot("movement")
	b.visit("/")
	shoot("desk")
	b.takeSample(500)
	js[any](b, `fetch("/demand/1/add", {method: "POST", body: new URLSearchParams({sample: "Queries that led to our pages.csv"})}).then(() => 0)`)
	b.visit("/demand/1")
	b.until(groups + " > 20")
	b.keys("j", "j", "j", "j", "o")
	b.until(`!!document.querySelector("#pane:not([hidden]) .group-hand")`)
	shoot("groups")
	b.visit("/demand/1?tab=map")
	shoot("map")
	b.visit("/demand/1")
	b.slateOf(10)
	b.keys("j", "b")
	b.until(`[...document.querySelectorAll(".slate-table a")].filter(a => a.textContent === "gathered").length > 7`)
	shoot("slate")
}
