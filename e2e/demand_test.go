package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const groups = `document.querySelectorAll(".groups-table tbody [data-row]").length`

// takeSample begins a list from what ships with the demo, and asks for the results of so many of
// its keywords.
func (b *browser) takeSample(most int) {
	b.visit("/demand")
	b.do(chromedp.Click(chromedp.CSS(`.samples button`)))
	b.untilText("457 keywords, the results of")
	js[any](b, fmt.Sprintf(`(() => { document.querySelector(".list-tools").open = true; document.querySelector('form[action$="/results"] input[name="most"]').value = "%d" })(); 0`, most))
	b.do(chromedp.Click(chromedp.CSS(`form[action$="/results"] button`)))
	b.untilText("keywords were asked for")
	b.until(`/the results of \d\d+ known/.test(document.querySelector("#list-state").textContent)`)
}

// doubtfulTable begins a list whose columns have to be asked for.
func (b *browser) doubtfulTable() {
	js[any](b, `fetch("/demand", {method: "POST", body: new URLSearchParams({language: "en", country: "gb", name: "Doubtful", pasted: "winter tyres;1900;5\nbike chain;20;7"})}).then(() => 0)`)
}

// slateOf picks groups by keyboard and puts them into a slate.
func (b *browser) slateOf(n int) {
	b.keys("j")
	for range n {
		b.keys("x", "j")
	}
	b.until(fmt.Sprintf(`document.querySelectorAll("[data-pick]:checked").length === %d`, n))
	b.keys("a")
	b.until(`location.pathname.startsWith("/slates/")`)
}

// From a raw list of five hundred keywords to a slate of pages with begun studies, mostly by
// keyboard; what is done by hand to groups holds and is undone.
func TestFromAListToASlate(t *testing.T) {
	t.Parallel()
	b := open(t, program(t))
	b.takeSample(500)
	b.untilText("the results of 457 known")
	b.untilText("Thrown out 49")
	before := js[int](b, groups)
	assert.Greater(t, before, 20)

	// The width: as one drags, and kept.
	js[any](b, `(() => { const w = document.querySelector("#width"); w.value = "5"; w.dispatchEvent(new Event("input", {bubbles: true})) })(); 0`)
	b.until(fmt.Sprintf("%s > %d", groups, before+10))
	js[any](b, `(() => { const w = document.querySelector("#width"); w.value = "50"; w.dispatchEvent(new Event("input", {bubbles: true})) })(); 0`)
	b.until(fmt.Sprintf("%s === %d", groups, before))

	// By hand: a keyword moved to another group in the pane, and back by u.
	b.keys("j", "o")
	b.until(`!!document.querySelector("#pane:not([hidden]) .group-hand")`)
	assert.Equal(t, "bike lights for commuting", js[string](b, `document.querySelector("#pane h2").textContent`))
	js[any](b, `document.querySelector('#pane input[value="best bike lights for winter"]').click(); 0`)
	b.do(chromedp.SendKeys(chromedp.CSS(`#pane input[name="to"]`), "winter cycling gloves"))
	b.until(`!!document.querySelector('#group-names option[value="winter cycling gloves"]')`)
	b.keys(kb.Enter)
	b.untilText("1 keyword moved to “winter cycling gloves”")
	b.until(`!document.querySelector('#pane input[value="best bike lights for winter"]')`)
	b.until(`document.querySelector('[data-row="winter cycling gloves"]').textContent.includes("by hand")`)
	js[any](b, `document.querySelector("[data-undo]").click(); 0`)
	b.untilText("Taken back")
	b.until(`!document.querySelector('[data-row="winter cycling gloves"]').textContent.includes("by hand")`)
	b.keys(kb.Escape)

	// The map is worked by keyboard.
	b.visit("/demand/1?tab=map")
	js[any](b, `document.querySelector(".group-map a").focus(); 0`)
	b.keys(kb.Enter)
	b.until(`!!document.querySelector("#pane:not([hidden]) .group-hand")`)

	// A group in a tab of its own follows what is done to it there.
	b.visit("/demand/1")
	b.visit(js[string](b, `document.querySelector('[data-row="bike lights for commuting"] [data-open]').getAttribute("href")`))
	b.until(`document.querySelector("#group-page h2").textContent === "bike lights for commuting"`)
	b.do(chromedp.SendKeys(chromedp.CSS(`#group-page input[name="name"]`), "fine "), chromedp.KeyEvent(kb.Enter)) // before what stands there
	b.until(`document.querySelector("#group-page h2").textContent === "fine bike lights for commuting"`)
	js[any](b, `document.querySelector("[data-undo]").click(); 0`)
	b.until(`document.querySelector("#group-page h2").textContent === "bike lights for commuting"`)

	b.visit("/demand/1")
	b.slateOf(10)
	b.untilText("Slate:")
	pages := js[int](b, `document.querySelectorAll(".slate-table tbody tr").length`)
	assert.GreaterOrEqual(t, pages, 8)
	assert.Equal(t, 1, js[int](b, `[...document.querySelectorAll(".slate-table .flag")].filter(f => f.textContent === "pillar").length`))
	b.keys("j", "b")
	b.untilText("begun: they are being gathered")
	b.until(fmt.Sprintf(`[...document.querySelectorAll(".slate-table a")].filter(a => a.textContent === "gathered").length === %d`, pages))
	require.Equal(t, pages, js[int](b, `[...document.querySelectorAll(".slate-table tr")].filter(r => /[1-9]\d* kept/.test(r.textContent)).length`), "every study has pages that count")
	// What is typed in a slate is saved as one leaves the field, and stays.
	js[any](b, `document.querySelector('.slate-table input[aria-label^="Owner of"]').focus(); 0`)
	b.do(chromedp.KeyEvent("Ida"))
	b.keys(kb.Tab)
	b.untilText("owner is “Ida”")
	b.do(chromedp.Reload())
	b.until(`document.querySelector('.slate-table input[aria-label^="Owner of"]')?.value === "Ida"`)
	assert.Contains(t, js[string](b, `fetch(location.pathname + "/as/opml").then(r => r.text())`), "<opml")

	// Of a study of it: where pages stand, and what is searched and not found.
	study := js[string](b, `document.querySelector(".slate-table tbody tr:nth-child(2) [data-open]").getAttribute("href").replace("/gather", "")`)
	b.visit(study + "/standing")
	b.until(`document.querySelectorAll(".standing-table td.score").length > 50`)
	b.keys("j", "a")
	b.untilText("secondary keyword")
	b.visit(study + "/searched")
	b.untilText("Found, and not searched")
	b.clean()
}
