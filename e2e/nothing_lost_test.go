package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// tab opens another tab of the same browser.
func (b *browser) tab(t *testing.T, path string) *browser {
	t.Helper()
	ctx, stop := chromedp.NewContext(b.ctx)
	t.Cleanup(stop)
	other := &browser{T: t, ctx: ctx, base: b.base}
	require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(1280, 800)))
	other.visit(path)
	return other
}

func state(field string) string {
	return fmt.Sprintf(`document.querySelector('[data-field="%s"] [data-state]').textContent`, field)
}

// What is typed is text, whatever keys it is made of: Enter is a new line, and no
// letter acts, also where the field loses the focus in mid-sentence.
func TestWhatIsTypedIsText(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	b.visit("/studies/1/brief")
	sections := js[int](b, fmt.Sprintf(count, ".out"))
	b.do(chromedp.SendKeys(chromedp.CSS(".out textarea"), "First line\ndrop in a drawing"))
	b.until(`document.querySelector('.out [data-state]').textContent === "saved"`)
	assert.Equal(t, "First line\ndrop in a drawing", js[string](b, `document.querySelector(".out textarea").value`))
	assert.Equal(t, sections, js[int](b, fmt.Sprintf(count, ".out")))
	// The focus goes to a row while the sentence goes on.
	b.do(chromedp.SendKeys(chromedp.CSS(".out textarea"), " and"))
	js[any](b, `document.querySelector(".out").focus(); 0`)
	b.keys(strings.Split("drop a drawing", "")...)
	assert.Equal(t, sections, js[int](b, fmt.Sprintf(count, ".out")), "no letter has dropped a section")
	assert.NotContains(t, js[string](b, "document.body.innerText"), "Dropped:")
	// A second later keys act, but only where the list has the focus.
	js[any](b, `new Promise(done => setTimeout(() => { document.activeElement.blur(); done(0) }, 1100))`)
	b.keys("d")
	assert.Equal(t, sections, js[int](b, fmt.Sprintf(count, ".out")))
	js[any](b, `document.querySelector(".out").focus(); 0`)
	b.keys("d")
	b.untilText("Dropped:")
	b.until(fmt.Sprintf(count+" < %d", ".out", sections))
	b.keys("u")
	b.until(fmt.Sprintf(count+" === %d", ".out", sections))
	assert.Contains(t, js[string](b, `document.querySelector(".out textarea").value`), "drop in a drawing")
	// A line of one line stays one.
	js[any](b, `document.querySelector('[data-field=h1] textarea').select(); 0`)
	b.do(chromedp.SendKeys(chromedp.CSS(`[data-field=h1] textarea`), "Ride all winter\n"))
	b.until(state("h1") + ` === "saved"`)
	assert.Equal(t, "Ride all winter", strings.TrimSpace(js[string](b, `document.querySelector('[data-field=h1] textarea').value`)))
	js[any](b, `document.querySelector("[data-field=h1] [data-restore]").click(); 0`)
	b.until(`document.querySelector('[data-field=h1] textarea').value === "Winter bike commuting"`)
	b.clean()
}

// Two tabs in one field: the second keeps its text, sees the other's, and saves
// nothing until it has decided, however long it types on.
func TestTwoPeopleInOneField(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	b.visit("/studies/1/brief")
	other := b.tab(t, "/studies/1/brief")
	goal := chromedp.CSS(`[data-field=notes] textarea`)
	b.do(chromedp.SendKeys(goal, "Sell tyres"))
	b.until(state("notes") + ` === "saved"`)
	other.do(chromedp.SendKeys(goal, "Help beginners"))
	other.until(`!!document.querySelector("[data-conflict]")`)
	other.do(chromedp.SendKeys(goal, " to start"))
	other.until(state("notes") + ` !== "saved"`)
	assert.Equal(t, "Sell tyres", js[string](other, `fetch("/studies/1/brief/as/json").then(r => r.json()).then(b => b.fields.notes)`), "nothing is overwritten by itself")
	assert.Equal(t, []string{"Sell tyres", "Help beginners to start"}, js[[]string](other, `[document.querySelector("[data-theirs]").textContent, document.querySelector('[data-field=notes] textarea').value]`))
	// Another field is in nobody's way.
	other.do(chromedp.SendKeys(chromedp.CSS(`[data-field=writer] input[name=value]`), "Calm"))
	other.until(state("writer") + ` === "saved"`)
	js[any](other, `document.querySelector("[data-take=mine]").click(); 0`)
	other.until(state("notes") + ` === "saved" && !document.querySelector("[data-conflict]")`)
	assert.Equal(t, 0, js[int](b, fmt.Sprintf(count, "[data-conflict]")))
	b.do(chromedp.SendKeys(goal, "!"))
	b.until(`!!document.querySelector("[data-conflict]")`)
	js[any](b, `document.querySelector("[data-take=theirs]").click(); 0`)
	b.until(`document.querySelector('[data-field=notes] textarea').value === "Help beginners to start"`)
	assert.Equal(t, "Help beginners to start", js[string](b, `fetch("/studies/1/brief/as/json").then(r => r.json()).then(b => b.fields.notes)`))
	b.clean("409 (Conflict)", "Error Code 409")
	other.clean("409 (Conflict)", "Error Code 409")
}

// The browser is closed, or the server away, while something is typed: the text
// is there again, and saved.
func TestWhatWasNotSavedComesBack(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	b.visit("/studies/1/brief")
	js[any](b, `localStorage.setItem("unsaved 1 notes", JSON.stringify({ text: "Typed before the power went", was: "", typed: "false", at: Date.now() - 60000 })); 0`)
	b.visit("/studies/1/brief")
	b.until(state("notes") + ` === "saved"`)
	assert.Equal(t, "Typed before the power went", js[string](b, `document.querySelector('[data-field=notes] textarea').value`))
	assert.Nil(t, js[any](b, `localStorage.getItem("unsaved 1 notes")`))
	// A connection that is lost in mid-sentence.
	js[any](b, `window.realSend = XMLHttpRequest.prototype.send; XMLHttpRequest.prototype.send = function () { this.dispatchEvent(new Event("error")) }; 0`)
	b.do(chromedp.SendKeys(chromedp.CSS(`[data-field=writer] input[name=value]`), "Calm"))
	b.until(state("writer") + ` === "not saved"`)
	assert.Contains(t, js[string](b, `localStorage.getItem("unsaved 1 writer")`), "Calm")
	js[any](b, `XMLHttpRequest.prototype.send = window.realSend; 0`)
	b.until(state("writer") + ` === "saved"`)
	assert.Equal(t, "Calm", js[string](b, `fetch("/studies/1/brief/as/json").then(r => r.json()).then(b => b.front.writer)`))
}

// Twenty drops in a row are taken back one by one, without a reload; so is what
// was done in Gather.
func TestTwentyStepsBack(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	b.visit("/studies/1/evidence")
	js[any](b, `window.samePage = true; 0`)
	b.keys("j")
	for i := range 20 {
		b.keys("d")
		b.until(fmt.Sprintf(count+" === %d", "tr.dropped", i+1))
		b.keys("j")
	}
	for i := range 20 {
		b.keys("u")
		b.until(fmt.Sprintf(count+" === %d", "tr.dropped", 19-i))
	}
	b.keys("U")
	b.until(fmt.Sprintf(count+" === 1", "tr.dropped"))
	assert.True(t, js[bool](b, `window.samePage === true`), "the page was never loaded again")
	b.visit("/studies/1/gather")
	b.keys("j", " ")
	b.untilText("9 kept.")
	b.keys("u")
	b.untilText("10 kept.")
	assert.Equal(t, "1", js[string](b, `document.querySelector("tr.current .rank").textContent`), "the row stays current")
	b.visit("/")
	js[any](b, `document.activeElement.blur(); 0`)
	b.keys("j", "e")
	b.untilText("Archived: winter bike commuting")
	b.do(chromedp.Click(chromedp.CSS("[data-undo]")))
	b.until(fmt.Sprintf(count+" === 1", ".ledger tbody tr"))
	b.clean()
}

// While pages arrive their rows fill in and progress shows; the fault site has
// pages that never come, so that there is time to look. Stopped, it stays so.
func TestTheListFillsIn(t *testing.T) {
	t.Parallel()
	b := open(t, program(t))
	b.visit("/")
	b.do(chromedp.SendKeys(chromedp.CSS("#keyword"), "the fault site"), chromedp.SendKeys(chromedp.CSS("#keyword"), kb.Enter))
	b.until(`document.querySelector("progress.thread") !== null && [...document.querySelectorAll(".state-cell")].some(c => /^kept|proposed aside/.test(c.textContent.trim()))`)
	js[any](b, `[...document.querySelectorAll(".bar-end button")].find(x => x.textContent === "Stop").click(); 0`)
	b.untilText("Stopped with")
	b.until(`document.querySelector("progress.thread") === null`)
	b.untilText("Go on")
}

// Seven tabs of a running gathering, and the seventh still loads: streams end
// with the gathering and with the tab's being seen.
func TestManyTabsOfOneGathering(t *testing.T) {
	t.Parallel()
	b := open(t, program(t))
	b.visit("/")
	b.do(chromedp.SendKeys(chromedp.CSS("#keyword"), "winter bike commuting"), chromedp.SendKeys(chromedp.CSS("#keyword"), kb.Enter))
	b.until(`location.pathname.endsWith("/gather")`)
	for range 6 {
		b.tab(t, "/studies/1/gather").until(`!!document.getElementById("list")`)
	}
	last := b.tab(t, "/studies/1/brief")
	last.until(`!!document.querySelector("main")`)
	b.untilText("14 of 15 pages answered, 1 failed")
}

// At the width of a phone nothing has to be scrolled sideways, in any place, nor
// for a keyword of 180 letters.
func TestOnAPhone(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	link := b.link()
	b.visit("/")
	b.do(chromedp.SendKeys(chromedp.CSS("#keyword"), strings.Repeat("unbreakable", 16)))
	b.keys(kb.Enter)
	b.untilText("Nothing was gathered.")
	b.takeSample(40)
	b.slateOf(9)
	b.doubtfulTable()
	b.do(chromedp.EmulateViewport(390, 844))
	for _, path := range []string{"/", "/studies/1/gather", "/studies/1/field?open=1.3", "/studies/1/field?table=1", "/studies/1/pages/1", "/studies/1/evidence", "/studies/1/evidence?tab=entities", "/studies/1/evidence?tab=questions", "/studies/1/evidence?tab=themes", "/studies/1/evidence?tab=themes&view=grid", "/studies/1/evidence?tab=points", "/studies/1/evidence?tab=facts", "/studies/1/evidence?tab=openings",
		"/studies/1/brief", "/studies/1/sources?kind=term&key=stud+tyre", "/studies/1/receive", "/studies/1/network", "/studies/1/movement", "/studies/1/beside", "/movement", "/studies/2/gather", "/studies/2/field", "/studies/2/brief", "/nowhere", "/studies/1/brief/revisions?from=0", "/studies/1/share", "/studies/1/drawer?q=tyre", "/publication", "/studies/1/draft?beside=missing", "/studies/1/draft/compare?from=now", "/demand", "/demand/1", "/demand/1?tab=map", "/demand/1?tab=ours", "/demand/1?tab=out", "/demand/1/group?key=winter+cycling+gloves", "/slates/1", "/slates/1?tab=links", "/slates/1?tab=weeks", "/studies/1/standing", "/studies/1/standing?swap=1", "/studies/1/searched", "/demand/2/columns", "/account", "/people", "/week", "/search?q=tyre", "/publication/set-up", "/studies/1/history", "/sign-in", link, link + "/draft"} {
		b.visit(path)
		assert.LessOrEqual(t, js[int](b, "document.documentElement.scrollWidth"), 390, path)
	}
}
